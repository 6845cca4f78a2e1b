"""What is kept of a decision while it is turned over, and for whom."""

from unittest import TestCase

from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.tests.given import prime, rig
from cambrel.decisions.kits import PictureShare, choose


class KeptTests(TestCase):
    def cell(self, home="full-frame", share=1.0):
        picture = PictureShare(Brief(distance_m=5.0, distance_from="lens", width_shown_m=2.0), share)
        kit = [rig("micro-four-thirds", 25, lens=prime(25, 1.8))]
        ((cell,),) = choose([picture], [kit], Conventions(home=home))
        return cell

    def test_what_was_worked_out_is_not_worked_out_again_when_only_a_share_changes(self):
        self.assertIs(self.cell().comparison, self.cell(share=0.2).comparison)

    def test_each_reader_is_told_in_the_terms_of_their_own_format(self):
        there = {home: self.cell(home).figures.frames.home_crop for home in ("full-frame", "micro-four-thirds")}
        self.assertAlmostEqual(there["micro-four-thirds"] / there["full-frame"], 2, delta=0.02)

    def test_what_says_no_framing_is_taken_by_each_kit_by_itself(self):
        picture = PictureShare(Brief(distance_m=5.0, distance_from="lens"), 1.0)
        kits = [[rig("micro-four-thirds", 25, lens=prime(25, 1.8))], [rig("full-frame", 35, lens=prime(35, 2.0))]]
        (cells,) = choose([picture], kits, Conventions())
        self.assertEqual([cell.figures.settings.focal_length_mm for cell in cells], [25, 35])

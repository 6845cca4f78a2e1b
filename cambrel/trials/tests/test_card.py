"""The card of a kit: each figure by its formula, at both ends of each lens."""

from math import isnan, log2
from unittest import TestCase

from cambrel.comparison.brief import Conventions
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.optics.formats import FULL_FRAME, Sensor
from cambrel.trials.card import LADDER, Card, card_of

MFT = Sensor(17.3, 13.0, 5184)
ZOOM = Lens(12, 40, ((12, 2.8), (40, 4.0)))


class CardTests(TestCase):
    def setUp(self):
        self.terms = Conventions(star_rule="rule_500")
        self.body, self.other = Body(MFT, stabilisation_stops=3), Body(Sensor(36, 24, 6000))
        pairs = [
            (0, 0, Rig(self.body, ZOOM)),
            (0, 1, Rig(self.body, Lens(25, 25))),
            (1, 2, Rig(self.other, Lens(50, 50, ((50, 8.0),)))),
        ]
        self.card = card_of(pairs, self.terms)

    def test_each_lens_at_both_ends(self):
        crop, coc = FULL_FRAME.diagonal_mm / MFT.diagonal_mm, MFT.diagonal_mm / 1500
        for line, (f, n) in zip(self.card.lines[:2], ((12, 2.8), (40, 4.0)), strict=True):
            self.assertEqual((line.focal_length_mm, line.f_number), (f, n))
            self.assertAlmostEqual(line.home_focal_length_mm, f * crop)
            self.assertAlmostEqual(line.home_f_number, n * crop)
            self.assertEqual([stop for stop, _ in line.hyperfocal_m], [n, 5.6, 8.0, 11.0])
            for stop, metres in line.hyperfocal_m:
                self.assertAlmostEqual(metres, (f * f / (stop * coc) + f) / 1000)
            self.assertAlmostEqual(line.held_s, 2**3 / (crop * f))
            self.assertAlmostEqual(line.points_s, 500 / (crop * f))

    def test_what_is_not_known_is_not_said_and_stops_that_a_lens_has_not_are_left_out(self):
        unknown, slow = self.card.lines[2:]
        self.assertTrue(isnan(unknown.f_number) and isnan(unknown.home_f_number))
        self.assertEqual([stop for stop, _ in unknown.hyperfocal_m], [5.6, 8.0, 11.0])
        self.assertEqual([stop for stop, _ in slow.hyperfocal_m], [8.0, 11.0])

    def test_each_body(self):
        small, full = self.card.backs
        airy_per_n = 2.4393397825330090 * 0.55
        self.assertAlmostEqual(small.limited_f_number, 1000 * MFT.diagonal_mm / 1500 / airy_per_n, delta=0.01)
        self.assertAlmostEqual(full.clean_iso / self.terms.iso_ceiling, 1, places=6)
        # a quarter of the light, and as many pixels that are read: a little worse than two stops
        self.assertAlmostEqual(log2(full.clean_iso / small.clean_iso), 2.0, delta=0.15)
        self.assertEqual([here for here, _ in small.ladder], list(LADDER))
        self.assertEqual(dict(small.ladder)[2.8], 5.6)
        self.assertEqual(dict(full.ladder)[2.8], 2.8)

    def test_a_kit_without_rigs_has_an_empty_card(self):
        self.assertEqual(card_of([], self.terms), Card((), ()))
        self.assertEqual(card_of([(0, 0, Rig(self.body, Lens()))], self.terms), Card((), ()))

"""Settings that cameras offer: as light as what was computed, whichever of them ends first."""

from dataclasses import replace
from math import log2
from unittest import TestCase

from cambrel.comparison import Body, Brief, Lens, Rig, compare
from cambrel.comparison.at_best import AS_SET
from cambrel.optics.formats import FULL_FRAME
from cambrel.trials.trial_shots import rounded


class RoundedTests(TestCase):
    def test_at_its_best_below_the_base_iso_the_time_takes_up_what_the_steps_bring(self):
        rig = Rig(Body(FULL_FRAME), Lens(50, 50, ((50, 2.0),), 16), 50, 4, 1 / 60, 100)
        for ev in range(60, 80, 2):
            deep = Brief(light_ev=ev / 10, sharp_front_m=0.05, sharp_behind_m=0.2, support="tripod")
            best = compare(deep, [rig], replace(AS_SET, is_best=True))
            s, made = best.first.settings, rounded(best).first.settings
            with self.subTest(ev=ev / 10):
                self.assertEqual(made.iso, 100)
                brighter = 2 * log2(s.f_number / made.f_number) + log2(made.shutter_s / s.shutter_s)
                self.assertLess(abs(brighter), 0.25)

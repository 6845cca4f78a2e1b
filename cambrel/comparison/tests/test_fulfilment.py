from dataclasses import replace
from unittest import TestCase

from cambrel import wording
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Conventions, Hold, Lens, compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.rig import Mode
from cambrel.comparison.tests.given import prime, rig

OWN = Hold("own", "spot", "own", "own")
BRIGHT = 1000.0


def of(brief, *rigs, conventions=None):
    return fulfilment(compare(brief, rigs, OWN, conventions))


def lit(**more):
    """A brief whose light suits f/4, 1/125, ISO 400 to within a tenth of a stop."""
    return Brief(**{"light_ev": 9.0, **more})


class FulfilmentTests(TestCase):
    def check(self, brief, r, key, status, figure=None, conventions=None):
        found = of(brief, r, conventions=conventions)[0]
        check = next((c for c in found.checks if c.key == key), None)
        self.assertIsNotNone(check, found)
        self.assertEqual(check.status, status, check)
        if figure:
            name, value = figure
            self.assertAlmostEqual(check.figures[name].value, value, places=6)
        return check

    def test_a_film_asks_for_frames_a_second_and_not_for_frozen_movement(self):
        film = lit(frame_rate=50.0, subject_speed_m_per_s=20.0, support="hand")

        def filmed(recorded, *rates):
            taken = rig(n=4.0, t=1 / 2)
            modes = tuple(Mode(taken.body.sensor, f"mode {n}", rate) for n, rate in enumerate(rates))
            return replace(taken, body=replace(taken.body, modes=modes), mode=recorded)

        for gear, status, text in (
            (filmed(0, 24.0, 60.0), "just falls short", "records {got} frames a second, not {rate}; {mode} would be"),
            (filmed(None, 60.0), "just falls short", "the whole sensor records no film; {mode} would be enough"),
            (filmed(0, None, 60.0), "just falls short", "its mode may not do {rate} frames a second; {mode} would"),
            (filmed(0, 24.0, 30.0), "does not work", "records {got} frames a second, not {rate}"),
            (filmed(None, 24.0, 30.0), "does not work", "its modes end at {got} frames a second, not {rate}"),
            (filmed(0, None, 30.0), "unknown", "whether it does {rate} frames a second is not known"),
            (filmed(None), "unknown", "whether it does {rate} frames a second is not known"),
        ):
            with self.subTest(text=text, modes=len(gear.body.modes)):
                check = self.check(film, gear, "rate", status)
                self.assertTrue(check.text.startswith(text), check.text)
                if "{got}" in text:
                    self.assertEqual(check.figures["got"].value, 30.0 if gear.mode is None else 24.0)
        keys = {check.key for check in of(film, filmed(0, 50.0))[0].checks}
        self.assertEqual(keys & {"rate", "motion", "hands"}, set())
        still = {check.key for check in of(replace(film, frame_rate=None), filmed(0, 50.0))[0].checks}
        self.assertEqual(still & {"rate", "motion", "hands"}, {"motion", "hands"})

    def test_nothing_asked_is_done(self):
        self.assertEqual(of(lit(), rig(n=4.0))[0].status, "works")

    def test_sharpness_names_the_limit_that_fails_and_the_settings_that_cure_it(self):
        brief = lit(sharp_front_m=0.05, sharp_behind_m=0.4, support="tripod")
        check = self.check(brief, rig(n=4.0, lens=prime(50, 1.8)), "sharp", "just falls short")
        self.assertEqual(check.figures["asked"].value, 2.4)
        told = {
            name: check.figures[name].value
            for name in ("n_then", "t_then", "iso_then", "u_then")
            if name in check.figures
        }
        self.assertIn("n_then", told)
        cured = replace(brief, focus_distance_m=told.get("u_then"))
        again = rig(n=told["n_then"], t=told.get("t_then", 1 / 125), iso=told.get("iso_then", 400.0))
        self.assertEqual(of(cured, again)[0].status, "works")
        self.check(brief, rig(n=16, t=1 / 8), "sharp", "works")
        self.check(lit(sharp_behind_m=float("inf")), rig(n=4.0, lens=prime(50, 1.8)), "sharp", "does not work")

    def test_a_cure_that_other_demands_forbid_is_none(self):
        poor = {"ceiling_iso": 400.0}
        deep = {"sharp_front_m": 0.4, "sharp_behind_m": 2.0}
        check = self.check(
            lit(slowest_shutter_s=1 / 125, **deep), rig(n=4.0, body_options=poor), "sharp", "does not work"
        )
        self.assertNotIn("n_then", check.figures)
        self.check(lit(support="tripod", **deep), rig(n=4.0, body_options=poor), "sharp", "just falls short")

    def test_what_is_missed_by_less_than_a_stop_just_falls_short(self):
        long = Lens(60, 60, ((60, 1.8),), 22)
        self.check(lit(width_shown_m=1.25), rig(focal=60, n=4.0, lens=long), "width", "just falls short")
        self.check(lit(width_shown_m=1.4), rig(focal=60, n=4.0, lens=long), "width", "does not work")
        dark = {"ceiling_iso": 400.0, "slowest_shutter_s": 1 / 125}
        for ev, status in ((8.3, "just falls short"), (7.5, "does not work")):
            self.check(lit(light_ev=ev), rig(n=4.0, lens=prime(50, 4.0), body_options=dark), "dark", status)

    def test_one_set_of_demands(self):
        """A hand that is too slow, a picture that is too noisy, too small an aperture, a subject out of focus: as they
        are said at its best.
        """
        self.check(
            lit(support="hand", light_ev=6.0), rig(focal=200, n=4.0, t=1 / 4, iso=100), "hands", "just falls short"
        )
        self.check(
            lit(support="hand", light_ev=0.0), rig(focal=200, n=4.0, t=1 / 4, iso=6400), "hands", "does not work"
        )
        self.check(lit(light_ev=3.0, support="tripod"), rig(n=4.0, t=1 / 60, iso=12800), "light", "just falls short")
        self.check(lit(light_ev=0.0), rig(n=4.0, t=1 / 60, iso=102400, lens=prime(50, 4.0)), "light", "does not work")
        self.check(lit(), rig(n=45), "diffraction", "just falls short")
        self.check(lit(focus_distance_m=20.0), rig(n=4.0), "focus", "does not work")
        self.check(lit(blur_share=0.1), rig(n=4.0), "background", "does not work")
        self.check(lit(shown_long_side_mm=9000.0), rig(n=4.0), "sharpness", "does not work")

    def test_unknown_depth_is_unknown(self):
        self.check(
            lit(sharp_behind_m=0.4),
            rig(n=4.0, pixels=None),
            "sharp",
            "unknown",
            conventions=Conventions(criterion="two_pixels"),
        )

    def test_width_is_cured_by_a_shorter_focal_length_where_the_lens_has_it(self):
        check = self.check(
            lit(width_shown_m=2.0),
            rig(n=4.0, lens=Lens(24, 70, ((24, 2.8), (70, 2.8)), 22)),
            "width",
            "just falls short",
        )
        wider = compare(Brief(), [rig(focal=check.figures["f"].value)], OWN).of(0)
        self.assertAlmostEqual(wider.view.field_wide_m, 2.0, places=9)
        check = self.check(lit(width_shown_m=2.0), rig(n=4.0, lens=prime(50, 1.8)), "width", "does not work")
        self.assertGreater(check.figures["back"].value, 2.0)

    def test_shutter_is_cured_by_iso_then_by_aperture(self):
        brief = lit(slowest_shutter_s=1 / 500)
        check = self.check(brief, rig(n=4.0), "shutter", "just falls short", ("iso_then", 1600))
        self.assertEqual(check.figures["t_then"].value, 1 / 500)
        tight = {"ceiling_iso": 800.0}
        check = self.check(brief, rig(n=4.0, lens=prime(50, 1.8), body_options=tight), "shutter", "just falls short")
        self.assertLess(check.figures["n_then"].value, 3)
        self.check(brief, rig(n=4.0, lens=prime(50, 4.0), body_options=tight), "shutter", "does not work")
        self.check(brief, rig(n=4.0, body_options={"fastest_shutter_s": 1 / 200}), "shutter", "does not work")

    def test_movement_within_one_circle_of_confusion_is_quick_enough(self):
        brief = lit(subject_speed_m_per_s=1.0)
        check = self.check(brief, rig(n=4.0), "motion", "just falls short")
        still = compare(brief, [rig(n=4.0, t=check.figures["asked"].value)], OWN).of(0)
        self.assertAlmostEqual(still.blur.movement_mm, still.frames.coc_mm, places=12)
        self.check(lit(subject_speed_m_per_s=0.01), rig(n=4.0), "motion", "works")

    def test_light_error_is_cured_by_iso_or_shutter(self):
        check = self.check(lit(light_ev=7.0), rig(n=4.0), "dark", "just falls short", ("iso_then", 1600))
        self.assertEqual(wording.sentence(check), "2\u00a0stops too dark; ISO\u00a01600 would be enough")
        poor = {"ceiling_iso": 800.0, "slowest_shutter_s": 1 / 2}
        self.check(lit(light_ev=-3.0), rig(n=4.0, body_options=poor), "dark", "does not work")
        check = self.check(
            lit(light_ev=16.0), rig(n=4.0, body_options={"base_iso": 200.0}), "bright", "just falls short"
        )
        self.assertIn("t_then", check.figures)
        stuck = {"base_iso": 400.0, "fastest_shutter_s": 1 / 125}
        check = self.check(
            lit(light_ev=16.0),
            rig(n=4.0, lens=replace(prime(50, 1.8), smallest_f_number=4.0), body_options=stuck),
            "bright",
            "just falls short",
        )
        self.assertIn("ND filter", check.text)

    def test_a_lens_that_does_not_focus_so_near(self):
        far = Lens(50, 50, ((50, 1.8),), 22, close_focus_m=2.3)
        self.check(lit(), rig(n=4.0, lens=far), "focus", "just falls short")
        self.check(lit(), rig(n=4.0, lens=Lens(50, 50, ((50, 1.8),), 22, close_focus_m=6.0)), "focus", "does not work")
        inside = of(Brief(distance_m=0.3), rig(focal=20), rig(focal=400))[1]
        self.assertEqual((inside.status, inside.checks[0].key), ("does not work", "focus"))

    def test_dark_corners(self):
        self.check(lit(), rig(n=4.0, lens=Lens(50, 50, image_circle_mm=28.4)), "cover", "does not work")

    def test_the_worst_demand_gives_the_status(self):
        brief = lit(width_shown_m=5.0, slowest_shutter_s=1 / 125)
        found = of(brief, rig(n=4.0, lens=prime(50, 1.8)))[0]
        self.assertEqual([check.status for check in found.checks], ["does not work", "works"])

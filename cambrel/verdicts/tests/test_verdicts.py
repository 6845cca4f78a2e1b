"""Verdicts over random pairs of all formats under every hold: sound, true to the figures, and the other way round when
swapped.
"""

from itertools import combinations
from math import inf, isfinite, log2, nan
from string import Formatter
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Body, Conventions, Hold, Lens, Rig, compare
from cambrel.comparison.rig import aperture_stops
from cambrel.comparison.tests.given import ALL_HOLDS, Close, prime, rig
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.workings import Figure
from cambrel.verdicts import PAIR_RULES, RIG_RULES, verdicts

OWN = Hold("own", "own", "own", "own")


def by_key(compared):
    return {verdict.key: verdict for verdict in verdicts(compared)}


def expected(key, a, b):
    """What each named figure of a verdict must be, straight from the comparison."""
    tables = {
        "depth": {"total_a": a.depth.total_m, "total_b": b.depth.total_m, "times": b.depth.total_m / a.depth.total_m,
                  "near_a": a.depth.near_m, "near_b": b.depth.near_m},
        "background_blur": {"share_a": a.blur.background_share, "share_b": b.blur.background_share,
                            "times": b.blur.background_share / a.blur.background_share},
        "total_light": {"stops": abs(b.light.total_stops), "iso_b": b.settings.iso, "looks": b.light.looks_like_iso,
                        "times": b.frames.area_mm2 / a.frames.area_mm2},
        "view": {"wide_a": a.view.field_wide_m, "wide_b": b.view.field_wide_m, "high_a": a.view.field_high_m,
            "high_b": b.view.field_high_m},
        "same_picture": {"f_a": a.settings.focal_length_mm, "f_b": b.settings.focal_length_mm,
            "n_a": a.settings.f_number,
                         "n_b": b.settings.f_number},
        "perspective": {"d_a": a.settings.subject_distance_m, "d_b": b.settings.subject_distance_m,
                        "times": b.view.background_scale / (a.view.background_scale or nan)},
        "brightness": {"stops": abs(b.light.brightness_stops)},
        "weight": {"mass_a": a.outfit.weight_g, "mass_b": b.outfit.weight_g, "wide_a": a.settings.widest_f_number},
        "effective_f_number": {"ne_a": a.light.effective_f_number, "ne_b": b.light.effective_f_number},
        "focal_limit": {"wanted": b.settings.wanted_focal_length_mm, "reached": b.settings.focal_length_mm},
        "f_number_limit": {"reached": b.settings.f_number},
        "diffraction": {"n": b.settings.f_number, "airy": b.diffraction.airy_um,
            "limit": b.diffraction.limited_f_number},
        "diffraction_pixels": {"n": b.settings.f_number, "airy": b.diffraction.airy_um,
            "limit": b.diffraction.pixel_limited_f_number},
        "image_circle": {"share": b.outfit.image_circle_share},
    }  # fmt: skip
    return tables.get(key, {})


class AnyPairTests(Close, TestCase):
    tags = frozenset({"long"})

    @given(
        st.sampled_from(ALL_HOLDS), st.sampled_from(sorted(FORMATS)), st.sampled_from(sorted(FORMATS)),
        st.floats(0.3, 80),
        st.floats(8, 90), st.sampled_from([1.4, 2.8, 8.0, 22.0]),
        st.sampled_from(["diagonal_1500", "two_pixels", "traditional"]),
        st.sampled_from([4.0, inf, None]), st.sampled_from([0.2, None]),
    )  # fmt: skip
    def test_sound_and_true_to_the_figures(self, hold, one, other, distance, focal, n, criterion, behind, before):
        lenses = Lens(20, 40, ((20, 2.8), (40, 4.0)), 16, 0.2, image_circle_mm=30, weight_g=300), prime(30, 1.8)
        rigs = [
            rig(one, focal, n),
            rig(other, 25, 2.8, 1 / 60, 800, lens=lenses[0], body_options={"weight_g": 400, "base_iso": 200}),
        ]
        compared = compare(
            Brief(distance_m=distance, background_m=behind, foreground_m=before),
            rigs,
            hold,
            Conventions(criterion=criterion),
        )
        for verdict in verdicts(compared):
            places = {name for _, name, _, _ in Formatter().parse(verdict.text) if name}
            self.assertEqual(places, set(verdict.figures) & places, verdict)
            self.assertTrue(verdict.is_sound, verdict)
            b = compared.of(verdict.rigs[-1])
            for name, value in expected(verdict.key, compared.first, b).items():
                if name in verdict.figures and isfinite(value):
                    self.close(verdict.figures[name].value, value, f"{verdict.key}.{name}")

    @settings(max_examples=25)
    @given(
        st.sampled_from(sorted(FORMATS)),
        st.sampled_from(sorted(FORMATS)),
        st.floats(8, 200),
        st.floats(8, 200),
        st.floats(1, 20),
    )
    def test_swapping_turns_the_direction_and_inverts_the_figure(self, one, other, f1, f2, distance):
        rigs = [rig(one, f1, 2.8, distance_m=distance), rig(other, f2, 4.0, 1 / 30, distance_m=distance * 1.5)]
        brief = Brief(distance_m=distance)
        there = by_key(compare(brief, rigs, OWN, reference=0))
        back = by_key(compare(Brief(distance_m=distance * 1.5), rigs, OWN, reference=1))
        turned = {
            "more": "less",
            "less": "more",
            "wider": "tighter",
            "tighter": "wider",
            "brighter": "darker",
            "darker": "brighter",
        }
        for key in ("view", "depth", "background_blur", "total_light", "brightness", "perspective"):
            if key not in there or "times" not in there[key].figures:
                continue
            self.assertIn(key, back)
            if "times" in back[key].figures:
                self.close(there[key].figures["times"].value * back[key].figures["times"].value, 1.0, key)
            for name in ("word", "direction"):
                if name in there[key].figures:
                    self.assertEqual(back[key].figures[name].value, turned[there[key].figures[name].value])


class ThresholdTests(TestCase):
    def test_level_figures_are_not_made_much_of(self):
        """An f/5.6 at 1/60 against f/4 at 1/125 differ by 0.09 stop as typed: that is level."""
        compared = compare(Brief(), [rig(n=4.0, t=1 / 125), rig(n=5.6, t=1 / 60)], OWN)
        said = by_key(compared)
        self.assertNotIn("brightness", said)
        self.assertIn("the same light", said["total_light"].text)

    def test_below_each_threshold_the_verdict_is_absent(self):
        a = rig(n=4.0)
        cases = (
            ("view", rig(focal=50.4, n=4.0), rig(focal=51, n=4.0)),
            ("depth", rig(n=4.1), rig(n=4.4)),
            ("background_blur", rig(n=4.1), rig(n=4.4)),
            ("brightness", rig(n=4.0, iso=440), rig(n=4.0, iso=480)),
        )
        for key, under, over in cases:
            with self.subTest(key=key):
                self.assertNotIn(key, by_key(compare(Brief(), [a, under], OWN)))
                self.assertIn(key, by_key(compare(Brief(), [a, over], OWN)))


class KnownQuarrelsTests(TestCase):
    """The statements that practitioners argue over come out, each under its own terms."""

    def test_same_lens_same_spot_the_smaller_sensor_shows_less_depth(self):
        for order in ((0, 1), (1, 0)):
            pair = [rig(), rig("aps-c", 50)]
            said = by_key(compare(Brief(), [pair[i] for i in order], Hold("same")))
            self.assertEqual(said["depth"].figures["word"].value, "less" if order == (0, 1) else "more")
            self.assertIn("same spot, same focal length", said["depth"].figures["held"].value)
            self.assertEqual(said["same_lens_depth"].figures["small"].value, order.index(1))

    def test_same_picture_same_f_number_the_smaller_sensor_shows_more_depth(self):
        said = by_key(compare(Brief(), [rig(), rig("aps-c", 33)], Hold()))
        self.assertEqual(said["depth"].figures["word"].value, "more")
        self.assertIn("frames like", said["same_picture"].text)

    def test_what_does_not_fit_is_not_called_the_same_picture(self):
        hold = Hold("own", "spot", "own", "shutter")

        def said(lens_a, lens_b):
            a = rig("full-frame", 50, 4, lens=lens_a, body_options={"mount": "A"})
            b = rig("micro-four-thirds", 25, 2, lens=lens_b, body_options={"mount": "B"})
            return by_key(compare(Brief(distance_m=20.0), [a, b], hold))

        good_a, good_b = prime(50, 1.4, mount="A", image_circle_mm=43.3), prime(25, 1.4, mount="B", image_circle_mm=22)
        self.assertIn("equivalent", said(good_a, good_b))
        self.assertIn("equivalent", said(prime(50, 1.4), prime(25, 1.4)), "what is not known does not stand against it")
        other_a, other_b = (
            prime(50, 1.4, mount="B", image_circle_mm=43.3),
            prime(25, 1.4, mount="A", image_circle_mm=22),
        )
        small_a, small_b = prime(50, 1.4, mount="A", image_circle_mm=30), prime(25, 1.4, mount="B", image_circle_mm=18)
        for lenses in ((other_a, good_b), (good_a, other_b), (small_a, good_b), (good_a, small_b)):
            self.assertNotIn("equivalent", said(*lenses))

    def test_converted_f_number_makes_the_same_picture_and_level_light(self):
        said = by_key(compare(Brief(shape="3:2"), [rig(), rig("micro-four-thirds", 25)], Hold(aperture="depth")))
        self.assertEqual(
            said["equivalent"].figures["same"].value,
            "same view, same depth of field, same background blur, same light",
        )
        self.assertIn("the same light", said["total_light"].text)

    def test_what_people_call_equivalent_is_and_what_is_a_little_off_is_named(self):
        """The crop factor alone, as one says it: at 2 m the view is a percent off; near the hyperfocal distance half a
        percent grows large.
        """
        own = Hold("own", "spot", "own", "own")
        said = by_key(compare(Brief(), [rig(n=3.4), rig("micro-four-thirds", 25, 1.7)], own))
        self.assertIn("{b} sees {off} {side}", said["equivalent"].text)
        self.assertAlmostEqual(said["equivalent"].figures["off"].value, 0.0127, delta=0.0005)
        self.assertNotIn("view", {verdict.key for verdict in verdicts(compare(
            Brief(), [rig(n=3.4), rig("micro-four-thirds", 25, 1.7)], own
        ))})  # fmt: skip
        half = Rig(Body(Sensor(18, 12, 4000)), Lens(), 25, 8, 1 / 125, 400)
        full = Rig(Body(Sensor(36, 24, 6000)), Lens(), 50, 16, 1 / 125, 400)
        said = by_key(compare(Brief(distance_m=5.0), [full, half], own))
        self.assertIn("near the hyperfocal distance", said["equivalent"].text)
        self.assertNotIn("shape", said["equivalent"].text)
        apart = by_key(compare(Brief(), [rig(n=3.4), rig("micro-four-thirds", 24.2, 1.7)], own))
        self.assertNotIn("equivalent", apart)

    def test_stepping_back_with_a_longer_lens_leaves_depth_and_magnifies_blur(self):
        compared = compare(
            Brief(distance_m=3.0, background_m=30.0), [rig(focal=50, n=2.8), rig(focal=100, n=2.8)], Hold("own", "walk")
        )
        said = by_key(compared)
        self.assertIn("is the same", said["depth"].text)
        self.assertIn("The background blur is not", said["background_blur"].text)
        self.assertGreater(said["background_blur"].figures["times"].value, 1.5)

    def test_pixels_and_picture_may_disagree_on_depth_and_on_noise(self):
        coarse, fine = rig("full-frame", 50, 2.8, pixels=3000), rig("micro-four-thirds", 50, 2.8, pixels=9000)
        said = by_key(compare(Brief(), [coarse, fine], Hold()))
        self.assertIn("other_circle", said)
        large = by_key(compare(Brief(), [rig(pixels=9000), rig("one-inch", 18, pixels=1500)], Hold()))
        self.assertIn("noise_schools", large)

    def test_no_such_lens(self):
        phone = "type-1-2.55"
        cases = (
            (1.2, "cannot_exist", "No lens can be that fast"),
            (4.0, "no_such_lens", "Do not expect such a lens"),
        )
        for n, key, text in cases:
            with self.subTest(n=n):
                said = by_key(
                    compare(Brief(), [rig(n=n), rig(phone, 6.5, 1.8, lens=Lens(6.5, 6.6, ((6.5, 1.8),)))], Hold())
                )
                self.assertIn(text, said[key].text)
        said = by_key(
            compare(Brief(), [rig(n=2.8), rig("micro-four-thirds", 25, lens=Lens(12, 60, ((12, 2.8),), 22))], Hold())
        )
        self.assertIn("This one opens to", said["gap"].text)
        figures = said["gap"].figures
        self.assertAlmostEqual(figures["stops"].value, aperture_stops(2.8, figures["n"].value))

    def test_a_habit_of_f16(self):
        said = by_key(compare(Brief(distance_m=20.0), [rig(n=16), rig("one-inch", 18, 16)], Hold()))
        self.assertEqual(said["diffraction_trap"].figures["soft"].value, 1)
        self.assertEqual(said["diffraction"].figures["n"].value, 16)

    def test_a_weight_never_stands_alone(self):
        heavy = Lens(50, 50, ((50, 1.8),), 22, weight_g=600)
        light = Lens(25, 25, ((25, 1.8),), 22, weight_g=200)
        options = {"body_options": {"weight_g": 500}}
        said = by_key(
            compare(Brief(), [rig(lens=heavy, **options), rig("micro-four-thirds", 25, lens=light, **options)], Hold())
        )
        self.assertIn("{eq_b}", said["weight"].text)
        self.assertAlmostEqual(said["weight"].figures["eq_b"].value, 1.8 * 43.266615 / 21.64, places=2)

    def test_close_up_and_walking_and_limits(self):
        said = by_key(compare(Brief(distance_m=0.12), [rig(n=4.0), rig("micro-four-thirds", 25, 4.0)], Hold()))
        self.assertTrue({"simple_rule", "effective_f_number"} <= set(said))
        self.assertIn("walk_same_spot", by_key(compare(Brief(), [rig(), rig("aps-c", 33)], Hold(place="walk"))))
        stuck = rig("aps-c", 33, lens=Lens(33, 33, ((33, 2.0),), 16, close_focus_m=3.0))
        self.assertIn("comes out soft", by_key(compare(Brief(), [rig(), stuck], Hold("own")))["focus_limit"].text)
        far = by_key(
            compare(
                Brief(),
                [rig(), rig("aps-c", 12, lens=Lens(12, 12, ((12, 2.0),), 16, close_focus_m=3.0))],
                Hold("own", "walk"),
            )
        )
        self.assertIn("would have to be", far["focus_limit"].text)
        inside = by_key(compare(Brief(distance_m=0.3), [rig(focal=20), rig(focal=400)], Hold("own")))
        self.assertIn("inside its focal length", inside["no_focus"].text)
        sizes = {"outer_width_mm": 100, "outer_height_mm": 100, "outer_depth_mm": 50}
        lens = Lens(20, 400, ((20, 2.0),), length_mm=80, diameter_mm=70)
        small, large = (
            rig(focal=20, lens=lens, body_options=sizes),
            rig(focal=400, lens=lens, body_options=sizes | {"outer_width_mm": 200}),
        )
        self.assertIn("bulk", by_key(compare(Brief(distance_m=3.0), [small, large], Hold("own"))))
        self.assertNotIn("bulk", by_key(compare(Brief(distance_m=0.3), [small, large], Hold("own"))), "no figures")
        gone = by_key(compare(Brief(foreground_m=1.5), [rig(), rig("aps-c", 20)], Hold("own", "walk")))
        self.assertEqual(gone["behind_camera"].rigs, (1,))

    def test_gear_that_does_not_fit(self):
        odd = Lens(
            15, 15, ((15, 2.8),), 22, 0.2, image_circle_mm=28, mount="Tarn", rectilinear=False, close_focus_m=0.03
        )
        said = by_key(compare(Brief(), [rig(), rig(lens=odd, body_options={"mount": "Pipwren"})], Hold("own")))
        self.assertTrue({"image_circle", "mount", "fisheye"} <= set(said))
        unknown = by_key(compare(Brief(), [rig(), rig(pixels=None)], Hold("own"), Conventions(criterion="two_pixels")))
        self.assertIn("unknown_depth", unknown)

    def test_limits_of_what_follows(self):
        slow = rig("aps-c", 33, lens=Lens(33, 33, ((33, 4.0),), 16), body_options={"base_iso": 3200.0})
        said = by_key(compare(Brief(), [rig(n=2.8), slow], Hold()))
        self.assertIn("f_number_limit", said)
        self.assertIn("ND filter", said["brightness"].text)
        wide = by_key(compare(Brief(), [rig(focal=8), rig("aps-c", 12, lens=prime(12, 2))], Hold()))
        self.assertIn("Do not expect a straight lens", wide["focal_limit"].text)
        quick = rig("aps-c", 33, body_options={"slowest_shutter_s": 1 / 1000})
        self.assertIn(
            "as far as its shutter goes",
            by_key(compare(Brief(), [rig(), quick], Hold(exposure="iso")))["brightness"].text,
        )
        endless = by_key(
            compare(Brief(), [rig(focal=20, n=16), rig("aps-c", 4, lens=prime(4, 2))], Hold("own", "walk", "depth"))
        )
        self.assertIn("No aperture gives", endless["f_number_limit"].text)

    def test_infinite_depth_is_compared_by_its_near_limit(self):
        both = by_key(compare(Brief(distance_m=10), [rig(focal=20, n=8), rig("one-inch", 7, 8)], Hold()))["depth"]
        self.assertIn("Both are sharp to infinity", both.text)
        one = by_key(compare(Brief(distance_m=10), [rig(focal=50, n=8), rig("one-inch", 18, 8)], Hold()))["depth"]
        self.assertIn("{b} is sharp from {near_b} to infinity", one.text)
        other = by_key(compare(Brief(distance_m=10), [rig("one-inch", 18, 8), rig(focal=50, n=8)], Hold()))["depth"]
        self.assertIn("{b} is sharp only", other.text)


class RegistryTests(TestCase):
    tags = frozenset({"long"})

    def test_no_rule_is_mute(self):
        """Every rule that is entered speaks somewhere in these tests' cases or is reached by one of these."""
        rigs = [
            rig(slug, 10 + 4 * i, 2.8 * (i + 1), lens=prime(10 + 4 * i, 1.8))
            for i, slug in enumerate(["full-frame", "aps-c", "one-inch"])
        ]
        keys = {v.key for h in ALL_HOLDS[::4] for v in verdicts(compare(Brief(distance_m=0.6), rigs, h))}
        self.assertGreater(len(keys), 12)
        self.assertGreaterEqual(len(PAIR_RULES) + len(RIG_RULES), 20)

    def test_six_rigs_do_not_fill_the_list_with_one_remark(self):
        rigs = [
            rig(slug, 20) for slug in ("full-frame", "aps-c", "one-inch", "44x33", "micro-four-thirds", "type-1-1.3")
        ]
        first_six = [verdict.key for verdict in verdicts(compare(Brief(), rigs))[:6]]
        self.assertGreaterEqual(len(set(first_six)), 3)

    def test_a_figure_has_a_known_kind(self):
        with self.assertRaises(ValueError):
            Figure(1.0, "furlong")

    def test_pairs_of_all_formats_under_the_usual_hold(self):
        for one, other in [*combinations(sorted(FORMATS), 2)][::4]:
            a, b = rig(one, 20), rig(other, 20)
            light = by_key(compare(Brief(), [a, b], Hold()))["total_light"].figures
            ratio = log2(FORMATS[other].area_mm2 / FORMATS[one].area_mm2)
            if "stops" in light:
                self.assertAlmostEqual(light["stops"].value, abs(ratio), delta=0.5)

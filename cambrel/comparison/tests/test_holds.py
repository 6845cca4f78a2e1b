"""Each hold keeps what it says it keeps, in the order lens, place, aperture, exposure; what cannot be reached is
clamped and kept beside.
"""

from math import inf, log2
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Hold, Lens, compare
from cambrel.comparison.tests.given import ALL_HOLDS, Close, prime, rig
from cambrel.optics.formats import FORMATS
from cambrel.optics.quantities import DomainError

FULL, THIRDS = "full-frame", "micro-four-thirds"


def two(hold, first=None, second=None, brief=None, conventions=None):
    found = compare(
        brief or Brief(), [first or rig(FULL), second or rig(THIRDS, 30, 4, 1 / 60, 800)], hold, conventions
    )
    return found.of(0), found.of(1)


class LensHoldTests(Close, TestCase):
    def test_equivalent_makes_the_same_view_exactly_close_up(self):
        for distance in (0.4, 2.0, 400.0):
            with self.subTest(distance=distance):
                a, b = two(Hold(), brief=Brief(distance_m=distance))
                self.close(b.view.image_distance_mm, a.view.image_distance_mm * a.frames.crop / b.frames.crop)
                sides = [r.view.field_wide_m / r.frames.width_mm * r.frames.diagonal_mm for r in (a, b)]
                self.close(sides[1], sides[0], "the field's diagonal")

    def test_same_lens_brings_its_range_and_close_limit_with_it(self):
        donor = rig(FULL, 50, 2.0, lens=Lens(50, 50, ((50, 1.8),), 16, max_magnification=0.2))
        a, b = two(Hold("same", aperture="wide_open"), donor, rig(THIRDS, 12, 4, lens=prime(12, 1.4)))
        self.assertEqual((b.settings.focal_length_mm, b.settings.f_number), (50, 1.8))
        self.assertEqual(a.settings.f_number, 1.8, "wide open opens the reference too")
        near = two(Hold("same"), donor, brief=Brief(distance_m=0.1))
        self.close(near[1].settings.object_distance_m, 0.05 * (1 + 1 / 0.2))

    def test_a_zoom_ends_where_it_ends_and_says_what_was_wanted(self):
        zoom = Lens(12, 20, ((12, 2.8), (20, 4.0)), 22)
        _, b = two(Hold(), second=rig(THIRDS, 14, 4, lens=zoom))
        self.assertEqual(b.settings.focal_length_mm, 20)
        self.assertAlmostEqual(b.settings.wanted_focal_length_mm, 25.32, places=2)
        self.assertEqual(b.settings.f_number, 4.0, "f/2.8 is not to be had at the long end")

    def test_a_converter_multiplies_focal_length_f_number_and_circle(self):
        tele = rig(FULL, 200, 2.8, lens=Lens(200, 200, ((200, 2.8),), 22, 0.2, image_circle_mm=43.5), converter=1.4)
        a, _ = two(Hold("own", aperture="own"), tele, brief=Brief(distance_m=30))
        self.close(a.settings.focal_length_mm, 280)
        self.close(a.settings.f_number, 3.92)
        grown = 1 + a.view.magnification
        self.close(
            a.outfit.image_circle_share, 43.5 * 1.4 * grown / a.frames.diagonal_mm, "it grows as the lens moves out"
        )
        close = two(Hold("own", aperture="own"), tele, brief=Brief(distance_m=0.3))[0]
        self.close(close.view.magnification, 0.2 * 1.4, "and the largest magnification")

    def test_variable_widest_f_number_is_interpolated_in_stops(self):
        zoom = Lens(28, 70, ((28, 3.5), (70, 5.6)), 22)
        middle = (28 * 70) ** 0.5
        self.close(zoom.widest_f_number(middle), (3.5 * 5.6) ** 0.5)
        self.assertEqual((zoom.widest_f_number(28), zoom.widest_f_number(70)), (3.5, 5.6))


class PlaceHoldTests(Close, TestCase):
    def test_walking_keeps_the_subject_the_same_part_of_the_frame(self):
        for offset in (None, 3.5, inf):
            with self.subTest(focus=offset):
                a, b = two(Hold("own", "walk"), brief=Brief(focus_distance_m=offset))
                share_a = a.view.image_distance_mm / a.settings.subject_distance_m * a.frames.crop
                self.close(b.view.image_distance_mm / b.settings.subject_distance_m * b.frames.crop, share_a)

    def test_equivalent_lenses_walk_nowhere(self):
        a, b = two(Hold("equivalent", "walk"))
        self.assertEqual(a.settings.subject_distance_m, b.settings.subject_distance_m)

    def test_walking_stops_at_the_close_limit_and_the_subject_fills_less(self):
        short = rig(THIRDS, 12, 4, lens=Lens(12, 12, ((12, 1.4),), 16, max_magnification=0.005))
        a, b = two(Hold("own", "walk"), second=short)
        self.close(b.settings.subject_distance_m, 0.012 * 201)
        self.assertLess(b.settings.wanted_distance_m, b.settings.subject_distance_m)
        self.assertLess(b.view.fill, a.view.fill)

    def test_at_a_fixed_spot_the_rig_stays_and_the_subject_blurs(self):
        far = rig(THIRDS, 25, 2, lens=Lens(25, 25, ((25, 1.4),), 16, close_focus_m=3.0))
        _, b = two(Hold("own"), second=far)
        self.assertEqual(b.settings.subject_distance_m, 2.0)
        self.assertGreater(b.settings.object_distance_m, 2.9)
        self.assertGreater(b.blur.subject_mm, 0)

    def test_own_distances_from_lens_or_sensor_mark(self):
        second = rig(THIRDS, 25, 2, distance_m=1.0)
        _, b = two(Hold("own", "own"), second=second)
        self.assertEqual(b.settings.subject_distance_m, 1.0)
        _, marked = two(Hold("own", "own"), second=second, brief=Brief(distance_from="sensor"))
        self.close(marked.settings.subject_distance_m + marked.view.image_distance_mm / 1000, 1.0)

    def test_inside_the_focal_length_there_is_no_image(self):
        _, b = two(Hold("own"), rig(FULL, 20), rig(THIRDS, 400, 5.6), Brief(distance_m=0.3))
        self.assertFalse(b.settings.focusable)
        self.assertNotEqual(b.depth.near_m, b.depth.near_m, "its figures are unknown")
        with self.assertRaisesRegex(DomainError, "distance_m must be beyond the reference's focal length"):
            compare(Brief(distance_m=0.05), [rig(FULL, 50)])
        with self.assertRaisesRegex(DomainError, "focus_distance_m"):
            compare(Brief(focus_distance_m=0.04), [rig(FULL, 50)])

    def test_a_lens_whose_marked_distance_has_no_thin_lens_solution(self):
        macro = Lens(60, 60, ((60, 2.8),), 22, close_focus_m=0.19)
        self.assertIsNone(macro.closest_m(60))
        self.assertTrue(macro.shortens_close_up)
        self.close(Lens(60, 60, ((60, 2.8),), 22, 1.0, 0.19).closest_m(60), 0.12)
        zoom = Lens(24, 70, (), 22, 0.3, 0.38)
        self.assertGreater(zoom.closest_m(24), 0.35, "a zoom reaches its magnification at one end only")


class ApertureHoldTests(Close, TestCase):
    def test_same_f_number_is_as_marked(self):
        a, b = two(Hold())
        self.assertEqual(a.settings.f_number, b.settings.f_number)

    def test_same_depth_at_the_same_spot_matches_both_limits(self):
        for slug in FORMATS:
            with self.subTest(slug=slug):
                a, b = two(Hold("equivalent", "spot", "depth"), second=rig(slug, 20))
                if b.settings.f_number == b.settings.wanted_f_number:
                    self.close(b.depth.near_m, a.depth.near_m)
                    self.close(b.depth.far_m, a.depth.far_m)

    def test_same_depth_when_walking_matches_the_total(self):
        a, b = two(Hold("own", "walk", "depth"), second=rig(THIRDS, 45))
        self.assertNotEqual(a.settings.subject_distance_m, b.settings.subject_distance_m)
        self.close(b.depth.total_m, a.depth.total_m)

    def test_same_depth_with_an_infinite_far_limit(self):
        wide = rig(FULL, 20, 11)
        a, b = two(Hold("own", "walk", "depth"), wide, rig(THIRDS, 25))
        self.assertEqual((a.depth.far_m, b.depth.far_m), (inf, inf))
        self.assertGreaterEqual(b.depth.front_m, a.depth.front_m * (1 - 1e-12))

    def test_no_aperture_gives_more_depth_in_front_than_there_is_distance(self):
        a, b = two(Hold("own", "walk", "depth"), rig(FULL, 20, 16), rig(THIRDS, 4, 2, lens=prime(4, 2)))
        self.assertEqual(b.settings.wanted_f_number, inf)
        self.assertEqual(b.settings.f_number, 22)
        self.assertGreater(a.depth.front_m, b.depth.front_m)

    def test_an_unknown_circle_leaves_the_aperture_as_set(self):
        from cambrel.comparison.engine import Conventions

        _, b = two(
            Hold(aperture="depth"),
            second=rig(THIRDS, 25, 5.0, pixels=None),
            conventions=Conventions(criterion="two_pixels"),
        )
        self.assertEqual(b.settings.f_number, 5.0)
        self.assertFalse(b.settings.depth_known)
        self.assertNotEqual(b.depth.total_m, b.depth.total_m)


class ExposureHoldTests(Close, TestCase):
    def brightness(self, r):
        return r.settings.shutter_s * r.settings.iso / r.light.effective_f_number**2

    def test_iso_follows_and_shutter_follows(self):
        for aperture in ("f_number", "depth", "wide_open", "own"):
            for exposure, same in (("shutter", "shutter_s"), ("iso", "iso")):
                with self.subTest(aperture=aperture, exposure=exposure):
                    a, b = two(Hold("equivalent", "spot", aperture, exposure), rig(FULL, lens=prime(50, 1.8)))
                    self.close(self.brightness(b), self.brightness(a))
                    self.assertEqual(
                        getattr(b.settings, same),
                        getattr(a.settings, same) if aperture != "wide_open" else getattr(b.settings, same),
                    )

    def test_brightness_to_match_is_the_references_as_it_was_set(self):
        first = rig(FULL, 50, 8.0, lens=prime(50, 2.0))
        a, b = two(Hold(aperture="wide_open"), first)
        self.assertEqual(a.settings.f_number, 2.0)
        as_set = first.shutter_s * first.iso / (8.0 * (1 + a.view.magnification)) ** 2
        self.close(self.brightness(a), as_set)
        self.close(self.brightness(b), as_set)

    def test_only_the_named_variable_follows_and_the_rest_stays_as_a_difference(self):
        base = {"base_iso": 200.0, "fastest_shutter_s": 1 / 4000}
        first, second = rig(FULL, 50, 2.8, 1 / 125, 100), rig(THIRDS, 25, 1.4, body_options=base)
        _, b = two(Hold(aperture="own"), first, second)
        self.assertEqual((b.settings.iso, b.settings.shutter_s), (200, 1 / 125))
        self.close(b.light.brightness_stops, log2(200 / b.settings.wanted_iso))
        _, cured = two(Hold(aperture="own"), first, rig(THIRDS, 25, 1.4, body_options=base, take_rest=True))
        self.assertAlmostEqual(cured.light.brightness_stops, 0, places=12)
        self.assertLess(cured.settings.shutter_s, 1 / 125)

    def test_as_set_differs_by_so_many_stops(self):
        a, b = two(Hold(exposure="own"))
        self.close(b.light.brightness_stops, log2(self.brightness(b) / self.brightness(a)))


class AnyHoldTests(Close, TestCase):
    @given(
        st.sampled_from(ALL_HOLDS),
        st.sampled_from(sorted(FORMATS)),
        st.sampled_from(sorted(FORMATS)),
        st.floats(0.5, 60),
    )
    def test_no_hold_changes_the_reference_but_wide_open(self, hold, one, other, distance):
        first = rig(one, 12, 4, 1 / 90, 500, lens=prime(12, 2.0))
        a, b = two(hold, first, rig(other, 20, 5.6), Brief(distance_m=distance))
        s = a.settings
        self.assertEqual((s.focal_length_mm, s.subject_distance_m), (12, distance))
        if hold.aperture == "wide_open":
            self.assertEqual(s.f_number, 2.0)
        else:
            self.assertEqual((s.f_number, s.shutter_s, s.iso), (4, 1 / 90, 500))
        if hold.exposure != "own" and b.settings.focusable:
            self.assertAlmostEqual(b.light.brightness_stops, 0, places=9)

    def test_walk_over_stops_is_the_same_as_stop_by_stop(self):
        rigs = [
            rig(FULL, 50, 2.8, lens=prime(50, 1.8)),
            rig(THIRDS, 25, 2, lens=prime(25, 1.4, 16)),
            rig("aps-c", 33, pixels=None),
        ]
        stops = [1.4, 1.8, 4.0, 11.0, 32.0]
        for hold in ALL_HOLDS[::7]:
            if hold.aperture == "wide_open":
                continue  # along a walk the reference is not opened
            walk = compare(Brief(), rigs, hold, walked_f_numbers=stops)
            for row, n in enumerate(stops):
                from dataclasses import replace

                one = compare(Brief(), [replace(rigs[0], f_number=n), *rigs[1:]], hold)
                for group in ("settings", "depth", "blur", "light", "diffraction"):
                    for name, column in vars(getattr(one, group)).items():
                        if name.startswith("wanted_shutter") or column.dtype.kind != "f":
                            continue
                        rows = getattr(getattr(walk, group), name)
                        for index in range(3):
                            if column[index] == column[index]:
                                self.close(
                                    rows[row, index] if rows.ndim == 2 else rows[index],
                                    column[index],
                                    f"{hold} {group}.{name}",
                                )

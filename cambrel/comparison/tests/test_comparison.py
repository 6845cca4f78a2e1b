from dataclasses import fields, replace
from math import hypot, log2
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cambrel.comparison.brief import SHAPES, Brief
from cambrel.comparison.engine import Body, Comparison, Conventions, Hold, Lens, Rig, compare
from cambrel.comparison.reference import make_reference
from cambrel.comparison.tests.given import ALL_HOLDS, Close, prime, rig
from cambrel.optics import blur, depth, light
from cambrel.optics.formats import CROP_MEASURES, FORMATS, FULL_FRAME, Sensor
from cambrel.optics.quantities import DomainError

SAID_AGAINST_THE_REFERENCE = ("stops", "equivalent", "looks", "ceiling", "same_picture", "rule")
GROUPS = ("view", "depth", "blur", "light", "diffraction")


class FiguresTests(Close, TestCase):
    """The comparison says what the formulas say, rig by rig."""

    def setUp(self):
        self.brief = Brief(distance_m=1.4, background_m=3.0, foreground_m=0.4, subject_speed_m_per_s=0.5, light_ev=6)
        self.rigs = [
            rig(slug, 20 + 7 * i, 2 + i, 1 / (40 + i), 200 * (i + 1)) for i, slug in enumerate(sorted(FORMATS)[:6])
        ]
        self.compared = compare(self.brief, self.rigs, Hold("own", "spot", "own", "own"), reference=2)

    def test_every_rig_by_the_public_functions(self):
        first = self.rigs[2]
        for i, r in enumerate(self.rigs):
            with self.subTest(rig=i):
                f, n, u, sensor = r.focal_length_mm, r.f_number, 1.4, r.body.sensor
                found, m = self.compared.of(i), f / (1400 - f)
                coc = sensor.diagonal_mm / 1500
                limits = depth.depth_of_field(f, n, u, coc)
                exposure = light.exposure_lux_s(n * (1 + m), r.shutter_s, 6)
                first_m = first.focal_length_mm / (1400 - first.focal_length_mm)
                first_exposure = light.exposure_lux_s(first.f_number * (1 + first_m), first.shutter_s, 6)
                expected = {
                    "depth.near_m": limits.near_m,
                    "depth.total_m": limits.total_m,
                    "depth.hyperfocal_m": depth.hyperfocal_distance_m(f, n, coc),
                    "blur.background_mm": blur.blur_disc_mm(f, n, u, 4.4),
                    "blur.foreground_share": blur.blur_disc_mm(f, n, u, 1.0) / sensor.diagonal_mm,
                    "blur.movement_mm": 0.5 * r.shutter_s * f * (1 + m) / 1.4,
                    "blur.home_f_number": n * FULL_FRAME.diagonal_mm / sensor.diagonal_mm,
                    "blur.full_frame_f_number": n * FULL_FRAME.diagonal_mm / sensor.diagonal_mm,
                    "view.equivalent_focal_length_mm": f * first.body.sensor.diagonal_mm / sensor.diagonal_mm,
                    "view.field_wide_m": 1.4 * sensor.width_mm / (f * (1 + m)),
                    "view.fill": 1.75 * f * (1 + m) / (1.4 * sensor.height_mm),
                    "view.background_scale": 1.4 / 4.4,
                    "light.total_stops": log2(
                        exposure * sensor.area_mm2 / (first_exposure * first.body.sensor.area_mm2)
                    ),
                    "light.error_stops": log2(exposure * r.iso / 10),
                    "light.photons_total": light.mid_grey_photons(exposure) * sensor.area_mm2 * 1e6,
                    "diffraction.over_coc": 2.4393397825330090 * 0.55 * n * (1 + m) / (1000 * coc),
                    "diffraction.over_two_pixels": (
                        2.4393397825330090 * 0.55 * n * (1 + m) / (2 * sensor.pixel_pitch_um)
                    ),
                }
                for path, value in expected.items():
                    group, name = path.split(".")
                    self.close(getattr(getattr(found, group), name), value, path)

    def test_looking_like_the_reference(self):
        """The ISO at which the reference would be as noisy; unknown unless both are exposed as the light asks."""
        first = self.compared.of(2).light
        asked = [replace(r, iso=float(10 / self.compared.of(i).light.exposure_lux_s)) for i, r in enumerate(self.rigs)]
        exposed = compare(self.brief, asked, Hold("own", "spot", "own", "own"), reference=2)
        self.close(exposed.of(2).light.looks_like_iso, 10 / first.exposure_lux_s)
        for stops in (-2, -0.2, 0.2, 2):
            wrong = [replace(r, iso=r.iso * 2**stops) if i == 2 else r for i, r in enumerate(asked)]
            for i in range(6):
                found = compare(self.brief, wrong, Hold("own", "spot", "own", "own"), reference=2).of(i).light
                self.assertNotEqual(found.looks_like_iso, found.looks_like_iso, "the reference is exposed wrongly")
        for i in range(6):
            ours = exposed.of(i).light
            again = light.electrons(
                light.mid_grey_photons(10 / ours.looks_like_iso), self.compared.of(2).frames.pitch_um ** 2
            )
            seen = light.snr_picture(light.snr(again), self.compared.of(2).frames.pixels)
            self.close(seen, ours.snr_picture)

    def test_weights_and_prices_are_unknown_when_a_part_is(self):
        lens = Lens(50, 50, weight_g=200, price=300, currency="EUR")
        rigs = [
            Rig(Body(Sensor(36, 24), weight_g=500, price=900, currency="EUR"), lens),
            Rig(Body(Sensor(36, 24)), lens),
            Rig(Body(Sensor(36, 24), weight_g=500, price=900, currency="GBP"), lens),
        ]
        kit = compare(Brief(), rigs, Hold("own")).outfit
        self.assertEqual((kit.weight_g[0], kit.price[0], kit.weight_g[2]), (700, 1200, 700))
        self.assertTrue(all(value != value for value in (kit.weight_g[1], kit.price[1], kit.price[2])))

    def test_unknown_pixels_leave_the_pixel_school_unknown_and_the_picture_without_read_noise(self):
        compared = compare(Brief(), [rig(pixels=None), rig()])
        ours = compared.of(0).light
        self.assertNotEqual(ours.snr_pixel, ours.snr_pixel)
        electrons = ours.photons_total * 0.5
        self.close(ours.snr_picture, (electrons / 8e6) ** 0.5)

    def test_an_index_out_of_range_is_refused(self):
        for wrong in ({"reference": 6}, {"reference": -1}, {"hold": Hold("same", lens_of=9)}):
            with self.subTest(wrong=wrong), self.assertRaises(DomainError):
                compare(self.brief, self.rigs, **wrong)

    def test_without_a_rig_its_figures_are_unknown_and_the_others_stay(self):
        less = self.compared.without([1])
        self.assertFalse(less.of(1).settings.focusable)
        self.assertNotEqual(less.of(1).view.field_wide_m, less.of(1).view.field_wide_m)
        self.assertEqual(less.of(3).depth, self.compared.of(3).depth)


class OutputShapeTests(Close, TestCase):
    def test_every_frame_is_cropped_before_anything_is_compared(self):
        for key, shape in SHAPES.items():
            if shape.aspect_ratio is None:
                continue
            for upright in (False, True):
                with self.subTest(shape=key, upright=upright):
                    compared = compare(Brief(shape=key, upright=upright), [rig(), rig("micro-four-thirds", 25)])
                    aspects = compared.frames.width_mm / compared.frames.height_mm
                    wanted = 1 / shape.aspect_ratio if upright else shape.aspect_ratio
                    self.close(aspects[0], wanted)
                    self.close(aspects[1], wanted)
                    factors = {
                        by: (
                            compare(
                                Brief(shape=key, upright=upright), compared.rigs, conventions=Conventions(crop_by=by)
                            ).frames.k[1]
                        )
                        for by in CROP_MEASURES
                    }
                    for factor in factors.values():
                        self.close(factor, factors["diagonal"], "with one shape the measures agree")

    def test_an_upright_camera_turns_its_frame(self):
        frames = compare(Brief(upright=True), [rig()]).frames
        self.assertEqual((frames.width_mm[0], frames.height_mm[0]), (24, 36))
        self.close(frames.diagonal_mm[0], hypot(24, 36))


class MakeReferenceTests(Close, TestCase):
    def limited(self, compared: Comparison) -> bool:
        s = compared.settings
        names = ("focal_length_mm", "f_number", "shutter_s", "iso", "object_distance_m")
        reached = all((abs(getattr(s, n) - getattr(s, "wanted_" + n)) <= 1e-9 * getattr(s, n)).all() for n in names)
        return not (reached and s.focusable.all() and not s.depth_overshoot.any())

    def same(self, one, other, because):
        for group in GROUPS:
            for field in fields(getattr(one, group)):
                if any(word in field.name for word in SAID_AGAINST_THE_REFERENCE):
                    continue
                for x, y in zip(
                    getattr(getattr(one, group), field.name), getattr(getattr(other, group), field.name), strict=True
                ):
                    if x == x or y == y:
                        self.assertLessEqual(
                            abs(x - y) if x != y else 0, 1e-8 * abs(x), f"{because}: {group}.{field.name} {x!r} {y!r}"
                        )

    @given(
        st.sampled_from(ALL_HOLDS), st.sampled_from(sorted(FORMATS)), st.sampled_from(sorted(FORMATS)),
        st.sampled_from([0.8, 2.0, 30.0]), st.sampled_from(["lens", "sensor"]), st.sampled_from([None, 3.0]),
        st.sampled_from([1.0, 1.4]),
    )  # fmt: skip
    def test_nothing_changes_but_the_point_of_view(self, hold, one, other, distance, measured, focus, converter):
        brief = Brief(distance_m=distance, distance_from=measured, focus_distance_m=focus)
        rigs = [rig(one, 14, 4, lens=prime(14, 1.0, 64)), rig(other, 20, 5.6, 1 / 30, 800, converter=converter)]
        here = compare(brief, rigs, hold)
        if self.limited(here):
            return
        there = compare(*make_reference(here, 1), reference=1)
        if self.limited(there):
            return
        self.same(here, there, f"{hold} A to B")
        self.same(here, compare(*make_reference(there, 0), reference=0), f"{hold} A to B to A")

    def test_the_own_lens_waits_and_comes_back(self):
        rigs = [rig(lens=prime(50, 1.8)), rig("aps-c", 23, lens=prime(23, 1.4))]
        here = compare(Brief(), rigs, Hold("same"))
        brief, after, hold = make_reference(here, 1)
        self.assertEqual((after[1].lens, hold.lens_of), (rigs[1].lens, 0))
        there = compare(brief, after, hold, reference=1)
        self.assertEqual(there.of(0).settings.focal_length_mm, 50)

    def test_a_rig_without_an_image_cannot_be_the_reference(self):
        compared = compare(Brief(distance_m=0.3), [rig(focal=20), rig(focal=400)], Hold("own"))
        with self.assertRaises(DomainError):
            make_reference(compared, 1)


class RecordTests(TestCase):
    def test_impossible_records_are_refused_with_the_reason(self):
        cases = (
            (lambda: Body(Sensor(36, 24), base_iso=800, ceiling_iso=100), "ceiling_iso must be at least"),
            (lambda: Body(Sensor(36, 24), quantum_efficiency=1.2), "1 or less"),
            (lambda: Lens(50, 24), "focal_max_mm"),
            (lambda: Lens(50, None), "together"),
            (lambda: Lens(24, 70, ((70, 4.0), (24, 2.8))), "ascending"),
            (lambda: rig(n=0), "f_number must be above 0"),
            (lambda: rig(focal=float("nan")), "focal_length_mm"),
            (lambda: Brief(distance_m=0), "distance_m"),
            (lambda: Brief(sharp_behind_m=-1), "sharp_behind_m"),
            (lambda: Brief(shape="7:3"), "native, 3:2"),
            (lambda: Brief(distance_from="hat"), "sensor"),
            (lambda: Brief(light_ev=float("inf")), "light_ev"),
            (lambda: Hold(lens="longest"), "same, equivalent, own"),
            (lambda: Conventions(criterion="eyeballed"), "diagonal_1500"),
        )
        for make, says in cases:
            with self.subTest(says=says), self.assertRaisesRegex(DomainError, says):
                make()

    def test_a_hold_says_itself(self):
        self.assertIn("from the same spot", Hold().sentence())
        self.assertEqual(Hold("same", "walk", "depth").in_brief(), "same lens, same framing, same depth, same shutter")
        self.assertEqual(Hold("own", "own", "own", "own").in_brief(), "")

    def test_focus_offset(self):
        self.assertEqual(replace(Brief(), focus_distance_m=3.5).focus_offset_m, 1.5)

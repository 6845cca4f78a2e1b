"""From pictures to verdicts: what is measured on them, what held and what did not, and what is written onto the record
of the gear.
"""

from dataclasses import replace
from unittest.mock import patch

import numpy as np
from django.test import TestCase, tag
from django.urls import reverse

from cambrel.field import proofs, standin
from cambrel.field.planning import SheetPlan
from cambrel.field.tests.test_returning import ReturningTestCase
from cambrel.field.views import marking
from cambrel.links.benches import decode, encode
from cambrel.optics.formats import Sensor
from cambrel.optics.sharpness import lens_own_mtf50_per_mm
from cambrel.owners.models import ChangeSet
from cambrel.owners.sections import SECTIONS
from cambrel.photographs.light import MeasureError
from cambrel.photographs.tests.synthetic import coded, disc
from cambrel.photographs.tests.synthetic import patch as grey_patch
from cambrel.photographs.tests.test_measuring import coded_three
from cambrel.shelf.models import Body, Lens
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.measured import Marked
from cambrel.trials.outcomes import Outcome

SMALL = {"WIDE_PX": 880, "RINGS": 0}


def coarse(body):
    sensor = body.sensor
    few = {name: getattr(sensor, name) and getattr(sensor, name) // 2 for name in ("pixels_wide", "pixels_high")}
    return replace(body, sensor=replace(sensor, **few))


class MeasuresTests(TestCase):
    """From a marked part to readings in the terms in which they are set against predictions."""

    def of(self, trial, pixels, box, **more):
        return TRIALS[trial].measured.read(Marked(pixels, box, 4000.0, **more))

    def test_reach_is_in_pixels_of_the_camera_and_a_disc_in_shares_of_the_diagonal(self):
        found = self.of("reach", np.full((200, 300, 3), 90, np.uint8), (0, 20, 100, 50))
        self.assertEqual(found["pixels"].value, 1000)
        self.assertAlmostEqual(found["pixels"].within, 2 / 50)
        picture = np.zeros((600, 800, 3), np.uint8)
        picture[200:300, 300:400] = coded(disc(40, 100))
        self.assertAlmostEqual(self.of("blur", picture, (300, 200, 100, 100))["disc"].value, 0.04, delta=0.0005)

    def test_noise_is_open_by_two_deviations_in_stops(self):
        grey = coded_three(grey_patch(20, side=120))
        found = self.of("noise", np.tile(grey, (1, 2, 1)), (0, 0, 120, 120))
        # 900 squares: one deviation of the deviation is 1 over the root of twice as many; two of them, in stops of
        # light
        self.assertAlmostEqual(found["snr"].within, 2 * 2 * np.log2(np.e) / np.sqrt(2 * 894), places=9)
        self.assertAlmostEqual(found["level"].value, 0.18, delta=0.002)
        self.assertEqual(
            self.of("noise", coded_three(grey_patch(200), 95), (0, 0, 100, 100), quality=95.0)["snr"].bound, "least"
        )

    def test_a_picture_that_was_made_smaller_is_doubtful(self):
        grey = coded_three(grey_patch(20, side=120))
        for is_resized in (False, True):
            doubts = self.of("noise", grey, (0, 0, 120, 120), is_resized=is_resized)["snr"].doubts
            self.assertEqual("resized" in doubts, is_resized)

    def test_where_to_look_first_is_about_the_light_or_in_the_middle(self):
        dark = np.zeros((600, 900, 3), np.uint8)
        dark[100:110, 700:710] = 255
        left, top, wide, high = TRIALS["blur"].measured.suggested(dark)
        self.assertTrue(left < 700 < 710 < left + wide and top < 100 < 110 < top + high, (left, top, wide, high))
        self.assertLess(wide, 80)
        for trial in ("noise", "diffraction"):
            left, top, wide, high = TRIALS[trial].measured.suggested(dark)
            self.assertEqual((2 * left + wide, 2 * top + high), (900, 600))
        with self.assertRaisesRegex(MeasureError, "first camera"):
            self.of("framing", dark, (0, 0, 10, 10))


@tag("long")
class SimulatedCameraTests(ReturningTestCase):
    """From a sheet to its verdicts by the simulated camera, which is not what the model takes it for."""

    trials = ["framing", "blur", "noise"]

    def setUp(self):
        super().setUp()
        # of fewer pixels, so that a picture of all of them is soon drawn
        slots = [replace(slot, rig=replace(slot.rig, body=coarse(slot.rig.body))) for slot in self.bench.slots]
        self.bench = replace(self.bench, slots=tuple(slots))
        self.sheet.token = encode(self.bench)
        self.sheet.save()
        self.plan = SheetPlan(self.bench, tuple(self.trials))

    def test_honest_figures_hold_and_what_the_model_lacks_does_not(self):
        with patch.multiple(standin, **SMALL), patch.object(standin, "forgotten", lambda shots: "blur-1-0"):
            for shot in self.plan.shots:
                answer = self.client.post(self.at("simulate", shot.key))
                if answer.status_code == 200:
                    self.assertEqual(self.bring(answer.content).status_code, 200)
                else:
                    self.assertEqual((answer.status_code, shot.key), (204, "blur-1-0"))
        placed_at = {row["shot"] for row in self.sheet.back.values()}
        self.assertEqual(placed_at, {shot.key for shot in self.plan.shots} - {"blur-1-0"})
        page = self.client.post(self.at("measure"), follow=True)
        self.sheet.refresh_from_db()

        def outcomes(key):
            return {
                one.label: (one.outcome, " ".join(one.more))
                for one in proofs.lines_of(self.plan, self.sheet, self.shot(key))
            }

        self.assertEqual(outcomes("blur-0-0")["Disc of the point of light"][0], Outcome.HELD)
        self.assertEqual(outcomes("noise-0-0")["Signal to noise"][0], Outcome.HELD)
        view, cause = outcomes("framing-1-0")["View by the diagonal"]
        self.assertEqual(view, Outcome.MISSED)
        self.assertIn("breathing", cause)
        noise = outcomes("noise-1-0")
        self.assertEqual(noise["Signal to noise"][0], Outcome.HELD)
        self.assertEqual(noise["Brightness"][0], Outcome.MISSED)
        self.assertIn("T-number", noise["Brightness"][1])
        self.assertIn("The camera reduced noise", outcomes("noise-2-0")["Signal to noise"][1])
        self.assertEqual(outcomes("framing-2-0")["View by the diagonal"][0], Outcome.HELD)
        # a phone's disc is too small to be measured: said, not guessed
        self.assertNotIn("blur-2-0", self.sheet.found)
        self.assertContains(page, "C, background blur:")
        self.assertContains(self.client.get(self.at("back")), "not as predicted")


class WritingTests(ReturningTestCase):
    trials = ["noise", "diffraction"]

    def setUp(self):
        super().setUp()
        first = self.bench.slots[0]
        self.body = Body.objects.create(
            owner=self.owner, name=first.body_called, width_mm=36, height_mm=24, pixels_wide=6000, pixels_high=4000
        )
        self.lens = Lens.objects.create(
            owner=self.owner, name=first.lens_name, focal_min_mm=50, focal_max_mm=50, mtf50=[[8.0, 40.0]]
        )

    def found(self, **readings):
        for key, row in readings.items():
            self.sheet.found[key.replace("_", "-")] = row
        self.sheet.save()

    def test_what_was_measured_is_written_onto_the_record_marked_dated_and_undoable(self):
        snr = self.shot("noise-0-0").predicted.figures["snr"].value
        self.found(noise_0_0={"snr": {"value": snr * 2**0.25, "within": 0.02}})
        page = self.client.post(self.at("take-over", "noise-0-0"), follow=True)
        self.assertContains(page, "0.5 stops ahead of its generation")
        self.body.refresh_from_db()
        self.assertAlmostEqual(self.body.offset_stops, 0.5, places=3)
        self.assertRegex(" ".join(self.body.measured), r"^offset_stops \d{4}-\d\d-\d\d$")
        edit = reverse("shelf:edit", args=["bodies", self.body.pk])
        self.assertContains(self.client.get(edit), "measured on one’s own pictures")
        (row,) = [row for _, row in SECTIONS["bodies"].rows(self.owner)]
        self.assertEqual(row["measured"], self.body.measured)
        self.assertEqual(SECTIONS["bodies"].check(row)["measured"], self.body.measured)
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/field/"})
        self.body.refresh_from_db()
        self.assertEqual((self.body.offset_stops, self.body.measured), (0, []))

    def test_a_lens_s_sharpness_is_in_its_unit_at_the_stop_taken(self):
        shot = next(shot for shot in self.plan.shots if shot.trial == "diffraction" and shot.rig == 0)
        self.sheet.back = {"a" * 32: {"shot": shot.key, "f_number": 5.6, "wide_px": 6000, "high_px": 4000}}
        self.found(**{shot.key.replace("-", "_"): {"mtf50": {"value": 0.24, "within": 0.06}}})
        self.client.post(self.at("take-over", shot.key))
        self.lens.refresh_from_db()
        (stop, alone), kept = self.lens.mtf50
        self.assertEqual((stop, kept), (5.6, [8.0, 40.0]))
        # 40 to a millimetre in the picture, of which pixels and diffraction take their part
        self.assertAlmostEqual(alone, float(lens_own_mtf50_per_mm(40, 5.6, 6.0)), places=1)
        self.assertGreater(alone, 41)
        self.assertTrue(self.lens.measured[0].startswith("mtf50 "))

    def test_an_upright_picture_is_as_high_as_the_frame_is_long(self):
        shot = replace(self.plan.shots[0], trial="reach")
        self.sheet.back = {"a" * 32: {}}
        usual = TRIALS[shot.trial].measured or TRIALS["reach"].measured
        counting = replace(usual, read=lambda marked: marked.pixels_high)
        for known, px in ((True, 5000), (False, 300)):
            sensor = Sensor(36, 24, 5000, 3333) if known else Sensor(36, 24)
            slot = replace(
                self.bench.slots[0],
                rig=replace(self.bench.slots[0].rig, body=replace(self.bench.rigs[0].body, sensor=sensor)),
            )
            plan = SheetPlan(replace(self.bench, slots=(slot, *self.bench.slots[1:])), ())
            for upright in (True, False):
                pixels = np.zeros((300, 200, 3) if upright else (200, 300, 3), np.uint8)
                with patch.dict(TRIALS, {shot.trial: replace(TRIALS[shot.trial], measured=counting)}):
                    high = marking._measured(self.owner, self.sheet, plan, shot, "a" * 32, pixels, (0.0, 0.0, 1.0, 1.0))
                self.assertEqual(high, px if upright else px / 1.5 if not known else 3333)

    def test_what_was_measured_through_a_converter_is_no_figure_of_the_lens(self):
        slots = tuple(replace(slot, rig=replace(slot.rig, converter=1.4)) for slot in self.bench.slots[:1])
        self.sheet.token = encode(replace(self.bench, slots=(*slots, *self.bench.slots[1:])))
        self.sheet.save()
        key = next(shot.key for shot in SheetPlan(decode(self.sheet.token), ("diffraction",)).shots if shot.rig == 0)
        self.sheet.back = {"a" * 32: {"shot": key, "f_number": 8.0, "wide_px": 6000, "high_px": 4000}}
        self.found(**{key.replace("-", "_"): {"mtf50": {"value": 0.24, "within": 0.06}}})
        page = self.client.post(self.at("take-over", key), follow=True)
        self.assertContains(page, "measured through the converter")
        self.found(**{key.replace("-", "_"): {"mtf50": {"value": 0.24, "within": 0.06, "doubts": ["bent"]}}})
        page = self.client.post(self.at("take-over", key), follow=True)
        self.assertContains(page, "too doubtful to keep on the lens’s record.")
        self.lens.refresh_from_db()
        self.assertEqual(self.lens.mtf50, [[8.0, 40.0]])

    def test_what_is_doubtful_or_of_unknown_gear_is_refused_with_its_reason(self):
        self.found(noise_0_0={"snr": {"value": 50.0, "doubts": ["reduced"]}}, noise_1_0={"snr": {"value": 50.0}})
        self.assertContains(
            self.client.post(self.at("take-over", "noise-0-0"), follow=True),
            "too doubtful to keep on the camera’s record.",
        )
        self.assertContains(
            self.client.post(self.at("take-over", "noise-1-0"), follow=True), "No record of the shelf is called"
        )
        self.assertContains(self.client.get(self.at("back")), "onto its record", count=1)
        self.assertEqual(self.client.post(self.at("take-over", "nonsense")).status_code, 404)

    def test_a_marked_part_is_read_and_what_cannot_be_is_said(self):
        grey = np.clip(118 + 6 * np.random.default_rng(1).standard_normal((600, 900, 3)), 0, 255).astype(np.uint8)
        from io import BytesIO

        from PIL import Image

        out = BytesIO()
        Image.fromarray(grey).save(out, "PNG")
        self.bring(out.getvalue())
        ((token, _),) = self.sheet.back.items()
        self.client.post(self.at("place", token), {"shot": "noise-0-0"})
        look = self.at("look", token)
        self.assertContains(self.client.get(look), "Drag over an even grey patch")
        small = self.client.post(look, {"left": "10", "top": "10", "wide": "20", "high": "20"})
        self.assertContains(small, "The patch is too small", status_code=422)
        bad = self.client.post(look, {"left": "x", "top": "-1", "wide": "", "high": "99999999999"})
        self.assertEqual(bad.status_code, 422)
        outside = self.client.post(look, {"left": "5000", "top": "5000", "wide": "200", "high": "200"})
        self.assertContains(outside, "Mark a part of the picture", status_code=422)
        page = self.client.post(look, {"left": "100", "top": "100", "wide": "200", "high": "200"}, follow=True)
        self.assertContains(page, "Signal to noise")
        self.sheet.refresh_from_db()
        self.assertEqual(self.sheet.found["noise-0-0"]["snr"]["box"], [100, 100, 200, 200])
        moved = replace(self.bench, title="Other")
        self.assertNotEqual(encode(moved), self.sheet.token)

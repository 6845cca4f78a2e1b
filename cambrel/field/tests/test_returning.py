"""Pictures back: read from heads, put to their shots, measured, proved, kept or let go, and what a reader may send."""

import json
from dataclasses import replace
from datetime import datetime, timedelta
from unittest.mock import patch

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.urls import reverse

from cambrel.bench.samples import home_bench
from cambrel.field import proofs, standin
from cambrel.field.backs import differing, placed, row_of
from cambrel.field.forms import SEEN
from cambrel.field.measuring import measure, suggested
from cambrel.field.models import Sheet
from cambrel.field.planning import Plan
from cambrel.field.returning import CHECK
from cambrel.links import encode
from cambrel.optics.proving import Outcome
from cambrel.optics.sharpness import lens_own_mtf50_per_mm
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.owners.sections import SECTIONS, document_schema
from cambrel.photographs.light import MeasureError
from cambrel.photographs.tests.synthetic import coded, disc
from cambrel.photographs.tests.synthetic import patch as grey_patch
from cambrel.photographs.tests.test_heads import PLAIN, picture, tiff
from cambrel.photographs.tests.test_measuring import coded_three
from cambrel.pictures import own
from cambrel.pictures.tests.folder import own_folder
from cambrel.shelf.models import Body, Lens

SMALL = {"WIDE_PX": 880, "RINGS": 0}


class ReturningTestCase(TestCase):
    trials = ["framing", "depth", "blur", "noise"]

    def setUp(self):
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        own_folder(self)
        self.bench = home_bench()
        self.sheet = Sheet.objects.create(
            owner=self.owner, name="On the footplate", token=encode(self.bench), trials=self.trials
        )
        self.plan = Plan(self.bench, tuple(self.trials))

    def at(self, name, *args):
        return reverse(f"field:{name}", args=[self.sheet.pk, *args])

    def read(self, *files):
        says, parts = [], []
        for k, content in enumerate(files):
            says.append({"id": k, "size": len(content), "rounds": 1, "parts": [[0, min(len(content), 65536)]]})
            parts.append(SimpleUploadedFile("part", content[:65536]))
        return self.client.post(self.at("heads"), {"says": json.dumps(says), "part": parts}).json()["files"]

    def bring(self, content, name="x.jpg"):
        answer = self.client.post(
            self.at("bring"), {"file": SimpleUploadedFile(name, content)}, headers={"X-Requested-With": "fetch"}
        )
        self.sheet.refresh_from_db()
        return answer

    def see(self, key, sent):
        return self.client.post(
            self.at("seen", key), {f"{key}-{name}": value for name, value in sent.items()}, follow=True
        )

    def shot(self, key):
        return next(shot for shot in self.plan.shots if shot.key == key)


class ReturningTests(ReturningTestCase):
    def row(self, key, minutes=0, **more):
        shot = self.shot(key)
        slot = self.bench.slots[shot.rig]
        row = {
            "body": slot.body_called, "lens": slot.lens_name, "focal_length_mm": shot.focal_length_mm, "f_number": shot.f_number,
            "shutter_s": shot.shutter_s, "iso": shot.iso, "at": (datetime(2026, 5, 4, 10) + timedelta(minutes=minutes)).isoformat(),
        }  # fmt: skip
        return row | more

    def test_a_head_is_answered_with_its_settings_or_with_what_more_is_wanted(self):
        tail = tiff(directory_at=300_000, size=310_000)
        plain, long, broken = self.read(picture(), tail, b"nothing of the kind" * 50)
        self.assertEqual(plain["row"]["f_number"], 2.8)
        self.assertIn("f/2.8", plain["says"])
        self.assertEqual(long["asked"], [[300_000, 10_000]])
        self.assertEqual(broken["problem"], "it is no picture file that is read here")
        says = [{"id": "a", "size": len(tail), "rounds": 2, "parts": [[0, 65536], [300_000, 10_000]]}]
        parts = [SimpleUploadedFile("part", part) for part in (tail[:65536], tail[300_000:])]
        answer = self.client.post(reverse("field:any-heads"), {"says": json.dumps(says), "part": parts}).json()["files"]
        self.assertEqual((answer[0]["id"], answer[0]["row"]["iso"]), ("a", 400.0))
        self.assertNotIn("whole", answer[0])
        for wrong in (
            "",
            "{}",
            "[]",
            "[1]",
            json.dumps([{"id": 0, "size": 10, "rounds": 1, "parts": [[0, 99]]}]),
            json.dumps(says * 40),
        ):
            answer = self.client.post(
                self.at("heads"), {"says": wrong, "part": [SimpleUploadedFile("part", b"x" * 10)]}
            )
            self.assertEqual(answer.status_code, 400, wrong)

    def test_nothing_of_who_and_where_is_kept(self):
        private = {0xA431: "serial 77", 0xA430: "somebody"}
        self.bring(picture(settings=PLAIN | private, top={0x013B: "somebody"}))
        (row,) = self.sheet.back.values()
        text = json.dumps(row)
        for word in ("somebody", "serial", "51.", "x.jpg"):
            self.assertNotIn(word, text)
        (copy,) = own.folder(self.owner).iterdir()
        self.assertNotIn(b"somebody", copy.read_bytes())

    def test_pictures_go_to_their_shots_by_camera_settings_and_time(self):
        keys = [shot.key for shot in self.plan.shots]
        rows = {str(k): self.row(key, minutes=3 * k) for k, key in enumerate(keys)}
        self.assertEqual(
            placed(self.plan, rows, {}), {str(k): key for k, key in enumerate(keys)}, "in the order of the sheet"
        )
        # one was forgotten: what was ticked when it was taken tells which
        missing = keys.pop(2)
        ticks = {key: datetime(2026, 5, 4, 7, 3 * k).isoformat() + "+00:00" for k, key in enumerate(keys)}
        rows = {str(k): self.row(key, minutes=3 * k) for k, key in enumerate(keys)}
        found = placed(self.plan, rows, ticks)
        self.assertEqual(list(found.values()), keys)
        self.assertNotIn(missing, found.values())
        # taken in another order than the sheet has it, as the ticks say
        same = [shot.key for shot in self.plan.shots if shot.rig == 0]
        ticks = {key: datetime(2026, 5, 4, 7, 50 - 9 * k).isoformat() + "+00:00" for k, key in enumerate(same)}
        rows = {key: self.row(key, minutes=50 - 9 * k) for k, key in enumerate(same)}
        self.assertEqual(placed(self.plan, rows, ticks), {key: key for key in same})
        # a shot that has its picture gets no other
        rows = {"a": self.row(same[0]) | {"shot": same[0]}, "b": self.row(same[0])}
        self.assertEqual(placed(self.plan, rows, {}), {"b": same[1]})
        cases = (
            (self.row(keys[0], body="Some Other Camera"), "another camera"),
            (self.row(keys[0], f_number=22.0, shutter_s=1.0), "settings far off"),
        )
        for row, why in cases:
            with self.subTest(why):
                known = self.row(keys[1])
                self.assertEqual(placed(self.plan, {"a": row, "b": known}, {})["a"], "")
        # where no camera is known by its name, settings alone tell
        self.assertTrue(
            placed(self.plan, {"a": self.row(keys[0], body="K 3")}, {})["a"].startswith(keys[0].split("-")[0])
        )

    def test_what_was_taken_otherwise_than_planned_is_said(self):
        shot = self.shot("framing-0-0")
        said = differing(
            shot,
            self.row(
                shot.key,
                f_number=shot.f_number * 2 ** (1 / 6),
                iso=shot.iso * 2,
                focal_length_mm=shot.focal_length_mm * 1.1,
            ),
        )
        self.assertEqual(len(said), 3)
        self.assertRegex(said[0], r"^planned f/2\.8, taken f/3\.\d$")
        self.assertEqual(differing(shot, self.row(shot.key)), [])
        self.bring(picture(settings=PLAIN | {0x8827: 640}))
        page = self.client.get(self.at("back"))
        self.assertContains(page, "Position, serial numbers, names of people and thumbnails are never stored")

    def test_a_picture_is_put_elsewhere_taken_off_and_brought_back(self):
        self.bring(picture())
        ((token, row),) = self.sheet.back.items()
        first = row["shot"]
        for shot, there in (("noise-1-0", "noise-1-0"), ("", ""), ("nonsense", "")):
            self.client.post(self.at("place", token), {"shot": shot})
            self.sheet.refresh_from_db()
            self.assertEqual(self.sheet.back[token]["shot"], there)
        self.client.post(self.at("place", token), {"shot": first})
        Sheet.objects.filter(pk=self.sheet.pk).update(
            found={first: {"disc": {"value": 0.01, "of": token}, "near": {"value": 2.0}}}
        )
        self.client.post(self.at("place", token), {"shot": "away"})
        self.sheet.refresh_from_db()
        self.assertEqual(
            (self.sheet.back, self.sheet.found),
            ({}, {first: {"near": {"value": 2.0}}}),
            "what was read off it goes too",
        )
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/field/"})
        self.sheet.refresh_from_db()
        self.assertIn("disc", self.sheet.found[first])
        self.assertEqual(self.client.post(self.at("place", "0" * 32), {"shot": ""}).status_code, 404)

    def test_what_an_eye_says_is_noted_and_bad_input_keeps_the_old(self):
        key = "depth-0-0"
        near, far = (self.shot(key).predicted.figures[name].value for name in ("near", "far"))
        page = self.see(key, {"near": f"{near + 0.02:.2f}", "far": f"{100 * far - 2:.0f} cm", "step": "5 cm"})
        self.assertContains(page, "It held", count=2)
        bad = self.see(key, {"near": "soon", "far": "", "step": ""})
        self.assertContains(bad, "is not a distance", status_code=422)
        self.sheet.refresh_from_db()
        self.assertEqual(set(self.sheet.found[key]), {"near", "far"})
        page = self.see(key, {"near": "0.5", "far": "", "step": ""})
        self.assertContains(page, "It did not hold")
        self.assertContains(page, "focus that lay nearer than was meant")
        self.assertEqual(self.client.post(self.at("seen", "noise-0-0"), {}).status_code, 404)

    def test_what_is_typed_comes_to_a_reading_in_its_unit(self):
        for trial, typed, wanted in (
            ("close", {"ruler": 20 * 2**0.5}, {"total": 0.02}),
            ("steadiness", {"sharp": 6.0}, {"steady": 6.0}),
            ("stars", {"seen": "drawn"}, {"points": 0.0}),
            ("stars", {"seen": "points"}, {"points": 1.0}),
            ("range", {"stops": 11.0}, {"range": 11.0}),
            ("depth", {"near": 2.0, "far": None, "step": 0.1}, {"near": 1.95}),
            ("depth", {"near": None, "far": 3.0, "step": None}, {"far": 3.025}),
        ):
            found = SEEN[trial][1](typed)
            with self.subTest(trial=trial, typed=typed):
                self.assertEqual(set(found), set(wanted))
                for what, value in wanted.items():
                    self.assertAlmostEqual(found[what].value, value)

    def test_hostile_files_get_a_message(self):
        for content, says in (
            (b"", "no picture"),
            (b"<svg onload=alert(1)>", "no picture"),
            (picture()[:700], "cut or damaged"),
        ):
            with self.subTest(says=says):
                answer = self.bring(content)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(says, answer.json()["problem"])
        self.assertEqual(list(own.folder(self.owner).iterdir()), [])
        for row in ("", "[]", '{"serial": "1"}', '{"f_number": -1}', '{"f_number": 1e400}', '{"body": 3}'):
            answer = self.client.post(self.at("bring"), {"row": row}, headers={"X-Requested-With": "fetch"})
            self.assertEqual(answer.status_code, 422, row)
        plain = self.client.post(self.at("bring"), {"row": "{}"}, follow=True)
        self.assertEqual(plain.status_code, 200)

    def test_a_kept_picture_is_its_owner_s_made_smaller_and_bounded(self):
        self.bring(picture(size=(3000, 2000)))
        ((token, _),) = self.sheet.back.items()
        self.client.post(self.at("keep-picture", token), {"keep": "1"})
        own.path_of(self.owner, token, own.WORKING).unlink()
        shown = self.client.get(self.at("picture", token))
        self.assertEqual((shown.status_code, shown["Cache-Control"]), (200, own.PRIVATE))
        self.assertLess(len(shown.content), 100_000)
        theirs = Sheet.objects.create(
            owner=User.objects.create(username="somebody"),
            name="Theirs",
            token=self.sheet.token,
            trials=["noise"],
            back=self.sheet.back,
        )
        self.assertEqual(self.client.get(reverse("field:picture", args=[theirs.pk, token])).status_code, 404)
        with patch.object(own, "MOST_KEPT_BYTES", 10):
            self.bring(picture(size=(900, 700)))
            fresh = next(key for key in self.sheet.back if key != token)
            page = self.client.post(self.at("keep-picture", fresh), {"keep": "1"}, follow=True)
            self.assertContains(page, "kept pictures. Let go of some first.")

    def test_working_copies_are_swept_after_a_day_and_bounded(self):
        self.bring(picture())
        (copy,) = own.folder(self.owner).iterdir()
        with patch("cambrel.pictures.own.time.time", lambda: copy.stat().st_mtime + own.WORKING_FOR_S + 1):
            own.sweep(self.owner)
        self.assertFalse(copy.exists())
        with patch.object(own, "MOST_WORKING_BYTES", 10):
            self.bring(picture())
            self.bring(picture())
        self.assertEqual(len(list(own.folder(self.owner).iterdir())), 1)

    def test_it_all_travels_in_the_document(self):
        self.bring(picture())
        self.see("depth-0-0", {"near": "1.8", "far": "2.2", "step": "5 cm"})
        ((_, row),) = SECTIONS["sheets"].rows(self.owner)
        self.assertTrue(row["back"] and row["found"])
        for kept in row["back"].values():
            self.assertTrue(CHECK.is_valid(kept))
        from jsonschema import Draft202012Validator

        sheets = document_schema()["$defs"]["sheets"]
        self.assertEqual([e.message for e in Draft202012Validator(sheets).iter_errors(json.loads(json.dumps(row)))], [])
        self.assertNotIn("notes", row_of(standin_taken()))


def standin_taken():
    from cambrel.photographs.taken import Taken

    return Taken(body="K 3")


class MeasuresTests(TestCase):
    """From a marked part to readings in the terms in which they are set against predictions."""

    def of(self, trial, pixels, box, **more):
        usual = {"quality": None, "first": None, "second": None, "pixels_high": 4000.0}
        return measure(trial, pixels, box, **{**usual, **more})

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
        # 900 squares: one deviation of the deviation is 1 over the root of twice as many; two of them, in stops of light
        self.assertAlmostEqual(found["snr"].within, 2 * 2 * np.log2(np.e) / np.sqrt(2 * 894), places=9)
        self.assertAlmostEqual(found["level"].value, 0.18, delta=0.002)
        self.assertEqual(
            self.of("noise", coded_three(grey_patch(200), 95), (0, 0, 100, 100), quality=95.0)["snr"].bound, "least"
        )

    def test_where_to_look_first_is_about_the_light_or_in_the_middle(self):
        dark = np.zeros((600, 900, 3), np.uint8)
        dark[100:110, 700:710] = 255
        left, top, wide, high = suggested("blur", dark)
        self.assertTrue(left < 700 < 710 < left + wide and top < 100 < 110 < top + high, (left, top, wide, high))
        self.assertLess(wide, 80)
        for trial in ("noise", "diffraction"):
            left, top, wide, high = suggested(trial, dark)
            self.assertEqual((2 * left + wide, 2 * top + high), (900, 600))
        with self.assertRaisesRegex(MeasureError, "first camera"):
            self.of("framing", dark, (0, 0, 10, 10))


class SimulatedCameraTests(ReturningTestCase):
    """From a sheet to its verdicts by the simulated camera, which is not what the model takes it for."""

    trials = ["framing", "blur", "noise"]

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
        self.assertIn("noise was reduced", outcomes("noise-2-0")["Signal to noise"][1])
        self.assertEqual(outcomes("framing-2-0")["View by the diagonal"][0], Outcome.HELD)
        # a phone's disc is too small to be measured: said, not guessed
        self.assertNotIn("blur-2-0", self.sheet.found)
        self.assertContains(page, "C, background blur:")
        self.assertContains(self.client.get(self.at("back")), "did not hold")


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
        ((stop, alone), kept) = self.lens.mtf50
        self.assertEqual((stop, kept), (5.6, [8.0, 40.0]))
        # 40 to a millimetre in the picture, of which pixels and diffraction take their part
        self.assertAlmostEqual(alone, float(lens_own_mtf50_per_mm(40, 5.6, 6.0)), places=1)
        self.assertGreater(alone, 41)
        self.assertTrue(self.lens.measured[0].startswith("mtf50 "))

    def test_what_is_doubtful_or_of_unknown_gear_is_refused_with_its_reason(self):
        self.found(noise_0_0={"snr": {"value": 50.0, "doubts": ["reduced"]}}, noise_1_0={"snr": {"value": 50.0}})
        self.assertContains(self.client.post(self.at("take-over", "noise-0-0"), follow=True), "too doubtful")
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

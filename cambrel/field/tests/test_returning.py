"""Pictures back: read from heads, put to their shots, measured, proved, kept or let go, and what a reader may send."""

import json
from datetime import datetime, timedelta
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase
from django.urls import reverse
from django.utils import timezone

from cambrel.bench.sample_benches import home_bench
from cambrel.field.backs import differing, may_be_measured, placed, row_of
from cambrel.field.models import Sheet
from cambrel.field.planning import SheetPlan
from cambrel.field.proofs import settings_of
from cambrel.field.sheet_shapes import is_picture
from cambrel.links.benches import encode
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.owners.sections import SECTIONS, document_schema
from cambrel.photographs.tests.test_heads import PLAIN, picture, tiff
from cambrel.pictures import own
from cambrel.pictures.models import OwnFile
from cambrel.pictures.tests.folder import own_folder
from cambrel.trials.all_trials import TRIALS


class ReturningTestCase(TestCase):
    trials = ["framing", "depth", "blur", "noise"]

    def files(self):
        """What is held of the owner's pictures."""
        return sorted(self.folder.glob("*/*"))

    def setUp(self):
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        self.folder = own_folder(self)
        self.bench = home_bench()
        self.sheet = Sheet.objects.create(
            owner=self.owner, name="On the footplate", token=encode(self.bench), trials=self.trials
        )
        self.plan = SheetPlan(self.bench, tuple(self.trials))

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
            "body": slot.body_called, "lens": slot.lens_name, "focal_length_mm": shot.focal_length_mm,
            "f_number": shot.f_number,
            "shutter_s": shot.shutter_s, "iso": shot.iso,
            "at": (datetime(2026, 5, 4, 10) + timedelta(minutes=minutes)).isoformat(),
        }  # fmt: skip
        return row | more

    def test_a_head_is_answered_with_its_settings_or_with_what_more_is_wanted(self):
        tail = tiff(directory_at=300_000, size=310_000)
        plain, long, broken = self.read(picture(), tail, b"nothing of the kind" * 50)
        self.assertEqual(plain["row"]["f_number"], 2.8)
        self.assertIn("f/2.8", plain["says"])
        self.assertEqual(long["asked"], [[300_000, 10_000]])
        self.assertEqual(broken["problem"], "it is not a picture file that can be read here")
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

    def test_a_file_that_is_sent_whole_is_read_to_its_end(self):
        late = picture("WEBP", size=(900, 700), noisy=True)
        self.assertGreater(len(late), 100_000)
        self.assertIn("asked", self.read(late)[0])
        with patch("cambrel.photographs.sent.MOST_SENT_BYTES", 65536):
            self.bring(late)
        (row,) = self.sheet.back.values()
        self.assertEqual((row["f_number"], row["iso"]), (2.8, 400.0))

    def test_the_whole_file_is_asked_for_where_its_pixels_may_be_measured(self):
        shot = self.shot("depth-0-0")
        rows = {
            "same as a shot that is measured": self.row(shot.key),
            "nothing like": self.row(shot.key, f_number=64.0, shutter_s=30.0),
        }
        for why, row in rows.items():
            self.assertTrue(may_be_measured(self.plan, row, []), why)
        alone = SheetPlan(self.bench, ("depth",))
        self.assertFalse(may_be_measured(alone, self.row(shot.key), []))

    def test_the_settings_are_those_of_the_picture_that_was_read_off(self):
        shot = self.shot("noise-0-0")
        self.sheet.back = {
            key: self.row(shot.key, iso=iso, shot=shot.key) for key, iso in (("a" * 32, 400.0), ("b" * 32, 800.0))
        }
        self.assertEqual(settings_of(self.sheet, shot).iso, 400)
        self.sheet.found = {shot.key: {"snr": {"value": 50.0, "of": "b" * 32}}}
        self.assertEqual(settings_of(self.sheet, shot).iso, 800)

    def test_what_was_taken_off_every_shot_by_hand_stays_off(self):
        self.bring(picture())
        ((token, _),) = self.sheet.back.items()
        self.client.post(self.at("place", token), {"shot": "none"})
        self.bring(picture())
        self.assertEqual(self.sheet.back[token]["shot"], "none")

    def test_nothing_is_left_to_measure_of_a_picture_that_the_others_are_set_against(self):
        self.sheet.back = {"a" * 32: {"shot": "framing-0-0", "kept": ""}}
        self.sheet.save()
        OwnFile.objects.create(owner=self.owner, token="a" * 32, ending=own.WORKING, size=1)
        page = self.client.get(self.at("back"))
        self.assertContains(page, "The others are set against this picture")
        self.assertEqual((page.context["unmeasured"], page.context["open"]), (0, len(self.plan.shots) - 1))
        self.assertNotContains(page, self.at("look", "a" * 32))

    def test_nothing_of_who_and_where_is_kept(self):
        private = {0xA431: "serial 77", 0xA430: "somebody"}
        self.bring(picture(settings=PLAIN | private, top={0x013B: "somebody"}))
        (row,) = self.sheet.back.values()
        text = json.dumps(row)
        for word in ("somebody", "serial", "51.", "x.jpg"):
            self.assertNotIn(word, text)
        (copy,) = self.files()
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
        for shot, there in (("noise-1-0", "noise-1-0"), ("none", "none"), ("nonsense", "none")):
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
        self.assertContains(page, "<b>As predicted</b>", count=2)
        marks = page.context["drawn"]
        self.assertEqual({mark.letter for mark in marks}, {"A"}, "each is drawn where a figure was allowed for")
        bad = self.see(key, {"near": "soon", "far": "", "step": ""})
        self.assertContains(bad, "is not a distance", status_code=422)
        self.sheet.refresh_from_db()
        self.assertEqual(set(self.sheet.found[key]), {"near", "far"})
        page = self.see(key, {"near": "2.74", "far": "", "step": "10 cm"})
        self.assertContains(page, "2.74\u00a0m noted, so the limit is at about 2.69\u00a0m")
        self.assertContains(page, 'value="2.74')
        self.assertContains(page, 'value="0.1')
        page = self.see(key, {"near": "0.5", "far": "", "step": ""})
        self.assertContains(page, "Not as predicted")
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
            found = TRIALS[trial].eye.readings(typed)
            with self.subTest(trial=trial, typed=typed):
                self.assertEqual(set(found), set(wanted))
                for what, value in wanted.items():
                    self.assertAlmostEqual(found[what].value, value)
                again = TRIALS[trial].eye.typed(found)
                for name, value in typed.items():
                    if name != "step" and value is not None:
                        (self.assertEqual if isinstance(value, str) else self.assertAlmostEqual)(again[name], value)
                if typed.get("step"):
                    self.assertAlmostEqual(again["step"], typed["step"])

    def test_hostile_files_get_a_message(self):
        for content, says in (
            (b"", "not a picture"),
            (b"<svg onload=alert(1)>", "not a picture"),
            (picture()[:700], "cut short or damaged"),
        ):
            with self.subTest(says=says):
                answer = self.bring(content)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(says, answer.json()["problem"])
        self.assertEqual(self.files(), [])
        self.assertEqual([one for one in own.uploads().iterdir() if one.name != "x"], [])
        for row in ("", "[]", '{"serial": "1"}', '{"f_number": -1}', '{"f_number": 1e400}', '{"body": 3}'):
            answer = self.client.post(self.at("bring"), {"row": row}, headers={"X-Requested-With": "fetch"})
            self.assertEqual(answer.status_code, 422, row)
        plain = self.client.post(self.at("bring"), {"row": "{}"}, follow=True)
        self.assertEqual(plain.status_code, 200)

    def test_a_kept_picture_is_its_owner_s_made_smaller_and_bounded(self):
        self.bring(picture(size=(3000, 2000)))
        ((token, _),) = self.sheet.back.items()
        self.client.post(self.at("keep-picture", token), {"keep": "1"})
        OwnFile.objects.filter(token=token).delete()
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
        OwnFile.objects.update(made_at=timezone.now() - own.WORKING_FOR - timedelta(seconds=1))
        own.sweep(self.owner)
        self.assertEqual(self.files(), [])
        with patch.object(own, "MOST_WORKING_BYTES", 10):
            self.bring(picture())
            self.bring(picture())
        self.assertEqual(len(self.files()), 1)

    def test_it_all_travels_in_the_document(self):
        self.bring(picture())
        self.see("depth-0-0", {"near": "1.8", "far": "2.2", "step": "5 cm"})
        ((_, row),) = SECTIONS["sheets"].rows(self.owner)
        self.assertTrue(row["back"] and row["found"])
        for kept in row["back"].values():
            self.assertTrue(is_picture(kept))
        from jsonschema import Draft202012Validator

        sheets = document_schema()["$defs"]["sheets"]
        self.assertEqual([e.message for e in Draft202012Validator(sheets).iter_errors(json.loads(json.dumps(row)))], [])
        self.assertNotIn("notes", row_of(standin_taken()))


def standin_taken():
    from cambrel.photographs.taken import Taken

    return Taken(body="K 3")

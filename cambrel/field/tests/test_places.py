"""Own scenes: taken in within bounds, drawn for their owner and for nobody else, part of saved pictures and of a file
of their own.
"""

import io
import json
import shutil
import zipfile
from dataclasses import replace
from unittest.mock import patch

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.test import TestCase, tag
from django.urls import reverse
from PIL import Image

from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.models import SavedBrief
from cambrel.comparison.engine import compare
from cambrel.links.benches import encode
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.photographs.tests.test_heads import PLAIN, picture
from cambrel.pictures import own
from cambrel.pictures.models import OwnScene
from cambrel.pictures.own_scenes import ReaderScenes
from cambrel.pictures.shots import rig_shot
from cambrel.pictures.tests.folder import own_folder
from cambrel.pictures.views import address

FIGURES = {
    "distance_m": "2 m", "subject_height_m": "1.8", "background_m": "6", "background_height_m": "8",
    "background_foot_m": "0",
    "camera_height_m": "1.5",
}  # fmt: skip


def cut_out(size=(200, 400), alpha=0):
    image = Image.new("RGBA", size, (0, 0, 0, alpha))
    image.paste((200, 30, 30, 255), (40, 40, 160, 400))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


class PlacesTests(TestCase):
    def setUp(self):
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        self.folder = own_folder(self)

    def make(self, content=None, subject=None, **more):
        sent = FIGURES | {"name": "My street", "background": SimpleUploadedFile("x.jpg", content or picture())} | more
        if subject is not None:
            sent["subject"] = SimpleUploadedFile("y.png", subject)
        return self.client.post(reverse("field:new-place"), sent)

    def shown(self, record):
        """Where a rig's picture of a scene is had, as its owner's bench has it."""
        bench = home_bench()
        mine = replace(bench, scene=record.slug)
        made = compare(mine.brief, mine.rigs, mine.hold, mine.conventions, mine.reference)
        place = ReaderScenes(self.owner)(record.slug)
        return mine, address(rig_shot(mine, made, made.of(0), place=place).token(), 105)

    def test_a_place_is_drawn_for_its_owner_and_sent_as_private(self):
        red = io.BytesIO()
        Image.new("RGB", (900, 600), (200, 20, 20)).save(red, "JPEG")
        self.assertRedirects(self.make(red.getvalue()), reverse("field:places"))
        (record,) = OwnScene.objects.all()
        self.assertEqual((record.background_height_m, record.camera_height_m), (8.0, 1.5))
        bench, where = self.shown(record)
        answer = self.client.get(where)
        self.assertEqual((answer.status_code, answer["Cache-Control"]), (200, "private, no-cache"))
        pixels = np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB"), float)
        self.assertGreater(pixels[:20, :, 0].mean(), 2 * pixels[:20, :, 1].mean(), "the red wall is behind")
        self.assertEqual(self.client.get(where, headers={"If-None-Match": answer["ETag"]}).status_code, 304)
        # changed, it is another picture at the same address
        blue = io.BytesIO()
        Image.new("RGB", (900, 600), (20, 20, 200)).save(blue, "JPEG")
        sent = FIGURES | {
            "name": "My street",
            "background": SimpleUploadedFile("b.jpg", blue.getvalue()),
            "version": record.version,
        }
        self.client.post(reverse("field:place-edit", args=[record.pk]), sent)
        again = self.client.get(where, headers={"If-None-Match": answer["ETag"]})
        pixels = np.asarray(Image.open(io.BytesIO(again.content)).convert("RGB"), float)
        self.assertGreater(pixels[:20, :, 2].mean(), 2 * pixels[:20, :, 0].mean())
        # the public ones are as they were
        made = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
        public = self.client.get(address(rig_shot(home_bench(), made, made.of(0)).token(), 105))
        self.assertIn("immutable", public["Cache-Control"])

    def test_nobody_else_sees_it_whatever_link_they_have(self):
        somebody = User.objects.create(username="somebody")
        self.make()
        (record,) = OwnScene.objects.all()
        bench, where = self.shown(record)
        OwnScene.objects.filter(pk=record.pk).update(owner=somebody)
        self.assertEqual(self.client.get(where).status_code, 404)
        self.assertEqual(
            self.client.get(reverse("field:place-picture", args=[record.pk, "background"])).status_code, 404
        )
        self.assertEqual(self.client.get(reverse("field:place-edit", args=[record.pk])).status_code, 404)
        page = self.client.get("/", {"b": encode(bench)})
        self.assertEqual(page.status_code, 200)
        self.assertNotIn(where.split("/")[2], page.content.decode(), "the usual scene stands in its place")
        self.assertEqual(ReaderScenes(None)(record.slug).slug, "footplate", "nobody has none")
        for slug in ("own-", "own-x", "own-²", "own-" + "9" * 30, record.key):
            self.assertEqual(ReaderScenes(self.owner)(slug).slug, "footplate")

    def test_its_height_is_taken_from_its_own_focal_length(self):
        self.make(picture(size=(900, 600), settings=PLAIN | {0xA405: 48}), background_height_m="")
        (record,) = OwnScene.objects.all()
        # 24 mm of a 36 x 24 frame at 48 mm, 8 m away
        self.assertAlmostEqual(record.background_height_m, 8 * 24 / 48)
        refused = self.make(picture(settings={}), background_height_m="")
        self.assertContains(refused, "does not say its focal length", status_code=422)

    def test_what_cannot_be_taken_is_said_at_its_field(self):
        cases = (
            ({"content": b"hello"}, "not a picture that can be read here"),
            ({"content": picture()[:700]}, "cut short or damaged"),
            ({"subject": picture("PNG")}, "It has no transparency: cut the subject out first"),
            ({"subject": cut_out(alpha=255)}, "It has no transparency: cut the subject out first"),
            ({"name": ""}, "name"), ({"distance_m": "0"}, "out of range"),
            ({"subject_height_m": "soon"}, "is not a distance"),
            ({"background": ""}, "Choose a picture of the place"),
        )  # fmt: skip
        for change, says in cases:
            with self.subTest(says=says):
                self.assertContains(self.make(**change), says, status_code=422)
        self.assertFalse(OwnScene.objects.exists())
        with patch.object(own, "MOST_KEPT_BYTES", 10):
            self.assertContains(self.make(picture(size=(300, 200))), "Let go of some first", status_code=422)

    def test_a_scene_becomes_a_picture_to_be_made_and_can_be_thrown_away_and_brought_back(self):
        self.make(subject=cut_out())
        (record,) = OwnScene.objects.all()
        page = self.client.post(reverse("field:place-brief", args=[record.pk]), follow=True)
        self.assertContains(page, "My street")
        (saved,) = SavedBrief.objects.all()
        self.assertEqual((saved.task().scene, saved.task().brief.background_m), (record.slug, 6.0))
        opened = next(row["address"] for _, _, rows in page.context["lists"] for row in rows)
        self.assertContains(self.client.get(opened), "My street")
        self.assertEqual(self.client.get(reverse("field:place-picture", args=[record.pk, "subject"])).status_code, 200)
        self.client.post(reverse("field:place-remove", args=[record.pk]))
        self.assertFalse(OwnScene.objects.exists())
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/field/"})
        self.assertEqual(
            self.client.get(reverse("field:place-picture", args=[record.pk, "background"])).status_code, 200
        )

    def test_pictures_that_no_record_speaks_of_are_forgotten_when_nothing_can_be_undone_any_more(self):
        self.make(subject=cut_out())
        (record,) = OwnScene.objects.all()
        place = self.folder / str(self.owner.pk) / f"{record.background}.jpg"
        self.shown(record)
        call_command("tidy")
        self.assertTrue(place.exists(), "it is spoken of, and as of now")
        self.client.post(reverse("field:place-remove", args=[record.pk]))
        call_command("tidy")
        self.assertTrue(place.exists(), "it can be brought back")
        ChangeSet.objects.all().delete()
        call_command("tidy")
        self.assertFalse(place.exists())
        self.assertEqual(list(own.scratch("own", str(self.owner.pk)).glob(f"{record.background}*")), [])

    @tag("long")
    def test_scenes_travel_in_a_file_of_their_own(self):
        self.make(subject=cut_out())
        (record,) = OwnScene.objects.all()
        out = self.client.get(reverse("field:places-out")).content
        self.client.post(reverse("field:place-remove", args=[record.pk]))
        shutil.rmtree(self.folder)
        page = self.client.post(reverse("field:places-in"), {"file": SimpleUploadedFile("s.zip", out)}, follow=True)
        self.assertContains(page, "1 scene brought in")
        (again,) = OwnScene.objects.all()
        self.assertEqual((again.name, again.background_m, bool(again.subject)), ("My street", 6.0, True))
        self.assertEqual(again.slug, record.slug, "what names it finds it again")
        self.assertIsNotNone(own.kept(self.owner, again.background, own.BACKGROUND))
        self.client.post(reverse("field:places-in"), {"file": SimpleUploadedFile("s.zip", out)})
        self.assertEqual(len(set(OwnScene.objects.values_list("key", flat=True))), 2, "none is put over another")
        OwnScene.objects.exclude(pk=again.pk).delete()

        def packed(told, **files):
            made = io.BytesIO()
            with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
                archive.writestr("scenes.json", json.dumps(told) if not isinstance(told, str) else told)
                for name, content in files.items():
                    archive.writestr(name, content)
            return made.getvalue()

        row = {"key": "a" * 12, "name": "A", "background": "a"} | dict.fromkeys(FIGURES, 2.0)
        told = {"cambrel_scenes": 1, "scenes": [row]}
        cases = (
            (b"hello", "not a file of scenes. Choose one"), (packed("{"), "not a file of scenes"),
            (packed({"cambrel_scenes": 2, "scenes": []}), "version 1"),
            (packed(told), "not a file of scenes"), (packed(told, a=b"no picture"), "not a picture that can be read"),
            (
                packed({"cambrel_scenes": 1, "scenes": [row | {"distance_m": -1}]}, a=picture()),
                "has a distance or a height that makes no sense.",
            ),
            (packed({"cambrel_scenes": 1, "scenes": [row | {"subject": "b"}]}, a=picture(), b=b"\0" * (50 * 2**20)),
                "more than is read"),
        )  # fmt: skip
        for content, says in cases:
            with self.subTest(says=says):
                page = self.client.post(
                    reverse("field:places-in"), {"file": SimpleUploadedFile("s.zip", content)}, follow=True
                )
                self.assertContains(page, says)
        self.assertEqual(OwnScene.objects.count(), 1)

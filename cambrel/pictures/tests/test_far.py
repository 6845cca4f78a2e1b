"""Pictures of owners in a storage far away: kept, fetched, shown, swept and gone, as those of a folder are."""

import os
from unittest.mock import patch

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import TestCase, override_settings
from django.urls import reverse

from cambrel.bench.sample_benches import home_bench
from cambrel.field.models import Sheet
from cambrel.field.tests.test_places import FIGURES
from cambrel.links.benches import encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.photographs.tests.test_heads import picture
from cambrel.pictures import own
from cambrel.pictures.models import OwnScene
from cambrel.pictures.own_scenes import ReaderScenes
from cambrel.pictures.tests.far_store import FarStore
from cambrel.pictures.tests.folder import own_folder
from cambrel.site.settings import _own_storage


class FarTests(TestCase):
    def setUp(self):
        own_folder(self)
        self.far = FarStore()
        self.addCleanup(self.far.server_close)
        self.addCleanup(self.far.shutdown)
        keys = {
            "AWS_ACCESS_KEY_ID": "a",
            "AWS_SECRET_ACCESS_KEY": "b",
            "AWS_DEFAULT_REGION": "eu-north-1",
            "CAMBREL_S3_ENDPOINT": self.far.address,
        }
        self.enterContext(patch.dict(os.environ, keys))
        self.enterContext(override_settings(STORAGES=settings.STORAGES | {"own": _own_storage("s3://bucket/pictures")}))
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)

    def names(self):
        return sorted(name.rsplit("/", 1)[1] for name in self.far.files)

    def test_kept_fetched_once_damaged_and_gone(self):
        with own.bringing(self.owner) as pictures, transaction.atomic():
            token = pictures.keep(b"picture" * 50)
            pictures.record()
        self.assertEqual(list(self.far.files), [f"pictures/{self.owner.pk}/{token}.webp"])
        self.assertEqual(own.kept(self.owner, token), b"picture" * 50)
        self.far.files.clear()
        self.assertEqual(own.kept(self.owner, token), b"picture" * 50, "it was fetched before")
        for made in own.scratch("own", str(self.owner.pk)).iterdir():
            made.unlink()
        self.assertIsNone(own.kept(self.owner, token))
        with self.assertRaises(ValueError), own.bringing(self.owner) as pictures:
            pictures.keep(b"another")
            raise ValueError
        self.assertEqual(self.names(), [])

    def test_a_sheet_and_a_scene_with_pictures_and_leaving(self):
        sheet = Sheet.objects.create(owner=self.owner, name="Proof", token=encode(home_bench()), trials=["noise"])
        answer = self.client.post(
            reverse("field:bring", args=[sheet.pk]),
            {"file": SimpleUploadedFile("x.jpg", picture())},
            headers={"X-Requested-With": "fetch"},
        )
        self.assertEqual(answer.json(), {"problem": ""})
        sheet.refresh_from_db()
        (token,) = sheet.back
        self.assertEqual(self.names(), [f"{token}.npy"])
        self.assertEqual(self.client.get(reverse("field:picture", args=[sheet.pk, token])).status_code, 200)
        self.client.post(
            reverse("field:new-place"),
            FIGURES | {"name": "Street", "background": SimpleUploadedFile("y.jpg", picture())},
        )
        (scene,) = OwnScene.objects.all()
        self.assertEqual(ReaderScenes(self.owner)(scene.slug).name, "Street")
        own.settle()
        self.assertEqual(len(self.names()), 2)
        pk = self.owner.pk
        self.owner.delete()
        own.settle()
        self.assertEqual(self.names(), [], "a folder of somebody who has left goes at the next start")
        self.assertFalse((own.scratch("own") / str(pk)).exists())

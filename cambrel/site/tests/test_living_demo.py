"""A demo is alive: no page opens empty, what is made up is called so, one press removes it, and that can be undone."""

from unittest.mock import patch

from django.test import TestCase, tag
from django.utils import timezone

from cambrel.field import standin
from cambrel.field.models import Logged, Sheet
from cambrel.learn.models import Answered
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.owners.undo import last_change, undo
from cambrel.pictures.models import OwnScene
from cambrel.pictures.tests.folder import own_folder
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Body, Kit, Lens
from cambrel.site.living_demo import SAMPLE, enliven


@tag("long")
class LivingDemoTests(TestCase):
    def setUp(self):
        own_folder(self)
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(self.owner)
        with patch.multiple(standin, WIDE_PX=880, RINGS=0):
            enliven(self.owner, timezone.localtime())

    def test_no_page_opens_empty_and_one_press_removes_what_is_made_up(self):
        sheet = Sheet.objects.get()
        for address, says in (
            ("/saved/", SAMPLE),
            ("/field/", SAMPLE),
            ("/field/habits/", "3,000 pictures"),
            ("/learn/", "66%"),
            ("/choose/", SAMPLE),
            ("/field/scenes/", SAMPLE),
        ):
            with self.subTest(address=address):
                self.assertContains(self.client.get(address), says)
        back = self.client.get(f"/field/{sheet.pk}/back/")
        self.assertRegex(back.content.decode(), r"as predicted, \d not as predicted")
        place = OwnScene.objects.get()
        self.assertEqual(self.client.get(f"/field/scenes/{place.pk}/picture/background/").status_code, 200)
        # what is one's own stays
        mine = Kit.objects.create(owner=self.owner, name="Mine")
        mine.lenses.add(Lens.objects.first())
        self.assertContains(self.client.get("/shelf/bodies/"), "Remove the samples")
        self.client.post("/shelf/samples/remove/")
        for model in (Body, Lens, Sheet, Logged, Answered, OwnScene):
            self.assertEqual(model.objects.count(), 0, model.__name__)
        self.assertEqual(list(Kit.objects.values_list("name", flat=True)), ["Mine"])
        self.assertNotContains(self.client.get("/shelf/bodies/"), "Remove the samples")
        undo(last_change(self.owner))
        self.assertEqual(Logged.objects.count(), 3000)
        self.assertEqual(mine.lenses.count(), 1)
        self.assertEqual(Sheet.objects.get().found, sheet.found)
        self.assertEqual(self.client.get(f"/field/scenes/{place.pk}/picture/background/").status_code, 200)

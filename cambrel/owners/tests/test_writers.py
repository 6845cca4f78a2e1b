"""What somebody else changes meanwhile stays changed: every writer reads within its transaction, and saves only its
columns.
"""

from unittest.mock import patch

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase, TestCase, TransactionTestCase, tag
from django.urls import reverse

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.field import standin
from cambrel.field.logbook import sound
from cambrel.field.models import Logged, Sheet
from cambrel.field.planning import SheetPlan
from cambrel.field.views import counting
from cambrel.links.benches import encode
from cambrel.owners import presses, undo
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, Preferences, User
from cambrel.photographs.tests.test_heads import picture
from cambrel.pictures.models import OwnScene
from cambrel.pictures.tests.folder import own_folder
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Kit, Lens

BACK = {"b" * 32: {"f_number": 4.0, "shot": "none"}}


@tag("long")
class WritersTests(TestCase):
    def setUp(self):
        own_folder(self)
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(self.owner)
        token = encode(home_bench())
        self.sheet = Sheet.objects.create(owner=self.owner, name="Proof", token=token, trials=["noise", "depth"])
        self.saved = SavedComparison.objects.create(owner=self.owner, name="Kept", token=token)
        self.kit = Kit.objects.filter(owner=self.owner).first()
        self.lens = Lens.objects.filter(owner=self.owner, fixed_to=None).exclude(kits=self.kit).first()
        self.shot = SheetPlan(home_bench(), ("noise", "depth")).shots[0].key
        self.preferences, _ = Preferences.objects.get_or_create(owner=self.owner)

    def beside(self, record, **change):
        """The next transaction begins right after somebody else has changed a record."""
        alone = undo._alone

        def meanwhile(owner):
            type(record).objects.filter(pk=record.pk).update(**change)
            return alone(owner)

        return patch.object(undo, "_alone", meanwhile)

    def at(self, name, *more):
        return reverse(f"field:{name}", args=[self.sheet.pk, *more])

    def test_nothing_is_written_over_that_was_not_seen(self):
        row = {"row": '{"f_number": 2.8, "focal_length_mm": 50}'}
        seen = {f"{self.shot}-near": "1.8", f"{self.shot}-far": "2.2", f"{self.shot}-step": "5 cm"}
        rename = {"name": "New", "version": self.saved.version}
        writers = (
            (self.sheet, {"back": BACK}, self.at("take"), {"shot": self.shot}),
            (self.sheet, {"back": BACK}, self.at("bring"), row),
            (self.sheet, {"taken": {"x": "2026-05-04T10:20:30+00:00"}}, self.at("bring"), row),
            (self.sheet, {"name": "Another"}, self.at("simulate", self.shot), {}),
            (self.sheet, {"back": BACK}, self.at("seen", "depth-0-0"),
                {key.replace(self.shot, "depth-0-0"): one for key, one in seen.items()}),
            (self.saved, {"token": "other"}, reverse("bench:rename", args=["comparisons", self.saved.pk]), rename),
            (self.kit, {"note": "other"}, reverse("shelf:pack", args=[self.kit.pk]),
                {"kind": "lens", "record": self.lens.pk}),
            (self.preferences, {"answers": {"units": "ft"}}, reverse("conventions:home"), {"home": "full-frame"}),
        )  # fmt: skip
        for record, change, address, sent in writers:
            with self.subTest(address=address, change=str(change)[:40]):
                before = ChangeSet.objects.count()
                with self.beside(record, **change), patch.multiple(standin, WIDE_PX=240, RINGS=0):
                    self.client.post(address, sent)
                self.assertEqual(ChangeSet.objects.count(), before + 1, "it was done")
                record.refresh_from_db()
                for name, value in change.items():
                    kept = getattr(record, name)
                    self.assertTrue(
                        value.items() <= kept.items() if isinstance(value, dict) else value == kept, (name, kept)
                    )

    def test_what_is_thrown_away_meanwhile_is_not_there_any_more(self):
        alone = undo._alone

        def meanwhile(owner):
            Sheet.objects.filter(pk=self.sheet.pk).delete()
            return alone(owner)

        for name in ("take", "forget", "bring"):
            with self.subTest(name), patch.object(undo, "_alone", meanwhile):
                answer = self.client.post(self.at(name), {"shot": self.shot, "row": "{}"})
                self.assertEqual(answer.status_code, 404)

    def test_two_windows_on_one_own_scene(self):
        sent = {
            "name": "Street", "distance_m": "2 m", "subject_height_m": "1.8", "background_m": "6",
            "background_height_m": "8",
            "background_foot_m": "0", "camera_height_m": "1.5",
        }  # fmt: skip
        self.client.post(reverse("field:new-place"), sent | {"background": SimpleUploadedFile("x.jpg", picture())})
        (scene,) = OwnScene.objects.all()
        address, first = reverse("field:place-edit", args=[scene.pk]), {"version": scene.version}
        self.assertEqual(self.client.post(address, sent | first | {"name": "Lane"}).status_code, 302)
        page = self.client.post(address, sent | first | {"camera_height_m": "2"})
        self.assertContains(page, "changed in another window", status_code=422)
        scene.refresh_from_db()
        self.assertEqual((scene.name, scene.camera_height_m), ("Lane", 1.5))
        again = page.context["record"].version
        self.assertEqual(self.client.post(address, sent | {"version": again, "camera_height_m": "2"}).status_code, 302)

    def test_a_button_that_is_pressed_twice_saves_once_and_two_pages_save_twice(self):
        sent = {"b": self.saved.token, "name": "Twice"}
        for mark in ("page one", "page one", "page two"):
            self.client.post(reverse("bench:save", args=["comparisons"]), sent | {"csrfmiddlewaretoken": mark})
        self.assertEqual(SavedComparison.objects.filter(name="Twice").count(), 2)

    def test_a_second_press_while_the_first_is_not_answered_does_nothing(self):
        sent = {"b": self.saved.token, "name": "Slow", "csrfmiddlewaretoken": "a page"}
        with (
            patch("cambrel.owners.presses.PATIENCE_S", 0.1),
            patch("cambrel.owners.presses.cache.add", return_value=False),
            patch("cambrel.owners.presses.cache.get", return_value=presses.UNDER_WAY),
        ):
            page = self.client.post(reverse("bench:save", args=["comparisons"]), sent)
        self.assertEqual(page.status_code, 503)
        self.assertFalse(SavedComparison.objects.filter(name="Slow").exists())


class EveryWriterTests(SimpleTestCase):
    def test_nobody_writes_what_was_read_before_the_transaction(self):
        """Touched by hand are only a form's record, whose version is compared, and what is read and deleted at once."""
        by_hand = {"shelf/editing.py", "learn/views/rounds.py", "conventions/views.py"}
        rooms = settings.ROOT / "cambrel"
        files = [path for path in rooms.rglob("*.py") if not {"tests", "migrations", "owners"} & set(path.parts)]
        self.assertEqual(
            {str(path.relative_to(rooms)) for path in files if "change.touch(" in path.read_text()}, by_hand
        )


class LoggedTwiceTests(TransactionTestCase):
    def test_equal_posts_at_once_log_each_picture_once(self):
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        rows = [sound({"taken_at": f"2026-05-04 10:20:{k:02}", "f_number": 2.8}) for k in range(5)]
        planned, plan_of = [], counting.plan_of

        def beside(owner, rows):
            made = plan_of(owner, rows)
            if not planned:  # the other post is through while the first is being prepared
                planned.append(1)
                counting._logged(owner, rows)
            return made

        with patch.object(counting, "plan_of", beside):
            outer = counting._logged(owner, rows)
        self.assertEqual((outer, Logged.objects.count()), (0, 5))

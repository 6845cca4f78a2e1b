"""A record that is damaged shows as damaged: its page, its list, its export and its neighbours go on."""

from unittest.mock import patch

from django.db import IntegrityError, transaction
from django.test import TestCase, tag
from django.urls import reverse

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.models import SavedBrief
from cambrel.choose.models import KeptDecision
from cambrel.field.models import Logged, Sheet
from cambrel.links.benches import encode, encode_brief
from cambrel.owners.models import LOCAL_OWNER, Preferences, UnstorableError, User
from cambrel.pictures.models import OwnScene
from cambrel.pictures.tests.folder import own_folder
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Body, Kit, Lens, Mount

TOKEN, SHOT = "a" * 32, "noise-0-0"
DAMAGE = (
    (Lens, {"widest": "soon"}),
    (Lens, {"widest": [[0, 0]]}),
    (Lens, {"mtf50": {"a": 1}}),
    (Body, {"measured": [1, "x"]}),
    (Mount, {"accepts": {"a": 1}}),
    (SavedComparison, {"token": "broken"}),
    (SavedBrief, {"token": "broken"}),
    (KeptDecision, {"token": "broken"}),
    (Sheet, {"token": "broken"}),
    (Sheet, {"trials": "noise"}),
    (Sheet, {"trials": ["no such trial"]}),
    (Sheet, {"taken": {SHOT: "9999-12-31T23:59:59-23:59"}}),
    (Sheet, {"taken": {SHOT: "0001-01-01T00:00:00+23:59"}}),
    (Sheet, {"taken": {SHOT: 7}}),
    (Sheet, {"back": {TOKEN: {"at": "yesterday", "shot": SHOT}}}),
    (Sheet, {"back": {TOKEN: {"f_number": "two", "kept": "../../secret_key"}}}),
    (Sheet, {"back": {TOKEN: 7}}),
    (Sheet, {"back": []}),
    (Sheet, {"found": {SHOT: {"snr": {"value": 0}}}}),
    (Sheet, {"found": {SHOT: {"snr": {"value": 0, "within": 0}, "level": {"value": -1}}}}),
    (Sheet, {"found": {SHOT: {"snr": 3}}}),
    (Sheet, {"found": {SHOT: "x"}}),
    (OwnScene, {"background": "../x"}),
    (Logged, {"taken_at": "garbage"}),
    (Preferences, {"answers": {"crop_by": 7, "units": "furlongs", "lines_per_mm": "x"}}),
    (Preferences, {"answers": [1]}),
)


@tag("long")
class DamagedTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)
        token = encode(home_bench())
        for name in ("First", "Second"):
            SavedComparison.objects.create(owner=cls.owner, name=name, token=token)
            SavedBrief.objects.create(owner=cls.owner, name=name, token=encode_brief(home_bench().task))
            Sheet.objects.create(owner=cls.owner, name=name, token=token, trials=["noise", "depth"])
            KeptDecision.objects.create(owner=cls.owner, name=name, token="broken from the beginning")
            OwnScene.objects.create(owner=cls.owner, name=name, background=TOKEN)
            Logged.objects.create(owner=cls.owner, taken_at="2026-05-04 10:20:30", f_number=2.8)
        Preferences.objects.get_or_create(owner=cls.owner)

    def setUp(self):
        own_folder(self)
        self.client.raise_request_exception = False

    def addresses(self, record):
        """The pages on which a record is seen."""
        kit = Kit.objects.filter(owner=self.owner).first().pk
        gear = (
            "/shelf/",
            f"/choose/?kit={kit}",
            "/match/?focal_length_mm=50&f_number=2",
            f"/shelf/kits/{kit}/",
            f"/field/card/{kit}/",
        )
        yield "/shelf/export/shelf.json"
        if isinstance(record, Lens | Body | Mount):
            kind = {Lens: "lenses", Body: "bodies", Mount: "mounts"}[type(record)]
            yield from (*gear, f"/shelf/{kind}/", f"/shelf/{kind}/{record.pk}/edit/", f"/shelf/export/{kind}.csv")
        elif isinstance(record, Sheet):
            yield from (reverse(f"field:{name}", args=[record.pk]) for name in ("sheet", "back"))
            yield from (reverse(f"field:{name}", args=[record.pk, TOKEN]) for name in ("look", "picture"))
            yield from ("/field/", "/field/scenes/", "/shelf/export/sheets.csv")
        elif isinstance(record, Preferences):
            yield from ("/", "/conventions/", "/formats/", "/field/habits/", "/learn/", "/shelf/lenses/", *gear)
        else:
            yield from (
                "/",
                "/saved/",
                "/field/habits/",
                "/field/scenes/",
                "/choose/",
                "/shelf/export/decisions.csv",
                "/shelf/export/logbook.csv",
            )
        if isinstance(record, KeptDecision):
            yield reverse("choose:kept", args=[record.pk])
        if isinstance(record, OwnScene):
            yield reverse("field:place-edit", args=[record.pk])

    def test_figures_that_cannot_be_are_refused_by_the_database_itself(self):
        for model, name, value in (
            (Lens, "focal_min_mm", -1.0),
            (Body, "width_mm", 0.0),
            (Body, "height_mm", 1e300),
            (OwnScene, "distance_m", 0.0),
        ):
            with self.subTest(name), self.assertRaises(IntegrityError), transaction.atomic():
                model.objects.update(**{name: value})

    def test_what_not_every_database_takes_is_refused_before_it_reaches_one(self):
        for name, value in (
            ("name", "a\0b"),
            ("note", "\ud800"),
            ("weight_g", float("nan")),
            ("widest", [[5, float("inf")]]),
        ):
            lens = Lens(owner=self.owner, name="Odd", focal_min_mm=5, focal_max_mm=5)
            setattr(lens, name, value)
            with self.subTest(name), self.assertRaises(UnstorableError):
                lens.save()
        self.assertEqual(self.client.get("/saved/?x=%00").status_code, 400)
        self.assertEqual(self.client.post("/shelf/kits/1/pack/", {"kind": "a\0"}).status_code, 400)

    def test_no_page_breaks(self):
        for model, damage in DAMAGE:
            record = model.objects.filter(owner=self.owner).first()
            before = {name: getattr(record, name) for name in damage}
            model.objects.filter(pk=record.pk).update(**damage)
            User.objects.filter(pk=self.owner.pk).update(
                shelf_version=self.owner.shelf_version + record.pk + len(str(damage)) * 1000
            )
            for address in self.addresses(record):
                with (
                    self.subTest(model=model.__name__, damage=str(damage), address=address),
                    patch("django.utils.log.AdminEmailHandler.emit"),
                ):
                    page = self.client.get(address)
                    self.assertLess(page.status_code, 500)
                    if page.streaming:
                        b"".join(page.streaming_content)
            model.objects.filter(pk=record.pk).update(**before)

"""What people call their gear is text on every page, in both template engines, in drawings, messages and files that are
opened in a browser.
"""

from django.test import TestCase, tag
from django.urls import reverse

from cambrel.bench.models import SavedComparison
from cambrel.bench.panels import PANELS
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.models import SavedBrief
from cambrel.choose.looks import LOOKS
from cambrel.choose.models import KeptDecision
from cambrel.field.models import Sheet
from cambrel.links.benches import decode, encode
from cambrel.match.models import KeptQuestion
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.kinds import KINDS
from cambrel.shelf.models import Body, Kit, Lens

EVIL = '"><script>1</script>'


@tag("long")
class EscapingTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)
        for kind in KINDS.values():
            for number, record in enumerate(kind.model.objects.order_by("pk")):
                record.name = f"{EVIL}{number}"
                for field in ("note", "mount", "lens_mount", "currency"):
                    if getattr(record, field, ""):
                        setattr(record, field, EVIL[:3] if field == "currency" else EVIL)
                record.save()
        home = home_bench()
        slots = [type(slot)(slot.rig, EVIL, f"{EVIL}lens") for slot in home.slots]
        cls.bench = encode(
            type(home)(home.brief, tuple(slots), home.hold, home.conventions, title=EVIL, brief_name=EVIL,
                background_name=EVIL, foreground_name=EVIL)
        )  # fmt: skip

    def pages(self):
        """Every page that shows names, by its address; a form that is refused among them."""
        yield "/", {"b": self.bench}
        for panel in PANELS:
            yield "/", {"b": self.bench, "panel": panel}
        for address in (
            "/shelf/",
            "/saved/",
            "/match/",
            "/fit/",
            "/fit/matrix/",
            "/fit/upgrade/",
            "/shelf/export/",
            "/learn/",
            "/formats/",
            "/choose/",
            "/ask/",
        ):
            yield address, {}
        for kind in KINDS.values():
            yield kind.address(), {}
            yield kind.address(), {"q": EVIL}
            for record in kind.model.objects.order_by("pk")[:2]:
                yield reverse("shelf:edit", args=[kind.key, record.pk]), {}
        for kind in ("body", "lens"):
            yield "/shelf/pick/", {"kind": kind, "q": "script"}
        for kit in Kit.objects.all()[:2]:
            yield reverse("shelf:kit", args=[kit.pk]), {}
            yield reverse("field:card", args=[kit.pk]), {}
        for look in LOOKS:
            yield "/choose/", {"kit": Kit.objects.first().pk, "look": look}
        yield "/match/", {"g": "", "q": EVIL, "format": EVIL, "focal_length_mm": EVIL}
        yield reverse("match:lens", args=[Lens.objects.filter(fixed_to=None).first().pk]), {}
        yield "/ask/", {"q": EVIL}
        yield "/advert/", {"text": EVIL}
        yield "/words/", {"q": EVIL}
        yield "/field/", {"b": self.bench}
        yield reverse("field:plan"), {"b": self.bench}
        yield reverse("field:habits"), {}
        yield "/why/", {"b": self.bench, "of": "total", "rig": "1"}
        for kept in Sheet.objects.all():
            yield reverse("field:sheet", args=[kept.pk]), {}
            yield reverse("field:back", args=[kept.pk]), {}

    def test_a_name_that_is_markup_is_shown_as_it_was_typed_and_never_is_markup(self):
        with_names = 0
        SavedComparison.objects.create(owner=self.owner, name=EVIL, token=self.bench)
        SavedBrief.objects.create(owner=self.owner, name=EVIL, token=self.bench)
        Sheet.objects.create(owner=self.owner, name=EVIL, token=self.bench, trials=["framing"])
        self.client.post(reverse("shelf:bulk", args=["lenses"]), {"action": "delete", "pk": [Lens.objects.last().pk]})
        KeptQuestion.objects.create(owner=self.owner, name=EVIL, path="/match/")
        KeptDecision.objects.create(owner=self.owner, name=EVIL, token="x")
        for address, query in self.pages():
            with self.subTest(address=address, query=str(query)[-60:]):
                page = self.client.get(address, query, follow=True)
                self.assertLess(page.status_code, 500)
                text = (b"".join(page.streaming_content) if page.streaming else page.content).decode()
                self.assertNotIn("<script>1", text)
                with_names += "&lt;script&gt;" in text
        self.assertGreater(with_names, 40, "the names stand on the pages")

    def test_drawings_and_files_to_be_opened_are_escaped_as_well(self):
        for address, query in (
            ("/drawing.svg", {"b": self.bench, "panel": "depth"}),
            ("/drawing.svg", {"b": self.bench, "panel": "frames"}),
        ):
            page = self.client.get(address, query)
            self.assertEqual(page.status_code, 200)
            self.assertNotIn("<script>1", page.content.decode())
        self.assertEqual(decode(self.bench).title, EVIL, "a link brings it as it is")
        self.assertTrue(Body.objects.filter(name__startswith=EVIL).exists())

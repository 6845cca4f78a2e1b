"""Every screen with what was added; run by `python -m cambrel.site.tests.added`, not by itself."""

import re
import tempfile
from dataclasses import replace
from pathlib import Path
from unittest.mock import patch

from django.conf import settings
from django.test import TestCase, override_settings
from django.urls import reverse

from cambrel.bench.panels import PANELS
from cambrel.bench.panels.panel import Panel, rig_table
from cambrel.choose.looks import LOOKS, CloserLook
from cambrel.comparison.bench import Bench
from cambrel.comparison.brief import SCHOOLS, Hold
from cambrel.comparison.hold_answers import QUESTIONS
from cambrel.field import standin
from cambrel.field.models import Sheet
from cambrel.field.planning import SheetPlan
from cambrel.links.benches import decode, encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.site.tests.added.entries import KEY, LABEL

FOLDER = Path(tempfile.mkdtemp())
(FOLDER / "added").mkdir()
(FOLDER / "added" / "panel.html").write_text('<p id="madeup">madeup panel</p>{% include "bench/_drawn.html" %}')
(FOLDER / "added" / "look.html").write_text("<p>madeup look at {{ looked }} kits</p>")


def build(seen):
    return {"table": rig_table("Madeup", (("madeup head", "crop"),), seen.comparison, lambda rig: ("madeup cell",))}


PANELS[KEY] = Panel(KEY, LABEL, "added/panel.html", build)
LOOKS[KEY] = CloserLook(KEY, LABEL, "added/look.html", lambda asked, request: len(asked.decision.kits))
TEMPLATES = [{**settings.TEMPLATES[0], "DIRS": [str(FOLDER)]}, *settings.TEMPLATES[1:]]


@override_settings(TEMPLATES=TEMPLATES)
class WalkTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner = User.objects.get_or_create(username=LOCAL_OWNER)[0]
        load_demo(cls.owner)

    def setUp(self):
        self.client.force_login(self.owner)
        from cambrel.bench.sample_benches import home_bench

        self.bench: Bench = home_bench()

    def page(self, address, says=(), status=200, **query):
        got = self.client.get(address, query)
        self.assertEqual(got.status_code, status, f"{address} {query}")
        text = (b"".join(got.streaming_content) if got.streaming else got.content).decode()
        for said in says:
            self.assertIn(said, text, f"{address} {query}")
        return text

    def test_schools(self):
        page = self.page(reverse("conventions:page"))
        self.assertEqual(page.count(LABEL), len(SCHOOLS))
        of = {
            "crop_by": "crop",
            "criterion": "coc",
            "good_enough": "largest",
            "hand": "steady",
            "star_rule": "stars",
            "range": "range_madeup",
        }
        for number, question in enumerate(SCHOOLS):
            with self.subTest(question=question):
                changed = replace(
                    self.bench,
                    brief=replace(self.bench.brief, declination_deg=10.0, support="hand", scene_range_stops=12.0),
                    conventions=self.bench.conventions.answering(question, KEY),
                )  # fmt: skip
                token = encode(changed)
                self.assertEqual(decode(token).conventions, changed.conventions)
                for panel in list(PANELS)[number :: len(SCHOOLS)]:
                    self.page("/", b=token, panel=panel)
                if question in of and question != "range":
                    self.page("/why/", [LABEL], b=token, of=of[question], rig="1")
                if question not in ("noise",):
                    self.page("/why/", ["half of what is madeup"], b=token, of=of[question], rig="1")
                self.page(reverse("field:plan"), b=token)
                self.page("/", b=token, hold="best", action="best", status=302)
        self.page("/choose/", look="sure")

    def test_holds(self):
        page = self.page("/")
        self.assertEqual(
            len(re.findall(re.escape(LABEL), page.split('id="hold"')[1].split('id="more-of-it"')[0])), len(QUESTIONS)
        )
        for number, question in enumerate(QUESTIONS):
            with self.subTest(question=question):
                hold = replace(Hold(), **{question: KEY})
                token = encode(replace(self.bench, hold=hold))
                self.assertEqual(decode(token).hold, hold)
                self.page("/", ["madeup as a word"], b=token)
                for panel in list(PANELS)[number :: len(QUESTIONS)]:
                    self.page("/", b=token, panel=panel)
                self.page("/", b=token, action="reference:1", status=302)
                self.page(reverse("field:plan"), b=token)

    def test_panel_without_a_drawing(self):
        token = encode(self.bench)
        page = self.page("/", ["madeup panel", "madeup cell", LABEL], b=token, panel=KEY)
        self.assertNotIn("keep-drawing", page.split('id="panel"')[1])
        self.page(reverse("bench:drawing"), b=token, panel=KEY, status=404)

    def test_trial(self):
        token = encode(self.bench)
        self.page(reverse("field:plan"), [LABEL, "Madeup, with a tape."], b=token, t=KEY)
        self.client.post(reverse("field:keep"), {"b": token, "t": KEY, "name": "Madeup sheet"})
        sheet = Sheet.objects.get()
        shots = SheetPlan(sheet.bench(), tuple(sheet.trials)).shots
        self.assertEqual({shot.trial for shot in shots}, {KEY})
        self.page(reverse("field:sheet", args=[sheet.pk]), [LABEL])
        for shot in shots[:2]:
            with patch.multiple(standin, WIDE_PX=440, RINGS=0):
                self.client.post(reverse("field:simulate", args=[sheet.pk, shot.key]))
            seen = self.client.post(reverse("field:seen", args=[sheet.pk, shot.key]), {f"{shot.key}-madeup": "2"})
            self.assertEqual(seen.status_code, 302)
        self.page(reverse("field:back", args=[sheet.pk]), [LABEL, "Madeup counts"])
        for taken in Sheet.objects.get().back:
            self.page(reverse("field:look", args=[sheet.pk, taken]))

    def test_drill(self):
        self.page(reverse("learn:home"), [LABEL])
        for level in ("number", "judge", "pick"):
            self.page(reverse("learn:round"), r="00000000000a", kind=KEY, level=level)

    def test_look(self):
        self.page("/choose/", [LABEL])
        self.page("/choose/", ["madeup look at"], look=KEY)

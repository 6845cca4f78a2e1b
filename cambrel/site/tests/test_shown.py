"""What pages show, apart from their wording: every figure with its unit, and every drawing, as they were looked through
and found right.

A figure that is another now is either an error or a change that was meant: look at the page, then renew the list with
    CAMBREL_RENEW=1.
"""

import hashlib
import json
import os
import re
from dataclasses import replace
from html import unescape
from math import inf
from pathlib import Path

from django.test import TestCase, tag
from django.urls import reverse

from cambrel.bench.panels import PANELS
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.brief import Hold
from cambrel.comparison.rig import Lens
from cambrel.field.models import Logged
from cambrel.field.sample import sample_rows
from cambrel.links.benches import encode
from cambrel.optics.formats import Sensor
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Body, Kit
from cambrel.shelf.models import Lens as LensRecord

LIST = Path(__file__).parent / "shown.json"
CUT = re.compile(r"<(svg|script|select|style)\b.*?</\1>|<header.*?</header>|<dialog.*?</dialog>", re.DOTALL)
FIGURE = re.compile(r"(?:f/|ISO[ \u00a0])?[−-]?[\d∞][\d.,/:∞]*(?:[ \u00a0]?(?:[a-zA-Z²µ]{1,3}\b|stops?\b|%|°))?")
WORDS = frozenset(
    {
        "same",
        "reference",
        "unknown",
        "not known",
        "works",
        "just falls short",
        "does not work",
        "clean",
        "seen",
        "disturbing",
    }
)
COORDINATE = re.compile(r"-?\d+\.\d+")
SENTENCE = 80
"""What is longer has a judge of its own in the truth tests."""


def figures(page):
    """Every figure of a page in its order; what is a cell by itself is taken whole."""
    found = []
    for cell in re.split(r"<[^>]*>", CUT.sub(" ", page)):
        text = " ".join(unescape(cell).split())
        if re.search(r"[\d∞–—]", text) and len(text) < SENTENCE:
            found += [text] if len(text) < 24 else [one.rstrip(" ,.:") for one in FIGURE.findall(text)]
        elif text.lower() in WORDS:
            found.append(text)
    return found


def typed(page):
    """What stands in its fields."""
    return re.findall(r'<input[^>]*\btype="text"[^>]*\bvalue="([^"]*\d[^"]*)"', page)


def of_part(page, opening, ending):
    """A part of a page; all of it where it has none such."""
    start = page.find(opening)
    return page[start : page.find(ending, start)] if start >= 0 else page


def drawn(page):
    """The drawings of a page in a few signs: others where anything in them has moved by a tenth of a pixel."""
    drawings = re.findall(r"<svg[^>]*\bclass=\"[^\"]*drawing.*?</svg>", page, re.DOTALL)
    lines = "".join(re.sub(r"<(text|title|desc)\b.*?</\1>", "", drawing, flags=re.DOTALL) for drawing in drawings)
    rounded = COORDINATE.sub(lambda found: f"{float(found[0]):.1f}", lines)
    return hashlib.sha256(rounded.encode()).hexdigest()[:10] if drawings else ""


def benches():
    """Benches that differ in what matters to how they are shown, by name."""
    home = home_bench()
    a, b, c = home.slots
    yield from ((slug, with_brief(home, slug)) for slug in sample_briefs())
    yield "best", replace(with_brief(home, "platform-party"), hold=replace(home.hold, is_best=True))
    yield (
        "converter",
        replace(home, slots=(replace(a, rig=replace(a.rig, converter=1.4)), b), hold=Hold("own", "spot", "own", "own")),
    )
    yield "walking", replace(home, hold=Hold("same", "walk", "depth", "iso"), reference=1)
    bare = replace(b, rig=replace(b.rig, body=replace(b.rig.body, sensor=Sensor(17.3, 13.0)), lens=Lens()))
    yield "bare", replace(home, slots=(a, bare, c), hold=Hold("own", "own", "own", "own"))
    bright = replace(a, rig=replace(a.rig, shutter_s=1 / 500, iso=100))
    yield "at its base ISO", replace(home, slots=(bright, b), brief=replace(home.brief, light_ev=12.0))
    yield "too near", replace(home, brief=replace(home.brief, distance_m=0.03))
    yield (
        "one",
        replace(home, slots=home.slots[:1], reference=0, brief=replace(home.brief, background_m=inf, foreground_m=0.5)),
    )


@tag("long")
class ShownTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)
        Logged.objects.bulk_create(Logged(owner=cls.owner, **row) for row in sample_rows(400))

    def pages(self):
        """Addresses by name."""
        made = dict(benches())
        # the first panel of every bench, and of the others every third, in turn
        for number, (name, bench) in enumerate(made.items()):
            for place, panel in enumerate(PANELS):
                if not place or (place + number) % 3 == 0:
                    yield f"{name}: {panel}", "/", {"b": encode(bench), "panel": panel}
        home, night, gauge = (encode(made[name]) for name in ("footplate-portrait", "night-mail", "gauge-face"))
        for name, query in {
            "feet": {"b": home, "units": "ft"},
            "as set": {
                "b": home,
                "bright": "set",
                "grain": "1",
                "shake": "1",
                "marks": "1",
                "frame": "1",
                "loupe": "0.1,1.6",
                "strip": "0",
            },
            "stars followed": {
                "b": night,
                "panel": "stars",
                "looking": "south",
                "carries": "5",
                "drifts": "30",
                "total": "45",
            },
            "small target": {"b": night, "panel": "stars", "target": "1", "latitude": "-30"},
            "reach": {"b": encode(made["viaduct"]), "panel": "sharpness", "measure": "subject", "judged": "10"},
            "print": {"b": home, "panel": "sharpness", "measure": "print"},
            "log": {"b": gauge, "panel": "depth", "scale": "log"},
            "walk": {"b": home, "panel": "walk", "walk": "1", "walk_table": "1"},
            "lifted": {"b": home, "panel": "light", "lift": "2"},
        }.items():
            yield f"looked at: {name}", "/", query
        yield "numbers.csv", "/numbers.csv", {"b": home}
        yield "stack.csv", "/stack.csv", {"b": gauge}
        yield "formats", "/formats/", {}
        for name, query in {
            "prime": {
                "format": "full-frame",
                "focal_length_mm": "85",
                "f_number": "1.8",
                "t": ["micro-four-thirds", "aps-c"],
            },
            "near": {
                "format": "aps-c",
                "focal_length_mm": "60",
                "f_number": "2.8",
                "distance_m": "0.4",
                "t": "full-frame",
                "iso": "800",
            },
            "price": {
                "format": "full-frame",
                "focal_length_mm": "50",
                "f_number": "2",
                "t": "micro-four-thirds",
                "cost": "price",
            },
            "second page": {
                "format": "full-frame",
                "focal_length_mm": "50",
                "f_number": "2",
                "t": "full-frame",
                "page": "2",
            },
        }.items():
            yield f"match, {name}", "/match/", query
        zoom = LensRecord.objects.get(name="Larkmoor 16-55 mm f/2.8")
        yield "match, zoom", self.client.get(reverse("match:lens", args=[zoom.pk])).url, {}
        body, other = (Body.objects.get(name=name).pk for name in ("Tarn Ridgeway", "Larkmoor Fell"))
        yield "fit", "/fit/", {"lens": zoom.pk, "body": body}
        yield "fit, square", "/fit/", {"lens": zoom.pk, "body": other, "shape": "1:1"}
        yield "matrix", "/fit/matrix/", {}
        yield "upgrade", "/fit/upgrade/", {"kit": Kit.objects.first().pk, "body": body}
        yield "choose", "/choose/", {}
        for look in ("sure", "side", "swap", "later"):
            yield f"choose, {look}", "/choose/", {"look": look, "level": "dusk-pass", "night-mail-share": "3"}
        yield (
            "choose, musts",
            "/choose/",
            {"must_weigh": "3500", "must_cost": "6000", "must_currency": "EUR", "must_stabilised": "on"},
        )
        for kit in Kit.objects.order_by("name"):
            yield f"kit {kit.name}", reverse("shelf:kit", args=[kit.pk]), {}
            yield f"card {kit.name}", reverse("field:card", args=[kit.pk]), {}
        for name in ("footplate-portrait", "night-mail", "gauge-face", "converter", "walking"):
            yield f"sheet, {name}", reverse("field:plan"), {"b": encode(made[name])}
        yield "habits", reverse("field:habits"), {}
        yield "bodies", "/shelf/bodies/", {}
        yield "lenses", "/shelf/lenses/", {"sort": "-weight_g"}
        for text in (
            "25 f/1.4 mft vs 50 f/1.8 ff",
            "60 f/4 mft vs 90 f/6 ff at 18cm",
            "iso 3200 ff on aps-c",
            "what is 50 f/2 ff on mft",
            "24-70 2.8 aps-c",
        ):
            yield f"ask, {text}", "/ask/", {"q": text}
        yield "asked", "/ask/questions/", {}
        yield "advert", "/advert/", {"text": "24 mm equivalent f/1.8, 1/1.3 type, 50 MP"}
        yield "head", reverse("learn:mental"), {}
        for kind in ("view", "depth", "walk", "reach", "hyperfocal", "closeup", "stars"):
            yield f"drill, {kind}", reverse("learn:round"), {"r": "00000000000a", "kind": kind, "level": "number"}
        for key in ("f-number", "sensor-and-depth", "stepping-back"):
            yield f"argued, {key}", reverse("learn:dispute", args=[key]), {}
        for of in ("total", "background", "ev"):
            yield f"why, {of}", "/why/", {"b": home, "of": of, "rig": "1"}

    def test_every_figure_and_every_drawing_is_the_one_that_was_looked_through(self):
        shown = {}
        for name, address, query in self.pages():
            with self.subTest(page=name):
                page = self.client.get(address, query)
                self.assertEqual(page.status_code, 200, page.get("Location"))
                text = (b"".join(page.streaming_content) if page.streaming else page.content).decode()
                part = of_part(text, '<section id="panel"', "</section>") if ": " in name else text
                if name.endswith(": depth"):  # the cameras once, beside the first panel
                    part += of_part(text, 'id="views"', '<section id="panel"') + "".join(
                        f"<i>{one}</i>" for one in typed(text)
                    )
                shown[name] = [" · ".join(figures(part)), drawn(part)]
        if os.environ.get("CAMBREL_RENEW"):
            LIST.write_text(json.dumps(shown, indent=0, ensure_ascii=False) + "\n")
        known = json.loads(LIST.read_text())
        self.assertEqual(list(shown), list(known))
        for name, (said, drawing) in shown.items():
            with self.subTest(page=name):
                self.assertEqual(said.split(" · "), known[name][0].split(" · "))
                self.assertEqual(drawing, known[name][1], "its drawing is another")

    def test_the_readers_of_this_test_read(self):
        page = (
            '<main><td>12.5 mm</td><p>A is 2.9 stops cleaner at f/2.8; that is all.</p><svg class="drawing"><path'
            ' d="M1.04 2"/></svg></main>'
        )
        self.assertEqual(figures(page), ["12.5 mm", "2.9 stops", "f/2.8"])
        self.assertNotEqual(drawn(page), drawn(page.replace("1.04", "1.24")))
        self.assertEqual(drawn(page), drawn(page.replace("1.04", "1.01")))

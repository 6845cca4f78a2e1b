"""Requests as no browser of ours would send them, from a seed: every address, every field, links and pictures with
single values changed.
"""

import base64
import json
import random
import zlib
from copy import deepcopy
from dataclasses import dataclass, field

from django.urls import URLResolver, get_resolver

from cambrel.bench.actions import ACTIONS
from cambrel.bench.panels import PANELS
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.bench import Gear
from cambrel.comparison.brief import SHAPES
from cambrel.comparison.hold_answers import APERTURE_HOLDS, EXPOSURE_HOLDS, LENS_HOLDS, PLACE_HOLDS
from cambrel.decisions.choice import Adapter, Choice, KitBag, Piece, Support
from cambrel.links.benches import encode, encode_gear
from cambrel.links.choices import encode_choice
from cambrel.optics.formats import FORMATS

NUMBERS = (
    "0", "-0", "1", "-1", "0.5", "2.8", "50", "500", "1000", "10000", "0.0001", "0.001", "0.03", "0.05", "1e6", "1e5",
    "256", "257", "1e-6",
    "1e300", "1e400", "-1e400", "NaN", "inf", "∞", "-∞", "1/0", "1/8000", "36000", "5e-324", "9" * 60, "9" * 5000,
    "1,5", "0x10", "١٢",
    "2 m", "8' 2\"", "f/1.4", "24", "-12",
)  # fmt: skip
WORDS = (
    "", " ", "x", "None", "null", "true", "\x00", "\ud800".encode("utf-8", "surrogatepass").decode("latin-1"),
    "👩\u200d🚒",
    "<script>alert(1)</script>", "' OR 1=1 --", "../../etc/passwd", "%00", "a" * 4000, "=1+1", "\u202e", "{}", "[]",
    "lens", "sensor", "own", "same", "walk", "equivalent", "depth",
)  # fmt: skip
CELLS = (
    None, True, False, 0, 1, -1, 2, 7, 1e5, -1e5, 1e300, -1e300, 1e-300, 5e-324, 0.5, 10**30, "", "x", "-", "i", "\x00",
    "\ud800",
    [], [1], [[]], {}, {"a": 1}, "a" * 100, 0.1, 24, 50, 1e6, 1e9,
)  # fmt: skip
BRIEF = (
    "distance_m", "subject_height_m", "background_m", "foreground_m", "focus_distance_m", "distance_from", "light_ev",
    "upright", "shape",
    "shown_long_side_mm", "viewing_distance_mm", "sharp_front_m", "sharp_behind_m", "width_shown_m",
    "slowest_shutter_s",
    "subject_speed_m_per_s",
)  # fmt: skip
CONVENTIONS = (
    "crop_by", "criterion", "noise", "lines_per_mm", "iso_ceiling",
)  # fmt: skip
LOOK = (
    "panel", "scale", "sort", "walk", "bright", "grain", "loupe", "strip", "units", "b", "action",
)  # fmt: skip
RIG = (
    "focal_length_mm", "f_number", "shutter_s", "iso", "distance_m", "converter",
)  # fmt: skip
FIELDS = (
    *(f"brief-{name}" for name in BRIEF),
    *(f"hold-{name}" for name in ("lens", "place", "aperture", "exposure")),
    *(f"conventions-{name}" for name in CONVENTIONS),
    *LOOK,
    *(f"rigs-{i}-{name}" for i in (0, 1, 2, 5) for name in RIG),
)
HOLDS = (
    ("hold-lens", LENS_HOLDS),
    ("hold-place", PLACE_HOLDS),
    ("hold-aperture", APERTURE_HOLDS),
    ("hold-exposure", EXPOSURE_HOLDS),
    ("brief-shape", SHAPES),
)
ADVERT = (
    "text", "focal_min_mm", "focal_max_mm", "said", "true_focal_mm", "f_number", "f_number_long",
    "f_number_is_equivalent", "type",
    "width_mm", "height_mm", "crop", "pixel_pitch_um", "format", "megapixels",
)  # fmt: skip
MATCH = (
    "g", "format", "focal_length_mm", "f_number", "iso", "distance_m", "whole", "mount", "adapters", "stabilised",
    "max_weight_g",
    "max_price", "cost", "t", "show", "page",
)  # fmt: skip
CHOOSE = (
    "kit", "what", "out", "level", "look", "race", "body", "try_place", "try_with", "must_mount", "must_stabilised",
    "must_track",
    "must_weigh", "must_cost", "must_currency", "c", "dusk-pass", "as",
)  # fmt: skip
OTHERS = (
    "q", "sort", "system", "mount", "page", "kind", "rig", "lens", "body", "shape", "as", "f", "upright", "status",
    "brought", "next",
    "name", "version", "pk",
)  # fmt: skip
PHRASES = (
    "24 mm equivalent f/1.8, 1/1.3",
    "35mm on crop",
    "24-70 2.8",
    "1 inch 8.8 mm",
    "f/0",
    "1/0 type",
    "0 x 0 mm",
    "crop 0",
    "-5 mm",
    "1e9 mm f/1e9",
)


@dataclass
class Request:
    path: str
    query: dict = field(default_factory=dict)
    posts: bool = False
    htmx: bool = False


def packed(content):
    text = json.dumps(content, separators=(",", ":"))
    return base64.urlsafe_b64encode(zlib.compress(text.encode("utf-8", "surrogatepass"), 9)).decode().rstrip("=")


def unpacked(token):
    return json.loads(zlib.decompress(base64.urlsafe_b64decode(token + "=" * (-len(token) % 4))))


def places(content, path=()):
    """Where every value of a nested list stands."""
    for index, value in enumerate(content):
        if isinstance(value, list):
            yield from places(value, (*path, index))
        yield (*path, index)


def tampered(token, rnd):
    """A link with one value of it changed."""
    content = deepcopy(unpacked(token))
    *way, last = rnd.choice(list(places(content)))
    inner = content
    for index in way:
        inner = inner[index]
    inner[last] = rnd.choice(CELLS)
    return packed(content)


def addresses(resolver, spaces=""):
    """Every address with its parameters filled by something."""
    for pattern in resolver.url_patterns:
        route = spaces + str(pattern.pattern)
        if isinstance(pattern, URLResolver):
            yield from addresses(pattern, route)
        else:
            yield route


class Fuzz:
    """Requests one after the other."""

    def __init__(self, seed, shots):
        self.rnd = random.Random(seed)
        self.routes = sorted(set(addresses(get_resolver())))
        self.benches = [encode(home_bench()), *(encode(with_brief(home_bench(), slug)) for slug in sample_briefs())]
        gear = home_bench().slots[0]
        self.gear = encode_gear(Gear(gear.rig.body, gear.body_name, gear.rig.lens, gear.lens_name))
        self.shots = shots
        pieces = (
            Piece("Body", gear.rig.body, ("A", "B")),
            Piece("Lens", gear.rig.lens),
            Piece("Stand", Support("tripod", 900.0)),
        )
        tasks = tuple((with_brief(home_bench(), slug).task, 1.0) for slug in sample_briefs())
        bags = (KitBag("Bag", (*pieces, Piece("Ring", Adapter("A", "B")))), KitBag("Other", pieces[:2], "A note"))
        self.choice = encode_choice(Choice(bags, tasks, home_bench().conventions))

    def value(self):
        return self.rnd.choice(NUMBERS if self.rnd.random() < 0.7 else WORDS)

    def some(self, names, most=4):
        return {name: self.value() for name in self.rnd.sample(names, self.rnd.randint(1, min(most, len(names))))}

    def next(self):
        kind = self.rnd.choice(
            (
                self.bench,
                self.bench,
                self.link,
                self.link,
                self.action,
                self.picture,
                self.advert,
                self.match,
                self.choose,
                self.any,
                self.any,
            )
        )
        made = kind()
        made.htmx = self.rnd.random() < 0.4
        return made

    def bench(self):
        query = self.some(FIELDS)
        for name, table in HOLDS:
            if self.rnd.random() < 0.4:
                query[name] = self.rnd.choice(list(table))
        if self.rnd.random() < 0.5:
            query["panel"] = self.rnd.choice(list(PANELS))
        return Request("/", query)

    def link(self):
        query = {"b": tampered(self.rnd.choice(self.benches), self.rnd), "panel": self.rnd.choice(list(PANELS))}
        return Request(self.rnd.choice(("/", "/", "/", "/numbers.csv", "/drawing.svg")), query)

    def action(self):
        name = self.rnd.choice(list(ACTIONS))
        arguments = [
            self.rnd.choice(("0", "1", "2", "9", self.value(), self.gear, tampered(self.gear, self.rnd)))
            for _ in range(self.rnd.randint(0, 5))
        ]
        own = self.some(
            [
                f"own-{name}"
                for name in (
                    "format",
                    "width_mm",
                    "height_mm",
                    "pixels_wide",
                    "focal_min_mm",
                    "focal_max_mm",
                    "widest",
                    "close_focus_m",
                )
            ]
        )
        return Request("/", {"action": ":".join([name, *arguments]), "b": self.rnd.choice(self.benches), **own})

    def picture(self):
        token = self.rnd.choice(self.shots)
        token = tampered(token, self.rnd) if self.rnd.random() < 0.8 else token
        height, kind = self.rnd.choice(("60", "80", "61", "99999")), self.rnd.choice(("webp", "png", "gif"))
        return Request(f"/scene/{token}/{height}.{kind}", {"caption": self.value()} if kind == "png" else {})

    def advert(self):
        query = self.some(ADVERT, 8)
        if self.rnd.random() < 0.5:
            query["text"] = " ".join(self.rnd.sample(PHRASES, 2))
        if self.rnd.random() < 0.5:
            query |= {
                "focal_min_mm": "24",
                "said": self.rnd.choice(("yes", "no", "")),
                "type": self.rnd.choice(("1", "1/1.3", "1/2.55")),
            }
        return Request("/advert/", query)

    def match(self):
        query = self.some(MATCH, 6) | {"format": self.rnd.choice(list(FORMATS)), "t": self.rnd.choice(list(FORMATS))}
        if self.rnd.random() < 0.6:
            query |= {"focal_length_mm": "50", "f_number": "2"}
        if self.rnd.random() < 0.4:
            query["g"] = tampered(self.gear, self.rnd)
        return Request(self.rnd.choice(("/match/", "/match/", "/match/answers.csv", "/fit/")), query)

    def choose(self):
        query = self.some(CHOOSE, 5)
        if self.rnd.random() < 0.5:
            query["look"] = self.rnd.choice(("help", "sure", "side", "swap", "later"))
        if self.rnd.random() < 0.3:
            query["what"] = self.rnd.choice(
                ("1:lens-1:lens-9", "1::body-2", "2:body-4:", "v0:lens-v1:", "1:::", "1::gear-x")
            )
        if self.rnd.random() < 0.4:
            query["c"] = tampered(self.choice, self.rnd)
        if self.rnd.random() < 0.2:
            sent = {
                "choice": tampered(self.choice, self.rnd),
                "name": self.value(),
                "took": self.value(),
                "reasons": self.value(),
            }
            return Request("/choose/keep/", sent, posts=True)
        return Request(self.rnd.choice(("/choose/", "/choose/", "/choose/", "/choose/helping/")), query)

    def any(self):
        route = self.rnd.choice(self.routes)
        for part in (
            "<int:pk>",
            "<slug:kind>",
            "<str:key>",
            "<str:token>",
            "<int:height>",
            "<str:kind>",
            "<slug:slug>",
        ):
            filled = {
                "<int:pk>": ("0", "1", "2", "99999999", "9" * 30),
                "<slug:kind>": ("lenses", "bodies", "kits", "own-formats", "x"),
            }
            route = route.replace(part, self.rnd.choice(filled.get(part, ("bodies", "lenses", "x", "1"))))
        query = self.some([*OTHERS, *FIELDS, *ADVERT], 6)
        if self.rnd.random() < 0.3:
            query |= {"9" * 5000: "1", "modes-TOTAL_FORMS": self.value(), "take": self.value()}
        return Request("/" + route, query, posts=self.rnd.random() < 0.4)

"""Phrases that photographers write, each with what it says; and thousands made from a grammar of spellings, orders,
units and separators.
"""

import os
import random
import re
import time
from dataclasses import asdict
from unittest import TestCase

from cambrel.phrases.reader import read
from cambrel.phrases.records import GearWords

LINES = int(os.environ.get("CAMBREL_FUZZ_LINES", 1000))
MFT, FF, APSC = "micro-four-thirds", "full-frame", "aps-c"


def side(focal=None, n=None, **more):
    """What a side says: a focal length (or a range of two) and an f-number (or two)."""
    low, high = focal if isinstance(focal, tuple) else (focal, focal)
    short, long = n if isinstance(n, tuple) else (n, None)
    return GearWords(focal_min_mm=low, focal_max_mm=high, f_number=short, f_number_long=long, **more)


EQ = {"equivalent": True}
ONE_SIDE = (
    ("Tarn 300mm f/4 + 2x", side(300, 4, converter=2)),
    ("70-200mm f/2.8 + 1.4x ext.", side((70, 200), 2.8, converter=1.4)),
    ("6.1mm 4:3", side(6.1)),
    ("16:9 camera with a 50 f/2", side(50, 2)),
    ("17-40mm F4L", side((17, 40), 4)),
    ("AF 85mm f_2.8G", side(85, 2.8)),
    ("24mmF2.8", side(24, 2.8)),
    ("24mm 2.0", side(24, 2)),
    ("100-400mm F4-7.1 IS", side((100, 400), (4, 7.1))),
    # adverts
    ('35mm equivalent focal length: 24mm, F1.85, 1/1.31"', side(24, 1.85, type_designation="1/1.31", **EQ)),
    ("Focal length (35mm equiv.): 24-70 mm, f/1.8-2.8, 1-inch", side((24, 70), (1.8, 2.8), type_designation="1", **EQ)),
    ("23 mm (35 mm equivalent) f/2, APS-C", side(35, 2, true_focal_mm=23, format=APSC, **EQ)),
    ("24 mm equivalent f/1.8 on a sensor of 9.8 x 7.3 mm", side(24, 1.8, width_mm=9.8, height_mm=7.3, **EQ)),
    ('f/1.5-2.4 dual aperture, 26 mm equivalent, 1/2.55"', side(26, (1.5, 2.4), type_designation="1/2.55", **EQ)),
    ("8.8-25.7mm, f/1.8-2.8, 1.0-type", side((8.8, 25.7), (1.8, 2.8), type_designation="1")),
    ("24-70 equiv, 1.0-inch sensor, 20 MP", side((24, 70), type_designation="1", megapixels=20, **EQ)),
    ("24mm equiv f/1.7 1/1.33''", side(24, 1.7, type_designation="1/1.33", **EQ)),
    ("12 f/2 4/3 sensor", side(12, 2, type_designation="4/3")),
    ("8.8 mm f/1.8 1 Zoll", side(8.8, 1.8, type_designation="1")),
    ("6.9 mm (24 mm equivalent) f/1.7, 1/1.3-inch", side(24, 1.7, true_focal_mm=6.9, type_designation="1/1.3", **EQ)),
    ("8.8-36.8mm (24-100mm equivalent) f/1.8-2.8, 1.0\" 20.1MP",
     side((24, 100), (1.8, 2.8), true_focal_mm=8.8, type_designation="1", megapixels=20.1, **EQ)),
    ('25mm (35mm equivalent), f/1.74, 1/1.29"', side(25, 1.74, type_designation="1/1.29", **EQ)),
    ("Focal length: 6.91 mm; aperture f/1.74; 35mm equivalent 25 mm", side(25, 1.74, true_focal_mm=6.91, **EQ)),
    ("equivalent focal length 13 mm, f/2.2, 1/2.55 type, 12 megapixel",
        side(13, 2.2, type_designation="1/2.55", megapixels=12, **EQ)),
    ('5x optical zoom 24-120mm equivalent f/1.8-4.0 1" sensor 20MP',
        side((24, 120), (1.8, 4.0), type_designation="1", megapixels=20, **EQ)),
    ("24mm f/1.8, 1.22 µm pixels, 50 MP", side(24, 1.8, pixel_pitch_um=1.22, megapixels=50)),
    ("24mm f/1.8, 1.22 um, 50 megapixels", side(24, 1.8, pixel_pitch_um=1.22, megapixels=50)),
    ("Hauptkamera 25 mm KB-äquivalent f/1,74", side(25, 1.74, **EQ)),
    ("24-70 mm full-frame equivalent f/1.8-2.8", side((24, 70), (1.8, 2.8), **EQ)),
    ("24 mm true focal length f/2", side(24, 2, equivalent=False)),
    ("sensor 9.6 × 7.2 mm, 6.9 mm f/1.7", side(6.9, 1.7, width_mm=9.6, height_mm=7.2)),
    ("12 mm diagonal, 6.9 mm f/1.7", side(6.9, 1.7, diagonal_mm=12)),
    ("6240 x 4160 pixels, 23mm f/1.4", side(23, 1.4, megapixels=25.9584)),
    ("24 mm f/1.7 (equivalent) 1/1.14\"", side(24, 1.7, type_designation="1/1.14", **EQ)),
    ("24 mm equivalent f/6.5 equivalent", side(24, 6.5, f_number_equivalent=True, **EQ)),
    ("28 mm (35 mm equiv) f/2", side(28, 2, **EQ)),
    # lens names
    ("50mm f/1.8 full-frame lens", side(50, 1.8, format=FF)),
    ("Tarn 24-105mm F4-7.1", side((24, 105), (4, 7.1))),
    ("Tarn 70-200 F4L", side((70, 200), 4)),
    ("56mmF1.2 R", side(56, 1.2)),
    ("Larkmoor 50 f_1.8G", side(50, 1.8)),
    ("Larkmoor 18-55mm f/3.5-5.6G", side((18, 55), (3.5, 5.6))),
    ("Larkmoor 18-55mm f/3.5-5.6G VR", side((18, 55), (3.5, 5.6))),
    ("Larkmoor 18-55 f/3.5-5.6 G", side((18, 55), (3.5, 5.6))),
    ("MK-F 28mm", side(28)),
    ("Larkmoor MK-F 28 mm f/2", side(28, 2)),
    ("24mm 2.0", side(24, 2)),
    ("2,9/22", side(22, 2.9)),
    ("1:1.4/50", side(50, 1.4)),
    ("3.5-5.6/18-55", side((18, 55), (3.5, 5.6))),
    ("14-42mm 1:3.5-5.6", side((14, 42), (3.5, 5.6))),
    ("100-400/4.5-5.6", side((100, 400), (4.5, 5.6))),
    ("1:2.8 50mm", side(50, 2.8)),
    ("F:1.7 24mm", side(24, 1.7)),
    ("ƒ/1.8 24mm", side(24, 1.8)),
    ("70-200mm f/2.8 + 1.4x ext.", side((70, 200), 2.8, converter=1.4)),
    ("100mm macro 1:1 f/2.8 ff", side(100, 2.8, format=FF)),
    ("60mm f/2.8, filter thread 46 mm, 185 g", side(60, 2.8, weight_g=185)),
    ("f = 6.91 mm, 1:1.74", side(6.91, 1.74)),
    # terse and forum shorthand
    ("55 f/1.7", side(55, 1.7)),
    ("25/1.4", side(25, 1.4)),
    ("25/1.4 mft", side(25, 1.4, format=MFT)),
    ("21 f/2.2 aps-c 1.6", side(21, 2.2, format="aps-c-small", crop=1.6)),
    ("24-70 2.8 full frame", side((24, 70), 2.8, format=FF)),
    ("85 1.4", side(85, 1.4)),
    ("35mm on crop", side(35, format=APSC)),
    ("7mm f1.8 1/1.3", side(7, 1.8, type_designation="1/1.3")),
    ("25 mm equiv f/1.74 phone", side(25, 1.74, **EQ)),
    ("200mm on m43 at 20 m", side(200, format=MFT, distance_m=20)),
    ("12-40/2.8 m4/3", side((12, 40), 2.8, format=MFT)),
    ("Micro 4/3 25mm F/1.7", side(25, 1.7, format=MFT)),
    ("50 f/1.8 1.5x crop", side(50, 1.8, crop=1.5)),
    ("50 f/1.8 crop 1.6", side(50, 1.8, crop=1.6)),
    ("22mm lens on 1.6x crop", side(22, crop=1.6)),
    ("50mm on a 2x crop", side(50, crop=2)),
    ("50mm, crop factor of 1.5", side(50, crop=1.5)),
    ("35 1.4 ff 3m", side(35, 1.4, format=FF, distance_m=3)),
    ("85 1.8 at 2.5 m 1/250 iso 800", side(85, 1.8, distance_m=2.5, shutter_s=1 / 250, iso=800)),
    ("50mm @ f/2.8 1/125s ISO 400 at 2m on 36x24", side(50, 2.8, format=FF, shutter_s=1 / 125, iso=400, distance_m=2)),
    ("8' 2\" 50mm f2 mft", side(50, 2, format=MFT, distance_m=98 * 0.0254)),
    ("135mm f/2 @ 10 feet", side(135, 2, distance_m=3.048)),
    ("250 cm 50mm f/2 mft iso 12,800 1/60 s", side(50, 2, format=MFT, distance_m=2.5, iso=12800, shutter_s=1 / 60)),
    ("300mm f4 mft at 40 yards", side(300, 4, format=MFT, distance_m=36.576)),
    ("600mm f/6.3 full frame at 1 km", side(600, 6.3, format=FF, distance_m=1000)),
    ("28-75 mm f/2,8 Vollformat", side((28, 75), 2.8, format=FF)),
    ("80mm f/1.7 44x33", side(80, 1.7, format="44x33")),
    ("110/2 on 44 x 33 mm at 5m", side(110, 2, format="44x33", distance_m=5)),
    ("4.5-108mm f/2.8-5.9 1/2.3", side((4.5, 108), (2.8, 5.9), type_designation="1/2.3")),
    # spoken
    ("a 25 millimetre lens at f 1.4 on micro four thirds", side(25, 1.4, format=MFT)),
    ("aperture 2.8, focal length 50 mm, full frame", side(50, 2.8, format=FF)),
    ("what does a 50mm f/1.8 look like on aps-c", side(50, 1.8, format=APSC)),
    ("What's a 35mm f1.4 on APS-C equivalent to?", side(35, 1.4, format=APSC)),
    ("my 50 1.8 on my crop body", side(50, 1.8, format=APSC)),
    ("a fifty millimetre f/2 at ten feet", side(50, 2, distance_m=3.048)),
    ("24 to 70 mm at f/4, three metres away", side((24, 70), 4, distance_m=3)),
    ("1/60", side(shutter_s=1 / 60)),
    ("8 ft", side(distance_m=2.4384)),
)  # fmt: skip
TWO_SIDES = (
    ("25 f/1.4 mft vs 50 f/1.8 ff", side(25, 1.4, format=MFT), side(50, 1.8, format=FF)),
    ("35-100 f2.8 m43 / 70-200 f2.8 ff 360 g 1400 g",
     side((35, 100), 2.8, format=MFT, weight_g=360), side((70, 200), 2.8, format=FF, weight_g=1400)),
    ("how does 25 1.4 mft compare to 50 1.8 ff", side(25, 1.4, format=MFT), side(50, 1.8, format=FF)),
    ("56/1.2 apsc v 85/1.8 ff", side(56, 1.2, format=APSC), side(85, 1.8, format=FF)),
    ("50 1.8 ff or 25 1.4 mft", side(50, 1.8, format=FF), side(25, 1.4, format=MFT)),
    ("Camera A: 25mm f/1.4 MFT; Camera B: 50mm f/2.8 FF", side(25, 1.4, format=MFT), side(50, 2.8, format=FF)),
    ("is f/2.8 on aps-c f/2.8 on full frame", side(n=2.8, format=APSC), side(n=2.8, format=FF)),
    ("16-55/2.8 aps-c 655 g against 24-70/2.8 ff 805 g",
     side((16, 55), 2.8, format=APSC, weight_g=655), side((24, 70), 2.8, format=FF, weight_g=805)),
)  # fmt: skip
ASKED = (
    ("what is 50 f/2 ff on mft", side(50, 2, format=FF), MFT),
    ("mft for 85 1.4", side(85, 1.4), MFT),
    ("f/11 ff on m43", side(n=11, format=FF), MFT),
    ("iso 3200 ff on aps-c", side(iso=3200, format=FF), APSC),
    ("what is 50 f/2 on full frame in micro four thirds", side(50, 2, format=FF), MFT),
    ("21 mm f/2.2 on a 1.6x body: what is it on full frame?", side(21, 2.2, crop=1.6), FF),
    ("what's the full frame equivalent of 25mm f/1.4 on mft", side(25, 1.4, format=MFT), FF),
    ("25mm 1.7 mft in full frame terms", side(25, 1.7, format=MFT), FF),
    ("what replaces my 24-70 f/2.8 on mft?", side((24, 70), 2.8), MFT),
    ("what medium format lens matches 85 f/1.2 full frame", side(85, 1.2, format=FF), "44x33"),
    ("f/4 at 24mm on full frame = ? on mft", side(24, 4, format=FF), MFT),
    ("full frame 24-70 f4 to mft", side((24, 70), 4, format=FF), MFT),
    ('35mm equivalent of a 7mm f/1.8 lens on 1/1.3" sensor', side(7, 1.8, type_designation="1/1.3"), FF),
    ("50 1.8 mft equivalent", side(50, 1.8), MFT),
    ("24 mm FF equiv on Micro Four Thirds f1.8", side(24, 1.8, format=FF), MFT),
    ("mft 25 mm f/1.4 equivalent", side(25, 1.4, format=MFT), None),
)  # fmt: skip


def said(one):
    return {name: value for name, value in asdict(one).items() if value is not None}


NAMES = [
    ("full frame", FF), ("FF", FF), ("full-frame", FF), ("APS-C", APSC), ("apsc", APSC), ("MFT", MFT), ("m43", MFT),
    ("Micro Four Thirds", MFT),
    ("m4/3", MFT), ("micro 4/3", MFT), ("medium format", "44x33"), ("44x33", "44x33"),
]  # fmt: skip
EQUIVALENTS = [
    "{} equivalent", "{} equiv.", "{} eq", "{} full-frame equivalent", "equivalent to {}", "35mm equivalent: {}",
    "35 mm equivalent focal length {}", "equivalent focal length {}", "{} FF equiv",
]  # fmt: skip
TURNED_ROUND = re.compile(r"(FF equiv|full-frame equivalent) on ")
"""What it is on another format is asked by it, where a frame stands behind these of `EQUIVALENTS`."""


class TableTests(TestCase):
    maxDiff = None

    def check(self, found, expected):
        found, expected = said(found), said(expected)
        self.assertEqual(set(found), set(expected))
        for name, value in expected.items():
            if isinstance(value, float | int) and not isinstance(value, bool):
                self.assertAlmostEqual(found[name], value, places=9, msg=name)
            else:
                self.assertEqual(found[name], value, name)

    def test_one_side(self):
        self.assertGreaterEqual(len(ONE_SIDE), 80)
        for text, expected in ONE_SIDE:
            with self.subTest(text):
                reading = read(text)
                self.assertEqual((len(reading.sides), reading.target), (1, None))
                self.check(reading.sides[0], expected)

    def test_two_sides(self):
        for text, *expected in TWO_SIDES:
            with self.subTest(text):
                reading = read(text)
                self.assertEqual(len(reading.sides), 2)
                for found, one in zip(reading.sides, expected, strict=True):
                    self.check(found, one)

    def test_a_question_turned_round(self):
        for text, expected, target in ASKED:
            with self.subTest(text):
                reading = read(text)
                self.assertEqual(reading.target, target)
                self.check(reading.sides[0], expected)

    def test_what_was_taken_and_what_was_not_is_shown(self):
        reading = read("Tarn 24 mm equivalent f/1.8 wobble 1/1.3 type on crop")
        self.assertEqual(reading.unread, ("Tarn", "wobble"))
        meanings = {u.text: u.meaning for u in reading.understood}
        self.assertEqual(meanings["24 mm"], "focal length 24 mm, an equivalent")
        self.assertEqual(meanings["f/1.8"], "f/1.8")
        self.assertEqual(meanings["1/1.3 type"], "sensor type 1/1.3")
        self.assertEqual([(c.text, c.formats[:2]) for c in reading.choices], [("crop", ("aps-c", "aps-c-small"))])
        self.assertEqual(read("50mm f/1.8 85mm").unread, ("85mm",), "a second focal length is named, not lost")

    def test_the_owners_own_letter_codes(self):
        codes = {"QX": "format:aps-c", "WR": "mount:Tarn"}
        found = read("35mm f/1.8 QX WR", codes).sides[0]
        self.assertEqual((found.format, found.mount), (APSC, "Tarn"))
        self.assertEqual(read("35mm f/1.8 QX WR").unread, ("QX WR",))

    def test_what_is_no_lens_says_nothing(self):
        for text in (
            "",
            "   ",
            "a fine camera",
            "///",
            "((((",
            "f/",
            "1/0",
            "0/0",
            "1:",
            "'\"'\"",
            "\x00",
            "٣٤",
            "f/1e9",
            "999999999999 mm",
            "−5 mm",
        ):
            with self.subTest(text):
                found = said(read(text).sides[0])
                self.assertLessEqual(set(found), {"focal_min_mm", "focal_max_mm"}, found)

    def test_time_is_in_proportion_and_too_much_is_refused(self):
        for text in (
            "1/" * 50_000,
            "24-" * 33_000,
            "f/" * 50_000,
            "(35 mm equivalent " * 6_000,
            "a" * 100_000,
            "1.1" * 33_000,
        ):
            start = time.perf_counter()
            self.assertTrue(read(text).refused)
            self.assertLess(time.perf_counter() - start, 0.05)
            read(text[:1000])


class GrammarTests(TestCase):
    """What counts are phrases that stand in no table."""

    def number(self, value, random):
        text = f"{value:g}"
        return text.replace(".", ",") if random.random() < 0.25 else text

    def focal(self, random, expected):
        dash, unit = (
            random.choice(["-", "–", " - ", " to "]),
            random.choice(["mm", " mm", " mm", "-mm", " millimetres"]),
        )
        a, b = random.choice([(24, 24), (50, 50), (8.8, 8.8), (24, 70), (12, 40), (70, 300), (4.3, 4.3)])
        text = self.number(a, random) + (dash + self.number(b, random) if a != b else "") + unit
        expected |= {"focal_min_mm": a, "focal_max_mm": b}
        how = random.random()
        if how < 0.25:
            expected["equivalent"] = True
            text = random.choice(EQUIVALENTS).format(text)
        elif how < 0.35:
            text = "focal length " + random.choice(["", ": ", "of "]) + text
        return text

    def aperture(self, random, expected):
        mark = random.choice(["f/{}", "F{}", "f{}", "ƒ/{}", "f:{}", "F/{}", "1:{}", "f {}", "f/{}"])
        a, b = random.choice([(1.8, 1.8), (2.8, 2.8), (4, 4), (1.4, 1.4), (3.5, 5.6), (1.8, 2.8), (4.5, 6.3)])
        if mark == "1:{}" and float(a).is_integer():
            mark = "f/{}"
        text = mark.format(self.number(a, random))
        expected["f_number"] = a
        if a != b:
            text += random.choice(["-", "–", "-f/"]) + self.number(b, random)
            expected["f_number_long"] = b
        return text

    def frame(self, random, expected):
        kind = random.choice(["name", "name", "type", "crop", "size", ""])
        if kind == "name":
            text, slug = random.choice(NAMES)
            expected["format"] = slug
            return random.choice(["{}", "on {}", "({})", "on a {} camera", "{} sensor"]).format(text)
        if kind == "type":
            name = random.choice(["1", "1/1.3", "1/2.3", "1/1.28", "1/2.55", "2/3"])
            expected["type_designation"] = name
            return random.choice(
                ['{}"', "{}-inch", "{} inch", "{} type", "{}-type", "{}''", "type {}", "{}-inch sensor"]
            ).format(name.replace(".", ",") if random.random() < 0.1 else name)
        if kind == "crop":
            crop = random.choice([1.5, 1.6, 2.7, 3.6])
            expected["crop"] = crop
            return random.choice(
                ["{}x crop", "crop {}", "crop factor {}", "crop factor of {}x", "a {}x body", "{}× crop sensor"]
            ).format(crop)
        if kind == "size":
            wide, high = random.choice([(23.5, 15.6), (9.8, 7.3), (17.3, 13), (13.2, 8.8)])
            expected |= {"width_mm": wide, "height_mm": high}
            return random.choice(
                ["sensor {} x {} mm", "{}×{} mm", "sensor of {} mm x {} mm", "{} x {} mm sensor"]
            ).format(wide, high)
        return ""

    def extras(self, random, expected):
        found = []
        for chance, name, value, texts in (
            (0.2, "iso", 3200, ("ISO 3200", "iso3200", "ISO: 3,200", "3200 ISO")),
            (0.2, "shutter_s", 1 / 250, ("1/250", "1/250 s", "1/250s", "1/250 sec")),
            (0.2, "distance_m", 2.5, ("at 2.5 m", "2.5m", "250 cm", "at 2,5 metres")),
            (0.15, "distance_m", 2.4384, ("8 ft", "at 8 feet", "8'")),
            (0.2, "weight_g", 450, ("450 g", "450g", "weighs 450 grams")),
            (0.2, "megapixels", 24, ("24 MP", "24MP", "24 megapixels", "6000 x 4000 px")),
        ):
            if random.random() < chance and name not in expected:
                expected[name] = value
                found.append(random.choice(texts))
        return found

    def phrase(self, seed):
        chosen, expected = random.Random(seed), {}
        parts = [
            self.focal(chosen, expected),
            self.aperture(chosen, expected),
            self.frame(chosen, expected),
            *self.extras(chosen, expected),
        ]
        parts = [part for part in parts if part]
        if chosen.random() < 0.5:
            chosen.shuffle(parts)
        glue = chosen.choice([" ", ", ", ", ", " , "])
        return glue.join(parts), expected

    def test_thousands(self):
        wrong = []
        for seed in range(LINES):
            text, expected = self.phrase(seed)
            if TURNED_ROUND.search(text):
                continue
            reading = read(text)
            found = said(reading.sides[0])
            same = set(found) == set(expected) and all(
                abs(found[k] - v) < 1e-9 * abs(v) if isinstance(v, float) else found[k] == v
                for k, v in expected.items()
            )
            if len(reading.sides) != 1 or reading.target or not same or reading.unread:
                wrong.append(
                    (
                        seed,
                        text,
                        {
                            k: (found.get(k), expected.get(k))
                            for k in {*found, *expected}
                            if found.get(k) != expected.get(k)
                        },
                    )
                )
        self.assertEqual(wrong[:5], [], f"{len(wrong)} of {LINES}")

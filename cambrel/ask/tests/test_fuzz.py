"""Lines of random words and numbers. What is answered took every number for what its unit says, and knew every word."""

import os
import random
import re
import time
from unittest import TestCase

from django.test import tag

from cambrel.ask.asking import asked
from cambrel.ask.question_kind import Terms
from cambrel.phrases.concepts import CONCEPTS

LINES = int(os.environ.get("CAMBREL_FUZZ_LINES", "1500"))
SEED = int(os.environ.get("CAMBREL_FUZZ_SEED", "29"))
A_LENGTH = {"distance", "size", "background", "length"}
# by how a number is written, the roles that it may be taken in
WRITTEN = {
    "{} mm": {"focal"},
    "{}mm": {"focal"},
    "f/{}": {"f_number"},
    "f{}": {"f_number"},
    "{} m": A_LENGTH,
    "{} cm": A_LENGTH,
    "{} ft": A_LENGTH,
    "{} mp": {"megapixels"},
    "1/{} s": {"shutter"},
    "iso {}": {"iso"},
    "{} stops": {"stops"},
    "{} dpi": {"dots"},
    "{} degrees": {"angle"},
    "{} %": {"percent"},
    "ev {}": {"ev", "stops"},
    "nd{}": {"density"},
    "{} µm": {"pitch"},
    "{}x": {"converter", "crop"},
    "with {}x": {"converter"},
    "{} kg": {"weight"},
    "{} g": {"weight"},
    "gn {}": {"guide"},
    "{} K": set(),
    "{} mph": set(),
    "{} euros": set(),
    "{} lux": set(),
    "{} W": set(),
    "{} gb": set(),
    "{} people": set(),
    "{}": {"focal", "f_number"},
}
NUMBERS = (
    "1.2",
    "1.4",
    "2",
    "2.8",
    "4",
    "5",
    "8",
    "12",
    "16",
    "20",
    "24",
    "35",
    "50",
    "85",
    "100",
    "200",
    "300",
    "400",
    "1000",
    "3200",
)
FORMATS = ("ff", "mft", "aps-c", "1 inch", "full frame", "44x33", "1/2.3 type", "crop", "6x6", "phone")
JOINS = (
    "vs",
    "on",
    "at",
    "with",
    "and",
    "of",
    "to",
    "or",
    "in",
    "the",
    "a",
    "my",
    "is",
    "what",
    "how",
    "for",
    "/",
    ",",
    "?",
    "equivalent",
    "true",
)
NAMED = {
    "crop": "crop",
    "iso": "iso",
    "asa": "iso",
    "nd": "density",
    "nd filter": "density",
    "ev": "ev",
    "lv": "ev",
    "f number": "f_number",
    "millimeters": "focal",
    "mm": "focal",
    "millimetres": "focal",
    "degrees": "angle",
    "magnification": "magnification",
    "mp": "megapixels",
    "megapixel": "megapixels",
    "megapixels": "megapixels",
    "pixels": "pixels_wide",
    "stops": "stops",
    "stop": "stops",
}
UNKNOWN = ("purple", "zebra", "ladder", "dx", "xyzzy", "wonderful", "qq", "marmalade", "tuba")


class FuzzTests(TestCase):
    def setUp(self):
        self.terms = [" ".join(words) for every in CONCEPTS.values() for words, _ in every]
        self.terms = [term for term in self.terms if not re.search(r"\d", term)]

    def line(self, chance):
        """A line, the numbers in it with the roles that their units allow, and whether it holds an unknown word."""
        pieces, numbers, is_unknown = [], [], False
        for _ in range(chance.randint(1, 7)):
            kind = chance.random()
            if kind < 0.4:
                written = chance.choice(list(WRITTEN))
                number = chance.choice(NUMBERS)
                pieces.append(written.format(number))
                numbers.append((number, WRITTEN[written]))
            elif kind < 0.6:
                pieces.append(chance.choice(FORMATS))
            elif kind < 0.8:
                pieces.append(chance.choice(self.terms))
            elif kind < 0.96:
                pieces.append(chance.choice(JOINS))
            else:
                pieces.append(chance.choice(UNKNOWN))
                is_unknown = True
        return " ".join(pieces), numbers, is_unknown

    @tag("long")
    def test_no_number_is_taken_for_what_it_does_not_say(self):
        chance = random.Random(SEED)
        answered, slow = 0, []
        for _ in range(LINES):
            text, numbers, is_unknown = self.line(chance)
            start = time.process_time()
            reading = asked(text, Terms())
            slow.append((time.process_time() - start, text))
            if reading.answer is None:
                continue
            answered += 1
            with self.subTest(text):
                self.assertFalse(is_unknown, reading.answer.says)
                self.judged(reading, numbers)
        self.assertGreater(answered, LINES // 100)
        self.assertLess(sorted(slow)[-3][0], 0.05, sorted(slow)[-3:])

    def judged(self, reading, numbers):
        """Every figure in the role of its unit, and no number left aside."""
        statement = reading.statement
        taken = reading.candidate.given.taken
        in_sensors = " ".join(statement.text[slice(*statement.place(one.first, one.last))] for one in statement.sensors)
        ranges = " ".join(statement.piece(quantity.mention) for quantity in taken)
        for number, roles in numbers:
            roles_taken = {
                quantity.role
                for quantity in taken
                if number in re.findall(r"[\d.]+", statement.piece(quantity.mention))
            }
            is_label = number == "35" and re.search(r"35 ?mm (true )?equiv|35 ?mm equivalent", statement.text)
            skipped = is_label or any(
                m.kind == "skip" and number in statement.piece(m) for m in statement.scan.mentions
            )
            if not roles_taken and (number in in_sensors or skipped):
                continue
            self.assertTrue(roles_taken, f"{number} was left aside: {reading.answer.says}")
            # one number may stand twice, in two roles: then either is right
            beside = {
                role
                for word, role in NAMED.items()
                if re.search(
                    rf"{word}\W+(?:(?:factor|of|mode|to)\W+)*{number}(?![\d.])|{number}x?\W+{word}", statement.text
                )
            }
            beside |= {"converter"} if "crop" in beside else set()  # "crop 8 stops": what such a crop costs
            allowed = beside.union(*(more for same, more in numbers if same == number))
            self.assertTrue(
                roles_taken & allowed, f"{number} as {roles_taken}, not {roles}: {reading.answer.says} {ranges}"
            )

    def test_odd_lines_are_never_a_fault(self):
        for text in (
            "",
            " ",
            "?",
            "🙂",
            "f/",
            "/",
            "1/0",
            "f/0",
            "0 mm",
            "0 m",
            "1e400 mm",
            "9" * 300,
            "½ f/2",
            "50 mm " * 100,
            "\u202e50 mm",
            "NaN mm",
            "inf m",
            "-50 mm ff",
            "50 mm f/-2",
            "0x crop",
            "0 mp ff pixel size",
            "1:0",
            "0:1 macro",
            "iso 0 ff on mft",
            "nd0",
            "24 mp 0 dpi",
            "24 mp crop 0 %",
            "0 degrees mft",
            "180 degrees mft",
            "360 degrees ff",
            "dof 50 f/2 ff at 4 cm",
            "hyperfocal 0 mm f/8",
            "moon 0 mm",
            "gn 0 f/8",
            "dof 50 f/2 ff at 0 m",
            "50 mm f/2 ff at 1e9 km",
            "1 m engine 10000 mm ff",
            "ev 999",
            "ev -20 f/8",
        ):
            with self.subTest(text):
                asked(text[:200], Terms())

"""Work is bounded before it is done: no reader is slow over its worst case of 100,000 characters, and nothing is kept
or crossed without end.
"""

import json
import sys
import time
from contextlib import suppress

from django.core.exceptions import ValidationError
from django.test import SimpleTestCase, tag

from cambrel.bounds import names
from cambrel.exports.csv_tables import neutral, plain
from cambrel.inputs.fields import FNumberField, FocalLengthField
from cambrel.links.benches import decode
from cambrel.links.codec import LinkError
from cambrel.phrases import typed_figures
from cambrel.phrases.reader import read
from cambrel.shelf import cells
from cambrel.shelf.intake import FileError, Known, read_file
from cambrel.shelf.intake.found import counted, time_limit
from cambrel.shelf.intake.headings import heading, plain_heading, section_of_headings, section_of_word
from cambrel.shelf.naming import figures_of_name
from cambrel.shelf.widest import read_widest
from cambrel.wording.glossary import parts

LONG = 100_000
MOST_S = 0.1 if sys.gettrace() is None else 0.5
"""What is traced for its coverage takes some times as long; what is not linear takes hundreds of times as long."""
PIECES = (
    "1", "1,", "1 at ", "f/", "-", "1-", " ", "(", "a ", "1:", "x", "1x", "\u00a0", "9.9.9", "\u20ac1 ", "'",
    "depth of ", "1 mm f/2 ", "=", "\u0301",
    "1e", "/", "[",
)  # fmt: skip
WORST = [piece * (LONG // len(piece)) for piece in PIECES]
CELLS = (
    "magnification",
    "yes_or_no",
    "projection",
    "iso_range",
    "stops",
    "size",
)
TYPED = ("number", "whole_number", "decimal", "length", "mass_g", "money", "seconds", "f_number", "iso")
READERS = {
    "widest": lambda text: read_widest(text, 20, 40), "phrases": read, "name": figures_of_name,
    **{name: getattr(typed_figures, name) for name in TYPED},
    "clean": names.clean, "glossary": parts, "link": decode, "heading": lambda text: heading("lenses", text),
    "plain heading": plain_heading,
    "headings": lambda text: section_of_headings([text, "weight"]), "kind": section_of_word, "cell": plain,
    "neutral": neutral,
    "focal": lambda text: FocalLengthField().clean(text), "f-number": lambda text: FNumberField().clean(text),
    **{name: getattr(cells, name) for name in CELLS},
    "quantity": lambda text: cells.quantity(text, "g", "g"), "cell focal": lambda text: cells.focal(text, "mm"),
    "cell widest": lambda text: cells.widest(text, 20, 40), "price": lambda text: cells.price(text, ""),
    "sensor": lambda text: cells.sensor({"format": text}, {}),
    "megapixels": lambda text: cells.sensor({"width_mm": 9, "height_mm": 6, "megapixels": text}, {}),
}  # fmt: skip


def seconds(work):
    """The shortest of three tries, of this thread alone, so that what else the machine does is not counted."""
    taken = []
    for _ in range(3):
        begun = time.thread_time()
        with suppress(ValueError, OverflowError, LinkError, FileError, ValidationError):
            work()
        taken.append(time.thread_time() - begun)
        if taken[-1] < 0.05:
            break
    return min(taken)


@tag("long")
class LinearTests(SimpleTestCase):
    def test_no_reader_is_slower_than_its_text_is_long(self):
        for name, reader in READERS.items():
            for text in WORST:
                with self.subTest(reader=name, text=ascii(text[:8])):
                    self.assertLess(seconds(lambda reader=reader, text=text: reader(text)), MOST_S)

    def test_files_made_of_the_worst_lines_are_read_at_once(self):
        for text in WORST:
            for data in (
                f"lens,max aperture,price,weight\nA 20 mm,{text},{text},{text}\n",
                f"name,focal_min_mm,widest\nA,20,{text}\n", f"{text},lens\n1,2\n",
                f"<lensdatabase><lens><model>{text}</model><mount>{text}</mount>"
                '<focal min="1"/></lens></lensdatabase>',
                json.dumps({"cambrel": 1, "sections": {"lenses": [{"name": text, "note": text, "focal_min_mm": 5}]}}),
            ):  # fmt: skip
                with self.subTest(data=ascii(data[:40]), text=ascii(text[:5])):
                    self.assertLess(seconds(lambda data=data: read_file("x", data.encode(), Known())), 10 * MOST_S)


class BoundTests(SimpleTestCase):
    @tag("long")
    def test_cameras_are_not_crossed_with_lenses_without_end(self):
        cameras = "".join(
            f"<camera><model>C{i}</model><mount>own</mount><cropfactor>5</cropfactor></camera>" for i in range(1000)
        )
        lenses = "".join(f"<lens><model>{i + 1} mm</model><mount>own</mount></lens>" for i in range(1000))
        apart = cameras.replace("<mount>own<", "<mount>other<")
        with self.assertRaisesRegex(FileError, "60,000"):
            read_file("x.xml", f"<lensdatabase>{cameras}{lenses}</lensdatabase>".encode())
        found = read_file("x.xml", f"<lensdatabase>{apart}{lenses}</lensdatabase>".encode()).found
        self.assertEqual(len(found), 2000, "read within the time that a file is given")

    def test_columns_parts_and_time_are_counted(self):
        with self.assertRaisesRegex(FileError, "200 columns"):
            read_file("t.csv", ("a," * 300 + "lens\n").encode())
        (one,) = read_file(
            "d.json", json.dumps({"cambrel": 1, "sections": {"kits": [{"name": "K", "lenses": ["a"] * 3000}]}}).encode()
        ).found
        self.assertIn("more than 2,000 parts", one.reason)
        with time_limit(-1), self.assertRaisesRegex(FileError, "too long"):
            counted(1)
        for data in (
            b"lens\n20 mm\n",
            b'{"cambrel": 1, "sections": {"kits": [{"name": "K"}]}}',
            b"<a><lens><model>2 mm</model></lens></a>",
        ):
            with time_limit(-1), self.assertRaisesRegex(FileError, "too long"):
                read_file("x", data)
        counted(1)

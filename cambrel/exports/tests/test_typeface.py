"""The shipped typeface on pictures and in drawings that leave the application."""

from django.test import SimpleTestCase
from PIL import Image, ImageDraw

from cambrel.exports import typeface


class TypefaceTests(SimpleTestCase):
    def shapes(self, text):
        return [
            (c, bytes(font.getmask(c)), bytes(font.getmask("\U000f0000")))
            for run, font in typeface._runs(text, 18)
            for c in run
        ]

    def test_every_letter_has_its_shape_and_none_is_the_box_of_a_missing_one(self):
        for text in ("Café Łódź żółć Āčř", "Жук ёлка Ґ", "Ελληνικά", "½ × − “q” € 1/125 s"):
            shapes = self.shapes(text)
            self.assertEqual("".join(c for c, _, _ in shapes), text)
            for character, shape, box in shapes:
                with self.subTest(character):
                    self.assertTrue(character == " " or shape != box)
        self.assertEqual(self.shapes("é"), self.shapes("e\u0301"), "a letter and its accent are one")

    def test_what_no_subset_has_is_marked_and_joiners_are_left_out(self):
        self.assertEqual("".join(c for c, _, _ in self.shapes("A 👩\u200d🚒 漢\u202e\x00B")), "A ?? ?B")

    def test_a_line_is_as_long_as_it_is_drawn(self):
        sheet = Image.new("L", (400, 40))
        typeface.set_line(ImageDraw.Draw(sheet), (0, 0), "Łódź Жук", 18, "white")
        self.assertAlmostEqual(sheet.getbbox()[2], typeface.length("Łódź Жук", 18), delta=2)

    def test_a_drawing_takes_the_subsets_along_that_its_text_needs(self):
        for text, count in (("50 mm", 1), ("Łódź", 2), ("Ж ł", 3)):
            with self.subTest(text):
                self.assertEqual(typeface.embedded(text).count("url(data:font/woff2;base64,"), count)

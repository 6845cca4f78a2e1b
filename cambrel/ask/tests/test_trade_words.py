"""The words of the trade: found by Ask and on their page, each with what is disputed and an example that is true of the
reader's own two systems.
"""

import re
from dataclasses import replace
from math import hypot
from unittest import TestCase as PlainTestCase

from django.test import TestCase

from cambrel.ask.trade_examples import EXAMPLES, example_of
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import Body, Lens
from cambrel.optics.formats import Sensor
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.systems import USUAL, OwnCamera, own_of
from cambrel.wording.glossary import terms

LARGE, SMALL = (36.0, 24.0), (17.3, 13.0)
K = hypot(*LARGE) / hypot(*SMALL)


def numbers(text):
    return [float(number.replace(",", "")) for number in re.findall(r"(?<![\w-])\d[\d,]*(?:\.\d+)?", text)]


class ExampleTests(PlainTestCase):
    """Each example on full frame and Micro Four Thirds, worked out again from the textbook."""

    def example(self, slug, conventions=Conventions()):  # noqa: B008
        return example_of(slug, USUAL, conventions).replace("\u00a0", " ")

    def near(self, got, wanted, share=0.02):
        self.assertAlmostEqual(got / wanted, 1, delta=share)

    def test_every_word_of_the_trade_has_its_example_and_says_what_is_disputed(self):
        for slug in EXAMPLES:
            with self.subTest(slug=slug):
                self.assertTrue(terms()[slug].disputed)
                self.assertRegex(self.example(slug), r"^[A-Z0-9f].*\d.*\.$")
        for slug in set(terms()) - set(EXAMPLES):
            self.assertEqual(self.example(slug), "")

    def test_bokeh(self):
        # disc of a point b behind focus u: f²/N · b / ((u − f)(u + b)), against the diagonal
        shares = [float(share) for share in re.findall(r"([\d.]+)%", self.example("bokeh"))]
        for share, f, size in zip(shares, (50, 25), (LARGE, SMALL), strict=True):
            u, b = 2000, 5000
            self.near(share / 100, f * f / 1.8 * b / ((u - f) * (u + b)) / hypot(*size), 0.05)

    def test_compression(self):
        (times,) = re.findall(r"([\d.]+) times as large", self.example("compression"))
        self.near(float(times), (6 / (6 + 5)) / (2 / (2 + 5)))

    def test_lenses_in_each_other_s_terms(self):
        focal, view = (
            float(mm) for mm in re.findall(r"(\d+(?:\.\d+)?) mm", self.example("effective-focal-length"))[:2]
        )
        self.near(view, focal * K)
        marked, _, there = (float(n) for n in re.findall(r"f/(\d+(?:\.\d+)?)", self.example("fast-lens")))
        self.near(there, marked * K)
        wide, needed = (float(n) for n in re.findall(r"f/(\d+(?:\.\d+)?)", self.example("full-frame-look")))
        self.near(needed, wide / K, 0.04)

    def test_light(self):
        (stops,) = re.findall(r"([\d.]+) stops", self.example("low-light"))
        self.assertAlmostEqual(2 ** float(stops), LARGE[0] * LARGE[1] / (SMALL[0] * SMALL[1]), delta=0.3)
        large, small = (float(n) for n in re.findall(r"([\d.]+) stops", self.example("dynamic-range")))
        self.assertGreater(large, small)

    def test_sweet_spot_follows_the_crop_factor(self):
        here, there = (float(n) for n in re.findall(r"f/(\d+(?:\.\d+)?)", self.example("sweet-spot")))
        self.near(here / there, K, 0.06)

    def test_corners_and_edges(self):
        self.assertIn("dark corners there", self.example("vignetting"))
        self.near(numbers(self.example("vignetting"))[-1], hypot(*LARGE))
        (times,) = re.findall(r"([\d.]+) times", self.example("distortion"))
        self.near(float(times), 1 + (18 / 24) ** 2, 0.04)

    def test_what_a_crop_leaves(self):
        left, whole = re.search(r"keeps ([\d.]+) of its ([\d.]+) mega", self.example("cropping")).groups()
        self.near(float(left) / float(whole), SMALL[0] / LARGE[0] * SMALL[1] / LARGE[1], 0.03)

    def test_lines_are_bounded_by_the_pixels(self):
        large, small = re.search(
            r"about ([\d,]+) line.*, Micro Four Thirds ([\d,]+)\.", self.example("micro-contrast")
        ).groups()
        for lines, (wide, high), pixels in ((large, LARGE, 6000), (small, SMALL, 5200)):
            self.assertLess(float(lines.replace(",", "")), pixels * high / wide + 10)

    def test_what_is_not_known_is_not_made_up(self):
        bare = replace(USUAL, large=OwnCamera("old body", Body(Sensor(36, 24))), lens=Lens(12, 40))
        for slug in ("cropping", "dynamic-range", "vignetting"):
            self.assertEqual(example_of(slug, bare, Conventions()), "", slug)
            self.assertTrue(self.example(slug))


class PageTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)

    def test_ask_finds_them_and_words_lists_them_on_the_reader_s_gear(self):
        own = own_of(self.owner)
        for typed in ("bokeh", "what is micro-contrast?", "Dynamic range", "is a fast lens better"):
            with self.subTest(typed=typed):
                self.assertContains(self.client.get("/ask/", {"q": typed}), "For example:")
        words = self.client.get("/words/")
        for slug in EXAMPLES:
            self.assertContains(words, example_of(slug, own, Conventions()))
        self.assertContains(self.client.get("/words/bokeh/", headers={"HX-Request": "true"}), "For example:")
        self.assertNotContains(self.client.get("/ask/", {"q": "25 f/1.4 mft"}), "For example:")

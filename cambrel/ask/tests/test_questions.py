"""Each answer judged by arithmetic of its own, and each question followed to where it leads."""

import re
from dataclasses import replace
from html import unescape
from math import hypot, log2

from django.test import TestCase

from cambrel.ask.common_questions import QUESTIONS
from cambrel.comparison.brief import Conventions
from cambrel.links.benches import encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.systems import USUAL, own_of

FULL, FOUR, PHONE = hypot(36, 24), hypot(17.3, 13), hypot(9.6, 7.2)
K = FULL / FOUR


def depth_m(f, n, u, c):
    """Near and far by the pupil's cones: where the disc of a point is c."""
    v = f * u / (u - f)
    ends = []
    for sign in (1, -1):
        behind = v / (1 - sign * n * c / f)  # where the cone through the pupil is c wide at the sensor
        ends.append(1 / (1 / f - 1 / behind))
    near = min(end for end in ends if end > 0)  # past the hyperfocal distance the far end lies behind the lens
    return near / 1000, max(ends) / 1000


def same_lens():
    near, far = depth_m(50, 2.8, 2000, FULL / 1500)
    less_near, less_far = depth_m(50, 2.8, 2000, FOUR / 1500)
    return 17.3 / 36, 100 * (less_far - less_near), 100 * (far - near)


def walked():
    v = 50 * 2000 / 1950
    wide = FULL * (2000 / v)  # what the diagonal takes in
    u = 2000.0
    for _ in range(200):
        u = wide * (50 * u / (u - 50)) / FOUR
    return u / 1000


def discs():
    def share(f, n, diagonal):
        v = f * 2000 / (2000 - f)
        return f / n * abs(1 - 2000 / 7000) * v / 2000 / diagonal

    return share(25, 1.2, FOUR) / share(50, 1.8, FULL)


def rule_error():
    u, f = 300, 50
    exact = 1 / (1 / u + 1 / (K * f * u / (u - f)))
    return 100 * abs(K * f / exact - 1)


EXPECTED = {
    "portrait": (1, 12, 3, 4), "replaces": (24 / K, 70 / K, 2.8 / K), "covers": (21.8, FULL),
    "f-number": (2.8, 2.8 * K), "same-lens": same_lens(), "step-back": (2, walked()), "phone": (1.8 * FULL / PHONE,),
    "dusk": (log2(36 * 24 / (17.3 * 13)),), "reach": ((36 / 6000) / (17.3 / 5200),), "exact": (30, rule_error()),
    "blur": (1.2, discs(), 1.8),
    "noise": (400, 400 * 36 * 24 / (17.3 * 13)), "perspective": (1, 3, (3 / 8) / (1 / 6)),
    "matched": (25.3, 1.4, 50, 2.8), "all-sharp": (4, 8, 24, 4, 12, depth_m(24, 8, 4000, FULL / 1500)[0]),
}  # fmt: skip


class QuestionTests(TestCase):
    def test_every_answer(self):
        self.assertEqual({question.key for question in QUESTIONS}, set(EXPECTED))
        for one in QUESTIONS:
            said = one.answer(Conventions()).replace("\u00a0", " ")
            figures = [
                float(number.replace(",", "")) for number in re.findall(r"(?<![\w.])(?:f/)?(\d[\d,]*(?:\.\d+)?)", said)
            ]
            figures += [value for word, value in ((" half ", 0.5), (" twice ", 2.0)) if word in said]
            for expected in EXPECTED[one.key]:
                with self.subTest(question=one.text, expected=expected, said=said):
                    self.assertTrue(any(abs(figure / expected - 1) < 0.045 for figure in figures))

    def test_every_question_leads_to_a_bench_that_shows_it(self):
        page = self.client.get("/ask/", headers={"HX-Request": "true"})
        addresses = {text: address for text, _, address in page.context["questions"]}
        self.assertGreaterEqual(len(addresses), 12)
        for question in QUESTIONS:
            asked = question.asked(USUAL)
            self.assertContains(page, asked)
            there = self.client.get(addresses[asked])
            self.assertEqual(there.status_code, 200, asked)
            if question.leads_to is None:
                self.assertEqual(there.context["page"].shown.key, question.panel)
                self.assertIn(encode(question.on(USUAL))[:20], addresses[asked])
                beside = f"/ask/answered/?key={question.key}"
                self.assertContains(there, f'hx-get="{beside}"')
                self.assertContains(self.client.get(beside), question.answer(Conventions()))
        self.assertEqual(self.client.get("/ask/answered/?key=nothing").status_code, 404)
        self.assertNotContains(self.client.get("/ask/", {"q": "50 f/2"}), "What people ask")

    def test_the_answers_follow_the_conventions_of_the_reader(self):
        by_width = next(question for question in QUESTIONS if question.key == "f-number").answer(
            Conventions(crop_by="width")
        )
        self.assertIn("f/5.8", by_width)

    def test_they_are_answered_on_the_gear_of_the_reader(self):
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        self.assertEqual(own_of(owner), USUAL, "an empty shelf")
        load_demo(owner)
        own = own_of(owner)
        self.assertGreater(own.large.body.sensor.area_mm2, own.small.body.sensor.area_mm2)
        page = self.client.get("/ask/questions/").content.decode()
        for name in (own.large.name, own.small.name, own.zoom_name, own.lens_name):
            self.assertIn(name, page)
        k = own.large.body.sensor.diagonal_mm / own.small.body.sensor.diagonal_mm
        said = next(one for one in QUESTIONS if one.key == "replaces").answer(Conventions(), own)
        self.assertIn(f"{own.zoom.focal_min_mm / k:.3g}", said)
        for address in re.findall(r'href="([^"]+)"', page):
            self.assertEqual(self.client.get(unescape(address)).status_code, 200, address)
        # a lens covers just when its circle is the sensor's diagonal
        covering = next(question for question in QUESTIONS if question.key == "covers")
        for circle, word in ((FULL * 1.001, "does:"), (FULL * 0.97, "does not:")):
            held = replace(USUAL, lens=replace(USUAL.lens, image_circle_mm=circle))
            self.assertIn(word, covering.answer(Conventions(), held))

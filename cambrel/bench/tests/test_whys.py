"""Why: every figure, flag and sentence of a bench opens what stands behind it, with this case's numbers, in place and as a page."""

import re
from dataclasses import replace
from html import unescape

from django.test import TestCase
from django.urls import reverse

from cambrel.bench.samples import home_bench
from cambrel.bench.whys import NO_LINE
from cambrel.briefs.samples import sample_briefs, with_brief
from cambrel.conventions.questions import OF_FIGURES
from cambrel.links import decode, encode
from cambrel.optics.comparison import compare
from cambrel.optics.verdicts import RESTS_ON, verdicts
from cambrel.optics.whys import LIMITS, WHYS

LINK = re.compile(r'<a class="term why"\s+href="([^"]+)"')


class WhyTests(TestCase):
    def why(self, bench=None, **asked):
        query = {"card": "1", **asked} | ({} if bench is None else {"b": encode(bench)})
        page = self.client.get(reverse("bench:why"), query)
        self.assertEqual(page.status_code, 200, asked)
        return unescape(page.content.decode()).replace("\xa0", " ")

    def test_it_shows_formula_numbers_what_is_kept_the_schools_and_the_limits(self):
        bench = home_bench()
        said = self.why(bench, of="total", rig="1")
        b = compare(bench.brief, bench.rigs, bench.hold, bench.conventions).of(1)
        for part in (
            "depth = far − near",
            f"{b.depth.far_m:.3f} − {b.depth.near_m:.3f}",
            bench.hold.sentence(),
            "diagonal / 1500, in force",
            LIMITS["eye"],
        ):
            self.assertIn(part, said)
        under = replace(bench.conventions, criterion="diagonal_1730")
        other = compare(bench.brief, bench.rigs, bench.hold, under).of(1)
        self.assertIn(f"By diagonal / 1730: B {100 * other.depth.total_m:.1f} cm", said)
        self.assertNotIn("A 2", said, "only what was asked about")

    def test_every_figure_and_every_convention_says_why(self):
        bench = with_brief(home_bench(), "night-mail")
        for key in [*WHYS, *NO_LINE]:
            with self.subTest(of=key):
                self.assertNotIn("nan", self.why(bench, of=key))
        for question in OF_FIGURES:
            with self.subTest(convention=question.key):
                self.assertIn(question.title, self.why(bench, convention=question.key))

    def test_every_verdict_says_on_what_it_rests(self):
        met = set()
        for slug in sample_briefs():
            bench = with_brief(home_bench(), slug)
            b = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
            for verdict in verdicts(b):
                self.assertIn(verdict.key, RESTS_ON)
                said = self.why(bench, verdict=verdict.key, rig=str(verdict.rigs[-1]) if verdict.rigs else "")
                met.add(verdict.key)
                for key in RESTS_ON[verdict.key]:
                    self.assertIn(WHYS[key].says, said)
        self.assertGreater(len(met), 12)
        self.assertTrue(all(set(keys) <= set(WHYS) for keys in RESTS_ON.values()))

    def test_everything_on_a_bench_that_is_a_figure_a_flag_or_a_sentence_leads_there(self):
        token = encode(with_brief(home_bench(), "night-mail"))
        for panel in ("depth", "frames", "light", "sharpness", "closeup", "stars", "steadiness", "numbers"):
            page = self.client.get("/", {"b": token, "panel": panel}).content.decode()
            links = [unescape(link) for link in LINK.findall(page)]
            self.assertGreater(len(links), 15)
            for link in dict.fromkeys(links):
                with self.subTest(panel=panel, link=link):
                    self.assertEqual(self.client.get(f"{link}&b={token}&card=1").status_code, 200)
                    self.assertContains(self.client.get(f"{link}&b={token}"), "The bench it stands on")

    def test_other_pages_open_it_with_their_own_case(self):
        pages = [
            self.client.get("/ask/", {"q": "25 f/1.4 mft"}),
            self.client.get(reverse("field:plan"), {"b": encode(home_bench())}),
            self.client.get(reverse("conventions:page")),
            self.client.get(reverse("formats:page")),
        ]
        for page in pages:
            links = [unescape(link) for link in LINK.findall(page.content.decode())]
            self.assertTrue(links, page.request["PATH_INFO"])
            for link in links[:6]:
                self.assertEqual(self.client.get(link + "&card=1").status_code, 200, link)
        (said,) = {
            self.why(decode(re.search(r"b=([\w-]+)", link)[1]), of="eq_focal", rig="1")
            for link in links_of(pages[0])[:1]
        }
        self.assertRegex(said, r"25 × 1\.999 / 1 = 50 mm")

    def test_what_cannot_be_explained_is_not_found(self):
        for query in (
            {"of": "nothing"},
            {"verdict": "nothing"},
            {"of": "total", "b": "broken"},
            {},
            {"verdict": "walk_same_spot"},
            {"convention": "x"},
        ):
            self.assertEqual(self.client.get(reverse("bench:why"), query).status_code, 404, query)
        self.assertEqual(self.client.get(reverse("bench:why"), {"of": "total", "rig": "99"}).status_code, 200)


def links_of(page):
    return [unescape(link) for link in LINK.findall(page.content.decode())]

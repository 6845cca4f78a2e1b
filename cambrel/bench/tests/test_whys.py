"""Why: every figure, flag and sentence of a bench opens what stands behind it, with this case's numbers, in place and
as a page.
"""

import re
from collections import Counter
from dataclasses import replace
from html import unescape
from urllib.parse import parse_qs, urlsplit

from django.test import TestCase, tag
from django.urls import reverse

from cambrel.bench.sample_benches import home_bench
from cambrel.bench.views.whys import NO_LINE
from cambrel.bench.views.whys import said as shown_as
from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.engine import compare
from cambrel.conventions.questions import OF_FIGURES
from cambrel.field.planning import SheetPlan
from cambrel.links.benches import decode, encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.models import Body, Lens
from cambrel.verdicts import RESTS_ON, SAYS, verdicts
from cambrel.verdicts.explanations import LIMITS, WHYS
from cambrel.wording import METRES

LINK = re.compile(r'<a class="term why"\s+href="([^"]+)"')


@tag("long")
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
        self.assertIn(f"diagonal / 1730: B {100 * other.depth.total_m:.1f} cm", said)
        self.assertNotIn("A 2", said, "only what was asked about")
        self.assertNotIn("<li>diagonal / 1500:", said, "the school in force is no other")

    def test_what_is_pressed_is_what_is_explained(self):
        """A headline figure, and a cell of a panel's table, read as the page of its why does."""
        bench = with_brief(home_bench(), "footplate-portrait")
        page = self.client.get("/", {"b": encode(bench)}).context["page"]
        comparison = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
        for plate in page.plates:
            rig = comparison.of(plate.index)
            shown = [figure.text for figure in plate.figures]
            self.assertEqual(shown[0].partition(" ")[0], shown_as("home_focal", comparison, rig, METRES))
            for figure in plate.figures[1:3]:
                self.assertEqual(figure.text, shown_as(figure.of, comparison, rig, METRES))
            if plate.index:
                self.assertEqual(shown[3], shown_as(plate.figures[3].of, comparison, rig, METRES))
        met = set()
        for panel in ("depth", "frames", "light", "sharpness", "closeup", "stars", "steadiness"):
            table = self.client.get("/", {"b": encode(bench), "panel": panel}).context["page"].panel["table"]
            for row in table.rows:
                for (head, of), cell in zip(table.heads, row.cells, strict=True):
                    self.assertTrue(of, f"{head} opens no why")
                    if of in WHYS and cell == shown_as(of, comparison, comparison.of(row.index), METRES):
                        met.add((head, row.index))
        read_alike = (
            "near",
            "far",
            "depth",
            "hyperfocal",
            "from the sensor mark",
            "blur at infinity",
            "500 rule",
            "300 rule",
            "exact, in the middle",
            "exact, worst edge",
        )
        for head in (*read_alike, "signal to noise, picture", "weight"):
            self.assertIn((head, 1), met)

    def test_every_figure_and_every_convention_says_why(self):
        bench = with_brief(home_bench(), "night-mail")
        for key in [*WHYS, *NO_LINE]:
            with self.subTest(of=key):
                self.assertNotIn("nan", self.why(bench, of=key))
        for question in OF_FIGURES:
            with self.subTest(convention=question.key):
                self.assertIn(question.title, self.why(bench, convention=question.key))

    def test_every_verdict_says_on_what_it_rests(self):
        met = Counter()
        for slug in sample_briefs():
            bench = with_brief(home_bench(), slug)
            b = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
            for verdict in verdicts(b):
                self.assertIn(verdict.key, RESTS_ON)
                met[verdict.key] += 1
                if met[verdict.key] > 2:
                    continue  # the same why, of other figures
                said = self.why(bench, verdict=verdict.key, rig=str(verdict.rigs[-1]) if verdict.rigs else "")
                self.assertIn(SAYS.get(verdict.key, ""), said)
                for key in RESTS_ON[verdict.key]:
                    self.assertIn(WHYS[key].says, said)
        self.assertGreater(len(met), 12)
        self.assertTrue(all(keys or SAYS[key] for key, keys in RESTS_ON.items()), "a sentence without a why")
        self.assertTrue(all(set(keys) <= set(WHYS) for keys in RESTS_ON.values()))

    def test_everything_on_a_bench_that_is_a_figure_a_flag_or_a_sentence_leads_there(self):
        token, found = encode(with_brief(home_bench(), "night-mail")), {}
        for panel in ("depth", "frames", "light", "sharpness", "closeup", "stars", "steadiness", "numbers"):
            links = links_of(self.client.get("/", {"b": token, "panel": panel}))
            self.assertGreater(len(links), 15)
            found |= dict.fromkeys(links)
        for link in found:
            with self.subTest(link=link):
                self.assertEqual(self.client.get(f"{link}&b={token}&card=1").status_code, 200)
        self.assertContains(self.client.get(f"{link}&b={token}"), "The bench it stands on")

    def test_other_pages_open_it_with_their_own_case(self):
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        Lens.objects.create(owner=owner, name="L", mount="M", focal_min_mm=50, focal_max_mm=50)
        pages = [
            self.client.get("/ask/", {"q": "25 f/1.4 mft"}),
            self.client.get(reverse("field:plan"), {"b": encode(home_bench())}),
            self.client.get(reverse("conventions:page")),
            self.client.get(reverse("formats:page")),
            self.client.get(reverse("shelf:reader")),
            self.client.get(reverse("shelf:list", args=["lenses"])),
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

    def test_a_shot_of_a_sheet_is_explained_at_the_settings_it_is_taken_at(self):
        plan = SheetPlan(home_bench(), ("depth", "diffraction", "noise", "blur", "framing"))
        for shot in plan.shots:
            line = plan.line(shot)
            rig = decode(parse_qs(urlsplit(line.bench).query)["b"][0]).rigs[shot.rig]
            with self.subTest(shot=shot.key):
                self.assertEqual(
                    (rig.f_number * rig.converter, rig.shutter_s, rig.iso), (shot.f_number, shot.shutter_s, shot.iso)
                )
                self.assertIn(f"rig={shot.rig}", line.why)

    def test_a_shot_of_cameras_at_their_best_is_explained_as_it_is_taken(self):
        best = replace(home_bench(), hold=replace(home_bench().hold, is_best=True))
        plan = SheetPlan(best, ("noise",))
        for shot in plan.shots:
            b = decode(parse_qs(urlsplit(plan.line(shot).bench).query)["b"][0])
            rig = compare(b.brief, b.rigs, b.hold, b.conventions, b.reference).of(shot.rig).settings
            self.assertEqual(
                (rig.f_number, rig.shutter_s, rig.iso), (shot.f_number, shot.shutter_s, shot.iso), shot.key
            )

    def test_the_cover_of_a_lens_is_explained_as_it_is_far_away(self):
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        body = Body.objects.create(owner=owner, name="B", mount="M", width_mm=36, height_mm=24)
        lens = Lens.objects.create(
            owner=owner, name="L", mount="M", focal_min_mm=50, focal_max_mm=50, image_circle_mm=40
        )
        page = self.client.get(reverse("match:fit"), {"lens": lens.pk, "body": body.pk})
        link, equivalent = links_of(page)
        self.assertIn("of=home_focal", equivalent)
        self.assertEqual(self.client.get(equivalent + "&card=1").status_code, 200)
        self.assertRegex(
            unescape(self.client.get(link + "&card=1").content.decode()), r"40 × \(1 \+ 0\) / 43\.27 = 92\.?4?"
        )

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

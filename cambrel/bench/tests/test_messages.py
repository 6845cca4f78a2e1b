"""Nothing that the application has to say is lost on the way to the page; the Numbers hold every figure in the order
asked for.
"""

import csv
import io
import re
from dataclasses import replace
from html import unescape
from math import inf, isnan

from django.test import TestCase, tag

from cambrel.bench.forms import RigForm
from cambrel.bench.panels.numbers import numbers_csv, ordered
from cambrel.bench.sample_benches import home_bench, sensor_of
from cambrel.comparison.bench import Slot
from cambrel.comparison.brief import Hold
from cambrel.comparison.engine import Body, Lens, Rig, compare
from cambrel.comparison.hold_answers import QUESTIONS
from cambrel.comparison.lines import LINES
from cambrel.links.benches import encode


def compared(bench):
    return compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)


class MessageTests(TestCase):
    def said(self, page, name):
        found = re.search(rf'id="err-{re.escape(name)}"[^>]*>(.*?)</p>', page.content.decode(), re.DOTALL)
        return unescape(found[1]).strip() if found else None

    @tag("long")
    def test_every_field_shows_its_own_message_and_no_other(self):
        page = self.client.get("/")
        fields = set(re.findall(r'id="err-([^"]+)"', page.content.decode())) - {"bench"}
        self.assertGreaterEqual(len(fields), 12 + 3 * len(RigForm.base_fields) - 3)
        for name in sorted(fields):
            with self.subTest(name=name):
                page = self.client.get("/", {name: "perhaps"})
                self.assertEqual(page.status_code, 422)
                said = self.said(page, name)
                self.assertTrue("“perhaps” is not a" in said or said == "Choose one of the answers offered.", said)
                others = [other for other in fields - {name} if self.said(page, other)]
                self.assertEqual(others, [])

    def test_a_press_that_cannot_be_carried_out_says_why_without_a_script_too(self):
        self.assertEqual(
            self.said(self.client.get("/", {"action": "explode"}), "bench"),
            "This button is from an older page. Load the page again.",
        )

    def test_what_follows_waits_or_is_held_is_shown(self):
        for query in (
            {},
            {"hold-lens": "same"},
            {"rigs-2-f_number": "1.7", "brief-light_ev": "15"},
            {"hold-exposure": "own", "rigs-1-iso": "50"},
        ):
            page = self.client.get("/", query)
            text = unescape(page.content.decode())
            for plate in page.context["page"].plates:
                parts = [
                    plate.lens_note,
                    *(flag for flag, _ in plate.flags),
                    *(p for s in plate.settings for p in (s.limit, s.nearest, s.follows)),
                ]
                parts += [plate.status, plate.status_text, plate.summary, plate.meter, plate.rest]
                for part in filter(None, parts):
                    with self.subTest(query=query, part=part):
                        self.assertIn(f">{part}<", re.sub(r"\s*(<[^>]*>)\s*", r"\1", text).replace("</b> ", "</b>"))
        texts = " ".join(
            p for plate in self.client.get("/", {"hold-lens": "same"}).context["page"].plates for p in [plate.lens_note]
        )
        self.assertTrue(texts.strip(), "a lens waits")

    def test_what_is_kept_the_same_is_named_and_nothing_else(self):
        own = {f"hold-{question}": "own" for question in QUESTIONS}
        best = replace(home_bench(), hold=Hold(is_best=True))
        for query, lead, folded in (
            (own, "Nothing kept the same:", "Nothing kept the same"),
            (own | {"hold-place": "walk"}, "Kept the same:", "Kept the same: same framing"),
            ({"b": encode(best)}, "Kept the same:", "Each at its best"),
            (
                {"hold-lens": "same", "hold-place": "spot", "hold-aperture": "depth", "hold-exposure": "iso"},
                "Kept the same:",
                "Kept the same: same lens, same spot, same depth, same ISO",
            ),
        ):
            with self.subTest(query=query):
                page = self.client.get("/", query)
                self.assertContains(page, f'id="word-lead">{lead}<')
                self.assertEqual(page.context["page"].folded[1], folded)


class NumbersTests(TestCase):
    def bench(self):
        home = home_bench()
        unknown = Slot(Rig(Body(sensor_of("aps-c")), Lens(), 33, 4), "Unknown", "any lens")
        return replace(home, slots=(unknown, *home.slots), reference=1)

    def test_rigs_are_ordered_both_ways_with_the_unknown_last(self):
        comparison = compared(self.bench())
        for row in LINES.values():
            values = [row.read(comparison.of(i)) for i in range(4)]
            for sort, sign in ((row.key, 1), ("-" + row.key, -1)):
                with self.subTest(sort=sort):
                    got = [row.read(rig) for rig in ordered(comparison, sort)]
                    known = [value for value in got if not isnan(value)]
                    self.assertEqual(known, sorted(known, key=lambda value, sign=sign: sign * value))
                    self.assertEqual(len(got), len(values))
                    self.assertTrue(all(isnan(value) for value in got[len(known) :]))
        self.assertTrue(isnan(comparison.of(0).outfit.weight_g), "one of them is unknown")
        self.assertEqual([rig.index for rig in ordered(comparison, "nothing")], [0, 1, 2, 3])

    def test_every_figure_goes_out_with_its_value_unknown_empty_and_infinity_as_such(self):
        bench = self.bench()
        bench = replace(bench, brief=replace(bench.brief, distance_m=400.0))
        comparison = compared(bench)
        rows = list(csv.reader(io.StringIO(numbers_csv(bench, comparison))))[1:]
        self.assertEqual(len(rows), len(LINES.values()))
        met = set()
        for row, line in zip(LINES.values(), rows, strict=True):
            for index in range(4):
                value, cell = row.read(comparison.of(index)), line[3 + index]
                met |= {"unknown"} if isnan(value) else {"endless"} if value == inf else set()
                self.assertEqual(cell, "" if isnan(value) else repr(float(value)), row.key)
        self.assertEqual(met, {"unknown", "endless"})

    def test_the_page_shows_the_same_order(self):
        page = self.client.get("/", {"b": encode(self.bench()), "panel": "numbers", "sort": "-area"})
        heads = page.context["page"].panel["numbers"].heads
        self.assertEqual([letter for _, letter, _ in heads], ["B", "A", "C", "D"])

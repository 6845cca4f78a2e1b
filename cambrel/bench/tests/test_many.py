"""Three cameras and more on one bench: ranked, any two against each other, their numbers ordered."""

import re
from dataclasses import replace

from django.test import TestCase

from cambrel.bench.sample_benches import home_bench
from cambrel.links.benches import encode

HTMX = {"HTTP_HX_REQUEST": "true"}


class ManyTests(TestCase):
    """Three cameras and more: rankings, any two by their letters, and the first of what is ordered."""

    def test_the_best_leads_and_every_sentence_says_why(self):
        page = self.client.get("/", {"b": encode(home_bench())})
        said = page.context["page"].verdicts
        self.assertLessEqual(len(said), 12)
        self.assertTrue(said[0][1].startswith("A is best for this picture"))
        for key, text, rig in said:
            with self.subTest(key):
                why = self.client.get("/why/", {"b": encode(home_bench()), "verdict": key, "rig": rig})
                self.assertContains(why, text.split(":")[0].split("“")[0])

    def test_any_two_are_set_against_each_other_and_the_pair_stays_in_the_link(self):
        token = encode(home_bench())
        page = self.client.get("/", {"b": token, "action": "pair:2"})
        self.assertIn("pair=2", page["Location"])
        self.assertTrue(self.client.get(page["Location"]).context["page"].verdicts[0][0], "best_of_all")
        page = self.client.get("/", {"b": token, "pair": "2", "action": "pair:1"})
        self.assertIn("pair=21", page["Location"])
        shown = self.client.get(page["Location"])
        for key, _text, rig in shown.context["page"].verdicts:
            self.assertIn(rig, (1, 2))
            why = self.client.get("/why/", {"b": token, "verdict": key, "rig": rig, "pair": "21"})
            self.assertEqual(why.status_code, 200, key)
        self.assertNotIn("A", [word.strip(",.:") for word in shown.context["page"].verdicts[0][1].split()])
        page = self.client.get("/", {"b": token, "pair": "21", "action": "pair:0"})
        self.assertIn("pair=10", page["Location"])
        page = self.client.get("/", {"b": token, "pair": "21", "action": "pair:2"})
        self.assertIn("pair=1", page["Location"])
        for odd in ("99", "x", "2222", "21" * 40, "-1"):
            self.assertEqual(self.client.get("/", {"b": token, "pair": odd}).status_code, 200, odd)
        two = replace(home_bench(), slots=home_bench().slots[:2])
        self.assertNotContains(self.client.get("/", {"b": encode(two)}), 'class="pairing"')

    def test_the_first_of_what_is_ordered_is_marked(self):
        page = self.client.get("/", {"b": encode(home_bench()), "panel": "numbers", "sort": "weight"}).content.decode()
        self.assertEqual(re.findall(r'class="winner">([^<]*)<', page), ["211\u00a0g"])
        page = self.client.get("/", {"b": encode(home_bench()), "panel": "numbers", "sort": "-total"}).content.decode()
        self.assertEqual(re.findall(r'class="winner">([^<]*)<', page), ["3.37\u00a0m"])
        page = self.client.get("/", {"b": encode(home_bench()), "panel": "numbers"}).content.decode()
        self.assertNotIn("winner", page)

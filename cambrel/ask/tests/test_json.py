"""The answers as JSON: by their schema, for any site, and by nothing of who asks."""

import json
from urllib.parse import parse_qs, urlsplit

from django.conf import settings
from django.test import TestCase
from jsonschema import Draft202012Validator

from cambrel.ask.tests.table import NOT_ANSWERED, TABLE
from cambrel.ask.tests.test_table import ways
from cambrel.bench.panels.numbers import numbers_csv
from cambrel.comparison.engine import compare
from cambrel.links.benches import decode, encode
from cambrel.owners.models import User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.systems import USUAL


def schema(name):
    return Draft202012Validator(json.loads((settings.ROOT / "docs" / f"{name}.schema.json").read_text()))


class AskJsonTests(TestCase):
    def asked(self, text, **more):
        return self.client.get("/ask.json", {"q": text, **more})

    def test_every_answer_and_every_refusal_keeps_the_schema(self):
        check = schema("ask")
        for text in (*(ways(written)[0][0] for *_, written in TABLE), *NOT_ANSWERED):
            with self.subTest(text):
                answer = self.asked(text)
                self.assertEqual(answer.status_code, 200)
                check.validate(answer.json())
                self.assertEqual(answer["Access-Control-Allow-Origin"], "*")

    def test_figures_working_and_roles(self):
        self.assertEqual(self.client.get(self.asked("dof 85 1.8 ff 2m").json()["link"]).status_code, 200)
        found = self.asked("dof 85 1.8 ff 2m").json()
        self.assertEqual(
            [(one["text"], one["role"], one["values"]) for one in found["reading"]["understood"]],
            [("85", "focal", [85.0]), ("1.8", "f_number", [1.8]), ("2m", "distance", [2.0])],
        )
        self.assertEqual(found["reading"]["kind"], "depth")
        (depth,) = (one for one in found["figures"] if one["name"] == "depth of field")
        self.assertAlmostEqual(depth["value"], 0.05506, delta=1e-4)
        self.assertEqual((depth["unit"], depth["shown"]), ("m", "5.51 cm"))
        self.assertIn("85² / (1.8 ×", found["working"][0]["numbers"])
        self.assertIn("in", self.asked("dof 85 1.8 ff 2m", units="ft").json()["answer"])
        endless = self.asked("dof 24 f/8 ff at 5 m").json()["figures"]
        self.assertEqual([one["value"] for one in endless if one["name"] == "far limit"], [None])
        misspelt = self.asked("hyperfcal 24 mm f/8").json()["reading"]
        self.assertEqual(misspelt["spelt"], [{"text": "hyperfcal", "read_as": "hyperfocal"}])

    def test_conventions_are_those_that_are_given_and_never_the_readers(self):
        by_width = self.asked("25 f/1.4 mft", crop_by="width").json()["figures"][0]["value"]
        self.assertAlmostEqual(by_width, 25 * 36 / 17.3, places=6)
        self.client.get("/")
        load_demo(User.objects.get(username="local"))
        self.client.post("/conventions/", {"crop_by": "width"})
        self.assertAlmostEqual(self.asked("25 f/1.4 mft").json()["figures"][0]["value"], 50, delta=0.1)
        home = self.asked("25 f/1.4 mft", home="aps-c").json()["figures"][0]["name"]
        self.assertEqual(home, "focal length there")

    def test_what_is_asked_wrongly_is_refused_in_words(self):
        for given in (
            {},
            {"q": ""},
            {"q": "5" * 201},
            {"q": "50 mm", "units": "mile"},
            {"q": "50 mm", "crop_by": "x"},
            {"q": "50 mm", "home": "x"},
        ):
            with self.subTest(given):
                answer = self.client.get("/ask.json", given)
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(answer.json()["problem"])
        self.assertEqual(self.client.post("/ask.json").status_code, 405)


class NumbersJsonTests(TestCase):
    def test_the_numbers_of_a_bench_are_those_of_its_table(self):
        from cambrel.ask.common_questions import QUESTIONS

        bench = QUESTIONS[0].on(USUAL)
        found = self.client.get("/numbers.json", {"b": encode(bench)})
        schema("numbers").validate(found.json())
        self.assertEqual(found["Access-Control-Allow-Origin"], "*")
        rows = numbers_csv(
            bench, compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
        ).splitlines()
        self.assertEqual(len(found.json()["figures"]), len(rows) - 1)
        (view,) = (
            one for one in found.json()["figures"] if one["name"] == "Crop factor" or one["name"] == "crop factor"
        )
        self.assertAlmostEqual(view["values"][1] / view["values"][0], 2, delta=0.01)
        link = urlsplit(found.json()["link"])
        self.assertEqual(decode(parse_qs(link.query)["b"][0]), bench)
        self.assertEqual(self.client.get("/numbers.json", {"b": "nonsense"}).status_code, 400)

"""One name, one meaning in the whole house: of classes, and of modules beyond the topics by which several kinds of
rooms are named.
"""

import ast
from collections import defaultdict
from pathlib import Path
from unittest import TestCase

from cambrel.site.tests.spoken import code_of

HOUSE = Path(__file__).resolve().parents[2]
EVERY_APPLICATION = {"__init__", "apps", "forms", "models", "section", "urls", "views"}
"""Modules by which every application is laid out."""
TOPICS = {
    "bench", "card", "closeup", "depth", "figures", "film", "fit", "formats", "frames", "habits", "kits", "light",
    "proofs", "race", "scene",
    "schools", "sharpness", "stars", "steadiness", "takings", "walk",
}  # fmt: skip
"""Words of the work: a room of formulas, of drawings, of panels and of handlers may each be named after one, as it is
about the same thing.
"""
RECORDS = {"Adapter", "Body", "Lens", "Support"}
"""What a shelf keeps is named as what is compared: the record of the thing, and the thing."""
INNER = {"Meta", "Command"}


def modules():
    for path in HOUSE.rglob("*.py"):
        if not {"tests", "migrations", "commands"} & set(path.parts):
            yield path


def named_twice(names, allowed):
    return {name: where for name, where in names.items() if len(where) > 1 and name not in allowed}


class HouseNameTests(TestCase):
    def test_no_class_is_named_as_another(self):
        names = defaultdict(list)
        for path in modules():
            for node in ast.walk(code_of(path)):
                if isinstance(node, ast.ClassDef) and node.name not in INNER:
                    names[node.name].append(str(path.relative_to(HOUSE)))
        self.assertEqual(named_twice(names, RECORDS), {})

    def test_no_module_is_named_as_another(self):
        names = defaultdict(list)
        for path in modules():
            names[path.stem].append(str(path.relative_to(HOUSE)))
        self.assertEqual(named_twice(names, EVERY_APPLICATION | TOPICS), {})

    def test_nothing_is_allowed_that_is_not_there(self):
        stems = [path.stem for path in modules()]
        self.assertEqual({name for name in TOPICS if stems.count(name) < 2}, set())

    def test_no_package_is_a_loose_module(self):
        self.assertEqual([path.name for path in HOUSE.glob("*.py")], ["__init__.py"])

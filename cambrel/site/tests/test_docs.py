"""What the documents say of the house is so: every room, every school, every target and file that they name."""

import ast
import re
import tomllib
from pathlib import Path
from unittest import TestCase

from cambrel.comparison.brief import SCHOOLS, Conventions
from cambrel.site.tests.spoken import code_of

ROOT = Path(__file__).resolve().parents[3]
PURE = (
    "optics", "wording", "bounds", "comparison", "phrases", "verdicts", "decisions", "trials", "drills", "links",
    "drawings", "scenes",
)  # fmt: skip
DOCS = [*sorted((ROOT / "docs").glob("*.md")), ROOT / "README.md", ROOT / "CONTRIBUTING.md"]


class DocsTests(TestCase):
    def test_the_house_in_the_readme_lists_every_room(self):
        text = (ROOT / "README.md").read_text()
        rooms = {path.name for path in (ROOT / "cambrel").iterdir() if (path / "__init__.py").exists()} - {"tests"}
        self.assertEqual({room for room in rooms if f"`{room}/`" not in text}, set())
        guide = (ROOT / "docs" / "carrying-on.md").read_text()
        self.assertEqual({room for room in rooms if f"{room}/" not in guide}, set())

    def test_the_table_of_schools_is_that_of_the_core(self):
        text = (ROOT / "docs" / "computation.md").read_text()
        rows = [
            line.strip("|").split("|")
            for line in text.split("| question | schools |")[1].split("\n\n")[0].split("\n")[2:]
        ]
        said = {(row[1].strip(), row[2].strip()) for row in rows}
        usual = Conventions()
        core = {
            (", ".join(school.label for school in schools.values()), schools[getattr(usual, question)].label)
            for question, schools in SCHOOLS.items()
        }
        self.assertEqual(said, core)

    def test_every_file_that_is_named_is_there(self):
        for path in DOCS:
            for name in re.findall(r"`((?:[\w-]+/)+[\w.-]+\.(?:py|json|js|css|html|toml))`", path.read_text()):
                with self.subTest(document=path.name, name=name):
                    there = any((base / name).exists() for base in (ROOT, ROOT / "cambrel", ROOT / "cambrel" / "tests"))
                    self.assertTrue(there or list(ROOT.glob(f"cambrel/*/{name}")), "it is not there")

    def test_every_target_that_is_named_is_there(self):
        targets = set(re.findall(r"^([a-z-]+):", (ROOT / "Makefile").read_text(), re.MULTILINE))
        for path in DOCS:
            for name in re.findall(r"`make ([a-z-]+)", path.read_text()):
                self.assertIn(name, targets, path.name)

    def test_tables_have_as_many_cells_in_every_row(self):
        for path in DOCS:
            width = None
            for number, line in enumerate(path.read_text().split("\n"), start=1):
                cells = len(re.split(r"(?<!\\)\|", line)) if line.startswith("|") else None
                if cells is not None and width is not None:
                    self.assertEqual(cells, width, f"{path.name}:{number}")
                width = cells

    def test_public_functions_of_the_pure_rooms_say_what_they_are_and_return(self):
        for path in (path for room in PURE for path in (ROOT / "cambrel" / room).rglob("*.py")):
            if "tests" in path.parts:
                continue
            for node in code_of(path).body:
                if not isinstance(node, ast.FunctionDef) or node.name.startswith("_"):
                    continue
                said = ast.get_docstring(node) or ""
                # those of one signature, whose table says what they take: rules, answers of drills, terms of workings
                takes = [ast.unparse(arg.annotation) for arg in node.args.args if arg.annotation]
                alike = takes[:1] == ["Given"] or ast.unparse(node.returns) in {"Term", "Working | None"}
                alike = alike or path.match("verdicts/*.py") or path.match("verdicts/explanations/panel_figures.py")
                alike = alike or ast.unparse(node.returns) == "None"
                overload = any(ast.unparse(one) == "overload" for one in node.decorator_list)
                with self.subTest(file=str(path.relative_to(ROOT)), function=node.name):
                    self.assertTrue(overload or (said and (alike or "Returns" in said)))

    def test_every_error_to_plant_has_its_place(self):
        for path in (ROOT / "scripts" / "planted").glob("*.toml"):
            for edit in tomllib.loads(path.read_text())["edit"]:
                with self.subTest(list=path.name, was=edit["was"]):
                    self.assertEqual((ROOT / edit["file"]).read_text().count(edit["was"]), 1)

"""The words of the screens: what a photographer would stop at stands nowhere, in no template and in no sentence of the
code.
"""

import ast
import re
from pathlib import Path
from unittest import TestCase

from cambrel.site.tests.spoken import code_of

HOUSE = Path(__file__).parents[2]
NOT_ON_SCREEN = {
    r"\brigs?\b": "the letter, or camera",
    r"\bbriefs?\b": "picture",
    r"\blight in all\b": "light in the whole picture",
    r"\bexposes? as\b": "exposes like",
    r"\blying\b|\bupright\b": "landscape, portrait",
    r"\bporthole\b": "black around the picture",
    r"\bput(s|ting)? aside\b": "forget",
    r"\bin its currency\b": "name the currency",
    r"\bS/N\b": "signal to noise",
    r"\befficient\b": "nothing lighter does better",
    r"\b(held|hold|holds) the same\b": "kept the same",
    r"\b(bring in a|take out a) file\b": "import, export",
    r"\bverdicts?\b": "the sentence itself",
}
SEEN = re.compile(r'\b(?:title|alt|aria-label|placeholder|label)="([^"]*)"')


def template_text(source):
    """What of a template is read on the screen: its text, and the attributes that are read out or shown."""
    source = re.sub(r"{#.*?#}|{% comment.*?endcomment %}", " ", source, flags=re.DOTALL)
    source = re.sub(r"<(script|style)\b.*?</\1>", " ", source, flags=re.DOTALL)
    said = " ".join(SEEN.findall(source))
    literals = " ".join(re.findall(r'{%[^%]*?label="([^"]*)"', source))
    text = re.sub(r"{%.*?%}|{{.*?}}", " ", re.sub(r"<[^>]*>", " ", re.sub(r"{%.*?%}|{{.*?}}", " ", source)))
    return re.sub(r"{%.*?%}|{{.*?}}", " ", f"{text} {said} {literals}")


def sentences(tree):
    """Texts of three words and more that are no docstring."""
    docs = {
        id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
    }
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            text = "".join(part.value if isinstance(part, ast.Constant) else " … " for part in node.values)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in docs:
            text = node.value
        else:
            continue
        if len(re.findall(r"[A-Za-z]{2,}", text)) >= 3 and " " in text:
            yield re.sub(r"\{\w+\}", "…", text)


class WordTests(TestCase):
    def check(self, path, text):
        for pattern, instead in NOT_ON_SCREEN.items():
            found = re.search(pattern, text, re.IGNORECASE)
            if found:
                around = " ".join(text[max(0, found.start() - 40) : found.end() + 40].split())
                with self.subTest(path=str(path.relative_to(HOUSE)), word=found[0]):
                    self.fail(f"“{around}”: say {instead}")

    def test_templates(self):
        paths = [path for path in HOUSE.rglob("*.html") if "templates" in path.parts]
        self.assertGreater(len(paths), 80)
        for path in paths:
            self.check(path, template_text(path.read_text()))

    def test_sentences_of_the_code(self):
        for path in HOUSE.rglob("*.py"):
            if not {"tests", "migrations"} & set(path.parts):
                for text in sentences(code_of(path)):
                    self.check(path, text)

    def test_the_reader_of_this_test_reads(self):
        self.assertIn("brief", template_text('{% if a %}<p title="the brief">x</p>{% endif %}'))
        self.assertNotIn("brief", template_text('{# brief #}{% if brief %}<p class="brief">{{ brief }}</p>{% endif %}'))
        code = ast.parse('"""A rig is here."""\nx = f"the rig of {a}"')
        self.assertEqual(set(sentences(code)), {"the rig of  … ", "the rig of "})

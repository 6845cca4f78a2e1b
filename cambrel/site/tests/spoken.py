"""All that the house says: sentences and labels from Python, templates, scripts, JSON and documents, with their
places.
"""

import ast
import json
import re
from functools import lru_cache
from pathlib import Path

ROOT = Path(__file__).resolve().parents[3]
HOUSE = ROOT / "cambrel"
GAP = "…"
"""In the place of what is put in."""
TAG = re.compile(r"<(script|style|svg|code|pre|kbd)\b.*?</\1>|<[^>]*>", re.DOTALL)
SAID_IN = re.compile(r"""\b(?:title|aria-label|placeholder|alt)=(["'])(.*?)\1""", re.DOTALL)
TEMPLATE = re.compile(r"\{#.*?#\}|\{% comment.*?endcomment %\}", re.DOTALL)
PUT_IN = re.compile(r"\{\{.*?\}\}|\{%\s*(?:url|static|why_of|why_said|figure_of|count)\b.*?%\}", re.DOTALL)
LITERAL = re.compile(r'"(?:[^"\\\n]|\\.)*"|\'(?:[^\'\\\n]|\\.)*\'|`(?:[^`\\]|\\.)*`')
CODE = re.compile(r"[<>={}\\|]|;\S|;$|::|\bSELECT\b|https?:|^[\w./:#*\[\]()-]+$|^\s*--|\bhx-|\(\?")


def _is_said(text):
    """Whether a string is something that is read: words with spaces between them."""
    return len(re.findall(r"[A-Za-z]{2,}", text)) >= 2 and " " in text.strip() and not CODE.search(text)


def _filled(text):
    return re.sub(r"\{[^{}]*\}", GAP, text)


def _joined(node):
    """A string of Python with gaps for what is put in, or None for what is none."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return _filled(node.value)
    if isinstance(node, ast.JoinedStr):
        return "".join(_filled(part.value) if isinstance(part, ast.Constant) else GAP for part in node.values)
    return None


def of_python(path):
    tree = code_of(path)
    skipped = set()
    for node in ast.walk(tree):
        body = getattr(node, "body", None)
        for statement in body if isinstance(body, list) else ():
            if isinstance(statement, ast.Expr) and isinstance(statement.value, ast.Constant):
                skipped.add(id(statement.value))
        if isinstance(node, ast.JoinedStr):
            skipped |= {id(part) for part in node.values}
        if isinstance(node, ast.Call) and getattr(node.func, "attr", "") in ("compile", "add_argument", "RunSQL"):
            skipped |= {id(part) for part in ast.walk(node)} - {id(node)}
    for node in ast.walk(tree):
        text = None if id(node) in skipped else _joined(node)
        if text and _is_said(text):
            yield node.lineno, text


def of_template(path):
    text = TEMPLATE.sub(" ", path.read_text())
    for match in SAID_IN.finditer(text):
        yield 0, _plain(match[2])
    text = re.sub(r"</?(?:b|i|em|strong|small|span|a|sup|sub|abbr|q|output|kbd|label)\b[^>]*>", "", text)
    for part in TAG.sub("\n", text).split("\n"):
        yield 0, _plain(part)


def _plain(text):
    text = PUT_IN.sub(GAP, text)
    return " ".join(re.sub(r"\{%.*?%\}", " ", text, flags=re.DOTALL).replace("&nbsp;", " ").split())


def of_script(path):
    text = re.sub(r"^\s*//.*$|/\*.*?\*/", "", path.read_text(), flags=re.MULTILINE | re.DOTALL)
    for match in LITERAL.finditer(text):
        yield text[: match.start()].count("\n") + 1, re.sub(r"\$\{[^{}]*\}", GAP, match[0][1:-1])


def of_json(path):
    def walk(value):
        if isinstance(value, dict):
            for key, inner in value.items():
                if key in (
                    "says",
                    "note",
                    "name",
                    "term",
                    "title",
                    "help",
                    "label",
                    "disputed",
                    "description",
                ) or not isinstance(inner, str):
                    yield from walk(inner)
        elif isinstance(value, list):
            for inner in value:
                yield from walk(inner)
        elif isinstance(value, str):
            yield value

    for text in walk(json.loads(path.read_text())):
        yield 0, text


@lru_cache(maxsize=2000)
def code_of(path):
    """A file of code as Python reads it, once for all tests of a process."""
    return ast.parse(path.read_text())


def _files(pattern):
    for path in sorted(HOUSE.glob(pattern)):
        if not {"tests", "migrations", "vendor", "management"} & set(path.parts):
            yield path


def everything():
    """(place, text) of all that is read on the screen."""
    for pattern, read in (
        ("**/*.py", of_python),
        ("**/templates/**/*.html", of_template),
        ("**/static/**/*.js", of_script),
        ("**/*.json", of_json),
    ):
        for path in _files(pattern):
            for line, text in read(path):
                if read is of_python or _is_said(text) or (read is of_template and text.isalpha()):
                    yield f"{path.relative_to(ROOT)}:{line}", text

"""Everything that is said is said as `wording/lexicon.toml` has it: plain words, short sentences, the words for a state
and a button.
"""

import re
import tomllib
from unittest import TestCase

from cambrel.comparison.status import Status
from cambrel.match.rows import WORDS
from cambrel.site.tests.spoken import HOUSE, everything
from cambrel.trials.outcomes import Outcome
from cambrel.trials.proofs import OUTCOMES

LEXICON = tomllib.loads((HOUSE / "wording" / "lexicon.toml").read_text())
READ_ONLY = ("phrases/lexicon.py", "shelf/intake/headings.json", "phrases/words.py")
"""What a reader may write, in words of their own."""
LEGEND = "·"
LISTS = (
    "shelf/shelf_sections.py",
    "shelf/resolution.py",
    "shelf/table.py",
    "field/section.py",
    "learn/section.py",
    "bench/section.py",
    "briefs/section.py",
)
"""Sections of a schema: a field, a colon, and what it means."""


def said():
    for place, text in everything():
        if not any(path in place for path in READ_ONLY):
            yield place, text


def sentences(text):
    return [part for part in re.split(r"(?<=[.?!])\s+|\s·\s", text) if part]


def out_words(text):
    """What of a text is out, with what to say instead."""
    for word in LEXICON["out"]:
        kept = re.sub(word["but"], " ", text) if "but" in word else text
        if match := re.search(word["pattern"], kept):
            yield f"“{match[0]}”: say {word['say']}"
    for preferred, others in LEXICON["prefer"].items():
        yield from (f"“{other}”: say {preferred}" for other in others if other in text)


def wrong_article(text):
    articles = LEXICON["articles"]
    for match in re.finditer(r"(?<![\w-])(a|an|An) ([\w/]+)", text):
        sounds_open = bool(re.match(articles["an_before"], match[2])) and not re.match(articles["a_before"], match[2])
        if (match[1].lower() == "an") != sounds_open:
            yield match[0]


def spliced(sentence):
    """Two sentences that a comma holds together: each with a subject and a verb, and nothing that joins them."""
    verb = r"(?:is|are|was|were|has|have|can|does|do|will|stays?|needs?|shows?)"
    match = re.match(rf"(?:[A-Z…][^,:;]*?) {verb}\b[^,:;]*, (?:it|they|this|these|he|she|you) {verb}\b", sentence)
    return match and not re.search(LEXICON["splice"]["joins"], sentence.partition(" ")[0].lower())


class LexiconTests(TestCase):
    def test_the_house_speaks_plainly(self):
        count = 0
        for place, text in said():
            count += 1
            with self.subTest(place=place, text=text[:160]):
                self.assertEqual(list(out_words(text)), [])
                self.assertEqual(list(wrong_article(text)), [])
                for sentence in sentences(text):
                    self.assertLessEqual(len(sentence.split()), LEXICON["most_words"], sentence)
                    if LEGEND not in text and not any(path in place for path in LISTS):
                        colons = len(re.findall(r":(?= (?!…))", sentence))
                        self.assertLessEqual(colons, LEXICON["most_colons"], sentence)
                    self.assertFalse(spliced(sentence), sentence)
        self.assertGreater(count, 3000)

    def test_what_is_out_is_heard(self):
        """The rules themselves: each on a sentence that breaks it, and on one that does not."""
        for bad in (
            "The light goes by its square.", "The hand binds.", "7.4 mm dissolves.", "f/23 would do.",
            "B and A collect level light.", "A makes this picture as set.", "There is no such camera.",
            "That is no number.", "It turns 6 % of them.", "What must be had.", "Firm: A leads, whatever of this was.",
            "It has the DoF of f/2.",
        ):  # fmt: skip
            self.assertTrue(list(out_words(bad)), bad)
        for good in (
            "The camera is held level.",
            "It depends on the light.",
            "Turn it a little.",
            "A can take this picture.",
        ):
            self.assertEqual(list(out_words(good)), [], good)
        for bad in ("a 8 mm lens", "an one-inch sensor", "a aperture", "an lens", "a f/2 lens"):
            self.assertTrue(list(wrong_article(bad)), bad)
        for good in ("an 8 mm lens", "a one-inch sensor", "an f/2 lens", "a usual lens", "an hour"):
            self.assertEqual(list(wrong_article(good)), [], good)
        self.assertTrue(spliced("The lens is sharp, it has no flare."))
        self.assertFalse(spliced("If the lens is sharp, it has no flare."))
        self.assertFalse(spliced("The lens is sharp, and it has no flare."))

    def test_states_are_called_as_the_lexicon_has_them(self):
        statuses = LEXICON["statuses"]
        self.assertEqual([status.value for status in Status], statuses["picture"])
        self.assertEqual({WORDS[nearness] for nearness in WORDS} - {"unknown"}, set(statuses["match"]))
        self.assertEqual([OUTCOMES[outcome] for outcome in Outcome if outcome in OUTCOMES], statuses["proof"])

    def test_buttons_are_verbs(self):
        verbs = set(LEXICON["buttons"]["verbs"])
        for path in sorted(HOUSE.glob("*/templates/**/*.html")):
            for tag, inner in re.findall(r"<button\b([^>]*)>(.*?)</button>", path.read_text(), re.DOTALL):
                text = re.sub(r'<span class="visually-hidden">.*?</span>', "", inner, flags=re.DOTALL)
                text = " ".join(re.sub(r"<[^>]*>|\{[%{].*?[%}]\}", " ", text, flags=re.DOTALL).split())
                if not text[:1].isupper() or re.search(r"aria-(?:pressed|expanded|haspopup|controls)|role=", tag):
                    continue  # a sign, a switch or what unfolds
                with self.subTest(path=path.name, button=text):
                    self.assertTrue(text.isupper() or text.split()[0].rstrip(":") in verbs)

"""The table of questions: every one answered by its kind, with the figures that arithmetic of its own gives; and lines
that are never answered.
"""

import re
import time
from itertools import chain
from unittest import TestCase

from cambrel.ask.asking import asked
from cambrel.ask.kinds import KINDS
from cambrel.ask.question_kind import Terms
from cambrel.ask.tests.table import NOT_ANSWERED, TABLE
from cambrel.ask.views import EXAMPLES
from cambrel.phrases.concepts import CONCEPT_KEYS
from cambrel.tests.truth.test_whys import put_through

NEAR = 0.012
"""A thousandth for what is exact; formats and types are rounded, and crops stand by their diagonals."""


def ways(written):
    plain, _, odd = written.partition("|")
    return [[way.strip() for way in part.split(";") if way.strip()] for part in (plain, odd)]


def digits(text):
    """What is left of a figure whose unit may be another: its digits, from the first that counts."""
    return re.sub(r"\D", "", text).lstrip("0").rstrip("0") or "0"


AS_MARKED = {"settings", "light", "sunny", "hand", "stars", "stops-from", "film-shutter", "film-angle"}
"""Their sentences say what a camera can be set to, or write a time as a fraction."""


class TableTests(TestCase):
    def test_every_question_is_answered_by_its_kind_with_the_right_figures(self):
        for key, figures, written in TABLE:
            for text in chain(*ways(written)):
                with self.subTest(text):
                    reading = asked(text, Terms())
                    self.assertIsNotNone(reading.answer, f"{reading.problem} {reading.offers} {reading.unread}")
                    self.assertEqual(reading.candidate.kind.key, key, reading.answer.says)
                    said = {figure.name: figure.value for figure in reading.answer.figures}
                    for name, value in figures.items():
                        self.assertIn(name, said)
                        self.assertAlmostEqual(
                            said[name] / value, 1, delta=NEAR, msg=f"{name}: {said[name]} for {value}"
                        )

    def test_it_is_large_enough_and_holds_every_example_that_is_offered(self):
        plain, odd = ([way for *_, written in TABLE for way in ways(written)[part]] for part in (0, 1))
        self.assertGreaterEqual(len(plain) + len(odd), 300)
        self.assertGreaterEqual(len(odd), 100)
        self.assertEqual(len({*plain, *odd}), len(plain) + len(odd), "each stands once")
        self.assertEqual({key for key, *_ in TABLE}, {kind.key for kind in KINDS})
        offered = {example for kind in KINDS for example in kind.examples} | set(EXAMPLES)
        self.assertEqual(offered - {*plain, *odd}, set())

    def test_what_leaves_a_number_or_a_word_unexplained_is_never_answered(self):
        for text in NOT_ANSWERED:
            with self.subTest(text):
                reading = asked(text, Terms())
                self.assertIsNone(reading.answer, reading.answer and reading.answer.says)
                self.assertLessEqual(len(reading.offers), 2)
                for offer in reading.offers:
                    self.assertIsNotNone(asked(offer, Terms()).answer, offer)
        self.assertIn("kelvin", asked("50 mm at 5500 K", Terms()).problem)
        self.assertIn("f/0.5 is the limit", asked("f/0.25", Terms()).problem)
        self.assertEqual(asked("dx 50 1.8", Terms()).unread, ("dx",))
        self.assertEqual(asked("dof 85 1.8", Terms()).offers, ("dof 85 1.8 at 2 m",))

    def test_every_term_that_a_kind_knows_is_one_of_the_table_of_terms(self):
        for kind in KINDS:
            self.assertEqual((kind.asks | kind.also) - CONCEPT_KEYS, set(), kind.key)

    def test_the_sentence_holds_the_figures_that_are_listed(self):
        for key, _, written in TABLE:
            if key in AS_MARKED:
                continue
            answer = asked(ways(written)[0][0], Terms()).answer
            if answer.sides or not answer.figures:
                continue
            figure = answer.figures[0]
            shown = (
                figure.shown().split("\u00a0")[0]
                if figure.value >= 1 or figure.kind != "number"
                else f"{1 / figure.value:.3g}"
            )
            said = [digits(number) for number in re.findall(r"[\d.,]+", answer.says)]
            self.assertTrue(
                any(number.startswith(digits(shown)[:2]) for number in said), f"{answer.figures[0]}: {answer.says}"
            )

    def test_every_working_comes_to_a_figure_of_its_answer(self):
        for key, _, written in TABLE:
            for text in chain(*ways(written)):
                answer = asked(text, Terms()).answer
                values = [figure.value for figure in answer.figures]
                for line in answer.working:
                    with self.subTest(text, formula=line.formula):
                        came_to, scale = put_through(line), 1000 if line.result.kind == "um" else 1
                        self.assertAlmostEqual(came_to / line.result.value, 1, places=6)
                        near = [
                            value
                            for value in values
                            if abs(abs(came_to / value) - 1) < 1e-6 or abs(came_to / value / scale - 1) < 1e-6
                        ]
                        self.assertTrue(near or answer.sides or key in {"lenses"}, f"{came_to}: {values}")

    def test_no_answer_takes_long(self):
        asked("50 f/2 ff", Terms())
        slow = []
        for _, _, written in TABLE:
            for text in ways(written)[0]:
                start = time.process_time()
                asked(text, Terms())
                slow.append((time.process_time() - start, text))
        self.assertLess(sorted(slow)[-4][0], 0.05, sorted(slow)[-4:])

from itertools import product
from unittest import TestCase

from cambrel.drills.chance import RARE, by_guessing
from cambrel.optics.quantities import DomainError


class GuessingTests(TestCase):
    def test_every_run_of_answers_counted_out(self):
        for tries in (1, 3, 10):
            runs = [sum(run) for run in product((0, 1), repeat=tries)]
            for hits in range(tries + 1):
                self.assertAlmostEqual(
                    by_guessing(hits, tries), sum(run >= hits for run in runs) / len(runs), places=12
                )

    def test_where_seeing_begins(self):
        self.assertTrue(by_guessing(9, 10) <= RARE < by_guessing(8, 10))

    def test_what_cannot_be_is_refused(self):
        for hits, tries in ((-1, 10), (11, 10), (0, 0)):
            with self.subTest(hits=hits, tries=tries), self.assertRaises(DomainError):
                by_guessing(hits, tries)

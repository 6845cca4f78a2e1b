from unittest import TestCase

import numpy as np

from cambrel.optics.quantities import (
    Choices,
    DomainError,
    finite,
    not_negative,
    positive,
    positive_or_inf,
    refuse_unless,
)


class RefusalTests(TestCase):
    def test_what_is_no_quantity_is_refused_by_name_and_value(self):
        cases = (
            (positive, 0), (positive, -1.0), (positive, float("nan")), (positive, float("inf")), (positive, 1e400),
            (positive, 10**400), (positive, "2"), (positive, None), (positive, True), (positive, [1.0, "x"]),
            (positive_or_inf, 0.0), (positive_or_inf, float("nan")), (not_negative, -0.1), (not_negative, float("inf")),
            (finite, float("-inf")), (finite, float("nan")),
        )  # fmt: skip
        for check, value in cases:
            with self.subTest(check=check.__name__, value=value), self.assertRaises(DomainError) as caught:
                check("f_number", value)
            self.assertEqual(caught.exception.parameter, "f_number")
            self.assertIn("f_number must be", str(caught.exception))

    def test_legitimate_values_pass_as_floats(self):
        for check, value in ((positive, 2), (positive_or_inf, float("inf")), (not_negative, 0), (finite, -3)):
            with self.subTest(check=check.__name__):
                self.assertEqual(check("x", value), value)
                self.assertIsInstance(check("x", value), float)

    def test_arrays_name_the_first_index(self):
        with self.assertRaises(DomainError) as caught:
            positive("coc_mm", np.array([0.03, -1.0, 0.0]))
        self.assertEqual((caught.exception.index, caught.exception.value), ((1,), -1.0))
        self.assertIn("at index 1", str(caught.exception))
        with self.assertRaises(DomainError) as caught:
            refuse_unless(np.array([[True, True], [False, True]]), "u", "far", 5.0)
        self.assertEqual(caught.exception.index, (1, 0))

    def test_choices_list_their_keys(self):
        with self.assertRaisesRegex(DomainError, "one of diagonal, width"):
            Choices("by", {"diagonal": 1, "width": 2})["heigth"]

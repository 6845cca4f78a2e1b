"""Checks at the door of the core. A value that is no quantity is refused by name and value."""

from __future__ import annotations

import sys
from collections.abc import Mapping
from math import inf, isnan, nextafter
from typing import Generic, TypeAlias, TypeVar

import numpy as np
from numpy.typing import NDArray

Array: TypeAlias = NDArray[np.float64]
Flags: TypeAlias = NDArray[np.bool_]
Ints: TypeAlias = NDArray[np.int64]
Words: TypeAlias = NDArray[np.object_]
"""A word of each element."""
Quantity: TypeAlias = float | Array
"""A number, or an array of numbers that is broadcast against the others."""

T = TypeVar("T")
LEAST, MOST = nextafter(0.0, 1.0), sys.float_info.max
"""The ends of what is above 0 and finite."""
FEW = 16
"""Of so few numbers it is quicker to look at each than to ask for the smallest and the largest."""


class DomainError(ValueError):
    """A value outside the domain of a formula: which parameter, what it was, and what is wanted."""

    def __init__(self, parameter: str, wanted: str, value: object, index: tuple[int, ...] | None = None) -> None:
        self.parameter = parameter
        self.wanted = wanted
        self.value = value
        self.index = index
        where = "" if index is None else f" at index {index[0] if len(index) == 1 else index}"
        super().__init__(f"{parameter} must be {wanted}, got {value!r}{where}")


class Choices(dict[str, T], Generic[T]):
    """A mapping of schools or variants by key; asking for a key that is not there lists those that are."""

    def __init__(self, parameter: str, entries: Mapping[str, T]) -> None:
        super().__init__(entries)
        self.parameter = parameter

    def __missing__(self, key: str) -> T:
        raise DomainError(self.parameter, "one of " + ", ".join(self), key)


def _checked(parameter: str, value: Quantity, wanted: str, lowest: float, highest: float) -> Quantity:
    """The value as float or float array, or a DomainError that names the first outside the ends, or that is NaN."""
    if type(value) is float and lowest <= value <= highest:
        return value
    if isinstance(value, float | int) and not isinstance(value, bool):
        try:
            number = float(value)
        except OverflowError:
            raise DomainError(parameter, wanted, value) from None
        if lowest <= number <= highest:
            return number
        raise DomainError(parameter, wanted, value)
    if isinstance(value, np.ndarray) and value.dtype == np.float64:
        array = value
    else:
        try:
            array = np.asarray(value)
            if array.dtype.kind not in "fiu":
                raise TypeError
            array = array.astype(np.float64, copy=False)
        except (TypeError, ValueError):
            raise DomainError(parameter, f"a number {wanted}", value) from None
    if not _all_within(array, lowest, highest):
        index = tuple(int(i) for i in np.argwhere(~((array >= lowest) & (array <= highest)))[0])
        raise DomainError(parameter, wanted, float(array[index]), index or None)
    return array


def _all_within(array: Array, lowest: float, highest: float) -> bool:
    if array.size > FEW:
        # the ends decide for all between; NaN is both ends of what contains it
        return bool(lowest <= array.min() and array.max() <= highest)
    for number in array.ravel().tolist():  # noqa: SIM110 - a generator costs as much again
        if not lowest <= number <= highest:
            return False
    return True


def positive(parameter: str, value: Quantity) -> Quantity:
    """A value above 0 and finite, as it was given.

    Parameters
        parameter: its name, for the error
        value: scalar or array
    Returns
        the value
    Raises
        DomainError with the name and the first value that is not
    """
    return _checked(parameter, value, "above 0 and finite", LEAST, MOST)


def positive_or_inf(parameter: str, value: Quantity) -> Quantity:
    """A value above 0, as it was given; infinity is a legitimate answer.

    Parameters
        parameter: its name, for the error
        value: scalar or array
    Returns
        the value
    Raises
        DomainError with the name and the first value that is not
    """
    return _checked(parameter, value, "above 0", LEAST, inf)


def not_negative(parameter: str, value: Quantity) -> Quantity:
    """A value of 0 or more and finite, as it was given.

    Parameters
        parameter: its name, for the error
        value: scalar or array
    Returns
        the value
    Raises
        DomainError with the name and the first value that is not
    """
    return _checked(parameter, value, "0 or more and finite", 0.0, MOST)


def finite(parameter: str, value: Quantity) -> Quantity:
    """A value that is neither NaN nor infinite, as it was given.

    Parameters
        parameter: its name, for the error
        value: scalar or array
    Returns
        the value
    Raises
        DomainError with the name and the first value that is not
    """
    return _checked(parameter, value, "finite", -MOST, MOST)


def within(parameter: str, value: Quantity, low: float, high: float) -> Quantity:
    """A value from one number to another, both included, as it was given.

    Parameters
        parameter: its name, for the error
        value: scalar or array
        low, high: the ends, in the value's unit
    Returns
        the value
    Raises
        DomainError with the name and the first value that is not
    """
    return _checked(parameter, value, f"from {low:g} to {high:g}", low, high)


def refuse_unless(good: bool | NDArray[np.bool_], parameter: str, wanted: str, value: Quantity) -> None:
    """Raise for the first place where a relation between parameters does not hold.

    Parameters
        good: whether it holds, scalar or array
        parameter: the name of the one to blame
        wanted: what was wanted, in words
        value: what was given, of a shape that broadcasts to that of `good`
    Raises
        DomainError with the name, the value and its place in the array
    """
    if isinstance(good, bool):
        if not good:
            raise DomainError(parameter, wanted, value)
        return
    if not good.all():
        index = tuple(int(i) for i in np.argwhere(~good)[0])
        shown = np.broadcast_to(np.asarray(value, dtype=float), good.shape)[index]
        raise DomainError(parameter, wanted, float(shown), index or None)


def is_unknown(value: Quantity) -> bool:
    """Whether a figure is not known: NaN, which is the only number that does not equal itself.

    Parameters
        value: a scalar
    Returns
        True for NaN, False for every number and for infinity
    """
    return isnan(float(value))

"""Checks at the door of the core. A value that is no quantity is refused by name and value."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from math import isnan
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


def _checked(
    parameter: str,
    value: Quantity,
    wanted: str,
    holds: Callable[[Quantity], bool | NDArray[np.bool_]],
) -> Quantity:
    """The value as float or float array, or a DomainError that names the first offender."""
    if isinstance(value, float | int) and not isinstance(value, bool):
        try:
            number = float(value)
        except OverflowError:
            raise DomainError(parameter, wanted, value) from None
        if holds(number):
            return number
        raise DomainError(parameter, wanted, value)
    try:
        array = np.asarray(value)
        if array.dtype.kind not in "fiu":
            raise TypeError
        array = array.astype(np.float64, copy=False)
    except (TypeError, ValueError):
        raise DomainError(parameter, f"a number {wanted}", value) from None
    if not _all_hold(array, holds):
        index = tuple(int(i) for i in np.argwhere(~holds(array))[0])
        raise DomainError(parameter, wanted, float(array[index]), index or None)
    return array


def _all_hold(array: NDArray[np.float64], holds: Callable[[Quantity], bool | NDArray[np.bool_]]) -> bool:
    if array.size <= FEW:
        return all(map(holds, array.ravel().tolist()))
    # a domain is an interval, so its ends decide for all between; NaN is at both ends of what contains it
    return bool(holds(array.min()) and holds(array.max()))


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
    return _checked(parameter, value, "above 0 and finite", lambda x: (x > 0) & (x < np.inf))


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
    return _checked(parameter, value, "above 0", lambda x: x > 0)


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
    return _checked(parameter, value, "0 or more and finite", lambda x: (x >= 0) & (x < np.inf))


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
    return _checked(parameter, value, "finite", lambda x: (x > -np.inf) & (x < np.inf))


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
    return _checked(parameter, value, f"from {low:g} to {high:g}", lambda x: (x >= low) & (x <= high))


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

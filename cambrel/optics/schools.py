"""What practitioners differ on: a school is one answer to a question, with its value and its formula in one place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

import numpy as np

from cambrel.optics.quantities import Choices, Quantity
from cambrel.optics.workings import Working

G = TypeVar("G")


@dataclass(frozen=True)
class School(Generic[G]):
    """One answer to a question on which practitioners differ.

    label: as it is named; reason: what speaks for it
    value: what it comes to for what is given, scalars or arrays alike; NaN where it cannot be said
    working: the same formula with the numbers of one case, scalars; None where nothing is to be worked out
    is_tried: whether an answer is tried under it, to see how sure the answer is
    """

    key: str
    label: str
    reason: str
    value: Callable[[G], Quantity]
    working: Callable[[G], Working | None]
    is_tried: bool = True


S = TypeVar("S", bound="School[Any]")


def by_key(question: str, *schools: S) -> Choices[S]:
    """The schools of a question by their keys; asking for another lists them.

    Parameters
        question: the name of the parameter that a refusal names
        schools: in the order in which they are offered
    Returns
        a mapping from key to school
    """
    return Choices(question, {school.key: school for school in schools})


def plain(values: Quantity) -> Quantity:
    """A scalar where scalars were given.

    Parameters
        values: scalar or array
    Returns
        a float for a scalar, the array otherwise
    """
    return float(values) if np.ndim(values) == 0 else values

"""Type designations of sensors (1 type, 1/2.3 type): what they say in millimetres. Lengths in mm.

The designations come from video camera tubes, named by the outer diameter of the glass; the picture used about two
thirds of it. A manufacturers' rule of thumb counts 16 mm of picture diagonal to the inch, and 18 mm for types below
half an inch.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from math import hypot

from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError, positive

MM_PER_INCH = 25.4
DIAGONAL_PER_INCH_MM = 16.0
SMALL_DIAGONAL_PER_INCH_MM = 18.0
SMALL_TYPE_INCH = 0.5
NOMINAL_TOLERANCE = 0.05
"""By how much the diagonals of sensors of one type differ from the rule of thumb, about."""

_NUMBER = r"\d+(?:[.,]\d+)?"
_TYPE = re.compile(rf"({_NUMBER})(?:\s*/\s*({_NUMBER}))?")


@dataclass(frozen=True)
class TypeSize:
    """What a type designation stands for.

    inches: the stated size; tube_mm: the same in mm, which nothing in the camera measures
    sensor: the size from the table of formats, else by the rule of thumb
    is_listed: whether the size stands in the table of formats
    """

    inches: float
    tube_mm: float
    nominal_diagonal_mm: float
    sensor: Sensor
    is_listed: bool


def nominal_diagonal_mm(inches: float) -> float:
    """The diagonal of the picture by the rule of thumb.

    Parameters
        inches: the stated type, for example 1/2.3
    Returns
        [mm]
    Raises
        DomainError for a size that is not above 0 and finite
    """
    size = float(positive("inches", inches))
    return size * (SMALL_DIAGONAL_PER_INCH_MM if size < SMALL_TYPE_INCH else DIAGONAL_PER_INCH_MM)


def type_size(designation: str) -> TypeSize:
    """What a designation such as "1", "1/1.3", "1/2.3 type" or "4/3" stands for.

    Parameters
        designation: the number or fraction of an inch, with or without words around it
    Returns
        TypeSize; the shape is 3:2 for the one-inch type and larger (but 4/3), else 4:3
    Raises
        DomainError for a text that holds no such number
    """
    written = _TYPE.search(designation)
    if not written:
        raise DomainError("designation", 'a type such as "1/1.3"', designation)
    over, under = (float((part or "1").replace(",", ".")) for part in written.groups())
    inches = over / float(positive("designation", under))
    nominal = nominal_diagonal_mm(inches)
    for format_ in FORMATS.values():
        listed = (
            _TYPE.match(format_.designation.removesuffix(" type")) if format_.designation.endswith(" type") else None
        )
        if listed and abs(float(listed[1]) / float(listed[2] or 1) / inches - 1) < 1e-6:
            return TypeSize(inches, inches * MM_PER_INCH, nominal, Sensor(format_.width_mm, format_.height_mm), True)
    across, down = (3, 2) if inches >= 0.99 and abs(inches - 4 / 3) > 0.01 else (4, 3)
    scale = nominal / hypot(across, down)
    return TypeSize(inches, inches * MM_PER_INCH, nominal, Sensor(across * scale, down * scale), False)

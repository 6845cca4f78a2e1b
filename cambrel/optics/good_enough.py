"""How large a picture may be shown before its softness is seen, by school. Millimetres, cycles per millimetre.

Sources: "The Manual of Photography", chapter on resolution, for the eye; a line width to each line of its screen for a
    press; pixels to an
inch as picture files are asked for.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from cambrel.optics.quantities import Choices, Quantity, positive
from cambrel.optics.schools import School, by_key
from cambrel.optics.sharpness import (
    LINES_PER_MM,
    MM_PER_INCH,
    PRESS_LINES_PER_INCH,
    largest_print_by_eye_mm,
    largest_print_by_printer_mm,
)
from cambrel.optics.workings import Term, Working, term, working

PIXELS_PER_INCH = 300.0


@dataclass(frozen=True)
class Resolved:
    """What a picture resolves, and how it is looked at. Scalars or arrays.

    resolved_per_mm: cycles on the sensor [1/mm]; long_side_mm: of the frame; pixels_along: it, NaN where not known
    """

    resolved_per_mm: Quantity
    long_side_mm: Quantity
    pixels_along: Quantity
    viewing_distance_mm: Quantity
    lines_per_mm: Quantity = LINES_PER_MM
    press_lines_per_inch: Quantity = PRESS_LINES_PER_INCH


@dataclass(frozen=True)
class GoodEnough(School[Resolved]):
    """What is sharp enough to be shown. value: the long side of the largest picture [mm]

    counts_pixels: whether pixels alone decide, whatever the lens makes of them
    """

    counts_pixels: bool = False

    def wanted_per_mm(self, given: Resolved) -> Quantity:
        """How fine a picture must show what is there, where pixels alone do not decide [cycles/mm on the picture]."""
        one_cycle = replace(given, resolved_per_mm=1.0)
        return positive("long_side_mm", given.long_side_mm) / self.value(one_cycle)


def _fine(given: Resolved) -> tuple[Term, Term]:
    return (
        term("k", "cycles per mm that are resolved", given.resolved_per_mm),
        term("w", "long side of the frame", given.long_side_mm, "mm"),
    )


def _eye(key: str, label: str, reason: str, part: int) -> GoodEnough:
    """By what an eye tells apart from where it looks, or a part of it."""

    def value(given: Resolved) -> Quantity:
        lines = positive("lines_per_mm", given.lines_per_mm) / part
        return largest_print_by_eye_mm(given.resolved_per_mm, given.long_side_mm, given.viewing_distance_mm, lines)

    def written(given: Resolved) -> Working:
        share = "" if part == 1 else f" / {part}"
        return working(
            "long side", f"k × w × L / (250 × R{share})", float(value(given)), "mm", *_fine(given),
            term("L", "viewing distance", given.viewing_distance_mm, "mm"),
            term("R", "line pairs per mm that the eye tells apart at 250 mm", given.lines_per_mm),
        )  # fmt: skip

    return GoodEnough(key, label, reason, value, written)


def _press_mm(given: Resolved) -> Quantity:
    return largest_print_by_printer_mm(given.resolved_per_mm, given.long_side_mm, given.press_lines_per_inch)


def _press_working(given: Resolved) -> Working:
    return working(
        "long side", "2 × k × w / P × i", float(_press_mm(given)), "mm", *_fine(given),
        term("P", "line widths to an inch that the press can carry", given.press_lines_per_inch),
        term("i", "mm in an inch", MM_PER_INCH),
    )  # fmt: skip


def _pixels_mm(given: Resolved) -> Quantity:
    longest: Quantity = given.pixels_along / PIXELS_PER_INCH * MM_PER_INCH
    return longest


def _pixels_working(given: Resolved) -> Working:
    pixels, inch = term("n", "pixels along it", given.pixels_along), term("i", "mm in an inch", MM_PER_INCH)
    return working("long side", "n / 300 × i", float(_pixels_mm(given)), "mm", pixels, inch)


GOOD_ENOUGH_SCHOOLS: Choices[GoodEnough] = by_key(
    "good_enough",
    _eye(
        "eye",
        "the eye, as for depth",
        "As sharp as what counts as sharp in depth of field: half of what a good eye tells apart.",
        2,
    ),
    _eye("strict_eye", "the strict eye", "All that a good eye tells apart from where it is looked at.", 1),
    GoodEnough(
        "printer",
        "a printing press",
        "As many line widths per inch of the print as its screen carries, at any distance.",
        _press_mm,
        _press_working,
    ),
    GoodEnough(
        "pixels",
        "300 pixels per inch",
        "Pixels alone, 300 to an inch of the print, whatever the lens makes of them.",
        _pixels_mm,
        _pixels_working,
        is_tried=False,
        counts_pixels=True,
    ),
)

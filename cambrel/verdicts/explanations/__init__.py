"""Why every figure is what it is: text beside the formula, and the formula with this case's numbers. By the keys of
`optics.lines`.
"""

from __future__ import annotations

from math import isfinite

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.lines import LINES
from cambrel.optics.workings import Figure, Working
from cambrel.verdicts.explanations import blur_figures, light_figures, view_figures
from cambrel.verdicts.explanations.column_figures import TABLES
from cambrel.verdicts.explanations.panel_figures import SPECIAL as OF_PANELS
from cambrel.verdicts.explanations.why import LIMITS, Why

SPECIAL = {**OF_PANELS, **TABLES}
"""Figures of the panels, which are no line of every rig."""
WHYS: dict[str, Why] = {
    **view_figures.WHYS,
    **blur_figures.WHYS,
    **light_figures.WHYS,
    **{key: special_rule.why for key, special_rule in SPECIAL.items()},
}


def label_of(key: str) -> str:
    """The name of a figure.

    Parameters
        key: of a figure
    Returns
        in words
    """
    return LINES[key].label if key in LINES else SPECIAL[key].label


def value_of(key: str, comparison: Comparison, rig: RigFigures) -> Figure:
    """A figure of a rig with its kind; unknown (NaN) where the rig sees nothing.

    Parameters
        key: of a figure
        comparison: worked out
        rig: one of it
    Returns
        NaN where the rig sees nothing
    """
    if key in LINES:
        return Figure(LINES[key].read(rig), LINES[key].kind)
    return Figure(SPECIAL[key].read(comparison, rig) if rig.settings.focusable else float("nan"), SPECIAL[key].kind)


def worked(key: str, comparison: Comparison, rig: RigFigures) -> Working | None:
    """The line of working of a rig's figure.

    Parameters
        key: of a figure
        comparison: worked out
        rig: one of it
    Returns
        None where it has none, or where something in it is unknown or without end
    """
    if not rig.settings.focusable or not isfinite(float(value_of(key, comparison, rig).value)):
        return None
    line = WHYS[key].working(comparison, rig)
    if line is None or not all(isfinite(float(term.value.value)) for term in line.terms):
        return None
    return line


__all__ = ["LIMITS", "SPECIAL", "WHYS", "Why", "label_of", "value_of", "worked"]

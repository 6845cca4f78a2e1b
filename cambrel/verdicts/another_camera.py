"""What another camera would set for a photograph that was taken."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import inf

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.photographed import SAME_PICTURE
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import ISOS, nearest
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, rests_on, say
from cambrel.verdicts.relations import depth_level, same_focus, same_view, view_ratio
from cambrel.wording.sentences import LEVEL_STOPS, Sentence, listed


@dataclass(frozen=True)
class Miss:
    """A way in which the other camera's picture differs: whether it does, and how that is said."""

    differs: Callable[[RigFigures, RigFigures], bool]
    says: Callable[[RigFigures, RigFigures], Sentence]


def _view(a: RigFigures, b: RigFigures) -> Sentence:
    ratio = view_ratio(a, b)
    side = "wider" if ratio > 1 else "tighter"
    return Sentence(f"it sees {{off}} {side}", {"off": Figure(abs(ratio - 1), "share")})


def _focus(a: RigFigures, b: RigFigures) -> Sentence:
    figures = {
        "focus_b": Figure(b.settings.object_distance_m, "m"),
        "focus_a": Figure(a.settings.object_distance_m, "m"),
    }
    return Sentence("it is focused at {focus_b} instead of {focus_a}", figures)


def _depth(a: RigFigures, b: RigFigures) -> Sentence:
    figures = {"depth_b": Figure(b.depth.total_m, "m"), "depth_a": Figure(a.depth.total_m, "m")}
    if inf in (a.depth.total_m, b.depth.total_m):
        return Sentence("its depth of field begins at {near_b} instead of {near_a}", {
            "near_b": Figure(b.depth.near_m, "m"), "near_a": Figure(a.depth.near_m, "m"),
        })  # fmt: skip
    return Sentence("its depth of field is {depth_b} instead of {depth_a}", figures)


def _depths_known(a: RigFigures, b: RigFigures) -> bool:
    return not (is_unknown(a.depth.total_m) or is_unknown(b.depth.total_m))


def _brightness(a: RigFigures, b: RigFigures) -> Sentence:
    stops = b.light.brightness_stops
    return Sentence(f"it is {{stops}} {'brighter' if stops > 0 else 'darker'}", {"stops": Figure(abs(stops), "stops")})


MISSES = (
    Miss(lambda a, b: not same_view(a, b), _view),
    Miss(lambda a, b: not same_focus(a, b), _focus),
    Miss(lambda a, b: _depths_known(a, b) and not depth_level(a, b), _depth),
    Miss(lambda a, b: not abs(b.light.brightness_stops) <= LEVEL_STOPS, _brightness),
)
"""In what the other's picture may differ, in the order in which it is said."""


@rests_on(
    "eq_focal",
    "same_f",
    "total",
    of=("photographed",),
    says="The same view, the same depth of field and the same shutter time, from the same spot. The ISO follows.",
)
def on_other(comparison: Comparison, index: int) -> Verdict:
    """What another camera would set to take the reference's picture, or how near it comes.

    Parameters
        comparison: under the hold that keeps a photograph
        index: of the other camera
    Returns
        one sentence
    """
    a, b = comparison.of(comparison.reference), comparison.of(index)
    if not b.settings.focusable:
        return say("photographed", Topic.EQUIVALENT, inf, "{b} cannot focus that close.", a, b)
    figures = {
        "focal": Figure(b.settings.focal_length_mm, "mm"),
        "f": Figure(b.settings.f_number, "f"),
        "shutter": Figure(b.settings.shutter_s, "s"),
        "iso": Figure(nearest(b.settings.iso, ISOS).typed, "iso"),
    }
    parts = [miss.says(a, b) for miss in MISSES if miss.differs(a, b)]
    text = "For the same photograph set {b} to {focal} {f}, {shutter}, {iso}."
    if parts:
        off = listed([part.text for part in parts])
        text = "{b} comes nearest to this photograph at {focal} {f}, {shutter}, {iso}: " + off + "."
    for part in parts:
        figures |= part.figures
    return say("photographed", Topic.EQUIVALENT, float(len(parts)), text, a, b, **figures)


def on_others(comparison: Comparison) -> list[Verdict]:
    """What every other camera would set for the reference's photograph.

    Parameters
        comparison: any
    Returns
        a sentence for each; none where something else is held than what keeps a photograph
    """
    if comparison.hold != SAME_PICTURE:
        return []
    others = (index for index in range(len(comparison.rigs)) if index != comparison.reference)
    return [on_other(comparison, index) for index in others]

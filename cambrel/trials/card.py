"""What of a kit is worth carrying on a card: what each lens is on each body, from where on all is sharp, how long it is
held, and where it ends.

Source: the comparison's own figures, at the ends of each lens, wide open and at the stops that landscapes are taken at.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from math import isfinite, nan

from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.engine import Comparison, RigFigures, compare
from cambrel.comparison.rig import Rig
from cambrel.comparison.slowest_shutter import held_s
from cambrel.comparison.starlight import longest_as_points_s
from cambrel.optics.depth import hyperfocal_distance_m
from cambrel.optics.stops import F_NUMBERS, nearest
from cambrel.trials.trial_shots import AS_TAKEN

LANDSCAPE_STOPS = (5.6, 8.0, 11.0)
LADDER = tuple(stop.typed for stop in F_NUMBERS if stop.marked in ("1.4", "2", "2.8", "4", "5.6", "8", "11"))
FAR_M = 1000.0
APART = 1.1
"""A focal length nearer to an end of the lens has no line of its own."""
USUAL_F_NUMBER = 2.8
"""Of a lens whose f-numbers are not known."""


@dataclass(frozen=True)
class FocalCard:
    """A lens on a body at one focal length: as which it counts at home, and wide open what that is; NaN where it is not
    known.

    hyperfocal_m: at the widest stop and at those of landscapes, as (f-number, distance); all is sharp from half of it
        on
    held_s, points_s: how long it is held, and how long stars are points
    """

    body: int
    lens: int
    focal_length_mm: float
    f_number: float
    home_focal_length_mm: float
    home_f_number: float
    hyperfocal_m: tuple[tuple[float, float], ...]
    held_s: float
    points_s: float


@dataclass(frozen=True)
class BodyCard:
    """A body: where diffraction begins, up to which ISO it is clean enough, and what its f-numbers are at home, mark
    for mark.
    """

    body: int
    limited_f_number: float
    clean_iso: float
    ladder: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Card:
    backs: tuple[BodyCard, ...]
    lines: tuple[FocalCard, ...]


def card_of(
    pairs: Sequence[tuple[int, int, Rig]],
    conventions: Conventions,
    usual_mm: Mapping[int, float] | None = None,
    used: Mapping[int, Collection[float]] | None = None,
) -> Card:
    """The card of a kit.

    Parameters
        pairs: the rigs that can be made of it, each with the numbers of its body and of its lens
        conventions: the schools in force
        usual_mm: by the number of a lens, the focal length at which it is mostly used; used: by that of a body, the
            stops that are
    Returns
        Card, in the order of the pairs
    """
    ends = [(body, lens, rig, f) for body, lens, rig in pairs for f in _marked(rig, (usual_mm or {}).get(lens))]
    if not ends:
        return Card((), ())
    rigs = [_set(rig, f) for _, _, rig, f in ends]
    made = compare(Brief(distance_m=FAR_M, support="hand", declination_deg=0.0), rigs, AS_TAKEN, conventions)
    lines: list[FocalCard] = []
    backs: dict[int, BodyCard] = {}
    for index, (body, lens, _, _) in enumerate(ends):
        rig = made.of(index)
        lines.append(_line(made, rig, body, lens))
        backs.setdefault(body, _back(rig, body, (used or {}).get(body)))
    return Card(tuple(backs[body] for body in sorted(backs)), tuple(lines))


def _ends(rig: Rig) -> list[float]:
    low, high = rig.lens.focal_min_mm, rig.lens.focal_max_mm
    return [] if low is None or high is None else [low] if low == high else [low, high]


def _marked(rig: Rig, usual_mm: float | None) -> list[float]:
    """The focal lengths of a lens that are worth a line: its ends, and where it is mostly used, if that is another."""
    ends = _ends(rig)
    if usual_mm is None or len(ends) < 2 or not ends[0] * APART < usual_mm < ends[1] / APART:
        return ends
    return [ends[0], usual_mm, ends[1]]


def _set(rig: Rig, focal_length_mm: float) -> Rig:
    widest = float(rig.lens.widest_f_number(focal_length_mm)) if rig.lens.widest else USUAL_F_NUMBER
    return Rig(rig.body, rig.lens, focal_length_mm, widest)


def _line(made: Comparison, rig: RigFigures, body: int, lens: int) -> FocalCard:
    s, coc = rig.settings, rig.frames.coc_mm
    known = bool(rig.rig.lens.widest)
    stops = [*([s.f_number] if known else []), *(n for n in LANDSCAPE_STOPS if not known or n > s.f_number * 1.05)]
    hyperfocal = (
        tuple((n, float(hyperfocal_distance_m(s.focal_length_mm, n, coc))) for n in stops) if isfinite(coc) else ()
    )
    points = longest_as_points_s(made, rig, 0.0)
    return FocalCard(
        body, lens, s.focal_length_mm, s.f_number if known else nan, rig.view.home_focal_length_mm,
        rig.blur.home_f_number if known else nan, hyperfocal, held_s(made, rig), points,
    )  # fmt: skip


def _back(rig: RigFigures, body: int, used: Collection[float] | None) -> BodyCard:
    times = rig.frames.crop / rig.frames.home_crop
    stops = [n for n in LADDER if used is None or n in used] or LADDER
    ladder = tuple((n, nearest(n * times, F_NUMBERS).typed) for n in stops)
    return BodyCard(body, rig.diffraction.limited_f_number, rig.light.ceiling_iso, ladder)

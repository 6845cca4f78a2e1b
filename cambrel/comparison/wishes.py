"""What would it take? For a figure that is wanted of one rig, every lever alone and in pairs, all else kept: the value
that gives it, whether the gear has that, and what it costs.

A lever is solved through `compare`, so that what is advised gives the wanted figure there to the last digits; the root
nearest to how the rig stands is taken. Thin lens, exact.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise
from math import exp, inf, isfinite, log, log2, nan

from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import RigFigures, compare
from cambrel.comparison.levers import AS_SET, LEVERS, SAME, Lever, Stance
from cambrel.comparison.starlight import below_stars
from cambrel.optics.quantities import Choices, DomainError, is_unknown
from cambrel.optics.stars import STAR_SCHOOLS

GRID = 40
"""Points between which a root is looked for, spaced evenly in logarithm."""
CLOSE = 1e-10


@dataclass(frozen=True)
class Wish:
    """A figure that may be wanted of a rig: how it is read and shown, what is tried for it, and what is wanted at
    first where nobody said: so many times what it is.
    """

    key: str
    label: str
    kind: str
    read: Callable[[Stance, RigFigures], float]
    levers: tuple[str, ...]
    first: float
    asked: str
    """How what is wanted of it is typed."""
    rests_on: str = ""
    """The figure of the comparison that it is."""
    demand: str = ""
    """Of a picture on it."""
    of_brief: Callable[[Brief], float | None] = lambda brief: None
    """What a picture says that it wants of it."""


def _star_seconds(stands: Stance, figures: RigFigures) -> float:
    """How long stars stay points; unknown where the picture has none."""
    there, school = stands.brief.declination_deg, stands.conventions.star_rule
    return nan if there is None else float(STAR_SCHOOLS[school].value(below_stars(figures, there)))


def _demanded_depth(brief: Brief) -> float | None:
    """From the nearest to the farthest that a picture wants sharp."""
    if brief.sharp_front_m is None or brief.sharp_behind_m is None:
        return None
    total = brief.sharp_front_m + brief.sharp_behind_m
    return total if 0 < total < inf else None


WISHES: Choices[Wish] = Choices(
    "wish",
    {
        wish.key: wish
        for wish in (
            Wish(
                "blur",
                "Background blur, of the diagonal",
                "share",
                lambda stands, figures: figures.blur.background_share,
                ("f_number", "distance", "step_back", "background", "format"),
                2.0,
                "share",
                "background_share",
                "background",
                lambda brief: brief.blur_share,
            ),
            Wish(
                "depth",
                "Depth of field",
                "m",
                lambda stands, figures: figures.depth.total_m,
                ("f_number", "distance", "focal", "format"),
                2.0,
                "m",
                "total",
                "sharp",
                _demanded_depth,
            ),
            Wish(
                "size",
                "Subject’s share of the frame’s height",
                "share",
                lambda stands, figures: figures.view.fill,
                ("distance", "focal", "frame"),
                1.5,
                "share",
                "fill",
            ),
            Wish(
                "light",
                "Light in the whole picture",
                "count",
                lambda stands, figures: figures.light.photons_total,
                ("shutter", "f_number", "format"),
                2.0,
                "stops",
                "photons_total",
                "light",
            ),
            Wish(
                "sharpness",
                "Line widths per picture height, at best",
                "number",
                lambda stands, figures: figures.sharpness.lines_per_height,
                ("f_number", "shutter", "format"),
                1.25,
                "number",
                "lines",
                "sharpness",
            ),
            Wish(
                "stars",
                "How long stars stay points",
                "s",
                _star_seconds,
                ("focal", "format", "f_number"),
                1.5,
                "s",
            ),
        )
    },
)


@dataclass(frozen=True)
class LeverMoved:
    """One lever, or two, that give what is wanted.

    values: by lever, where it then stands; stands: the standpoint with all of them; is_owned: whether the gear has
    them, None where that is no matter of the gear; stops: by how much the picture then is brighter (darker below 0)
    """

    values: tuple[tuple[Lever, float], ...]
    stands: Stance
    is_owned: bool | None
    stops: float


@dataclass(frozen=True)
class LeverStuck:
    """A lever that cannot give what is wanted however far it goes: the nearest that it comes."""

    lever: Lever
    nearest: float


@dataclass(frozen=True)
class Taking:
    """What a wanted figure would take: what it is now, each lever that gives it, pairs where one alone is not owned,
    and those that never do.
    """

    wish: Wish
    now: float
    wanted: float
    alone: tuple[LeverMoved, ...]
    pairs: tuple[LeverMoved, ...]
    stuck: tuple[LeverStuck, ...]

    @property
    def ordered(self) -> list[LeverMoved]:
        """Levers alone, those that the gear lacks last."""
        return sorted(self.alone, key=lambda moved: moved.is_owned is False)

    def without(self, key: str) -> Taking:
        """The same without a lever that is fixed, alone and in pairs."""

        def left(moved: tuple[LeverMoved, ...]) -> tuple[LeverMoved, ...]:
            return tuple(one for one in moved if all(lever.key != key for lever, _ in one.values))

        stuck = tuple(stopped for stopped in self.stuck if stopped.lever.key != key)
        return replace(self, alone=left(self.alone), pairs=left(self.pairs), stuck=stuck)


def taking(stands: Stance, wish: Wish, wanted: float) -> Taking:
    """What it would take for one rig to have a figure that is wanted.

    Parameters
        stands: how it stands
        wish: which figure, an entry of WISHES
        wanted: in the unit of the figure
    Returns
        Taking; a lever that is applied gives the figure to 1e-9
    Raises
        DomainError where what is wanted is not above 0 and finite
    """
    if not 0 < wanted < inf:
        raise DomainError("wanted", "above 0 and finite", wanted)
    now = wish.read(stands, stands.figures)
    alone, stuck = [], []
    for key in wish.levers:
        lever = LEVERS[key]
        found = solved(stands, wish, lever, wanted)
        if isinstance(found, LeverStuck):
            stuck.append(found)
        elif found is not None:
            alone.append(found)
    return Taking(wish, now, wanted, tuple(alone), tuple(_pairs(stands, wish, wanted, alone, stuck)), tuple(stuck))


def solved(stands: Stance, wish: Wish, lever: Lever, wanted: float) -> LeverMoved | LeverStuck | None:
    """Where a lever gives a figure, of several places the nearest to where it stands.

    Parameters
        stands: how the rig stands
        wish: the figure that is wanted
        lever: what is moved, all else kept
        wanted: in the unit of the figure
    Returns
        LeverMoved; LeverStuck with how near it comes if it never does; None where the figure is unknown all along
    """
    free = stands.freed
    low, high = lever.span(free)
    start = lever.value(stands)

    def off(at: float) -> float:
        return _off(free, [lever.moved(free, exp(at))], wish, wanted)[0]

    places = [log(low) + (log(high) - log(low)) * step / GRID for step in range(GRID + 1)]
    if low <= start <= high:
        places = sorted({*places, log(start)})
    values = _off(free, [lever.moved(free, exp(place)) for place in places], wish, wanted)
    known = [(place, value) for place, value in zip(places, values, strict=True) if not is_unknown(value)]
    if not known:
        return None
    roots = []
    for (left, one), (right, other) in pairwise(known):
        if one == 0:
            roots.append(left)
        elif isfinite(one) and isfinite(other) and one * other < 0:
            roots.append(_root(off, left, right, 4e-16 * max(1.0, abs(left))))
        elif (one == inf) != (other == inf) and (other if one == inf else one) < 0:
            roots += _at_the_end(off, left, right)
    # where a figure jumps its sign changes, and it is nowhere what is wanted
    roots = [root for root in roots if abs(off(root)) < CLOSE]
    if not roots:
        nearest = min((value for _, value in known), key=abs)
        return LeverStuck(lever, wanted * exp(nearest) if isfinite(nearest) else inf)
    value = exp(min(roots, key=lambda root: abs(root - log(start)) if start > 0 else abs(root)))
    owned = lever.owned(lever.moved(stands, value))
    is_owned = None if owned is None else owned[0] * (1 - SAME) <= value <= owned[1] * (1 + SAME)
    moved = lever.moved(stands if is_owned or (is_owned is None and lever.keeps_lens) else free, value)
    return LeverMoved(((lever, value),), moved, is_owned, _brighter(stands, moved))


def _off(start: Stance, moved: list[Stance], wish: Wish, wanted: float) -> list[float]:
    """How far the figure is from what is wanted at each standpoint, as a logarithm; NaN where it has none there. Those
    before one picture are worked out at once, beside the one that they were moved from.
    """
    values = [nan] * len(moved)
    groups: dict[Brief, list[int]] = {}
    for place, there in enumerate(moved):
        groups.setdefault(there.brief, []).append(place)
    for brief, places in groups.items():
        compared = compare(brief, [start.rig, *(moved[place].rig for place in places)], AS_SET, start.conventions)
        for index, place in enumerate(places, start=1):
            figures = compared.of(index)
            value = wish.read(moved[place], figures) if figures.settings.focusable else nan
            values[place] = log(value / wanted) if 0 < value < inf else inf if value == inf else nan
    return values


def _at_the_end(off: Callable[[float], float], left: float, right: float) -> list[float]:
    """A root short of where a figure becomes endless: halved towards it until both ends are finite."""
    low, high = (left, right) if off(left) < 0 else (right, left)
    for _ in range(200):
        middle = (low + high) / 2
        value = off(middle)
        if value == inf:
            high = middle
        elif value < 0:
            low = middle
        else:
            return [_root(off, min(low, middle), max(low, middle), 4e-16)]
    return []


def _root(off: Callable[[float], float], low: float, high: float, within: float) -> float:
    """Where it is 0 between two ends of different signs."""
    from scipy.optimize import brentq  # here, so that no start waits the half second that it takes

    return float(brentq(off, low, high, xtol=within, rtol=8.9e-16, maxiter=200))


def _brighter(stands: Stance, moved: Stance) -> float:
    """By how many stops a picture is brighter than it was, at the ISO that it has."""
    return log2(moved.figures.light.exposure_lux_s / stands.figures.light.exposure_lux_s)


def _pairs(
    stands: Stance, wish: Wish, wanted: float, alone: list[LeverMoved], stuck: list[LeverStuck]
) -> list[LeverMoved]:
    """Where no lever of the gear's own gives it alone: one as far as the gear goes, and what another adds."""
    if any(moved.is_owned for moved in alone):
        return []
    ends = []
    for lever in [moved.values[0][0] for moved in alone if moved.is_owned is False] + [
        stopped.lever for stopped in stuck
    ]:
        owned = lever.owned(stands)
        if owned is None:
            continue
        low, high = owned
        reached = [end for end in (low, high) if lever.span(stands.freed)[0] <= end <= lever.span(stands.freed)[1]]
        best = min(
            reached, key=lambda end: _missed(stands.freed, lever.moved(stands.freed, end), wish, wanted), default=None
        )
        if best is not None and abs(log(best / lever.value(stands))) > SAME:
            ends.append((lever, best))
    pairs = []
    for first, end in ends:
        there = first.moved(stands, end)
        for key in wish.levers:
            second = LEVERS[key]
            if key == first.key or (second.replaces and second.replaces == first.replaces):
                continue
            found = solved(there, wish, second, wanted)
            if isinstance(found, LeverMoved) and found.is_owned is not False:
                pairs.append(
                    LeverMoved(
                        ((first, end), *found.values), found.stands, found.is_owned, _brighter(stands, found.stands)
                    )
                )
    return pairs


def _missed(start: Stance, moved: Stance, wish: Wish, wanted: float) -> float:
    (off,) = _off(start, [moved], wish, wanted)
    return inf if is_unknown(off) else abs(off)


WISH_OF_DEMAND = {wish.demand: wish.key for wish in WISHES.values() if wish.demand}
WISH_OF_FIGURE = {wish.rests_on: wish.key for wish in WISHES.values() if wish.rests_on}
"""By the demand of a picture, and by the figure of a bench, what may be wanted of it."""

"""What the lenses of a shelf could have taken of one's own pictures, and how a lens is used."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import inf, log2, nan

import numpy as np

from cambrel.optics.quantities import Array, Flags, Ints, is_unknown
from cambrel.optics.workings import Figure
from cambrel.trials.habits import AT_END, FOCALS, LEAST, MOST_OF, Log, counts, narrowest
from cambrel.wording.sentences import Sentence

OPEN_ENOUGH = 1.03
"""A lens that opens to a number so much larger opens as wide."""


@dataclass(frozen=True)
class Made:
    """A lens on a camera, as far as it decides what could have been taken with it. widest: f-number by focal length, as
    marked along its range.
    """

    crop: float
    focal_min_mm: float
    focal_max_mm: float
    widest: tuple[tuple[float, float], ...]

    def takes(self, equivalent_mm: Array, f_number: Array) -> Flags:
        """Which views and f-numbers it reaches."""
        return np.asarray(self.view_stops(equivalent_mm) + self.opening_stops(equivalent_mm, f_number) == 0)

    def view_stops(self, equivalent_mm: Array) -> Array:
        """By how many stops of light a crop to each view costs, or how many a wider one lacks; 0 within its range."""
        own = equivalent_mm / self.crop
        beyond = np.maximum(np.log2(own / self.focal_max_mm), np.log2(self.focal_min_mm / own))
        return np.asarray(np.where(beyond <= log2(AT_END), 0.0, 2 * beyond))

    def opening_stops(self, equivalent_mm: Array, f_number: Array) -> Array:
        """By how many stops it opens less wide than each f-number; endless where its opening is not known."""
        short = 2 * np.log2(self.opens(equivalent_mm) / f_number)
        return np.asarray(np.where(short <= 2 * log2(OPEN_ENOUGH), 0.0, short))

    def opens(self, equivalent_mm: Array) -> Array:
        """Its widest f-number at each view, beyond its range at its end; endless where it is not known."""
        focal, stops = [f for f, _ in self.widest], [n for _, n in self.widest]
        own = equivalent_mm / self.crop
        return np.asarray(np.interp(own, focal, stops) if focal else np.full(np.shape(own), inf))


@dataclass(frozen=True)
class LensUse:
    """Pictures grouped by what they ask of a lens, and how many there are of each."""

    equivalent_mm: Array
    f_number: Array
    times: Array

    @property
    def total(self) -> float:
        return float(self.times.sum())

    def share(self, takes: Flags) -> float:
        """The share of the pictures that would have been made."""
        return float(self.times[takes].sum() / self.total) if self.total else 0.0


def asked_of(log: Log) -> LensUse:
    """What the pictures ask of a lens, counted in twelfths of a stop so that thousands of lenses are soon tried.

    Parameters
        log: the pictures
    Returns
        how many ask for each focal length and stop
    """
    known = np.isfinite(log.equivalent_mm) & np.isfinite(log.f_number)
    cells = np.stack([np.round(12 * np.log2(values[known])) for values in (log.equivalent_mm, log.f_number)], axis=-1)
    if not len(cells):
        return LensUse(np.zeros(0), np.zeros(0), np.zeros(0))
    groups, times = np.unique(cells, axis=0, return_counts=True)
    return LensUse(2 ** (groups[:, 0] / 12), 2 ** (groups[:, 1] / 12), times.astype(float))


@dataclass(frozen=True)
class Loss:
    """What would be lost without one lens of several: its share of the pictures, and between which views most of that
    lies, in full-frame terms [mm]; NaN where nothing is lost.
    """

    lens: str
    share: float
    low_mm: float = nan
    high_mm: float = nan

    def says(self) -> Sentence:
        """Where its pictures lie, in words."""
        figures = {"low": Figure(self.low_mm, "mm"), "high": Figure(self.high_mm, "mm")}
        if not self.share:
            return Sentence("another lens would have taken all of it", {})
        if self.high_mm / self.low_mm < AT_END:
            return Sentence("most of it at {low}", {"low": figures["low"]})
        return Sentence("most of it between {low} and {high}", figures)


def losses(asked: LensUse, lenses: Sequence[tuple[str, Flags]]) -> list[Loss]:
    """What would be lost of some pictures without each of some lenses: what none of the others would have taken.

    Parameters
        asked: the pictures by what they ask of a lens
        lenses: the name of each, and which of these it takes
    Returns
        one for each lens, in their order
    """
    taken_by = sum((takes.astype(np.int64) for _, takes in lenses), np.zeros(len(asked.times), np.int64))
    found = []
    for name, takes in lenses:
        alone = takes & (taken_by == 1)
        views = np.repeat(asked.equivalent_mm[alone], asked.times[alone].astype(np.int64))
        ends = narrowest(views, MOST_OF) if len(views) else (nan, nan)
        found.append(Loss(name, asked.share(alone), *ends))
    return found


@dataclass(frozen=True)
class FirstMissed:
    """The picture that asks the most beyond what some lenses do: it would have been missed first.

    equivalent_mm: its view, on full frame; year: 0 where it is not known
    end_mm: where the lens that comes nearest ends, on full frame; NaN where the view is in its range
    opens: how wide that opens there; NaN where that is wide enough
    """

    equivalent_mm: float
    f_number: float
    year: int
    end_mm: float
    opens: float

    def says(self) -> Sentence:
        """Which it is, and what is lacking for it."""
        figures = {"view": Figure(self.equivalent_mm, "mm"), "n": Figure(self.f_number, "f")}
        text = "it would have missed first {view} at {n}"
        if self.year:
            text += ", taken in {year}"
            figures["year"] = Figure(str(self.year), "word")
        if not is_unknown(self.end_mm):
            text += ": the nearest lens " + ("ends" if self.end_mm < self.equivalent_mm else "begins") + " at {end}"
            figures["end"] = Figure(self.end_mm, "mm")
        if self.opens < inf:
            text += " and opens to {opens}" if "end" in figures else ": the nearest lens opens to {opens} there"
            figures["opens"] = Figure(self.opens, "f")
        return Sentence(text, figures)


def first_missed(log: Log, lenses: Sequence[Made]) -> FirstMissed | None:
    """Of some pictures the one that asks the most, in stops of view and opening together, beyond the lens that comes
    nearest to it.

    Parameters
        log: the pictures
        lenses: each on its camera
    Returns
        None where every picture is taken, and where no lens says how wide it opens
    """
    known = np.isfinite(log.equivalent_mm) & np.isfinite(log.f_number)
    views, stops, years = log.equivalent_mm[known], log.f_number[known], log.year[known]
    opening = [made for made in lenses if made.widest]
    if not opening or not len(views):
        return None
    missed = np.stack([made.view_stops(views) + made.opening_stops(views, stops) for made in opening])
    worst = int(np.argmax(missed.min(axis=0)))
    nearest = int(np.argmin(missed[:, worst]))
    if not missed[nearest, worst] > 0:
        return None
    view, stop, made = views[worst : worst + 1], stops[worst : worst + 1], opening[nearest]
    end = made.focal_max_mm if view[0] > made.focal_max_mm * made.crop else made.focal_min_mm
    return FirstMissed(
        float(view[0]),
        float(stop[0]),
        int(years[worst]),
        end * made.crop if made.view_stops(view)[0] > 0 else nan,
        float(made.opens(view)[0]) if made.opening_stops(view, stop)[0] > 0 else nan,
    )


def light_ev(log: Log) -> Array:
    """The light that each picture was exposed for, as EV at ISO 100; NaN where a setting is missing.

    Parameters
        log: the pictures
    Returns
        [EV at ISO 100], one for each picture; NaN where a setting is missing
    References
        ISO 2720
    """
    return np.asarray(np.log2(log.f_number**2 / log.shutter_s) - np.log2(log.iso / 100))


def usual_focal(log: Log, lens: int) -> float | None:
    """The focal length at which a zoom is mostly used, by the mark that has most; None from too few pictures [mm].

    Parameters
        log: the pictures
        lens: by number
    Returns
        [mm]; None from too few pictures
    """
    focal = log.focal_length_mm[(log.lens == lens) & (lens >= 0) & np.isfinite(log.focal_length_mm)]
    if len(focal) < LEAST:
        return None
    return FOCALS[int(np.argmax(counts(focal, FOCALS)))]


USED = 0.02


def used_stops(log: Log, body: int, marks: Sequence[float]) -> frozenset[float] | None:
    """The whole stops of a series that are used on a camera, in more than two pictures of a hundred; None from too few
    pictures.

    Parameters
        log: the pictures
        body: by number
        marks: whole stops of a series
    Returns
        those of them that more than two pictures of a hundred use; None from too few pictures
    """
    stops = log.f_number[(log.body == body) & (body >= 0) & np.isfinite(log.f_number)]
    if len(stops) < LEAST:
        return None
    share = counts(stops, marks) / len(stops)
    return frozenset(mark for mark, used in zip(marks, share, strict=True) if used > USED)


VIEW_WEIGHT, LIGHT_WEIGHT = 1.0, 1 / 3
FARTHEST = 2.0
"""A picture farther from all of them than so many stops of view is of none."""


def nearest_brief(log: Log, equivalent_mm: Sequence[float], ev: Sequence[float]) -> Ints:
    """How many of the pictures are nearest to each of some pictures to be made, by view and light.

    Parameters
        log: the pictures
        equivalent_mm, ev: of those that are to be made; NaN where they do not say
    Returns
        one for each of those
    """
    if not len(equivalent_mm):
        return np.zeros(0, np.int64)
    seen, light = log.equivalent_mm, light_ev(log)
    known = np.isfinite(seen) & np.isfinite(light)
    view = np.log2(seen[known][:, None] / np.array(equivalent_mm)[None, :])
    apart = np.hypot(VIEW_WEIGHT * view, LIGHT_WEIGHT * (light[known][:, None] - np.array(ev)[None, :]))
    apart = np.where(np.isfinite(apart), apart, inf)
    best = np.argmin(apart, axis=1)
    near = apart[np.arange(len(best)), best] <= FARTHEST
    return np.bincount(best[near], minlength=len(equivalent_mm))

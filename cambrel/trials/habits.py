"""What one's own pictures say of how one photographs: counts by camera stops, and what the gear of a shelf would have
covered.

Arrays with one entry per picture; NaN where a picture does not say. Nothing is said from fewer than thirty pictures.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields
from math import log2

import numpy as np

from cambrel.optics.quantities import Array, Flags, Ints
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import Sentence

LEAST = 30
"""From fewer pictures nothing is said."""
MOST_OF = 0.8
RARE = 0.05
NEARLY_ALL = 0.8
WIDE_F_NUMBER = 4.0
AT_END = 1.03
"""So near to the end of a zoom a picture was made there."""
CROPPED = 0.75
"""From this share of the frame's sides on a picture is taken as cropped; by less it is straightened."""
SHARED, FRAME_SIDE = 5, 0.01
"""So many pictures of one camera share a length of their long side that is not its own: then they were made smaller,
not cropped.
"""
FOCALS = (
    10.0,
    12.0,
    14.0,
    16.0,
    20.0,
    24.0,
    28.0,
    35.0,
    40.0,
    50.0,
    60.0,
    70.0,
    85.0,
    105.0,
    135.0,
    180.0,
    200.0,
    250.0,
    300.0,
    400.0,
    500.0,
    600.0,
    800.0,
)
"""The marks of focal lengths by which pictures are counted."""


@dataclass(frozen=True)
class Log:
    """Pictures. body, lens: numbers of names, -1 for none; year: 0 where it is not known.

    equivalent_mm: on full frame; ceiling_iso: up to which the photographer finds this camera clean
    kept: share of the sides of the frame that is left of it, 1 for an uncropped one, NaN where it is not known, as of
        one made smaller outside
    """

    equivalent_mm: Array
    focal_length_mm: Array
    f_number: Array
    shutter_s: Array
    iso: Array
    ceiling_iso: Array
    kept: Array
    body: Ints
    lens: Ints
    year: Ints

    def __len__(self) -> int:
        return len(self.year)

    def only(self, those: Flags) -> Log:
        """Some of the pictures."""
        return Log(*(getattr(self, field.name)[those] for field in fields(self)))


def made_smaller(body: Ints, long_px: Array, own_long_px: Sequence[Sequence[float]]) -> Flags:
    """Which pictures were made smaller outside the camera: their long side is none that the camera records, and several
    of one camera share it. Crops by hand differ from picture to picture; pictures that were written out for showing
    share one length.

    Parameters
        body: of each picture its camera by number
        long_px: of each picture its long side [pixels]
        own_long_px: of each camera the long sides that it records [pixels]
    Returns
        one for each picture
    """
    smaller = np.zeros(len(body), dtype=bool)
    for index, own in enumerate(own_long_px):
        mine = (body == index) & np.isfinite(long_px)
        lengths, at, times = np.unique(long_px[mine], return_inverse=True, return_counts=True)
        is_own = np.isclose(lengths[:, None], np.array(own, dtype=float)[None, :], rtol=FRAME_SIDE, atol=0).any(axis=1)
        smaller[mine] = ((times >= SHARED) & ~is_own)[at]
    return smaller


def counts(values: Array, marks: Sequence[float]) -> Ints:
    """How many fall to each of some marks, by the nearest in stops; those that are not known fall to none.

    Parameters
        values: above 0, NaN where not known
        marks: ascending, above 0
    Returns
        one for each mark
    """
    return np.bincount(nearest_mark(values, marks)[np.isfinite(values)], minlength=len(marks))


def nearest_mark(values: Array, marks: Sequence[float]) -> Ints:
    """The index of the mark that each is nearest to in stops.

    Parameters
        values: above 0
        marks: ascending, above 0
    Returns
        one for each value
    """
    edges = np.sqrt(np.array(marks[1:]) * np.array(marks[:-1]))
    return np.searchsorted(edges, np.where(np.isfinite(values), values, 1.0), side="right").astype(np.int64)


def narrowest(values: Array, share: float) -> tuple[float, float]:
    """The two values closest together, in stops, between which so many of all lie, ends included.

    Parameters
        values: above 0, at least one
        share: of all of them, above 0 and at most 1
    Returns
        the lower and the upper
    """
    ordered = np.sort(values)
    count = int(np.ceil(share * len(ordered) - 1e-9))
    spans = ordered[count - 1 :] / ordered[: len(ordered) - count + 1]
    at = int(np.argmin(spans))
    return float(ordered[at]), float(ordered[at + count - 1])


def between(values: Array, low: float, high: float) -> float:
    """The share that lies between two values, ends included; of those that are known.

    Parameters
        values: NaN where not known
        low, high: in their unit
    Returns
        from 0 to 1; 0 where none is known
    """
    known = values[np.isfinite(values)]
    return float(np.mean((known >= low) & (known <= high))) if len(known) else 0.0


def said(log: Log, lenses: Sequence[str]) -> list[Sentence]:
    """What the pictures say, the most telling first.

    Parameters
        log: the pictures
        lenses: names by number
    Returns
        sentences with their figures
    """
    if len(log) < LEAST:
        return []
    sentences = [
        _range(log),
        *_rare_lenses(log, lenses),
        _wide(log),
        _ceiling(log),
        *_zooms(log, lenses),
        *_crops(log, lenses),
    ]
    return [sentence for sentence in sentences if sentence is not None]


def _count(number: float) -> Figure:
    return Figure(float(number), "whole")


def _range(log: Log) -> Sentence | None:
    known = log.equivalent_mm[np.isfinite(log.equivalent_mm)]
    if len(known) < LEAST:
        return None
    low, high = narrowest(known, MOST_OF)
    text = "{share} of your {n} pictures lie between {low} and {high} in full-frame terms"
    if high / low < AT_END:
        high = low * AT_END
        text = "{share} of your {n} pictures are taken at {low} in full-frame terms"
    figures = {
        "share": Figure(between(known, low, high), "share"),
        "n": _count(len(known)),
        "low": Figure(low, "mm"),
        "high": Figure(high, "mm"),
    }
    return Sentence(text, {key: figure for key, figure in figures.items() if f"{{{key}}}" in text})


def _rare_lenses(log: Log, lenses: Sequence[str]) -> list[Sentence]:
    """The lenses that made next to nothing."""
    used = log.lens[log.lens >= 0]
    if len(used) < LEAST:
        return []
    per = np.bincount(used, minlength=len(lenses))
    rare = [index for index in np.argsort(per) if 0 < per[index] < RARE * len(used)]
    return [
        Sentence("the {lens} took {share} of your {n} pictures", {
            "lens": Figure(lenses[index], "word"), "share": Figure(per[index] / len(used), "share"),
            "n": _count(len(used)),
        })
        for index in rare[:3]
    ]  # fmt: skip


def _wide(log: Log) -> Sentence | None:
    known = log.f_number[np.isfinite(log.f_number)]
    if len(known) < LEAST:
        return None
    share = float(np.mean(known < WIDE_F_NUMBER * 0.99))
    return Sentence("you open wider than {f} in {share} of {n} pictures", {
        "f": Figure(WIDE_F_NUMBER, "f"), "share": Figure(share, "share"), "n": _count(len(known)),
    })  # fmt: skip


def _ceiling(log: Log) -> Sentence | None:
    """Past the ISO that is still clean, and where that was, if nearly all of it was in one place."""
    known = np.isfinite(log.iso) & np.isfinite(log.ceiling_iso)
    if known.sum() < LEAST:
        return None
    past = known & (log.iso > log.ceiling_iso * 1.06)
    figures = {"share": Figure(past.sum() / known.sum(), "share"), "n": _count(known.sum())}
    text = "you went past the ISO you accept in {share} of {n} pictures"
    focal = log.equivalent_mm[past & np.isfinite(log.equivalent_mm)]
    if len(focal) >= LEAST:
        low, high = narrowest(focal, NEARLY_ALL)
        if log2(high / low) < 1:
            text += ", nearly all of them between {low} and {high}"
            figures |= {"low": Figure(low, "mm"), "high": Figure(high, "mm")}
    return Sentence(text, figures)


def _zooms(log: Log, lenses: Sequence[str]) -> list[Sentence]:
    """The zooms that are mostly used at one of their ends."""
    sentences = []
    for index, name in enumerate(lenses):
        focal = log.focal_length_mm[(log.lens == index) & np.isfinite(log.focal_length_mm)]
        if len(focal) < LEAST or focal.max() < focal.min() * 1.2:
            continue
        for end, text in ((float(focal.max()), "longest"), (float(focal.min()), "shortest")):
            share = float(np.mean((focal >= end / AT_END) & (focal <= end * AT_END)))
            if share >= 0.5:
                figures = {
                    "lens": Figure(name, "word"),
                    "share": Figure(share, "share"),
                    "n": _count(len(focal)),
                    "end": Figure(end, "mm"),
                }
                sentences.append(
                    Sentence(f"the {{lens}} was at its {text}, {{end}}, in {{share}} of {{n}} pictures", figures)
                )
    return sentences


def _crops(log: Log, lenses: Sequence[str]) -> list[Sentence]:
    """The lenses whose pictures at their longest are mostly cropped: reach that is lacking."""
    sentences = []
    for index, name in enumerate(lenses):
        mine = (log.lens == index) & np.isfinite(log.focal_length_mm)
        if not mine.any():
            continue
        longest = float(log.focal_length_mm[mine].max())
        kept = log.kept[mine & (log.focal_length_mm >= longest / AT_END) & np.isfinite(log.kept)]
        if len(kept) < LEAST:
            continue
        half = float(np.median(kept))
        if half <= CROPPED:
            figures = {
                "lens": Figure(name, "word"),
                "end": Figure(longest, "mm"),
                "kept": Figure(half, "share"),
                "n": _count(len(kept)),
            }
            sentences.append(
                Sentence(
                    "at {end} with the {lens}, half of {n} pictures are cropped to {kept} of their sides or "
                    "less: you need more reach",
                    figures,
                )
            )
    return sentences

"""The words of the bench's two sentences that say what is set, beside the controls that set it."""

from __future__ import annotations

from dataclasses import dataclass

from cambrel import wording
from cambrel.comparison.bench import Bench
from cambrel.comparison.brief import LIGHT_LEVELS, Hold
from cambrel.comparison.hold_answers import QUESTIONS
from cambrel.wording import Units


def light_words(ev: float) -> str:
    """The plain words nearest to a light level."""
    return min(LIGHT_LEVELS, key=lambda level: abs(level.ev - ev)).label


@dataclass(frozen=True)
class HoldWords:
    """The words of the hold as they read in its sentence, under `lead` how it begins, a remark where two answers come
    out the same, and the schools in force.
    """

    words: dict[str, str]
    remark: str = ""
    schools: str = ""


def folded(bench: Bench, units: Units) -> tuple[str, str]:
    """The picture, and what is kept the same, in a few words each.

    Parameters
        bench: the bench
        units: of its distances
    Returns
        what stands for either sentence where there is no room for it
    """
    brief, hold = bench.brief, bench.hold
    place = f"at {wording.distance(brief.distance_m, units)}, {wording.significant(brief.light_ev)} EV"
    kept = "Each at its best" if hold.is_best else f"{_lead(hold)} {hold.in_brief()}".rstrip(" :")
    return f"{bench.brief_name or 'Picture'} {place}", kept


def _lead(hold: Hold) -> str:
    return "Kept the same:" if hold.in_brief() else "Nothing kept the same:"


def hold_words(hold: Hold, schools: str) -> HoldWords:
    remark = ""
    if hold.is_best:
        remark = "These wait."
    elif hold.of_place.walks and hold.of_lens.keeps_view:
        remark = "Equivalent lenses with walking come out at the same spot."
    elif hold.of_place.walks:
        remark = "Walking changes the perspective."
    if hold.of_aperture.opens_reference and not hold.is_best:
        remark = (remark + " Wide open opens the reference too.").strip()
    words = {"lead": _lead(hold)} | {question: hold.answer(question).sentence for question in QUESTIONS}
    return HoldWords(words, remark, schools)

"""The words of the bench's two sentences that say what is set, beside the controls that set it."""

from __future__ import annotations

from dataclasses import dataclass

from cambrel.comparison.brief import LIGHT_LEVELS, Hold
from cambrel.comparison.hold_answers import QUESTIONS


def light_words(ev: float) -> str:
    """The plain words nearest to a light level."""
    return min(LIGHT_LEVELS, key=lambda level: abs(level.ev - ev)).label


@dataclass(frozen=True)
class HoldWords:
    """The words of the hold as they read in its sentence, a remark where two answers come out the same, and the schools
    in force.
    """

    words: dict[str, str]
    remark: str = ""
    schools: str = ""


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
    return HoldWords({question: hold.answer(question).sentence for question in QUESTIONS}, remark, schools)

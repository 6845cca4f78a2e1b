"""The words of the bench's two sentences that say what is set, beside the controls that set it."""

from __future__ import annotations

from dataclasses import dataclass

from cambrel.comparison.brief import LIGHT_LEVELS, Hold


def light_words(ev: float) -> str:
    """The plain words nearest to a light level."""
    return min(LIGHT_LEVELS, key=lambda level: abs(level.ev - ev)).label


HOLD_WORDS: dict[str, dict[str, str]] = {
    "lens": {"same": "the same lens", "equivalent": "equivalent lenses", "own": "each its own lens"},
    "place": {"spot": "from the same spot", "walk": "walking to the same framing", "own": "each from its own distance"},
    "aperture": {
        "f_number": "at the same f-number",
        "depth": "at the same depth of field",
        "wide_open": "wide open",
        "own": "at the f-numbers set",
    },
    "exposure": {
        "shutter": "with the same shutter, ISO follows",
        "iso": "with the same ISO, shutter follows",
        "own": "with shutter and ISO as set",
    },
}
"""The answers as they read in the sentence whose words they are."""


@dataclass(frozen=True)
class HoldWords:
    """The words of the hold as they read in its sentence, a remark where two answers come out the same, and the schools in force."""

    words: dict[str, str]
    remark: str = ""
    schools: str = ""


def hold_words(hold: Hold, schools: str) -> HoldWords:
    remark = ""
    if hold.is_best:
        remark = "These wait."
    elif hold.place == "walk" and hold.lens == "equivalent":
        remark = "Equivalent lenses with walking come out at the same spot."
    elif hold.place == "walk":
        remark = "Walking changes the perspective."
    if hold.aperture == "wide_open" and not hold.is_best:
        remark = (remark + " Wide open opens the reference too.").strip()
    return HoldWords({name: words[getattr(hold, name)] for name, words in HOLD_WORDS.items()}, remark, schools)

"""What ten rounds of "Can you tell?" come to, in words, and what they say of where noise is seen."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor, isfinite

from cambrel import wording
from cambrel.comparison.engine import RigFigures
from cambrel.drills.chance import RARE, by_guessing
from cambrel.verdicts.lights import cleaner_stops
from cambrel.verdicts.relations import blur_stops, depth_level, same_spot, same_view
from cambrel.wording.sentences import LEVEL_STOPS


def told(hits: int, tries: int) -> str:
    """Hits against chance."""
    chance = by_guessing(hits, tries)
    guessed = f"{hits} of {tries}. By guessing alone so many or more come up in {wording.share(chance)} of such runs: "
    if chance <= RARE:
        return guessed + "you can tell these two pictures apart."
    return guessed + "no difference that you can rely on."


@dataclass(frozen=True)
class NoiseSeen:
    """What rounds on two pictures that differ in their noise alone say: a sentence, and the signal to noise below which
    noise is seen.
    """

    says: str
    below: float


def noise_seen(hits: int, tries: int, a: RigFigures, b: RigFigures) -> NoiseSeen | None:
    """What the rounds say of noise; None where something else tells the pictures apart, or their noise is the same."""
    blur = blur_stops(a, b)
    is_alone = same_view(a, b) and same_spot(a, b) and depth_level(a, b) and not abs(blur) > LEVEL_STOPS
    if not (is_alone and abs(cleaner_stops(a, b)) > LEVEL_STOPS and isfinite(a.light.snr)):
        return None
    snr = min(a.light.snr, b.light.snr)
    shown = wording.significant(snr)
    if by_guessing(hits, tries) <= RARE:
        return NoiseSeen(f"Only their noise differs. You see it at a signal to noise of {shown}.", float(ceil(snr)))
    return NoiseSeen(f"Only their noise differs. You do not see it at a signal to noise of {shown}.", float(floor(snr)))

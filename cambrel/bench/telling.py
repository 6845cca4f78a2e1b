"""What ten rounds of "Can you tell?" come to, in words."""

from __future__ import annotations

from cambrel import wording
from cambrel.optics.telling import RARE, by_guessing


def told(hits: int, tries: int) -> str:
    """Hits against chance."""
    chance = by_guessing(hits, tries)
    guessed = f"{hits} of {tries}. By guessing alone so many or more come up in {wording.share(chance)} of such runs: "
    if chance <= RARE:
        return guessed + "you can tell these two pictures apart."
    return guessed + "no difference that you can rely on."

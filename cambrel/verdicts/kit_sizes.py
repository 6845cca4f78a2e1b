"""Whether a bag holds a kit, and how kits compare in weight and room, in words."""

from __future__ import annotations

from math import isfinite

from cambrel.comparison.outer_sizes import MOST_FILLED, SLACK, BagFit
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_WEIGHT, Sentence, listed

JUST_OVER = 0.005
"""A share that is shown as the limit itself."""


def bag_says(fit: BagFit) -> Sentence:
    """Whether the pieces of a kit go into a bag, and why not.

    Parameters
        fit: what came of packing it
    Returns
        one sentence or two
    """
    figures = {
        "filled": Figure(fit.filled, "share"),
        "most": Figure(MOST_FILLED, "share"),
        "unknown": Figure(fit.unknown, "count"),
        "names": Figure(listed(fit.too_large) if fit.too_large else "", "word"),
    }
    if fit.too_large:
        return Sentence("No: {names} {go} in no way round.", {
            "names": figures["names"], "go": Figure("goes" if len(fit.too_large) == 1 else "go", "word"),
        })  # fmt: skip
    if fit.filled > MOST_FILLED * (1 + SLACK):
        text = "No: each piece goes in, but together they fill {filled} of it. Up to {most} packs well."
        if fit.filled < MOST_FILLED + JUST_OVER:
            text = "No: each piece goes in, but together they fill just over {most} of it, which is what packs well."
    elif fit.unknown:
        pieces = "one piece is" if fit.unknown == 1 else "{unknown} pieces are"
        text = f"Perhaps: what is known fills {{filled}} of it, but {pieces} of unknown size."
    else:
        text = "Yes: each piece goes in, and together they fill {filled} of it. Up to {most} packs well."
    return Sentence(text, {name: figure for name, figure in figures.items() if "{" + name + "}" in text})


def _apart(ratio: float, less: str, more: str, alike: str, name: str) -> tuple[str, dict[str, Figure]]:
    if abs(ratio - 1) <= LEVEL_WEIGHT:
        return alike, {}
    return f"{{{name}}} {less if ratio < 1 else more}", {name: Figure(abs(ratio - 1), "share")}


def against_says(name: str, weight_ratio: float, volume_ratio: float) -> Sentence | None:
    """How a kit compares with another in weight and in room.

    Parameters
        name: of the other kit
        weight_ratio, volume_ratio: this kit over the other; NaN where it is not known of either
    Returns
        one sentence; None where neither is known
    """
    parts = [
        _apart(ratio, less, more, alike, key)
        for ratio, less, more, alike, key in (
            (weight_ratio, "lighter", "heavier", "as heavy", "by_weight"),
            (volume_ratio, "smaller", "larger", "as large", "by_room"),
        )
        if isfinite(ratio)
    ]
    if not parts:
        return None
    # what is alike stands by itself: “as heavy as” and “40% smaller than” do not share an ending
    said = [f"{text} {'than' if shown else 'as'} {{name}}" for text, shown in parts]
    if len(parts) == 2 and bool(parts[0][1]) == bool(parts[1][1]):
        said = [f"{parts[0][0]} and {parts[1][0]} {'than' if parts[0][1] else 'as'} {{name}}"]
    elif len(parts) == 2:
        said = [*said[:1], parts[1][0]] if parts[1][1] else [parts[1][0] + " as {name}", parts[0][0]]
    figures = {"name": Figure(name, "word")} | parts[0][1] | parts[-1][1]
    return Sentence(f"This kit is {' and '.join(said)}.", figures)

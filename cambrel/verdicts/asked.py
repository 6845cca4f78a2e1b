"""Who can take the wanted picture and who cannot: the two rigs that differ most in it, with the demand that
decides.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import inf

from cambrel.comparison.demand import CANNOT, DOES, NEARLY
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.fulfilment import Fulfilment, fulfilment
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.verdicts.lights import cleaner_stops, seen
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, rig_rule, say, whole_rule
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, LEVEL_WEIGHT

ORDER = (DOES, NEARLY, CANNOT)
TEXTS = {
    (DOES, CANNOT): "{a} can take this picture{set}. {b} cannot: ",
    (DOES, NEARLY): "{a} can take this picture{set}. {b} just falls short: ",
    (NEARLY, CANNOT): "{a} just falls short of this picture{set}. {b} does not come near: ",
}


@rig_rule
@rests_on(
    "f_number",
    "shutter",
    "iso",
    says="The picture asks for a depth, a blur and a shutter time. Within that, the settings with the "
    "least noise are taken.",
)
def at_its_best(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """Where to focus, which f-number, which shutter and which ISO this picture asks for."""
    if comparison.asked is None or not b.settings.focusable:
        return
    s = b.settings
    text = "For this picture set {b} to {f}, {n}, {t} and {iso}. Focus at {u}"
    kept = float(comparison.asked.kept_side[b.index])
    if kept < 1 - LEVEL_VIEW:
        text += " and crop it to {kept} of each side"
    yield say(
        "at_its_best",
        Topic.ASKED,
        1.0,
        text + ".",
        b,
        f=Figure(s.focal_length_mm / b.carrier.converter, "mm"),
        n=Figure(s.f_number / b.carrier.converter, "f-mark"),
        t=Figure(s.shutter_s, "s-mark"),
        iso=Figure(s.iso, "iso-mark"),
        u=Figure(s.object_distance_m, "m"),
        kept=Figure(kept, "share"),
    )


@pair_rule
@rests_on(
    "total",
    "background_share",
    "total_stops",
    says=(
        "Each camera is at its best settings for this picture. What is left is the difference a "
        "careful photographer would see."
    ),
)
def both_at_best(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Two rigs that both can take the picture: which is cleaner, and which is lighter to carry."""
    if comparison.asked is None:
        return
    done = fulfilment(comparison)
    if done[a.index].status != DOES or done[b.index].status != DOES:
        return
    stops = cleaner_stops(a, b)
    figures = {"iso_a": Figure(a.settings.iso, "iso-mark"), "iso_b": Figure(b.settings.iso, "iso-mark")}
    text = "{a} and {b} can both take this picture: {a} at {iso_a}, {b} at {iso_b}."
    if abs(stops) <= LEVEL_STOPS:
        text += " They are equally clean."
    elif not is_unknown(stops):
        said, more = seen(comparison, a, b)
        figures |= more | {"clean": Figure((b if stops > 0 else a).index, "rig"), "stops": Figure(abs(stops), "stops")}
        text += " {clean} is {stops} cleaner." + said
    less = b.outfit.weight_g - a.outfit.weight_g
    light = b if less < 0 else a
    if abs(less) > LEVEL_WEIGHT * max(a.outfit.weight_g, b.outfit.weight_g):
        figures |= {"light": Figure(light.index, "rig"), "less": Figure(abs(less), "g")}
        text += " {light} is {less} lighter."
    yield say("both_at_best", Topic.ASKED, 2.0, text, a, b, **figures)


@whole_rule
@rests_on(says="Each camera is checked against everything the picture needs. The worst check decides.")
def asked(comparison: Comparison) -> Iterator[Verdict]:
    """The rig that is nearest to the picture against the one that is farthest from it. One that cannot focus is spoken
    of apart.
    """
    judged = [
        check
        for check in fulfilment(comparison)
        if check.status in ORDER and comparison.of(check.index).settings.focusable
    ]
    if not judged:
        return

    def place(answer: Fulfilment) -> int:
        return ORDER.index(answer.status)

    best = min(judged, key=lambda check: (place(check), check.index != comparison.reference))
    worst = max(judged, key=lambda check: (place(check), check.index != comparison.reference))
    text = TEXTS.get((best.status, worst.status))
    if text is not None:
        text = text.replace("{set}", " as set" if comparison.asked is None else " at its best")
        check = worst.checks[0]
        rigs = comparison.of(best.index), comparison.of(worst.index)
        yield say("asked", Topic.ASKED, inf, text + check.text + ".", *rigs, **check.figures)

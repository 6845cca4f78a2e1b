"""Verdicts on lens and body together: image circle, mount, projection, and weight, which is never named without the
equivalent f-number.
"""

from __future__ import annotations

from collections.abc import Iterator

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.rig import aperture_stops
from cambrel.optics.formats import COVERING, covers
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.verdicts.registry import Topic, Verdict, pair_rule, rests_on, rig_rule, say
from cambrel.verdicts.relations import EQUIVALENT_VIEW, view_ratio
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_WEIGHT, by_ratio


@rig_rule
@rests_on("circle")
def image_circle(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A lens whose image circle ends before the frame does."""
    share = b.outfit.image_circle_share
    if b.settings.focusable and not is_unknown(share) and not covers(share, 1.0):
        text = (
            "The lens does not cover {b}'s sensor: its image circle is {share} of the diagonal, so the "
            "corners stay dark."
        )
        size = by_ratio(share, 1 - COVERING)
        yield say("image_circle", Topic.COVER, size, text, b, share=Figure(share, "share"))


@rig_rule
@rests_on(
    says=(
        "Lens and body have different mounts. Whether an adapter fits depends on how far each mount "
        "holds the lens from the sensor."
    )
)
def mount(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A lens whose mount is another than the body's."""
    if b.outfit.mount_fits == 0:
        text = "The lens on {b} has another mount. These figures hold if there is an adapter."
        yield say("mount", Topic.GEAR, 1.0, text, b)


@rig_rule
@rests_on(says="A fisheye bends what it sees. No straight lens shows the same.")
def fisheye(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """A lens that is kept out of equivalents."""
    if not b.carrier.lens.rectilinear:
        text = (
            "The lens on {b} is a fisheye. It bends straight lines and sees more than these figures, "
            "which are for a straight lens."
        )
        yield say("fisheye", Topic.VIEW, 10.0, text, b)


@rig_rule
@rests_on("focus")
def close_up_guide(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    """Close up the figures of a thin lens are a guide only."""
    if b.carrier.lens.shortens_close_up and b.view.magnification > 0.1:
        text = "The lens on {b} shortens its focal length close up, so its working distance here is a guide."
        yield say("close_up_guide", Topic.TERMS, 1.0, text, b)


@pair_rule
@rests_on("volume", "long")
def bulk(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Which takes less room, and how far each reaches."""
    ratio = b.outfit.volume_l / a.outfit.volume_l
    if not (b.settings.focusable and abs(ratio - 1) > LEVEL_WEIGHT):
        return
    text = (
        "{b} takes {off} {side} room than {a}: {volume_b}, {long_b} from back to front, against {volume_a}, {long_a}."
    )
    yield say(
        "bulk",
        Topic.GEAR,
        by_ratio(ratio, LEVEL_WEIGHT),
        text,
        a,
        b,
        off=Figure(abs(ratio - 1), "share"),
        side=Figure("more" if ratio > 1 else "less", "word"),
        volume_a=Figure(a.outfit.volume_l, "l"),
        volume_b=Figure(b.outfit.volume_l, "l"),
        long_a=Figure(a.outfit.long_mm, "mm"),
        long_b=Figure(b.outfit.long_mm, "mm"),
    )


@pair_rule
@rests_on("weight")
def weight(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    """Which is lighter to carry."""
    mass_a, mass_b = a.outfit.weight_g, b.outfit.weight_g
    wide_a, eq_b = a.settings.widest_f_number, b.settings.widest_f_number / b.frames.k
    if not abs(mass_b / mass_a - 1) > LEVEL_WEIGHT or not (wide_a > 0 and eq_b > 0):
        return
    text = "{b} weighs {mass_b}, {a} weighs {mass_a}. In {a}'s terms {b}'s lens opens to {eq_b}, against {wide_a}."
    if not abs(view_ratio(a, b) - 1) <= EQUIVALENT_VIEW:
        text = (
            "{b} weighs {mass_b}, {a} weighs {mass_a}. They do not see the same, so compare the weight "
            "of lenses with the same view."
        )
    elif abs(aperture_stops(eq_b, wide_a)) <= LEVEL_STOPS:
        text = "{b} weighs {mass_b}, {a} weighs {mass_a}. In {a}'s terms {b}'s lens opens just as wide, to {eq_b}."
    yield say(
        "weight",
        Topic.GEAR,
        by_ratio(mass_b / mass_a, LEVEL_WEIGHT),
        text,
        a,
        b,
        mass_a=Figure(mass_a, "g"),
        mass_b=Figure(mass_b, "g"),
        eq_b=Figure(eq_b, "f"),
        wide_a=Figure(wide_a, "f"),
    )

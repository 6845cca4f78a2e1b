"""Verdicts on lens and body together: image circle, mount, projection, and weight, which is never named without the equivalent f-number."""

from __future__ import annotations

from collections.abc import Iterator

from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.figures import LEVEL_WEIGHT, Figure
from cambrel.optics.verdicts.registry import Verdict, pair_rule, rig_rule, say


@rig_rule
def image_circle(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    share = b.kit.image_circle_share
    if share < 0.995:
        text = "The lens does not cover {b}: its image circle is {share} of the frame's diagonal, so the corners stay dark."
        yield say("image_circle", 73, text, b, share=Figure(share, "share"))


@rig_rule
def mount(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    if b.kit.mount_fits == 0:
        yield say("mount", 34, "The lens on {b} has another mount: these figures hold if an adapter exists.", b)


@rig_rule
def fisheye(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    lens = comparison.rigs[_carried(comparison, b.index)].lens
    if not lens.rectilinear:
        yield say(
            "fisheye",
            67,
            "The lens on {b} is a fisheye: it bends straight lines and sees more than these figures, which hold for a rectilinear lens.",
            b,
        )


@rig_rule
def close_up_guide(comparison: Comparison, b: RigFigures) -> Iterator[Verdict]:
    lens = comparison.rigs[_carried(comparison, b.index)].lens
    if lens.shortens_close_up and b.view.magnification > 0.1:
        text = "The focal length of the lens on {b} shortens close up: its working distance here is a guide."
        yield say("close_up_guide", 42, text, b)


def _carried(comparison: Comparison, index: int) -> int:
    """The rig whose lens rig `index` carries."""
    if comparison.hold.lens != "same":
        return index
    return comparison.reference if comparison.hold.lens_of is None else comparison.hold.lens_of


@pair_rule
def weight(comparison: Comparison, a: RigFigures, b: RigFigures) -> Iterator[Verdict]:
    mass_a, mass_b = a.kit.weight_g, b.kit.weight_g
    if not abs(mass_b / mass_a - 1) > LEVEL_WEIGHT:
        return
    text = "{b} weighs {mass_b} against {mass_a} for {a}; in {a}'s terms its lens opens to {eq_b}, against {wide_a}."
    yield say(
        "weight",
        32,
        text,
        a,
        b,
        mass_a=Figure(mass_a, "g"),
        mass_b=Figure(mass_b, "g"),
        eq_b=Figure(b.settings.widest_f_number / b.frames.k, "f"),
        wide_a=Figure(a.settings.widest_f_number, "f"),
    )

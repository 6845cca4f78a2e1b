"""What a picture demands of each rig, and how far a rig meets it as it is set: one set of demands, as set and at its
best.

What misses by no more than is worth saying works, what misses by no more than a stop just falls short; whether settings
would cure the rest is for `comparison.cures`.
"""

from __future__ import annotations

from math import inf, isfinite, log2, nan

import numpy as np

from cambrel.comparison.bodies import USUAL_BASE_ISO, bodies_of
from cambrel.comparison.demand import CANNOT, DOES, NEARLY, TOLERANCE, UNKNOWN, Demand, Rule, by_stops
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.figures import stands_elsewhere
from cambrel.comparison.framing import working_distance_m
from cambrel.comparison.lenses import lenses_of
from cambrel.comparison.rig import aperture_stops
from cambrel.comparison.shortfalls import HALF, NEAR_HALF, NEAR_VIEW, contrast
from cambrel.comparison.status import Status
from cambrel.comparison.time_demands import TIME_RULES
from cambrel.comparison.tonal_range import frames_for, range_of
from cambrel.optics.depth import f_number_for_limits
from cambrel.optics.formats import covers
from cambrel.optics.geometry import focal_length_for_image_distance_mm, walking_distance_m
from cambrel.optics.light import MID_GREY_LUX_S
from cambrel.optics.quantities import Array, is_unknown
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW


def _m(value: float) -> Figure:
    return Figure(value, "m")


def _stops(value: float) -> Figure:
    return Figure(abs(value), "stops")


def _framing(comparison: Comparison, rig: RigFigures) -> Demand | None:
    """As wide as is asked for; at its best by the focal length that frames it, which may be that of another rig's
    view.
    """
    asked, got = comparison.brief.width_shown_m, rig.view.field_wide_m
    if comparison.asked is not None:
        return _framing_at_best(comparison, rig)
    if asked is None:
        return None
    figures = {"got": _m(got), "asked": _m(asked)}
    too_tight = asked / got - 1
    status = DOES if got >= asked * (1 - LEVEL_VIEW) else NEARLY if too_tight <= NEAR_VIEW else CANNOT
    image = rig.frames.width_mm * rig.settings.subject_distance_m / asked
    cure = float(focal_length_for_image_distance_mm(image, rig.settings.object_distance_m))
    text = "shows {got} of {asked} wide"
    if cure >= rig.focal_range_mm[0] * (1 - TOLERANCE):
        figures["f"] = Figure(cure, "mm")
        status = NEARLY if status is CANNOT else status
        return Demand(
            text + "; {f} would be enough", figures, "width", too_tight / LEVEL_VIEW, status, "shows {asked} wide"
        )
    s = rig.settings
    figures["back"] = _m(
        walking_distance_m(
            s.focal_length_mm, rig.frames.width_mm / asked, s.wanted_object_distance_m - s.wanted_distance_m
        )
    )
    return Demand(
        text + "; from {back} it would", figures, "width", too_tight / LEVEL_VIEW, status, "shows {asked} wide"
    )


def _framing_at_best(comparison: Comparison, rig: RigFigures) -> Demand | None:
    asked = comparison.asked
    assert asked is not None
    status, missed = Status(asked.statuses["framing"][rig.index]), float(asked.shortfalls_stops["framing"][rig.index])
    if status is UNKNOWN:
        return Demand("no framing is asked for", {}, "framing", nan, UNKNOWN)
    figures = {
        "reached": Figure(rig.settings.focal_length_mm, "mm"),
        "wanted": Figure(float(asked.wanted_focal_length_mm[rig.index]), "mm"),
    }
    return Demand(
        "{reached} is as wide as its lens goes, and the framing needs {wanted}", figures, "framing", missed, status
    )


def _focus(comparison: Comparison, rig: RigFigures) -> Demand | None:
    """Whether the subject itself is sharp."""
    s, disc, circle = rig.settings, rig.blur.subject_mm, rig.frames.coc_mm
    if not disc > 0:
        return None
    figures = {"u": _m(s.object_distance_m), "d": _m(s.subject_distance_m)}
    stuck = is_at_close_limit(comparison, rig)
    if is_unknown(circle):
        return Demand(
            "focused at {u}, not at {d}, and whether it looks sharp is not known", figures, "focus", nan, UNKNOWN
        )
    missed = 2 * log2(disc / circle)
    text = "focused at {u}, the subject at {d} comes out soft"
    if s.object_distance_m == inf:
        text = "focused at infinity, the subject at {d} comes out soft"
    elif stuck:
        text = "cannot focus closer than {u}, the subject at {d} comes out soft"
    return Demand(
        text,
        figures,
        "focus",
        missed,
        by_stops(missed),
        "focuses no closer than {u}, the subject still looks sharp" if stuck else "",
    )


def is_at_close_limit(comparison: Comparison, rig: RigFigures) -> bool:
    """Whether a rig is focused as near as it goes, where it was to focus nearer.

    Parameters
        comparison: worked out
        rig: one of it
    Returns
        False where it focuses where it was to
    """
    s = rig.settings
    if comparison.asked is not None:
        return str(comparison.asked.bindings["focus"][rig.index]) == "limit"
    return not stands_elsewhere(comparison.brief, s) and s.object_distance_m > s.wanted_object_distance_m * (
        1 + TOLERANCE
    )


def _ends(comparison: Comparison, rig: RigFigures) -> tuple[float, float]:
    """From where to where all must be sharp [m], from the lens."""
    brief, subject_m = comparison.brief, rig.settings.subject_distance_m
    return subject_m - (brief.sharp_front_m or 0.0), subject_m + (brief.sharp_behind_m or 0.0)


def _number_for(rig: RigFigures, near: float, far: float) -> float:
    """The f-number that holds both ends."""
    s = rig.settings
    return float(f_number_for_limits(s.focal_length_mm, s.object_distance_m, rig.frames.coc_mm, near, far))


def _sharp(comparison: Comparison, rig: RigFigures) -> Demand | None:
    if not asks_range(comparison):
        return None
    s, (near, far) = rig.settings, _ends(comparison, rig)
    if is_unknown(rig.depth.near_m):
        return Demand("depth not known", {}, "sharp", nan, UNKNOWN)
    if near <= 0:
        return Demand("what must be sharp in front is behind the camera", {}, "sharp", inf, CANNOT)
    missed = aperture_stops(_number_for(rig, near, far), s.f_number)
    short_near = rig.depth.near_m > near * (1 + TOLERANCE)
    short_far = rig.depth.far_m < far * (1 - TOLERANCE)
    if short_far and (not short_near or (rig.depth.behind_m / max(far - s.object_distance_m, 1e-12)) < 1):
        figures = {"got": _m(rig.depth.far_m)} | ({"asked": _m(far)} if far < inf else {})
        text = "sharp to {got}, not to {asked}" if far < inf else "sharp to {got}, not to infinity"
    else:
        figures = {"got": _m(rig.depth.near_m), "asked": _m(near)}
        text = "sharp from {got}, not from {asked}"
    return Demand(text, figures, "sharp", missed, by_stops(missed), "everything that must be sharp is")


def needed_for_depth(comparison: Comparison, rig: RigFigures) -> tuple[str, dict[str, Figure]]:
    """What stands in the way of the f-number that would hold the range, where no settings that this rig has do.

    Parameters
        comparison: worked out
        rig: one of it
    Returns
        the end of a sentence with names in braces, and the figures by those names; both empty where nothing does
    """
    near, far = _ends(comparison, rig)
    if not near > 0 or is_unknown(rig.frames.coc_mm):
        return "", {}
    needed = _number_for(rig, near, far)
    if not isfinite(needed):
        return "", {}
    figures = {"n": Figure(needed, "f-mark")}
    if needed > rig.smallest_f_number * (1 + TOLERANCE):
        return "; it would take {n}", figures
    if aperture_stops(needed, rig.diffraction.limited_f_number) > LEVEL_STOPS:
        return "; {n} would be enough, but diffraction softens everything there", figures
    return "", {}


def _background(comparison: Comparison, rig: RigFigures) -> Demand | None:
    share, got = comparison.brief.blur_share, rig.blur.background_share
    if share is None or is_unknown(got):
        return None
    missed = 2 * log2(share / got) if got > 0 else inf
    figures = {"stops": _stops(missed), "n": Figure(rig.settings.f_number, "f")}
    text = "its background is {stops} too sharp at {n}"
    if missed > FAR_OFF_STOPS:
        figures, text = (
            {"got": Figure(got, "share"), "share": Figure(share, "share")},
            "its background blurs to {got} of the frame, not {share}",
        )
    return Demand(text, figures, "background", missed, by_stops(missed))


FAR_OFF_STOPS = 10.0
"""Missed by more than this nobody counts in stops."""


def _room(comparison: Comparison, rig: RigFigures) -> Demand | None:
    """Whether there is as much room before the lens as is comfortable; where the lens is not known it is counted from
    it as a thin one.
    """
    asked = comparison.brief.comfortable_m
    if asked is None:
        return None
    known = working_distance_m(rig)
    got = rig.settings.subject_distance_m if is_unknown(known) else known
    figures = {"got": _m(got), "asked": _m(asked)}
    status = DOES if got >= asked * (1 - LEVEL_VIEW) else CANNOT
    text = "{got} of room before the lens, not {asked}" if got > 0 else "no room before the lens, of {asked}"
    return Demand(text, figures, "room", inf, status, "{asked} of room before the lens")


def _exposed(comparison: Comparison, rig: RigFigures) -> Demand:
    """As bright as the light asks. What is too bright even so a filter takes; nothing takes what is too dark."""
    error = rig.light.error_stops
    if error > 0:
        figures = {"stops": _stops(error), "filter": Figure(error, "n-stop")}
        status = DOES if error <= LEVEL_STOPS else NEARLY
        return Demand("{stops} too bright; a {filter} ND filter would be enough", figures, "bright", error, status)
    return Demand("{stops} too dark", {"stops": _stops(error)}, "dark", -error, by_stops(-error))


def _noise(comparison: Comparison, rig: RigFigures) -> Demand:
    """As clean as the photographer accepts. Noise depends on the light that there is, whatever the ISO."""
    base, ceiling = rig.rig.body.base_iso or USUAL_BASE_ISO, rig.light.ceiling_iso
    needed = max(MID_GREY_LUX_S / rig.light.exposure_lux_s, base)
    if is_unknown(ceiling):
        return Demand("noise cannot be judged: its pixels are not known", {}, "light", nan, UNKNOWN)
    missed = log2(needed / ceiling)
    figures = {"stops": _stops(missed)}
    text = "{stops} noisier than you accept"
    kept = 1.0 if comparison.asked is None else float(comparison.asked.kept_side[rig.index])
    if missed > LEVEL_STOPS and missed + crop_cost_stops(comparison, kept) <= LEVEL_STOPS:
        text += ", with only {kept} of each side of the frame left"
        figures["kept"] = Figure(kept, "share")
    return Demand(text, figures, "light", missed, by_stops(missed))


def crop_cost_stops(comparison: Comparison, kept_side: float) -> float:
    """What a crop takes of the light that noise depends on: all that is cut off, but nothing pixel by pixel.

    Parameters
        comparison: whose school of noise is in force
        kept_side: share of each side that is used, above 0 and at most 1
    Returns
        [stops], 0 or below
    """
    return 2 * log2(kept_side) if comparison.conventions.noise == "picture" else 0.0


def _diffraction(comparison: Comparison, rig: RigFigures) -> Demand | None:
    """Past where diffraction shows: what a stack saves where a range is asked for that no wider aperture holds."""
    limit, s = rig.diffraction.limited_f_number, rig.settings
    if is_unknown(limit):
        return None
    missed = aperture_stops(s.f_number, limit)
    figures = {"n": Figure(s.f_number, "f"), "stops": _stops(missed)}
    text = "{n} is {stops} past where diffraction shows"
    if s.f_number <= rig.widest_f_number(s.focal_length_mm) * (1 + TOLERANCE):
        text += ", and it opens no wider"
    elif asks_range(comparison) and comparison.asked is not None:
        text += "; a stack would be sharper"
    return Demand(text, figures, "diffraction", missed, DOES if missed <= LEVEL_STOPS else NEARLY)


def contrast_left(comparison: Comparison) -> Array:
    """Contrast that each rig leaves, at its focus, of the finest lines that count as good enough.

    Parameters
        comparison: worked out
    Returns
        from 0 to 1, one for each rig
    """

    def left() -> Array:
        carriers = [comparison.carrier(index) for index in range(len(comparison.rigs))]
        glass = lenses_of([carrier.lens for carrier in carriers], [carrier.converter for carrier in carriers])
        backs = bodies_of(comparison.brief, comparison.rigs, comparison.conventions)
        seen, s = comparison.settings.focusable, comparison.settings
        n, effective = np.where(seen, s.f_number, 4.0), np.where(seen, comparison.light.effective_f_number, 4.0)
        return contrast(comparison.brief, comparison.conventions, backs, glass, n, effective, comparison.frames)

    return comparison.once("contrast", left)


def asks_range(comparison: Comparison) -> bool:
    """Whether something in front or behind must be sharp as well.

    Parameters
        comparison: of any picture
    Returns
        False where only the subject must be sharp
    """
    return comparison.brief.sharp_front_m is not None or comparison.brief.sharp_behind_m is not None


def _detail(comparison: Comparison, rig: RigFigures) -> Demand:
    """As sharp at its focus as it is to be shown."""
    left = float(contrast_left(comparison)[rig.index])
    status = DOES if left >= HALF else NEARLY if left >= NEAR_HALF else CANNOT
    figures = {"long": Figure(comparison.brief.shown_long_side_mm / 1000, "m")}
    return Demand(
        "not sharp enough for a print {long} wide", figures, "sharpness", log2(HALF / max(left, 1e-9)), status
    )


def _range(comparison: Comparison, rig: RigFigures) -> Demand | None:
    asked = comparison.brief.scene_range_stops
    if asked is None:
        return None
    held_range = range_of(comparison, rig, rig.settings.iso)
    if held_range is None:
        return Demand("tonal range not known", {}, "range", nan, UNKNOWN)
    got, figures = held_range.by[comparison.conventions.range], {"asked": Figure(asked, "stops")}
    frames = frames_for(asked, got)
    if not isfinite(frames):
        return Demand("holds almost none of a range of {asked}", figures, "range", inf, CANNOT)
    figures |= {"got": Figure(got, "stops"), "frames": Figure(frames, "number")}
    text = "holds {got} of a range of {asked}; {frames} frames would be enough"
    return Demand(text, figures, "range", asked - got, DOES if frames == 1 else NEARLY, "holds the range of {asked}")


def _covered(comparison: Comparison, rig: RigFigures) -> Demand | None:
    share = rig.outfit.image_circle_share
    if is_unknown(share) or covers(share, 1.0):
        return None
    text = "dark corners: the lens covers {share} of the diagonal"
    return Demand(text, {"share": Figure(share, "share")}, "cover", inf, CANNOT)


RULES: tuple[Rule, ...] = (
    _focus, _sharp, _framing, _background, _room, *TIME_RULES, _exposed, _noise, _diffraction, _detail, _range,
    _covered,
)  # fmt: skip


def demands_on(comparison: Comparison, rig: RigFigures) -> list[Demand]:
    """Every demand of the brief on a rig that sees its subject, as it is set.

    Parameters
        comparison: worked out
        rig: one of it
    Returns
        in the order in which they are shown
    """
    return [demand for rule in RULES if (demand := rule(comparison, rig)) is not None]

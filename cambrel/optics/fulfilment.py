"""Whether each rig does what the brief asks: does it, nearly, or cannot; with the figure that fails and the setting that would cure it.

"Does it" is what misses by no more than is worth saying; "nearly" what a setting within the rig's reach would cure; "cannot" what none cures.
A cure is a setting that the rig has and that is not the one in force.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import inf, isfinite, log2

from cambrel.optics.closework import working_distance_m
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.depth import f_number_for_limits
from cambrel.optics.figures import stands_elsewhere
from cambrel.optics.formats import covers
from cambrel.optics.geometry import focal_length_for_image_distance_mm, walking_distance_m
from cambrel.optics.rangework import frames_for, range_of
from cambrel.optics.rig import HIGHEST_ISO, aperture_stops
from cambrel.optics.sentences import LEVEL_STOPS, LEVEL_VIEW, Figure, Sentence
from cambrel.optics.starwork import longest_as_points_s
from cambrel.optics.status import Status

DOES, NEARLY, CANNOT, UNKNOWN = Status
ORDER = (CANNOT, UNKNOWN, NEARLY, DOES)
TOLERANCE = 1e-9


@dataclass(frozen=True)
class Check(Sentence):
    """One demand of the brief on one rig."""

    key: str
    status: Status


@dataclass(frozen=True)
class Fulfilment:
    """All demands of the brief on one rig; the failing ones first. The status is the worst of them."""

    index: int
    checks: tuple[Check, ...]

    @property
    def status(self) -> Status:
        return self.checks[0].status if self.checks else DOES


Rule = Callable[[Comparison, RigFigures], Check | None]


def fulfilment(comparison: Comparison) -> list[Fulfilment]:
    """Hold every rig against the brief.

    Parameters
        comparison: without a walk
    Returns
        one Fulfilment per rig, in order
    """
    rigs = range(len(comparison.rigs))
    return comparison.once("fulfilment", lambda: [_fulfilment(comparison, comparison.of(index)) for index in rigs])


def _fulfilment(comparison: Comparison, rig: RigFigures) -> Fulfilment:
    if not rig.settings.focusable:
        return Fulfilment(rig.index, (Check("cannot focus there", {}, "focus", CANNOT),))
    rules = RULES if comparison.asked is None else AT_BEST
    checks = [check for rule in rules if (check := rule(comparison, rig)) is not None]
    checks.sort(key=lambda check: ORDER.index(check.status))
    return Fulfilment(rig.index, tuple(checks))


def _m(value: float) -> Figure:
    return Figure(value, "m")


def _stops_to_spare(comparison: Comparison, rig: RigFigures, *, by_shutter: bool) -> float:
    """How many stops of light the rig can still make up by ISO, and by shutter as far as the brief and the body allow."""
    body = rig.rig.body
    spare = log2((body.ceiling_iso or HIGHEST_ISO) / rig.settings.iso)
    if by_shutter:
        slowest = min(comparison.brief.slowest_shutter_s or inf, rig.rig.slowest_shutter_s or inf)
        spare += max(0.0, log2(slowest / rig.settings.shutter_s)) if slowest < inf else 0.0
    return spare + TOLERANCE


def _focus(comparison: Comparison, rig: RigFigures) -> Check | None:
    s, disc, circle = rig.settings, rig.blur.subject_mm, rig.frames.coc_mm
    if stands_elsewhere(comparison.brief, s) or (
        s.object_distance_m <= s.wanted_object_distance_m * (1 + TOLERANCE)
        and s.subject_distance_m <= s.wanted_distance_m * (1 + TOLERANCE)
    ):
        return None
    if disc <= circle:
        return Check(
            "focuses from {limit}, the subject still looks sharp", {"limit": _m(s.object_distance_m)}, "focus", DOES
        )
    figures = {"limit": _m(s.object_distance_m), "wanted": _m(s.wanted_object_distance_m)}
    if circle != circle:
        return Check(
            "focuses from {limit}, not {wanted}; whether it looks sharp is not known", figures, "focus", UNKNOWN
        )
    cure = s.f_number * disc / circle
    if aperture_stops(cure, s.f_number) <= LEVEL_STOPS:
        return Check("focuses from {limit}, the subject still looks sharp", figures, "focus", DOES)
    if cure <= rig.smallest_f_number and aperture_stops(cure, s.f_number) <= _stops_to_spare(
        comparison, rig, by_shutter=True
    ):
        return Check(
            "focuses from {limit}, not {wanted}; {n} would do", figures | {"n": Figure(cure, "f")}, "focus", NEARLY
        )
    return Check("focuses from {limit}, not {wanted}", figures, "focus", CANNOT)


def _sharp(comparison: Comparison, rig: RigFigures) -> Check | None:
    brief, s = comparison.brief, rig.settings
    if brief.sharp_front_m is None and brief.sharp_behind_m is None:
        return None
    near = s.subject_distance_m - (brief.sharp_front_m or 0.0)
    far = s.subject_distance_m + (brief.sharp_behind_m or 0.0)
    if rig.depth.near_m != rig.depth.near_m:
        return Check("depth not known", {}, "sharp", UNKNOWN)
    if near <= 0:
        return Check("what must be sharp in front is behind the camera", {}, "sharp", CANNOT)
    short_near = rig.depth.near_m > near * (1 + TOLERANCE)
    short_far = rig.depth.far_m < far * (1 - TOLERANCE)
    if not (short_near or short_far):
        return Check("all sharp that must be", {}, "sharp", DOES)
    if short_far and (not short_near or (rig.depth.behind_m / max(far - s.object_distance_m, 1e-12)) < 1):
        figures = {"got": _m(rig.depth.far_m), "asked": Figure(far, "m")}
        text = "sharp to {got}, not {asked}" if far < inf else "sharp to {got}, not to infinity"
        figures = figures if far < inf else {"got": figures["got"]}
    else:
        figures = {"got": _m(rig.depth.near_m), "asked": _m(near)}
        text = "sharp from {got}, not {asked}"
    cure = float(f_number_for_limits(s.focal_length_mm, s.object_distance_m, rig.frames.coc_mm, near, far))
    narrower = aperture_stops(cure, s.f_number)
    if narrower <= LEVEL_STOPS:
        return Check("all sharp that must be", {}, "sharp", DOES)
    reachable = cure <= rig.smallest_f_number * (1 + TOLERANCE)
    if reachable and narrower <= _stops_to_spare(comparison, rig, by_shutter=True):
        return Check(text + "; {n} would do", figures | {"n": Figure(cure, "f")}, "sharp", NEARLY)
    if reachable:
        return Check(
            text + "; {n} would, but there is no light for it", figures | {"n": Figure(cure, "f")}, "sharp", CANNOT
        )
    return Check(text + "; it would take {n}", figures | {"n": Figure(cure, "f")}, "sharp", CANNOT)


def _width(comparison: Comparison, rig: RigFigures) -> Check | None:
    asked, got = comparison.brief.width_shown_m, rig.view.field_wide_m
    if asked is None:
        return None
    if got >= asked * (1 - LEVEL_VIEW):
        return Check("shows {asked} wide", {"asked": _m(asked)}, "width", DOES)
    figures = {"got": _m(got), "asked": _m(asked)}
    image = rig.frames.width_mm * rig.settings.subject_distance_m / asked
    cure = float(focal_length_for_image_distance_mm(image, rig.settings.object_distance_m))
    if cure >= rig.focal_range_mm[0] * (1 - TOLERANCE):
        return Check("shows {got} of {asked} wide; {f} would do", figures | {"f": Figure(cure, "mm")}, "width", NEARLY)
    s = rig.settings
    offset = s.wanted_object_distance_m - s.wanted_distance_m
    back = walking_distance_m(s.focal_length_mm, rig.frames.width_mm / asked, offset)
    return Check("shows {got} of {asked} wide; it would take {back}", figures | {"back": _m(back)}, "width", CANNOT)


def _room(comparison: Comparison, rig: RigFigures) -> Check | None:
    """Whether there is as much room before the lens as is comfortable; where the lens is not known it is counted from it as a thin one."""
    asked = comparison.brief.comfortable_m
    if asked is None:
        return None
    known = working_distance_m(rig)
    got = rig.settings.subject_distance_m if known != known else known
    if got >= asked * (1 - LEVEL_VIEW):
        return Check("{asked} of room before the lens", {"asked": _m(asked)}, "room", DOES)
    if got <= 0:
        return Check("no room before the lens, of {asked}", {"asked": _m(asked)}, "room", CANNOT)
    return Check("{got} of room before the lens, not {asked}", {"got": _m(got), "asked": _m(asked)}, "room", CANNOT)


def _shutter(comparison: Comparison, rig: RigFigures) -> Check | None:
    slowest = comparison.brief.slowest_shutter_s
    return (
        None if slowest is None else _quick_enough(comparison, rig, slowest, "shutter", "{got} is slower than {asked}")
    )


def _motion(comparison: Comparison, rig: RigFigures) -> Check | None:
    moved, circle = rig.blur.movement_mm, rig.frames.coc_mm
    if not moved > 0:
        return None
    if circle != circle:
        return Check("movement cannot be judged", {}, "motion", UNKNOWN)
    # the shutter time in which the image moves by one circle of confusion
    return _quick_enough(
        comparison,
        rig,
        rig.settings.shutter_s * circle / moved,
        "motion",
        "the movement shows at {got}, not at {asked}",
    )


def _stars(comparison: Comparison, rig: RigFigures) -> Check | None:
    declination = comparison.brief.declination_deg
    if declination is None:
        return None
    longest = longest_as_points_s(comparison, rig, declination)
    if longest != longest:
        return Check("star trails cannot be judged", {}, "stars", UNKNOWN)
    return _quick_enough(comparison, rig, longest, "stars", "stars trail at {got}, not at {asked}")


def _range(comparison: Comparison, rig: RigFigures) -> Check | None:
    asked = comparison.brief.scene_range_stops
    if asked is None:
        return None
    found = range_of(comparison, rig, rig.settings.iso)
    if found is None:
        return Check("tonal range not known", {}, "range", UNKNOWN)
    got, figures = found.by[comparison.conventions.range], {"asked": Figure(asked, "stops")}
    frames = frames_for(asked, got)
    if frames == 1:
        return Check("holds the range of {asked}", figures, "range", DOES)
    if not isfinite(frames):
        return Check("holds next to nothing of the range of {asked}", figures, "range", CANNOT)
    figures |= {"got": Figure(got, "stops"), "frames": Figure(frames, "number")}
    return Check("holds {got} of a range of {asked}; {frames} frames would do", figures, "range", NEARLY)


def _quick_enough(comparison: Comparison, rig: RigFigures, asked: float, key: str, text: str) -> Check:
    """Whether the shutter is as quick as asked, and whether ISO (or, after it, the aperture) could make it so."""
    s = rig.settings
    if log2(s.shutter_s / asked) <= LEVEL_STOPS:
        return Check("quick enough at {got}", {"got": Figure(s.shutter_s, "s")}, key, DOES)
    figures = {"got": Figure(s.shutter_s, "s"), "asked": Figure(asked, "s")}
    missing = log2(s.shutter_s / asked)
    too_quick = asked < (rig.rig.body.fastest_shutter_s or 0.0)
    by_iso = _stops_to_spare(comparison, rig, by_shutter=False)
    by_aperture = aperture_stops(s.f_number, rig.widest_f_number(s.focal_length_mm))
    if not too_quick and missing <= by_iso + LEVEL_STOPS:
        iso = Figure(s.iso * 2 ** min(missing, by_iso), "iso")
        return Check(text + "; {iso} would do", figures | {"iso": iso}, key, NEARLY)
    if not too_quick and missing <= by_iso + by_aperture:
        n = s.f_number / 2 ** ((missing - by_iso) / 2)
        return Check(text + "; {n} at its highest ISO would do", figures | {"n": Figure(n, "f")}, key, NEARLY)
    return Check(text, figures, key, CANNOT)


def _exposed(comparison: Comparison, rig: RigFigures) -> Check | None:
    error, s, body = rig.light.error_stops, rig.settings, rig.rig.body
    if abs(error) <= LEVEL_STOPS:
        return None
    figures = {"stops": Figure(abs(error), "stops"), "word": Figure("bright" if error > 0 else "dark", "word")}
    text = "{stops} too {word}"
    iso = s.iso / 2**error
    if (body.base_iso or 0.0) * (1 - TOLERANCE) <= iso <= (body.ceiling_iso or HIGHEST_ISO) * (1 + TOLERANCE):
        return Check(text + "; {iso} would do", figures | {"iso": Figure(iso, "iso")}, "light", NEARLY)
    shutter = s.shutter_s / 2**error
    slowest = min(comparison.brief.slowest_shutter_s or inf, rig.rig.slowest_shutter_s or inf)
    if (body.fastest_shutter_s or 0.0) <= shutter <= slowest:
        return Check(text + "; {t} would do", figures | {"t": Figure(shutter, "s")}, "light", NEARLY)
    return Check(text, figures, "light", CANNOT)


def _covered(comparison: Comparison, rig: RigFigures) -> Check | None:
    share = rig.outfit.image_circle_share
    if share != share or covers(share, 1.0):
        return None
    return Check(
        "dark corners: the lens covers {share} of the diagonal", {"share": Figure(share, "share")}, "cover", CANNOT
    )


RULES: tuple[Rule, ...] = (_focus, _sharp, _width, _room, _shutter, _motion, _stars, _exposed, _range, _covered)


def _demand(key: str) -> Rule:
    """A demand that the chosen settings were to meet: whether they do, and what is missed. What is met is said of framing and depth only."""

    def rule(comparison: Comparison, rig: RigFigures) -> Check | None:
        asked, index = comparison.asked, rig.index
        assert asked is not None
        status = Status(asked.statuses[key][index])
        missed = float(asked.shortfalls_stops[key][index])
        if status in (DOES, UNKNOWN):
            said = SAID_OF_BEST.get((key, status))
            asks = comparison.brief.sharp_front_m is not None or comparison.brief.sharp_behind_m is not None
            return Check(said, {}, KEYS.get(key, key), status) if said and (key != "range" or asks) else None
        s = rig.settings
        figures = {
            "stops": Figure(missed, "stops"),
            "n": Figure(s.f_number, "f"),
            "iso": Figure(float(asked.needed_iso[index]), "iso"),
            "reached": Figure(s.focal_length_mm, "mm"),
            "wanted": Figure(float(asked.wanted_focal_length_mm[index]), "mm"),
            "limit": _m(s.object_distance_m),
            "long": Figure(comparison.brief.shown_long_side_mm, "mm"),
        }
        if key == "range":
            figures["it"] = Figure(s.f_number * 2 ** (missed / 2), "f")
        text = BEHIND if missed == inf else MISSED_AT_BEST[key]
        return Check(
            text, {name: one for name, one in figures.items() if "{" + name + "}" in text}, KEYS.get(key, key), status
        )

    return rule


BEHIND = "what must be sharp in front is behind the camera"
SAID_OF_BEST = {
    ("range", DOES): "all sharp that must be",
    ("range", UNKNOWN): "depth not known",
    ("framing", UNKNOWN): "no framing is asked for",
}
MISSED_AT_BEST = {
    "framing": "its lens begins at {reached}, the framing takes {wanted}",
    "range": "sharp by {stops} too little at {n}; it would take {it}",
    "background": "its background is {stops} too sharp at {n}",
    "dark": "its ISO ends {stops} short of this light",
    "light": "{iso} is {stops} more than you find clean",
    "focus": "focuses from {limit}, and the subject is soft",
    "diffraction": "{n} is {stops} past where diffraction shows; a stack would do",
    "bright": "{stops} too bright even so; a filter would do",
    "sharpness": "not fine enough for a long side of {long}",
}
KEYS = {"range": "sharp"}
"""Demands that have another name where a setting would cure them."""
AT_BEST: tuple[Rule, ...] = (*(_demand(key) for key in MISSED_AT_BEST), _room, _range, _covered)
"""What is asked of a rig whose settings the picture has chosen."""

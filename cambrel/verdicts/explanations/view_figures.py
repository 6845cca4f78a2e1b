"""Why the figures of frame, settings, equivalents and view are what they are."""

from __future__ import annotations

from math import pi

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.figure_groups import frame_of
from cambrel.optics.formats import CROP_MEASURES, FULL_FRAME, TwoFrames
from cambrel.optics.workings import Term, Working, term, working
from cambrel.verdicts.explanations.why import Why, away, behind_m, focal, focus, image, magnified, number


def _wide(r: RigFigures) -> Term:
    return term("w", "width of the frame", r.frames.width_mm, "mm")


def _high(r: RigFigures) -> Term:
    return term("h", "height of the frame", r.frames.height_mm, "mm")


def _crop(r: RigFigures) -> Term:
    return term("C", "crop factor", r.frames.crop)


def _first(c: Comparison) -> Term:
    return term("C₁", "crop factor of the reference", c.first.frames.crop)


def _home(r: RigFigures) -> Term:
    return term("Cₕ", "crop factor of the format you think in", r.frames.home_crop)


def _crop_factor(c: Comparison, r: RigFigures) -> Working | None:
    frames = TwoFrames(frame_of(r.rig.sensor, c.brief), frame_of(FULL_FRAME, c.brief))
    return CROP_MEASURES[c.conventions.crop_by].working(frames)


def _pitch(c: Comparison, r: RigFigures) -> Working | None:
    sensor = r.rig.sensor
    if sensor.pixels_wide is None:
        return None
    return working(
        "p", "1000 × w / n", r.frames.pitch_um, "um", term("w", "width of the sensor", sensor.width_mm, "mm"),
        term("n", "pixels across it", sensor.pixels_wide),
    )  # fmt: skip


def _pixels(c: Comparison, r: RigFigures) -> Working | None:
    sensor = r.rig.sensor
    if sensor.pixels is None:
        return None
    return working(
        "n", "P × a / A", r.frames.pixels, "count", term("P", "pixels of the sensor", sensor.pixels, "count"),
        term("a", "area in use, mm²", r.frames.area_mm2), term("A", "area of the sensor, mm²", sensor.area_mm2),
    )  # fmt: skip


def _focal(c: Comparison, r: RigFigures) -> Working | None:
    """Under an equivalent lens from one spot: the focal length whose image distance is to the frame as the reference's
    is to its own.
    """
    a, s = c.first, r.settings
    alike = (
        c.hold.of_lens.keeps_view
        and not c.hold.of_place.walks
        and not c.hold.of_place.is_own
        and c.asked is None
        and r.index != a.index
    )
    if (
        not alike
        or s.wanted_focal_length_mm != s.focal_length_mm
        or s.object_distance_m != a.settings.object_distance_m
    ):
        return None
    return working(
        "f", "1 / (1 / (1000 × u) + 1 / (k × v₁))", s.focal_length_mm, "mm", focus(r),
        term("k", "crop factor of the reference over this one", r.frames.k), 
        term("v₁", "image distance of the reference", a.view.image_distance_mm, "mm"),
    )  # fmt: skip


def _follows(c: Comparison, r: RigFigures) -> bool:
    """Whether a rig takes over the brightness of the reference, and gets there."""
    return c.asked is None and r.index != c.first.index and abs(r.light.brightness_stops) < EXACT


def _iso(c: Comparison, r: RigFigures) -> Working | None:
    """Where the ISO follows, brightness is the reference's."""
    a, s = c.first, r.settings
    if c.hold.of_exposure.follows != "iso" or s.iso != s.wanted_iso or not _follows(c, r):
        return None
    return working(
        "S", "S₁ × t₁ / t × (Nₑ / N₁)²", s.iso, "iso", term("S₁", "ISO of the reference", a.settings.iso),
        term("t₁", "its shutter time", a.settings.shutter_s, "s"), term("t", "shutter time", s.shutter_s, "s"),
        term("Nₑ", "effective f-number", r.light.effective_f_number, "f"),
        term("N₁", "effective f-number of the reference", a.light.effective_f_number, "f"),
    )  # fmt: skip


def _shutter(c: Comparison, r: RigFigures) -> Working | None:
    a, s = c.first, r.settings
    if c.hold.of_exposure.follows != "shutter_s" or s.shutter_s != s.wanted_shutter_s or not _follows(c, r):
        return None
    return working(
        "t", "t₁ × S₁ / S × (Nₑ / N₁)²", s.shutter_s, "s",
        term("t₁", "shutter time of the reference", a.settings.shutter_s, "s"),
        term("S₁", "its ISO", a.settings.iso), term("S", "ISO", s.iso),
        term("Nₑ", "effective f-number", r.light.effective_f_number, "f"),
        term("N₁", "effective f-number of the reference", a.light.effective_f_number, "f"),
    )  # fmt: skip


def _angle(symbol: str, name: str, side: float, r: RigFigures, angle: float) -> Working:
    return working(
        "angle", f"2 × atan({symbol} / (2 × v)) × 180 / π", angle, "deg", term(symbol, name, side, "mm"), image(r),
        term("π", "the number", pi)
    )  # fmt: skip


def _field(symbol: str, side: Term, r: RigFigures, shown: float, where: Term) -> Working:
    return working(symbol, f"{where.symbol} × {side.symbol} / v", shown, "m", where, side, image(r))


def _back(c: Comparison, r: RigFigures) -> Term:
    return term("x", "distance of the background", behind_m(c, r), "m")


def _magnification(c: Comparison, r: RigFigures) -> Working:
    return working("m", "f / (1000 × u − f)", r.view.magnification, "number", focal(r), focus(r))


def _scale(c: Comparison, r: RigFigures) -> Working:
    return working("ratio", "d / x", r.view.background_scale, "times", away(r), _back(c, r))


EXACT = 1e-9
CROP_SCHOOL = ("crop_by",)
SET = (
    "As set, or as it follows from what is kept the same. Where the gear reaches its limit it "
    "stops there, and the rest is named."
)
WHYS = {
    "width": Why("From the record of the camera, cut to the output shape.", limits=("record",)),
    "height": Why("From the record of the camera, cut to the output shape.", limits=("record",)),
    "diagonal": Why(
        "From corner to corner of the frame in use.",
        lambda c, r: working("D", "√(w² + h²)", r.frames.diagonal_mm, "mm", _wide(r), _high(r)),
    ),
    "area": Why(
        "The area that catches light. The light of the whole picture depends on it.",
        lambda c, r: working("A", "w × h", r.frames.area_mm2, "number", _wide(r), _high(r)),
    ),
    "crop": Why(
        "How many times smaller the frame is than full frame, along one line. Which line is your choice.",
        _crop_factor,
        CROP_SCHOOL,
    ),
    "pitch": Why("From the middle of a pixel to the middle of the next.", _pitch, limits=("record",)),
    "pixels": Why("Those of the sensor that lie in the frame in use.", _pixels, limits=("record",)),
    "focal": Why(SET, _focal, CROP_SCHOOL, ("thin",)),
    "f_number": Why(SET, limits=("marks",)),
    "effective": Why(
        "Close up the lens is farther from the sensor, so it exposes like a smaller aperture.",
        lambda c, r: working("Nₑ", "N × (1 + m)", r.light.effective_f_number, "f", number(r), magnified(r)),
        limits=("thin", "marks"),
    ),
    "shutter": Why(SET, _shutter),
    "iso": Why(SET, _iso),
    "distance": Why("Your distance: " + SET[0].lower() + SET[1:], limits=("distance",)),
    "focus": Why(
        "The subject, or where else you focus. A lens that cannot focus that close stays at its closest.",
        limits=("distance",),
    ),
    "eq_focal": Why(
        "What sees the same on the reference’s format.",
        lambda c, r: working(
            "f₁", "f × C / C₁", r.view.equivalent_focal_length_mm, "mm", focal(r), _crop(r), _first(c)
        ),
        CROP_SCHOOL,
        ("infinity", "straight"),
    ),
    "eq_f": Why(
        "The same opening on the reference’s format: same depth, blur and light in the whole "
        "picture. For exposure the f-number set counts.",
        lambda c, r: working("N₁", "N × C / C₁", r.blur.equivalent_f_number, "f", number(r), _crop(r), _first(c)),
        CROP_SCHOOL,
        ("infinity",),
    ),
    "ff_focal": Why(
        "What sees the same on full frame.",
        lambda c, r: working("f₂", "f × C", r.view.full_frame_focal_length_mm, "mm", focal(r), _crop(r)),
        CROP_SCHOOL,
        ("infinity", "straight"),
    ),
    "ff_f": Why(
        "The same opening on full frame: same depth, blur and light in the whole picture. For "
        "exposure the f-number set counts.",
        lambda c, r: working("N₂", "N × C", r.blur.full_frame_f_number, "f", number(r), _crop(r)),
        CROP_SCHOOL,
        ("infinity",),
    ),
    "home_focal": Why(
        "What sees the same on the format you think in.",
        lambda c, r: working("f₂", "f × C / Cₕ", r.view.home_focal_length_mm, "mm", focal(r), _crop(r), _home(r)),
        CROP_SCHOOL,
        ("infinity", "straight"),
    ),
    "home_f": Why(
        "The same opening on the format you think in: same depth, blur and light in the whole "
        "picture. For exposure the f-number set counts.",
        lambda c, r: working("N₂", "N × C / Cₕ", r.blur.home_f_number, "f", number(r), _crop(r), _home(r)),
        CROP_SCHOOL,
        ("infinity",),
    ),
    "same": Why(
        "What takes this very picture on the reference’s format from the same spot, close up too. "
        "Its image distance has the same ratio to its frame.",
        lambda c, r: working(
            "f₁",
            "1 / (1 / (1000 × u) + k / v)",
            r.view.same_picture_focal_length_mm,
            "mm",
            focus(r),
            image(r),
            term("k", "crop factor of the reference over this one", r.frames.k),
        ),
        CROP_SCHOOL,
        ("thin",),
    ),
    "same_f": Why(
        "The same opening under that focal length.",
        lambda c, r: working(
            "N₁",
            "N × f₁ / f",
            r.blur.same_picture_f_number,
            "f",
            number(r),
            focal(r),
            term("f₁", "focal length for this picture there", r.view.same_picture_focal_length_mm, "mm"),
        ),
        CROP_SCHOOL,
        ("thin",),
    ),
    "rule_error": Why(
        "By how much the crop factor alone overstates the focal length for this picture. It is exact "
        "only for distant subjects.",
        lambda c, r: working(
            "off by",
            "(1 / k − 1) × f / (1000 × u)",
            r.view.simple_rule_error,
            "share",
            focal(r),
            focus(r),
            term("k", "crop factor of the reference over this one", r.frames.k),
        ),
        CROP_SCHOOL,
        ("thin",),
    ),
    "angle_wide": Why(
        "Across the frame, at the focus that is set.",
        lambda c, r: _angle("w", "width of the frame", r.frames.width_mm, r, r.view.angle_wide_deg),
        (),
        ("thin", "straight"),
    ),
    "angle_high": Why(
        "Up the frame, at the focus that is set.",
        lambda c, r: _angle("h", "height of the frame", r.frames.height_mm, r, r.view.angle_high_deg),
        (),
        ("thin", "straight"),
    ),
    "angle_diagonal": Why(
        "From corner to corner, at the focus that is set.",
        lambda c, r: _angle("D", "diagonal of the frame", r.frames.diagonal_mm, r, r.view.angle_diagonal_deg),
        (),
        ("thin", "straight"),
    ),
    "field_wide": Why(
        "How much of the scene is in the frame where the subject stands.",
        lambda c, r: _field("W", _wide(r), r, r.view.field_wide_m, away(r)),
        (),
        ("thin",),
    ),
    "field_high": Why(
        "How much of the scene is in the frame where the subject stands.",
        lambda c, r: _field("H", _high(r), r, r.view.field_high_m, away(r)),
        (),
        ("thin",),
    ),
    "back_wide": Why(
        "How much of the background is in the frame.",
        lambda c, r: _field("W", _wide(r), r, r.view.background_wide_m, _back(c, r)),
        (),
        ("thin",),
    ),
    "back_high": Why(
        "How much of the background is in the frame.",
        lambda c, r: _field("H", _high(r), r, r.view.background_high_m, _back(c, r)),
        (),
        ("thin",),
    ),
    "fill": Why(
        "The subject’s height in the frame against the frame’s own.",
        lambda c, r: working(
            "share",
            "H × v / (d × h)",
            r.view.fill,
            "share",
            term("H", "height of the subject", c.brief.subject_height_m, "m"),
            image(r),
            away(r),
            _high(r),
        ),
        (),
        ("thin",),
    ),
    "magnification": Why(
        "How large the subject in focus is on the sensor, against its real size.", _magnification, (), ("thin",)
    ),
    "scale": Why(
        "How large something at the background looks against the same thing at the subject. This is "
        "perspective, and only the distance decides it.",
        _scale,
        (),
        ("distance",),
    ),
}

"""Why the figures of light, noise, sharpness and outfit are what they are."""

from __future__ import annotations

from collections.abc import Callable
from math import nan, pi

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.outer_sizes import body_block, lens_block
from cambrel.comparison.schools import shown_by
from cambrel.optics.good_enough import GOOD_ENOUGH_SCHOOLS
from cambrel.optics.light import MID_GREY_LUX_S, PHOTONS_PER_UM2_PER_LUX_S
from cambrel.optics.noise_schools import NOISE_SCHOOLS, Collecting, Noisy
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Term, Working, term, working
from cambrel.verdicts.explanations.why import Why, away, diagonal, image, magnified

LUX_AT_EV_0 = 0.1
"""What stands before 2^EV in the exposure, per (f-number)² and second."""


def _effective(r: RigFigures, symbol: str = "Nₑ") -> Term:
    return term(symbol, "effective f-number", r.light.effective_f_number, "f")


def _time(r: RigFigures) -> Term:
    return term("t", "shutter time", r.settings.shutter_s, "s")


def _iso(r: RigFigures) -> Term:
    return term("S", "ISO", r.settings.iso)


def _exposure(r: RigFigures, symbol: str = "H", whose: str = "light per area, lux s") -> Term:
    return term(symbol, whose, r.light.exposure_lux_s)


def _area(r: RigFigures, symbol: str = "A", whose: str = "area of the frame, mm²") -> Term:
    return term(symbol, whose, r.frames.area_mm2 * r.rig.frames)


def _first(c: Comparison) -> Term:
    return _exposure(c.first, "H₁", "the reference’s")


def _photons(r: RigFigures) -> Term:
    return term("q", "photons on each µm²", r.light.photons_per_um2)


def _snr(school: str) -> Callable[[Comparison, RigFigures], Working | None]:
    """Signal to noise by a school of noise."""

    def written(c: Comparison, r: RigFigures) -> Working | None:
        if is_unknown(r.light.electrons_per_pixel):
            return None
        read_e = r.rig.body.read_noise_e * r.rig.reads**0.5
        made = Collecting(r.frames.pixels, nan, nan, nan, read_e)
        return NOISE_SCHOOLS[school].working(Noisy(r.light.electrons_per_pixel, made, c.conventions.output_pixels))

    return written


def _lines(c: Comparison, r: RigFigures) -> Working:
    high = term("h", "height of the frame", r.frames.height_mm, "mm")
    return working(
        "lines", "2 × k × h", r.sharpness.lines_per_height, "number", _resolved(r.sharpness.resolved_per_mm), high
    )


def _resolved(v: float) -> Term:
    return term("k", "cycles per mm that are resolved", v)


def _detail(c: Comparison, r: RigFigures) -> Working:
    detail_mm = r.sharpness.finest_detail_mm
    return working(
        "detail", "d / (2 × k × v)", detail_mm / 1000, "m", away(r), _resolved(r.sharpness.resolved_per_mm), image(r)
    )


def _largest(c: Comparison, r: RigFigures) -> Working | None:
    """By the school in force."""
    long_side = max(r.frames.width_mm, r.frames.height_mm)
    pixels_along = 1000 * long_side / r.frames.pitch_um
    shown = shown_by(c.brief, c.conventions, r.sharpness.resolved_per_mm, long_side, pixels_along)
    return GOOD_ENOUGH_SCHOOLS[c.conventions.good_enough].working(shown)


def _on_subject(c: Comparison, r: RigFigures) -> Working:
    pixels = r.sharpness.pixels_on_subject
    high = term("H", "height of the subject in the frame", min(c.brief.subject_height_m, r.view.field_high_m), "m")
    pitch = term("p", "pixel pitch", r.frames.pitch_um, "um")
    return working("pixels", "1000 × H × v / (d × p)", pixels, "number", high, image(r), away(r), pitch)


def _arc(c: Comparison, r: RigFigures) -> Working:
    arc_seconds = r.sharpness.arc_seconds_per_pixel
    return working(
        "angle", "3600 × 180 / π × atan(p / (1000 × f))", arc_seconds, "number",
        term("π", "the number", pi), term("p", "pixel pitch", r.frames.pitch_um, "um"),
        term("f", "focal length", r.settings.focal_length_mm, "mm"),
    )  # fmt: skip


def _circle(c: Comparison, r: RigFigures) -> Working | None:
    share = r.outfit.image_circle_share
    lens, converter = r.carrier.lens, r.carrier.converter
    if lens.image_circle_mm is None:
        return None
    own = term("I", "image circle of the lens", lens.image_circle_mm * converter, "mm")
    return working("share", "I × (1 + m) / D", share, "share", own, magnified(r), diagonal(r))


def _sum(c: Comparison, r: RigFigures, what: str, kind: str, found: float) -> Working | None:
    lens, body = getattr(r.carrier.lens, what), getattr(r.rig.body, what)
    if lens is None or body is None:
        return None
    between = found - lens - body
    more = (term("T", "converter", between, kind),) if abs(between) > 1e-6 else ()
    formula = "B + L + T" if more else "B + L"
    return working("sum", formula, found, kind, term("B", "body", body, kind), term("L", "lens", lens, kind), *more)


def _volume(c: Comparison, r: RigFigures) -> Working | None:
    body, lens = r.rig.body, lens_block(r.carrier.lens)
    block = body_block(body)
    if not block.is_known or (lens is not None and not lens.is_known):
        return None
    sides = zip("WHT", SIDES, block.sides_mm, strict=True)
    across, down, deep = (term(sign, says, side, "mm") for sign, says, side in sides)
    if lens is None:
        return working("V", "W × H × T / 1000000", r.outfit.volume_l, "l", across, down, deep)
    long, wide, _ = lens.sides_mm
    of_lens = term("L", "length of the lens", long, "mm"), term("D", "its diameter", wide, "mm"), CIRCLE
    formula = "(W × H × T + π / 4 × D² × L) / 1000000"
    return working("V", formula, r.outfit.volume_l, "l", across, down, deep, *of_lens)


CIRCLE = term("π", "the number", pi)
SIDES = ("width of the body", "height", "depth")


def _long(c: Comparison, r: RigFigures) -> Working | None:
    deep, lens = r.rig.body.outer_depth_mm, lens_block(r.carrier.lens)
    if deep is None or (lens is not None and is_unknown(lens.sides_mm[0])):
        return None
    body = term("T", "depth of the body", deep, "mm")
    if lens is None:
        return working("ℓ", "T", r.outfit.long_mm, "mm", body)
    return working("ℓ", "T + L", r.outfit.long_mm, "mm", body, term("L", "length of the lens", lens.sides_mm[0], "mm"))


NOISE = ("green", "sensor")
WHYS = {
    "ev": Why(
        "The light for which these settings are right.",
        lambda c, r: working(
            "EV", "log₂(Nₑ² / t) − log₂(S / 100)", r.light.exposure_value, "number", _effective(r), _time(r), _iso(r)
        ),
        (),
        ("marks",),
    ),
    "error": Why(
        "The picture’s brightness against mid-grey in the light that is given.",
        lambda c, r: working(
            "error",
            "log₂(H × S / g)",
            r.light.error_stops,
            "signed",
            _exposure(r),
            _iso(r),
            term("g", "mid-grey, lux s times ISO", MID_GREY_LUX_S),
        ),
        (),
        ("light", "marks"),
    ),
    "brightness": Why(
        "The picture’s brightness against the reference’s. It depends on f-number, shutter time and "
        "ISO, on every format alike.",
        lambda c, r: working(
            "brighter",
            "log₂(H × S / (H₁ × S₁))",
            r.light.brightness_stops,
            "signed",
            _exposure(r),
            _iso(r),
            _first(c),
            term("S₁", "ISO of the reference", c.first.settings.iso),
        ),
        (),
        ("marks",),
    ),
    "exposure": Why(
        "Light that falls on each square millimetre.",
        lambda c, r: working(
            "H",
            "j × 2^L × t / Nₑ²",
            r.light.exposure_lux_s,
            "number",
            term("j", "by the definition of EV", LUX_AT_EV_0),
            term("L", "light on the scene, EV at ISO 100", c.brief.light_ev),
            _time(r),
            _effective(r),
        ),
        (),
        ("light", "marks"),
    ),
    "exposure_stops": Why(
        "Light on each square millimetre against the reference’s: the same at one f-number and shutter time, on every"
        " format.",
        lambda c, r: working("stops", "log₂(H / H₁)", r.light.exposure_stops, "signed", _exposure(r), _first(c)),
        (),
        ("marks",),
    ),
    "total_stops": Why(
        "Light on the whole frame against the reference’s. Noise of the whole picture follows it.",
        lambda c, r: working(
            "stops",
            "log₂(H × A / (H₁ × A₁))",
            r.light.total_stops,
            "signed",
            _exposure(r),
            _area(r),
            _first(c),
            _area(c.first, "A₁", "area of the reference, mm²"),
        ),
        (),
        ("marks",),
    ),
    "photons": Why(
        "How many photons a square micrometre of a mid-grey subject’s picture gets.",
        lambda c, r: working(
            "q",
            "H × Φ",
            r.light.photons_per_um2,
            "number",
            _exposure(r),
            term("Φ", "photons on a µm² for one lux second", PHOTONS_PER_UM2_PER_LUX_S),
        ),
        (),
        ("green",),
    ),
    "photons_total": Why(
        "How many photons make the whole picture, were all of it mid-grey.",
        lambda c, r: working("photons", "q × A × 1000000", r.light.photons_total, "count", _photons(r), _area(r)),
        (),
        ("green",),
    ),
    "snr_pixel": Why(
        "Light comes in photons, whose number varies by its square root. Reading a pixel adds to "
        "that. This is what 100 percent shows.",
        _snr("pixel"),
        (),
        NOISE,
    ),
    "snr_picture": Why(
        "The same with every picture shown at one size, many pixels averaged into one. This is what "
        "a print or a screen shows.",
        _snr("picture"),
        (),
        NOISE,
    ),
    "looks_like": Why(
        "The ISO at which the reference, correctly exposed, is as noisy. Unknown where either is not "
        "correctly exposed.",
        asks=("noise",),
        limits=NOISE,
    ),
    "ceiling": Why(
        "The ISO at which this camera is as noisy as your own ceiling.",
        asks=("noise", "iso_ceiling"),
        limits=NOISE,
    ),
    "mtf50": Why(
        "Pixels, aperture, focus, movement and the lens each take contrast from fine detail. At this "
        "detail half is left after all of them.",
        limits=("lens", "thin"),
    ),
    "lines": Why("The same counted up the frame, at most as fine as the pixels are set.", _lines, (), ("lens",)),
    "detail": Why("The same carried out to the subject: the width of one line there.", _detail, (), ("lens", "thin")),
    "largest": Why(
        "How large the picture can be shown before you see its softness.", _largest, ("good_enough",), ("lens", "eye")
    ),
    "on_subject": Why(
        "Reach. It depends on pixel size and focal length, never on the crop factor.",
        _on_subject,
        (),
        ("thin",),
    ),
    "arc": Why("How small an angle one pixel sees, far away.", _arc, (), ("straight",)),
    "circle": Why(
        "Over 100% the lens lights the frame into its corners. Close up its circle grows with the image distance.",
        _circle,
        (),
        ("record",),
    ),
    "eq_wide": Why(
        "The widest opening of the lens as an f-number on the reference’s format.",
        lambda c, r: working(
            "N₁",
            "N₀ / k",
            r.settings.widest_f_number / r.frames.k,
            "f",
            term("N₀", "widest f-number", r.settings.widest_f_number, "f"),
            term("k", "crop factor of the reference over this one", r.frames.k),
        ),
        ("crop_by",),
        ("marks",),
    ),
    "weight": Why(
        "Body and lens, without bag and battery grip.",
        lambda c, r: _sum(c, r, "weight_g", "g", r.outfit.weight_g),
        (),
        ("record",),
    ),
    "volume": Why(
        "The box around the body, and the lens as a cylinder. A zoom counts as it is packed, at its shortest.",
        _volume,
        (),
        ("record",),
    ),
    "long": Why(
        "The depth of the body to its mount, and the lens at its shortest.",
        _long,
        (),
        ("record",),
    ),
    "price": Why(
        "Body and lens, where both are known in one currency.",
        lambda c, r: _sum(c, r, "price", "number", r.outfit.price),
        (),
        ("record",),
    ),
}

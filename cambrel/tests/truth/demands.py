"""What a picture demands of a rig, judged anew: by how much each demand is missed, and how far that is met; the same as
set and at its best.
"""

from math import acos, inf, log2, nan, pi, sin, sqrt

from cambrel.tests.truth.eye import PHOTONS
from cambrel.tests.truth.judged import STOPS, VIEW, over, stops
from cambrel.tests.truth.sphere import worst

DOES, NEARLY, CANNOT, UNKNOWN = "works", "just falls short", "does not work", "unknown"
NEAR = 1e-7
ORDER = [CANNOT, UNKNOWN, NEARLY, DOES]


def _by(missed, *, most=CANNOT):
    """Does it within what is worth saying, nearly within a stop, else cannot; None at an edge."""
    if missed != missed:
        return UNKNOWN
    if over(missed, STOPS) is None or over(missed, 1.0) is None:
        return None
    return DOES if missed <= STOPS else NEARLY if missed <= 1 else most


def missed_by(eye):
    """By how many stops each demand is missed; unknown (NaN) where it cannot be judged."""
    brief, found = eye.brief, {}
    disc = eye.disc(eye.d)
    if disc > 0:
        found["focus"] = 2 * log2(disc / eye.c)
    if brief.sharp_front_m is not None or brief.sharp_behind_m is not None:
        near, far = eye.d - 1000 * (brief.sharp_front_m or 0), eye.d + 1000 * (brief.sharp_behind_m or 0)
        if eye.c != eye.c:
            found["sharp"] = nan
        elif near <= 0:
            found["sharp"] = inf
        else:
            n = eye.f_number_for(near, far)
            found["sharp"] = stops(n, eye.n) if n > 0 else -inf
    if brief.blur_share is not None and eye.background == eye.background:
        got = eye.background / eye.diagonal
        found["background"] = 2 * log2(brief.blur_share / got) if got else inf
    times = {}
    if brief.slowest_shutter_s is not None:
        times["shutter"] = brief.slowest_shutter_s
    if eye.movement > 0:
        times["motion"] = eye.t * eye.c / eye.movement
    if brief.declination_deg is not None:
        times["stars"] = eye.points_s(eye.f * worst(eye, brief.declination_deg, 1))
    held = eye.held_s(eye.steadied)
    if held < inf:
        times["hands"] = min(held, 1.0)
    found |= {key: log2(eye.t / allowed) for key, allowed in times.items()}
    found["bright" if eye.error > 0 else "dark"] = abs(eye.error)
    found["light"] = log2(max(10 / eye.exposure, eye.body.base_iso or 100) / accepted_iso(eye))
    if eye.c == eye.c:
        found["diffraction"] = 2 * log2(eye.airy / eye.c)
    return found


def accepted_iso(eye):
    """Where this rig is as noisy as full frame of 24 megapixels is at the ISO at which the photographer stops."""
    pixels = 6000 * 6000 * 24 / 36
    signal = 10 / eye.terms.iso_ceiling * PHOTONS * 0.5 * 864e6 / pixels
    snr = signal / sqrt(signal + 4)
    return eye.iso_as_noisy_as(snr * sqrt(pixels / eye.terms.output_pixels) if eye.terms.noise == "picture" else snr)


def demands(eye):
    """Status by key for what is asked, before any cure; None where it stands at an edge."""
    brief = eye.brief
    found = {
        key: _by(missed, most=NEARLY if key in ("bright", "diffraction") else CANNOT)
        for key, missed in missed_by(eye).items()
    }
    if found.get("hands") == DOES:
        del found["hands"]
    if brief.width_shown_m is not None:
        short = eye.wide / brief.width_shown_m
        edges = abs(short - (1 - VIEW)) < NEAR or abs(1 / short - 1.1) < NEAR
        found["width"] = None if edges else DOES if short >= 1 - VIEW else NEARLY if 1 / short <= 1.1 else CANNOT
    if brief.comfortable_m is not None:
        before = eye.room if eye.room == eye.room else eye.d
        short = before / 1000 / brief.comfortable_m - (1 - VIEW)
        found["room"] = None if abs(short) < NEAR else DOES if short > 0 else CANNOT
    if brief.scene_range_stops is not None:
        found["range"] = _held(eye, brief.scene_range_stops)
    left = contrast(eye)
    if left is None or over(left, 0.5) is None or over(left, 0.3) is None:
        found["sharpness"] = None
    else:
        found["sharpness"] = DOES if left >= 0.5 else NEARLY if left >= 0.3 else CANNOT
    if eye.circle < 0.995 * eye.diagonal * (1 - NEAR):
        found["cover"] = CANNOT
    return found


def contrast(eye):
    """What is left, at the focus, of the finest lines that count as good enough; None where it stands at an edge."""
    terms, long_side, shown = eye.terms, max(eye.w, eye.h), eye.brief.shown_long_side_mm
    if terms.good_enough == "pixels":
        share = inf if eye.pitch != eye.pitch else long_side / eye.pitch / (shown / 25.4 * 300)
        if abs(share - 1) < NEAR or abs(share - 0.6) < NEAR:
            return None
        return 1.0 if share > 1 else 0.3001 if share > 0.6 else 0.0
    eye_per_mm = terms.lines_per_mm * 250 / eye.brief.viewing_distance_mm
    per_mm = {"eye": eye_per_mm / 2, "strict_eye": eye_per_mm, "printer": terms.press_lines_per_inch / 25.4 / 2}
    v = per_mm[terms.good_enough] * shown / long_side
    s = v * terms.wavelength_nm * 1e-6 * eye.effective
    left = 2 / pi * (acos(s) - s * sqrt(1 - s * s)) if s < 1 else 0.0
    if eye.pitch == eye.pitch:
        x = pi * v * eye.pixel
        left *= abs(sin(x) / x)
    lens = eye.lens_alone
    if lens == lens:
        left *= 0.5 ** ((v / lens) ** 2)
    # finer than every second pixel is not recorded; just there it is not to be judged
    if over(v * eye.pitch, 0.5) is None:
        return None
    return min(left, 0.4999) if eye.pitch == eye.pitch and v * eye.pitch > 0.5 else left


def held_stops(eye, school):
    """The range of a frame: by the maker's word, a stop less for each stop of ISO above where it was given, else by
    photons and noise.
    """
    area, body, at = eye.area * 1e6 / eye.pixels, eye.body, eye.iso
    one_size = sqrt(eye.terms.output_pixels / eye.pixels) if eye.terms.noise == "picture" else 1.0
    floor = 20 * one_size if school == "picture" else 1.0
    read, said = eye.read_noise, None
    if body.range_stops is not None and eye.shots == 1:
        given_at = body.range_iso or body.base_iso or eye.iso
        said, at = body.range_stops - max(0.0, log2(eye.iso / given_at)), max(eye.iso, given_at)
        if school == "engineer":
            return said
    full = eye.shots * PHOTONS * 78 / at * area * body.quantum_efficiency * 2.0**body.offset_stops
    if said is not None:
        # the noise with which a signal of the darkest tone stands level: s = sqrt(s + r^2)
        darkest = full / 2.0**said
        read = sqrt(max(0.0, darkest**2 - darkest))
    # a signal s with s / sqrt(s + r^2) = floor
    return log2(full / ((floor**2 + floor * sqrt(floor**2 + 4 * read**2)) / 2))


def _held(eye, asked):
    """Whether one frame holds a range as far as the school says; nearly where frames would add up to it."""
    if eye.pitch != eye.pitch:
        return UNKNOWN
    got = held_stops(eye, eye.terms.range)
    if over(asked - got, STOPS) is None or over(got, 1) is None:
        return None
    return CANNOT if got < 1 else DOES if asked - got <= STOPS else NEARLY

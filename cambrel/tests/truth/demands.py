"""What a picture demands of a rig, judged anew: does it, nearly or cannot, with the setting that would cure it."""

from math import inf, isfinite, log2, sqrt

from cambrel.tests.truth.eye import PHOTONS
from cambrel.tests.truth.judged import STOPS, VIEW, over, stops
from cambrel.tests.truth.sphere import worst

DOES, NEARLY, CANNOT, UNKNOWN = "does it", "nearly", "cannot", "unknown"
NEAR = 1e-7


def spare(eye, by_shutter):
    """Stops of light to be had by ISO, and by shutter as far as picture and body allow."""
    body = eye.body
    found = log2((body.ceiling_iso or 1e7) / eye.iso)
    if by_shutter:
        slowest = min(eye.brief.slowest_shutter_s or inf, eye.slowest_s)
        found += max(0.0, log2(slowest / eye.t)) if isfinite(slowest) else 0.0
    return found


def _by(missing, *cures):
    """Does it within what is worth saying, nearly where a cure reaches, else cannot; None at an edge."""
    if over(missing, STOPS) is None or any(abs(cure) < NEAR for cure in cures):
        return None
    return DOES if missing <= STOPS else NEARLY if all(cure > 0 for cure in cures) else CANNOT


def demands(eye):
    """Status by key for what is asked; None where it stands at an edge."""
    brief, s, found = eye.brief, eye.settings, {}
    late = s.object_distance_m > s.wanted_object_distance_m * (1 + 1e-9)
    room = (brief.nearest_m, brief.farthest_m)
    barred = s.subject_distance_m != s.wanted_distance_m and s.subject_distance_m in room
    if (late or s.subject_distance_m > s.wanted_distance_m * (1 + 1e-9)) and not barred:
        if eye.c != eye.c:
            found["focus"] = UNKNOWN
        else:
            n = eye.n * eye.disc(eye.d) / eye.c
            missing = stops(n, eye.n) if n > 0 else -inf
            found["focus"] = _by(
                missing, (eye.smallest - n) if isfinite(eye.smallest) else 1, spare(eye, True) - missing
            )
    if brief.sharp_front_m is not None or brief.sharp_behind_m is not None:
        near, far = eye.d - 1000 * (brief.sharp_front_m or 0), eye.d + 1000 * (brief.sharp_behind_m or 0)
        if eye.c != eye.c:
            found["sharp"] = UNKNOWN
        elif near <= 0:
            found["sharp"] = CANNOT
        else:
            n = eye.f_number_for(near, far)
            missing = stops(n, eye.n) if n > 0 else -inf
            found["sharp"] = _by(
                missing, (eye.smallest - n) if isfinite(eye.smallest) else 1, spare(eye, True) - missing
            )
    if brief.width_shown_m is not None:
        v = eye.w * eye.d / (1000 * brief.width_shown_m)
        focal = v / (1 + v / eye.u) if isfinite(eye.u) else v
        short = eye.wide / brief.width_shown_m - (1 - VIEW)
        edge = abs(short) < NEAR or abs(focal - eye.range[0]) < NEAR * focal
        found["width"] = None if edge else DOES if short > 0 else NEARLY if focal > eye.range[0] else CANNOT
    if brief.comfortable_m is not None:
        before = eye.room if eye.room == eye.room else eye.d
        short = before / 1000 / brief.comfortable_m - (1 - VIEW)
        found["room"] = None if abs(short) < NEAR else DOES if short > 0 else CANNOT
    if brief.slowest_shutter_s is not None:
        found["shutter"] = quick(eye, brief.slowest_shutter_s)
    moved = 1000 * brief.subject_speed_m_per_s * eye.t * eye.v / eye.d
    if moved > 0:
        found["motion"] = UNKNOWN if eye.c != eye.c else quick(eye, eye.t * eye.c / moved)
    if brief.declination_deg is not None:
        slowest = eye.points_s(eye.f * worst(eye, brief.declination_deg, 1))
        found["stars"] = UNKNOWN if slowest != slowest else quick(eye, slowest)
    if brief.scene_range_stops is not None:
        found["range"] = _held(eye, brief.scene_range_stops)
    if over(abs(eye.error), STOPS) is None:
        found["light"] = None
    elif abs(eye.error) > STOPS:
        body = eye.body
        slowest = min(brief.slowest_shutter_s or inf, eye.slowest_s)
        ends = (
            (eye.iso / 2**eye.error, body.base_iso or 0, body.ceiling_iso or 1e7),
            (eye.t / 2**eye.error, body.fastest_shutter_s or 0, slowest),
        )
        edge = any(abs(value - end) < NEAR * value for value, *limits in ends for end in limits)
        found["light"] = None if edge else NEARLY if any(low <= x <= high for x, low, high in ends) else CANNOT
    if eye.circle < 0.995 * eye.diagonal * (1 - NEAR):
        found["cover"] = CANNOT
    return found


def held_stops(eye, school):
    """The range of a frame: by the maker's word, a stop less for each stop of ISO above where it was given, else by photons and noise."""
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
    """Whether one frame holds a range, down to where a pixel's signal is its noise; nearly where frames would add up to it."""
    if eye.pitch != eye.pitch:
        return UNKNOWN
    got = held_stops(eye, eye.terms.range)
    if over(asked - got, STOPS) is None or over(got, 1) is None:
        return None
    return CANNOT if got < 1 else DOES if asked - got <= STOPS else NEARLY


def quick(eye, asked):
    """Whether the shutter is as quick as asked, by what ISO and aperture still give."""
    missing = log2(eye.t / asked)
    fastest = eye.body.fastest_shutter_s or 0.0
    more = spare(eye, False)
    opened = stops(eye.n, eye.widest(eye.f))
    reach = max(more + STOPS, more + opened)
    if over(missing, STOPS) is None or abs(missing - reach) < NEAR or abs(asked - fastest) < NEAR * asked:
        return None
    if missing <= STOPS:
        return DOES
    return NEARLY if asked >= fastest and missing <= reach else CANNOT

"""Judges of the sentences on light, brightness, noise and diffraction."""

from math import log2, nan

from cambrel.tests.truth.judged import EFFECTIVE, STOPS, VIEW, Judged, apart, both, no, over, stops


def lights(p):
    a, b, found = p.a, p.b, {}
    total = log2(b.shots * b.exposure * b.area / (a.shots * a.exposure * a.area))
    level = no(over(abs(total), STOPS))
    right = both(*(no(over(abs(eye.error), STOPS)) for eye in (a, b)))
    looks = a.iso_as_noisy_as(b.snr()) if right else nan
    found["total_light"] = Judged(
        True,
        {"stops": abs(total), "iso_b": b.iso, "times": b.area / a.area} | ({"looks": looks} if looks == looks else {}),
        {"word": "more" if total > 0 else "less"} if level is False else {},
        has=("gather the same light",) if level else (),
        lacks=("gather the same",) if level is False else (),
    )
    if right is False or looks != looks:
        found["total_light"].lacks += ("noisy", "clean", "the difference", "disturbing")
    elif right:
        _noise(found["total_light"], a, b, total)
    bright = log2(b.exposure * b.iso / (a.exposure * a.iso))
    advised = a.hold.exposure != "own" and no(over(abs(a.error), STOPS))
    body, wanted_t, wanted_iso = b.body, b.t / 2**bright, b.iso / 2**bright
    by_t = within(wanted_t, body.fastest_shutter_s, b.slowest_s)
    by_iso = within(wanted_iso, body.base_iso, body.ceiling_iso)
    cure = by_t if a.hold.exposure == "shutter" else by_iso
    found["brightness"] = Judged(
        over(abs(bright), STOPS),
        {
            "stops": abs(bright),
            "filter": abs(bright),
            "shutter": wanted_t,
            "iso": wanted_iso,
            "iso_end": b.iso,
            "t_end": b.t,
        },
        {"word": "brighter" if bright > 0 else "darker"},
        lacks=(("would take",) if advised is False else ())
        + (("{shutter}", "{iso}") if cure is False else ())
        + (("ND",) if bright < 0 else ()),
    )
    pixels, whole = stops(b.snr_pixel(), a.snr_pixel()), stops(b.snr_picture(b.exposure), a.snr_picture(a.exposure))
    cleaner, noisier = (b, a) if whole > 0 else (a, b)
    found["noise_schools"] = Judged(
        both(over(abs(pixels), STOPS), over(abs(whole), STOPS), pixels * whole < 0) if pixels == pixels else False,
        {"more": cleaner.pixels, "fewer": noisier.pixels},
        {"clean": cleaner.index, "noisy": noisier.index},
    )
    if found["noise_schools"].should and not cleaner.pixels > noisier.pixels:
        found["noise_schools"] = Judged(False)  # its reason would be false
    between = stops(b.effective, a.effective)
    found["effective_f_number"] = Judged(
        both(a.hold.aperture == "f_number", a.n == b.n, over(abs(between), EFFECTIVE)),
        {"n": a.n, "ne_a": a.effective, "ne_b": b.effective, "stops": abs(between)},
    )
    return found


def _noise(judged, a, b, total):
    """What is said of noise: which is cleaner, whether it follows the light, and whether anybody sees it."""
    cleaner = 2 * log2(b.snr() / a.snr())
    alike, beside = no(over(abs(cleaner), STOPS)), over(abs(cleaner - total), STOPS)
    if alike is None or beside is None:
        return
    pixel = a.terms.noise == "pixel"
    judged.has += ("ixel by pixel",) if pixel else ()
    judged.lacks += () if pixel else ("ixel by pixel",)
    judged.has += ("equally clean",) if alike else ("as noisy as {a} at {looks}",)
    judged.lacks += ("as noisy", "the difference", "disturbing") if alike else ("equally clean",)
    # noise is what light there is, how much of it is counted, among how many pixels it is shared, and what reading
    # them adds
    counted = log2(
        b.body.quantum_efficiency * 2**b.body.offset_stops / (a.body.quantum_efficiency * 2**a.body.offset_stops)
    )
    shared = log2(a.pixels / b.pixels) if pixel else 0.0
    reasons = {
        "records more of its light": counted,
        "fewer pixels": shared,
        "less noise of their own": cleaner - total - counted - shared,
    }
    up = cleaner > total
    ranked = sorted(reasons, key=lambda key: reasons[key] if up else -reasons[key])
    if beside and abs(reasons[ranked[-1]] - reasons[ranked[-2]]) > 1e-6:
        judged.has += (ranked[-1],)
        judged.figures["whose"] = (b if up else a).index
    elif not beside:
        judged.lacks += tuple(reasons)
    if alike:
        return
    states, thresholds = {a.noise, b.noise}, (a.terms.seen_snr, a.terms.disturbing_snr)
    if any(over(eye.snr(), edge) is None for eye in (a, b) for edge in thresholds):
        return
    said = {
        "clean": "not see the difference",
        "seen": "You can see the difference",
        "disturbing": "noise is disturbing",
    }
    worst = "disturbing" if "disturbing" in states else "seen" if "seen" in states else "clean"
    judged.has += (said.pop(worst),)
    judged.lacks += tuple(said.values())
    judged.words["at"] = "at 100 percent" if pixel else "at this size"
    judged.figures["noisier"] = (a if a.snr() < b.snr() else b).index


def within(value, low, high):
    """Whether a body has a setting; not judged at the very end of its range."""
    for end in (low, high):
        if end is not None and abs(value / end - 1) < 1e-6:
            return None
    return (low is None or value >= low) and (high is None or value <= high)


def diffraction(p):
    a, b = p.a, p.b
    past = [over(eye.airy / eye.c, 1.0) if eye.c == eye.c else False for eye in (a, b)]
    soft, clean = (b, a) if past[1] else (a, b)
    ratio = (soft.airy / soft.diagonal) / (clean.airy / clean.diagonal)
    small = b if b.diagonal < a.diagonal else a
    early = max(
        small.airy / small.c if small.c == small.c else 0,
        small.airy / (2 * small.pitch) if small.pitch == small.pitch else 0,
    )
    return {
        "diffraction_trap": Judged(
            (
                None
                if None in past
                else both(past[0] != past[1], no(over(abs(stops(b.n, a.n)), STOPS)), over(stops(ratio, 1), STOPS))
            ),
            {"n": a.n, "times": ratio},
            {"soft": soft.index, "clean": clean.index},
        ),
        "equal_diffraction": Judged(
            both(
                apart(b.crop / a.crop, VIEW),
                p.same_view,
                p.same_spot,
                p.pupils_level,
                over(early, 1.0) if small.c == small.c and small.pitch == small.pitch else None,
                no(over(abs(stops(b.airy / b.diagonal, a.airy / a.diagonal)), STOPS)),
            ),
            {"n_a": a.n, "n_b": b.n},
            {"small": small.index},
        ),
    }

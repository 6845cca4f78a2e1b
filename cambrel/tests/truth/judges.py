"""For each sentence a predicate of its own: whether it should be said of these rigs, and what its figures and words must be.

A judge returns `Verdict` objects by key: should is True, False, or None where a threshold is met to within rounding.
"""

from math import hypot, inf, isfinite, isinf, log2, nan

from cambrel.tests.truth.eye import length
from cambrel.tests.truth.judged import (
    COVER,
    DEPTH,
    EFFECTIVE,
    NEARLY,
    STOPS,
    VIEW,
    WEIGHT,
    Judged,
    apart,
    both,
    no,
    over,
    stops,
)
from cambrel.tests.truth.special import special


class Pair:
    """What two rigs have to do with one another."""

    def __init__(self, a, b):
        self.a, self.b = a, b
        self.view = (b.d / b.v * b.long) / (a.d / a.v * a.long)
        self.same_view, self.same_spot = no(apart(self.view, VIEW)), no(apart(b.d / a.d, VIEW))
        self.nearly = no(apart(self.view, NEARLY))
        self.pupil = stops(a.pupil, b.pupil)
        self.pupils_level = no(over(abs(self.pupil), STOPS))
        self.circles = no(apart(b.c * b.crop / (a.c * a.crop), DEPTH)) if a.c == a.c and b.c == b.c else False
        self.depth_known = a.total == a.total and b.total == b.total
        if inf in (a.total, b.total):
            self.depth_level = a.total == b.total and no(apart(b.near / a.near, DEPTH))
        else:
            self.depth_level = no(apart(b.total / a.total, DEPTH))
        one, other = a.background / a.diagonal, b.background / b.diagonal
        self.blur = 2 * log2(other / one) if one > 0 and other > 0 else nan
        same_focal, same_n = no(apart(b.f / a.f, VIEW)), no(over(abs(stops(b.n, a.n)), STOPS))
        self.trivial = both(no(apart(b.crop / a.crop, VIEW)), same_focal, same_n)


def fits(eye):
    """What does not fit is never called the same picture: another mount, or corners that stay dark."""
    other_mount = eye.body.mount and eye.lens.mount and eye.body.mount != eye.lens.mount
    return both(not other_mount, no(over(COVER, eye.circle / eye.diagonal)))


def nan_in(*values):
    return any(value != value for value in values)


def _equivalent(p, should, settings):
    """Same pupil and nearly the same view: what is the same is named, what is a little off too, and what is not the same with its reason."""
    a, b = p.a, p.b
    depth = None if not p.depth_known else p.depth_level
    blur = None if p.blur != p.blur else no(over(abs(p.blur), STOPS))
    light = no(over(abs(log2(b.shots * b.exposure * b.area / (a.shots * a.exposure * a.area))), STOPS))
    if p.same_view is None or light is None or (p.depth_known and depth is None) or (p.blur == p.blur and blur is None):
        return Judged(should, settings)
    same = {"same view": p.same_view, "same depth of field": depth, "same background blur": blur, "same light": light}
    judged = Judged(should, settings, {"same": ", ".join(word for word, is_same in same.items() if is_same)})
    if not p.same_view:
        judged.figures = settings | {"off": abs(p.view - 1)}
        judged.words["side"] = "wider" if p.view > 1 else "tighter"
        judged.has += ("sees {off}",)
    else:
        judged.lacks += ("sees {off}",)
    rest = [word for word, is_same in (("epth of field", depth), ("ackground blur", blur)) if is_same is False]
    if not rest:
        judged.lacks += ("not the same",)
        return judged
    shapes = no(apart((b.w / b.h) / (a.w / a.h), VIEW))
    far = [over(eye.u / (eye.f**2 / (eye.n * eye.c) + eye.f), 0.5) if eye.c == eye.c else False for eye in (a, b)]
    if None in (p.circles, shapes, *far):
        return judged
    reason = (
        "what counts as sharp" if not p.circles
        else "different shapes" if not shapes
        else "hyperfocal" if all(far)
        else "not exactly"
    )  # fmt: skip
    judged.has += (reason, "not the same", *rest)
    judged.lacks += tuple({"what counts as sharp", "different shapes", "hyperfocal", "not exactly"} - {reason})
    return judged


def _detail(eye):
    """The width on the subject of the finest line that is drawn [m]."""
    return eye.d / 1000 / (eye.lines / eye.h * eye.v)


def _resolved(a, b):
    details = [_detail(eye) for eye in (a, b)]
    fine, coarse = (b, a) if details[1] < details[0] else (a, b)
    turned = over(coarse.lines / fine.lines, 1.18)
    unsure = nan_in(a.lens_alone, b.lens_alone)
    return Judged(
        over(max(details) / min(details), 1.18),
        {"fine_m": min(details), "coarse_m": max(details), "fine": fine.index, "coarse": coarse.index}
        | ({"more": coarse.lines, "fewer": fine.lines} if turned else {}),
        has=(("At best ",) if unsure else ()) + (("Over the whole height",) if turned else ()),
        lacks=(() if unsure else ("At best",)) + (("Over the whole",) if turned is False else ()),
    )


def _reach(p):
    """Pixels on the same part of the subject, with one focal length from one spot: how large it is on the sensor, over the pixels there."""
    a, b = p.a, p.b
    if a.pitch != a.pitch or b.pitch != b.pitch:
        return Judged(False)
    one_lens = both(p.same_spot, same_focal_length(a, b), apart(b.crop / a.crop, VIEW))
    density = [eye.v / eye.d / eye.pitch for eye in (a, b)]
    ratio = density[1] / density[0]
    level, elsewhere = no(apart(ratio, 0.03)), apart(b.v / a.v, VIEW)
    far = b if ratio > 1 else a
    if elsewhere is None:
        return Judged(None)
    return Judged(
        None if level is None else one_lens,
        {"f": a.f, "times": max(ratio, 1 / ratio), "far": far.index, "small": (b if b.crop > a.crop else a).index,
         "p_a": 1000 * a.pitch, "p_b": 1000 * b.pitch},
        has=("equally far" if level else "has no part", *(("different distances",) if elsewhere else ())),
        lacks=() if elsewhere else ("different distances",),
    )  # fmt: skip


def same_focal_length(a, b):
    return no(apart(b.f / a.f, VIEW))


def pair(a, b, flags):
    p = Pair(a, b)
    found = {}
    one_focus = a.u == b.u or no(apart(b.u / a.u, VIEW))
    alike = both(p.nearly, p.same_spot, one_focus, no(p.trivial))
    settings = {"f_a": a.f, "n_a": a.n, "f_b": b.f, "n_b": b.n}
    found["equivalent"] = _equivalent(p, both(alike, p.pupils_level, fits(a), fits(b)), settings)
    # in a's terms: the focal length that sees the same, with the same pupil
    same_focal = (
        1 / (1 / b.u + b.crop and 1 / b.u + a.crop / (b.v * b.crop)) if isfinite(b.u) else b.v * b.crop / a.crop
    )
    exactly, simply = same_focal / b.pupil, b.n * b.crop / a.crop
    found["same_picture"] = Judged(
        both(alike, p.same_view, no(p.pupils_level)),
        settings | {"n_eq": exactly if over(abs(stops(exactly, simply)), STOPS) else simply, "n_ex": b.effective},
        has=("depth and blur",) if p.circles else (),
        lacks=("depth",) if p.circles is False else (),
    )
    wide, high = b.wide / a.wide, b.high / a.high
    crossed = (wide - 1) * (high - 1) < 0 and over(max(abs(wide - 1), abs(high - 1)), VIEW)
    found["view"] = Judged(
        no(p.same_view),
        {"wide_a": a.wide, "wide_b": b.wide, "high_a": a.high, "high_b": b.high, "times": p.view},
        {
            "direction": "wider" if p.view > 1 else "tighter",
            "across": "more" if wide > 1 else "less",
            "down": "more" if high > 1 else "less",
        },
        has=("from top to bottom",) if crossed else (),
        lacks=("from top",) if crossed is False else (),
    )
    found["resolved"] = _resolved(a, b)
    found["reach"] = _reach(p)
    found["shape"] = Judged(
        both(p.same_view, apart(wide / high, VIEW)),
        {"wide": abs(wide - 1), "high": abs(high - 1)},
        {"across": "more" if wide > 1 else "less", "down": "more" if high > 1 else "less"},
    )
    walks = a.hold.place == "walk" and a.hold.lens == "equivalent"
    found["walk_same_spot"] = Judged(both(walks, p.same_spot, p.same_view))
    behind = a.brief.background_m
    scale = nan if behind is None else (1 + 1000 * behind / a.d) / (1 + 1000 * behind / b.d)
    found["perspective"] = Judged(no(p.same_spot), {"d_a": a.d / 1000, "d_b": b.d / 1000, "times": scale})
    faces = [0.12 / (rig.d / 1000) for rig in (a, b)]
    found["nearness"] = Judged(
        both(1.0 <= a.brief.subject_height_m <= 2.3, over(abs(faces[1] - faces[0]), 0.01)),
        {"share_a": faces[0], "share_b": faces[1], "d_a": a.d / 1000, "d_b": b.d / 1000},
    )
    simple = a.f * a.crop / b.crop
    found["simple_rule"] = Judged(
        both(a.hold.lens == "equivalent", p.same_view, p.same_spot, apart(simple / b.f, VIEW)),
        {"error": abs(simple / b.f - 1), "simple": simple, "exact": b.f, "d": b.d / 1000},
    )
    found |= _depths(p, flags) | _lights(p) | _diffraction(p) | _terms(p) | special(a, b, p.same_spot)
    known = _known(a.body.weight_g, a.lens.weight_g) and _known(b.body.weight_g, b.lens.weight_g)
    if known and a.lens.widest and b.lens.widest:
        masses = a.body.weight_g + a.lens.weight_g, b.body.weight_g + b.lens.weight_g
        open_a, open_b = a.widest(a.f), b.widest(b.f) * b.crop / a.crop
        level, elsewhere = no(over(abs(stops(open_b, open_a)), STOPS)), apart(p.view, NEARLY)
        has = (
            ("do not see the same",)
            if elsewhere
            else ("as wide",)
            if level
            else ("against {wide_a}",)
            if level is False
            else ()
        )
        found["weight"] = Judged(
            apart(masses[1] / masses[0], WEIGHT),
            {"mass_a": masses[0], "mass_b": masses[1], "eq_b": open_b, "wide_a": open_a},
            has=() if elsewhere is None else has,
            lacks=("{eq_b}",) if elsewhere else ("do not see",) if elsewhere is False else (),
        )
    return found


def _known(*values):
    return all(value is not None for value in values)


def _kept(p):
    """What is the same of all that depth goes by: what the sentence has of that, and how it is named; None where it stands at an edge."""
    a, b = p.a, p.b
    same = {
        "same view": p.same_view,
        "same size of the subject": both(no(p.same_view), no(apart(a.high / b.high, VIEW))),
        "same spot": p.same_spot,
        "same focal length": no(apart(b.f / a.f, VIEW)),
        "same f-number": no(over(abs(stops(b.n, a.n)), STOPS)),
    }
    if None in same.values():
        return (), ""
    held = ", ".join(word for word, is_same in same.items() if is_same)
    return (("Kept the same: {held}",) if held else ("Nothing was kept the same",)), held


def _depths(p, flags):
    a, b, found = p.a, p.b, {}
    totals = {"total_a": a.total, "total_b": b.total, "near_a": a.near, "near_b": b.near}
    if not p.depth_known:
        found["depth"] = Judged(False)
    elif p.depth_level is None:
        found["depth"] = Judged(None)
    elif p.depth_level:
        found["depth"] = Judged(both(isfinite(a.total), no(p.same_spot)), totals, has=("is the same",))
    else:
        kept, held = _kept(p)
        if isfinite(a.total) and isfinite(b.total):
            words = {"word": "more" if b.total > a.total else "less"}
            found["depth"] = Judged(True, totals | {"times": b.total / a.total}, words, has=kept)
        else:
            ends = a.far if isfinite(a.far) else b.far
            word = "Both" if a.total == b.total else "{b} is sharp from" if b.total == inf else "{b} is sharp only"
            found["depth"] = Judged(True, totals | ({"far": ends} if isfinite(ends) else {}), {}, has=(word, *kept))
        if held:
            found["depth"].words["held"] = held
    soft = [eye.background > eye.c * (1 + 1e-9) for eye in (a, b)]
    known = a.c == a.c and b.c == b.c
    sides = {"share_a": a.background / a.diagonal, "share_b": b.background / b.diagonal}
    sides["times"] = sides["share_b"] / sides["share_a"] if p.blur == p.blur else nan
    found["background_blur"] = Judged(
        over(abs(p.blur), STOPS),
        sides,
        {
            "word": "more" if p.blur > 0 else "less",
            **({"soft": (b if soft[1] else a).index} if known and soft[0] != soft[1] else {}),
        },
        has=("looks sharp on both",) if known and not any(soft) else (),
        lacks=() if known and not any(soft) else ("sharp on both",) if known else ("looks sharp", "soft"),
    )
    ratio = nan if a.total == b.total == inf else b.total / a.total
    size = b.diagonal / a.diagonal
    found["same_lens_depth"] = Judged(
        both(
            a.hold.lens == "same",
            p.same_spot,
            no(over(abs(stops(b.n, a.n)), STOPS)),
            no(apart(b.c / a.c / size, DEPTH)) if a.c == a.c and b.c == b.c else False,
            apart(ratio, DEPTH),
            (ratio < 1) == (size < 1),
        ),
        {"n": a.n, "times": max(size, 1 / size)},
        {"small": (b if size < 1 else a).index},
    )
    front_a, front_b = a.u / 1000 - a.near, b.u / 1000 - b.near
    found["depth_overshoot"] = Judged(
        both(bool(flags["depth_overshoot"]), apart(front_b / front_a, DEPTH), front_b > front_a, isinf(b.far)),
        {"front_a": front_a, "front_b": front_b, "u": b.u / 1000},
    )
    return found | _gap(p)


def _gap(p):
    """Which of the sentences about the setting, or the lens, that would make a's picture on b is true."""
    from cambrel.optics.formats import FORMATS

    a, b = p.a, p.b
    keys = ("cannot_exist", "no_such_lens", "gap")
    speaks = both(p.same_spot, no(p.pupils_level))
    v = a.v * a.crop / b.crop
    focal = v / (1 + v / a.u) if isfinite(a.u) else v
    n = focal / a.pupil
    nearest = min(FORMATS.values(), key=lambda f: abs(hypot(f.width_mm, f.height_mm) / _whole(b) - 1))
    low, high = b.range
    end = min(max(focal, low), high)
    figures = {"f": focal, "n": n}
    slower = over(stops(nearest.fastest_f_number, n), STOPS)
    if abs(n - 0.5) < 1e-7 or slower is None:
        return {key: Judged(None) for key in keys}
    key = "cannot_exist" if n < 0.5 else "no_such_lens" if slower else "gap"
    found = {other: Judged(False) for other in keys}
    if key != "gap":
        found[key] = Judged(speaks, figures)
        return found
    out, short, shut = apart(end / focal, VIEW), over(stops(b.widest(end), n), STOPS), over(stops(n, b.smallest), STOPS)
    if isfinite(b.smallest) is False:
        shut = False
    if out:
        found[key] = Judged(
            speaks,
            figures | {"end": end},
            {"goes": "wide" if end > focal else "long"},
            has=("its lens goes",),
            lacks=("set {b}",),
        )
    elif out is None or short is None or shut is None:
        found[key] = Judged(None)
    elif short:
        found[key] = Judged(
            speaks, figures | {"widest": b.widest(end), "stops": stops(b.widest(end), n)}, lacks=("set {b}",)
        )
    elif shut:
        found[key] = Judged(
            speaks, figures | {"smallest": b.smallest, "stops": stops(n, b.smallest)}, lacks=("set {b}",)
        )
    else:
        reached = {"f": end, "n": min(max(n, b.widest(end)), b.smallest)}
        word = ("depth",) if p.circles is False else ()
        found[key] = Judged(speaks, reached, has=("set {b}",), lacks=word)
    return found


def _whole(eye):
    sensor = eye.rig.sensor
    return hypot(sensor.width_mm, sensor.height_mm)


def _lights(p):
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
        found["total_light"].lacks += ("noisy", "clean", "seen", "disturbs")
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
    judged.lacks += ("as noisy", "sees", "seen", "disturbs") if alike else ("equally clean",)
    # noise is what light there is, how much of it is counted, among how many pixels it is shared, and what reading them adds
    counted = log2(
        b.body.quantum_efficiency * 2**b.body.offset_stops / (a.body.quantum_efficiency * 2**a.body.offset_stops)
    )
    shared = log2(a.pixels / b.pixels) if pixel else 0.0
    reasons = {
        "counts more of its light": counted,
        "fewer pixels": shared,
        "reading its pixels": cleaner - total - counted - shared,
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
    said = {"clean": "nobody sees the difference", "seen": "The difference is seen", "disturbing": "disturbs"}
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


def _diffraction(p):
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
            None
            if None in past
            else both(past[0] != past[1], no(over(abs(stops(b.n, a.n)), STOPS)), over(stops(ratio, 1), STOPS)),
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


def _terms(p):
    a, b, found = p.a, p.b, {}
    changes = {
        by: (length(b.w, b.h, by) / length(a.w, a.h, by)) / (b.long / a.long)
        for by in ("diagonal", "width", "height", "area")
    }
    by = max(changes, key=lambda key: abs(changes[key] - 1))
    wanted = b.settings.wanted_focal_length_mm
    if b.u > wanted:
        v = (wanted / (1 - wanted / b.u) if isfinite(b.u) else wanted) * changes[by]
        would = v / (1 + v / b.u) if isfinite(b.u) else v
        ties = sum(abs(abs(c - 1) - abs(changes[by] - 1)) < 1e-9 for c in changes.values()) > 1
        found["other_crop"] = Judged(
            None if ties else both(a.hold.lens == "equivalent", apart(would / wanted, VIEW)),
            {"would": would, "change": abs(would / wanted - 1)},
            {"word": "longer" if would > wanted else "shorter"},
        )
    else:
        found["other_crop"] = Judged(False)
    now = a.terms.criterion
    circles = [e.diagonal / 1500 if now == "two_pixels" else 2 * e.pitch for e in (a, b)]
    there = []
    for eye, circle in zip((a, b), circles, strict=True):
        kept, eye.c = eye.c, circle
        near, far = eye.limits(eye.n)
        eye.c = kept
        there.append(far - near if isfinite(far) else far)
    present = b.total / a.total if isfinite(a.total) else nan
    other = there[1] / there[0] if isfinite(there[0]) else nan
    found["other_circle"] = Judged(
        both(apart(present, DEPTH), apart(other, DEPTH), (present > 1) != (other > 1))
        if isfinite(present) and isfinite(other)
        else False,
        {"times": other},
        {"word": "more" if other > 1 else "less"},
    )
    return found

"""Judges of the sentences on depth of field, on the background, and on the setting or the lens that would close the
gap.
"""

from math import hypot, inf, isfinite, isinf, nan

from cambrel.optics.formats import FORMATS
from cambrel.tests.truth.judged import DEPTH, STOPS, VIEW, Judged, apart, both, no, over, stops


def _kept(p):
    """What is the same of all that depth goes by: what the sentence has of that, and how it is named; None where it
    stands at an edge.
    """
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


def depths(p, flags):
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

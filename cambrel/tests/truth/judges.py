"""For each sentence a predicate of its own: whether it should be said of these rigs, and what its figures and words
must be.

A judge returns `Verdict` objects by key: should is True, False, or None where a threshold is met to within rounding.
"""

from math import inf, isfinite, log2, nan, pi

from cambrel.tests.truth.eye import length
from cambrel.tests.truth.judged import (
    COVER,
    DEPTH,
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
from cambrel.tests.truth.judges_of_depth import depths
from cambrel.tests.truth.judges_of_light import diffraction, lights
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
    """Same pupil and nearly the same view: what is the same is named, what is a little off too, and what is not the
    same with its reason.
    """
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
    """Pixels on the same part of the subject, with one focal length from one spot: how large it is on the sensor, over
    the pixels there.
    """
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
        has=("equally far" if level else "plays no part", *(("different distances",) if elsewhere else ())),
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
    same_focal = 1 / (1 / b.u + a.crop / (b.v * b.crop))
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
    found |= depths(p, flags) | lights(p) | diffraction(p) | _terms(p) | special(a, b, p.same_spot)
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
    room = _room_mm3(a), _room_mm3(b)
    if None not in room:
        more = room[1] / room[0]
        found["bulk"] = Judged(
            apart(more, WEIGHT),
            {
                "off": abs(more - 1), "volume_a": room[0] / 1e6, "volume_b": room[1] / 1e6, "long_a": _long_mm(a),
                "long_b": _long_mm(b),
            },
            {"side": "more" if more > 1 else "less"},
        )  # fmt: skip
    return found


def _room_mm3(eye):
    """A box for the body, a round tin for the lens unless it is a part of the camera."""
    sides = (eye.body.outer_width_mm, eye.body.outer_height_mm, eye.body.outer_depth_mm)
    tin = () if eye.lens.weight_g == 0 and eye.lens.length_mm is None else (eye.lens.length_mm, eye.lens.diameter_mm)
    if None in (*sides, *tin):
        return None
    return sides[0] * sides[1] * sides[2] + (pi * (tin[1] / 2) ** 2 * tin[0] if tin else 0)


def _long_mm(eye):
    return eye.body.outer_depth_mm + (eye.lens.length_mm or 0)


def _known(*values):
    return all(value is not None for value in values)


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
        (
            both(apart(present, DEPTH), apart(other, DEPTH), (present > 1) != (other > 1))
            if isfinite(present) and isfinite(other)
            else False
        ),
        {"times": other},
        {"word": "more" if other > 1 else "less"},
    )
    return found

"""The judges of the sentences about one rig; written from the physics, not from the verdicts."""

from math import inf, isfinite, isinf, log2, nan

from cambrel.tests.truth.judged import COVER, STOPS, VIEW, Judged, apart, both, no, over, stops
from cambrel.tests.truth.special import special_alone


def _focal_limit(b, first, wanted, there):
    """What the lens lacks; how much more or less it sees for that only where it stands where it was to."""
    figures, words = {"wanted": wanted, "reached": b.f}, {"end": "long" if b.f < wanted else "wide"}
    says = apart(wanted / b.f, VIEW)
    if wanted >= b.u:
        return Judged(
            says, figures, words, has=("a {wanted} lens cannot focus",), lacks=("across", "still sees as much")
        )
    stays = True if b is first else no(apart(b.d / first.d, VIEW))
    view = (b.d / b.v * b.long) / (first.d / first.v * first.long)
    if stays:
        return Judged(
            says,
            figures | {"times": there / b.v},
            words | {"side": "wider" if b.f < wanted else "tighter"},
            has=("as much across",),
        )
    if stays is None or apart(view, VIEW) is None:
        return Judged(says, figures, words)
    walked = b.hold.place == "walk" and not apart(view, VIEW)
    return Judged(
        says,
        figures | {"d": b.d / 1000},
        words,
        has=("still sees as much",) if walked else (),
        lacks=("across",) if walked else ("across", "still sees as much"),
    )


def alone(b, first):
    """Sentences about one rig."""
    found = {"mount": Judged(bool(b.body.mount and b.lens.mount and b.body.mount != b.lens.mount))}
    found["fisheye"] = Judged(not b.lens.rectilinear)
    s = b.settings
    if not b.focusable:
        u = s.wanted_object_distance_m
        has = ("behind {b}",) if u <= 0 else ("inside its focal length",) if u > 0 else ("no figures",)
        found["no_focus"] = Judged(True, {"u": u, "d": s.wanted_distance_m}, has=has)
        return found
    found["no_focus"] = Judged(False)
    wanted = s.wanted_focal_length_mm
    there = wanted / (1 - wanted / b.u) if isfinite(b.u) and wanted < b.u else wanted
    found["focal_limit"] = _focal_limit(b, first, wanted, there)
    asked = s.wanted_f_number
    off = stops(b.n, asked)
    found["f_number_limit"] = Judged(
        True if asked == inf else over(abs(off), STOPS),
        {"reached": b.n} | ({} if asked == inf else {"wanted": asked, "stops": abs(off)}),
        {} if asked == inf else {"off": "short" if off > 0 else "too wide"},
    )
    late = apart(s.object_distance_m / s.wanted_object_distance_m, VIEW) if isfinite(b.u) else False
    disc = b.disc(b.d)
    stopped = s.subject_distance_m > s.wanted_distance_m
    room, aside = (b.brief.nearest_m, b.brief.farthest_m), s.subject_distance_m / s.wanted_distance_m
    barred = s.subject_distance_m != s.wanted_distance_m and s.subject_distance_m in room
    found["room_limit"] = Judged(
        both(barred, apart(aside, VIEW)),
        {"stand": s.wanted_distance_m, "stood": s.subject_distance_m, "fill": b.brief.subject_height_m / b.high},
        {"word": "nearer" if aside > 1 else "farther"},
    )
    found["focus_limit"] = Judged(
        both(late, s.object_distance_m > s.wanted_object_distance_m, not barred),
        {
            "limit": b.u / 1000,
            "wanted": s.wanted_object_distance_m,
            "stand": s.wanted_distance_m,
            "share": disc / b.diagonal,
        },
        {"at": "the subject" if b.brief.focus_distance_m is None else "what it is focused on"},
        has=("have to be {stand}",) if stopped else ("still looks sharp",) if disc <= b.c else ("soft",),
    )
    at_limit = s.object_distance_m > s.wanted_object_distance_m * (1 + 1e-9) and not barred
    found["out_of_focus"] = Judged(
        both(not at_limit, over(2 * log2(disc / b.c), STOPS)) if b.c == b.c and disc > 0 else False,
        {"d": b.d / 1000, "share": disc / b.diagonal} | ({"u": b.u / 1000} if isfinite(b.u) else {}),
        has=("at infinity",) if isinf(b.u) else (),
        lacks=() if isinf(b.u) else ("infinity",),
    )
    found["unknown_depth"] = Judged(b.c != b.c)
    found["unknown_noise"] = Judged(b.terms.noise == "pixel" and b.pixels != b.pixels)
    past = over(b.airy / b.c, 1.0) if b.c == b.c else False
    pixels = over(b.airy / (2 * b.pitch), 1.0) if b.pitch == b.pitch else False
    where = "at 100 percent" if b.terms.criterion == "two_pixels" else "in the print"
    found["diffraction"] = Judged(
        past, {"n": b.n, "airy": 1000 * b.airy, "coc": 1000 * b.c, "limit": b.n * b.c / b.airy}, {"where": where}
    )
    # what an eye at the viewing distance takes for a point, in the print and back on the sensor
    print_circle = b.brief.viewing_distance_mm / 250 / b.terms.lines_per_mm * max(b.w, b.h) / b.brief.shown_long_side_mm
    shows = over(b.airy, print_circle)
    found["diffraction_pixels"] = Judged(
        both(no(past), pixels),
        {"limit": b.n * 2 * b.pitch / b.airy, "airy": 1000 * b.airy, "long": b.brief.shown_long_side_mm / 1000},
        has=() if shows is None else ("you will see it too",) if shows else ("you will not see it",),
        lacks=() if shows is None else ("will not see it",) if shows else ("will see it too",),
    )
    bare, moved = b.held_s(0.0), b.movement / b.c
    found["steady_hand_moving_subject"] = Judged(
        both(bool(b.steadied), over(b.t, bare), no(over(b.t, b.held_s(b.steadied))), over(moved, 1.01)),
        {"t": b.t, "times": moved, "needed": b.t / moved if moved else nan},
    )
    times = b.background / b.c
    closed, opened = b.n * times, b.n * times / 4
    does_close, does_open = no(over(closed, b.smallest)), no(over(b.widest(b.f), opened))
    found["half_soft"] = Judged(
        None if None in (does_close, does_open) else both(over(times, 1 + VIEW), over(4.0, times)),
        {"times": times, "closed": closed, "opened": opened},
        has=(*(("{closed} makes it sharp",) if does_close else ()), *(("clearly soft, or",) if does_open else ())),
        lacks=(*(() if does_close else ("sharp from",)), *(() if does_open else ("clearly soft, or",))),
    )
    found |= special_alone(b)
    found["image_circle"] = Judged(over(COVER, b.circle / b.diagonal), {"share": b.circle / b.diagonal})
    marked = b.lens.close_focus_m
    shortens = bool(marked and b.lens.focal_max_mm and marked < 4 * b.lens.focal_max_mm / 1000)
    found["close_up_guide"] = Judged(both(shortens, over(b.m, 0.1)))
    lost = stops(b.effective, b.n)
    found["light_lost_close_up"] = Judged(
        both(b.is_first, over(lost, STOPS)), {"n": b.n, "ne": b.effective, "stops": lost, "m": b.m}
    )
    found["reference_exposure"] = Judged(
        both(b.is_first, over(abs(b.error), STOPS)),
        {"stops": abs(b.error)},
        {"word": "bright" if b.error > 0 else "dark"},
    )
    hyperfocal = b.f**2 / (b.n * b.c) + b.f if b.c == b.c else nan
    from_mark = b.u + b.v
    just = b.brief.distance_from == "sensor" and b.u < hyperfocal and b.u > 2 * b.f and isfinite(b.far)
    found["hyperfocal_from_the_mark"] = Judged(
        both(just, no(over(hyperfocal * 0.99, from_mark))) if just else False,
        {"hyperfocal": hyperfocal / 1000, "set_at": from_mark / 1000, "far": b.far},
    )
    return found

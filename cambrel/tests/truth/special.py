"""The judges of special work, for a pair of rigs and for one alone; written from the physics, not from the verdicts."""

from math import ceil, inf, isfinite, log2, nan

from cambrel.tests.truth.demands import held_stops
from cambrel.tests.truth.judged import STOPS, VIEW, WEIGHT, Judged, apart, both, no, over
from cambrel.tests.truth.sphere import moved, worst


def special(a, b, same_spot):
    """Sentences about two rigs that see their subject."""
    return {
        "crop_of_the_lens": _crop(a, b, same_spot),
        "sweet_spot": _sweet_spot(a, b),
        "stack_for_depth": _stack(a, b),
        "lighter_close_up": _close_up(a, b),
        "tonal_range": _range(a, b),
        "least_iso": _iso(a, b),
    }


def special_alone(b):
    """Sentences about one rig."""
    return _stars(b) | _combined(b)


def _combined(b):
    """A picture put together of several: whether something moves in one of them by half of a sample."""
    moved = max(b.movement, b.shake)
    if b.shots == 1 or b.pitch != b.pitch:
        return {"combined_frames_move": Judged(False)}
    figures = {"frames": b.shots, "half": 1000 * b.pitch / 2, "moved": 1000 * moved}
    words = {"what": "your hand" if b.shake > b.movement else "the subject"}
    return {"combined_frames_move": Judged(over(moved, b.pitch / 2), figures, words)}


def _stars(b):
    declination = b.brief.declination_deg
    if declination is None or b.c != b.c:
        return {"star_rule_and_drift": Judged(False)}
    rule, ends = 500 / (b.crop * b.f), b.c / (b.f * worst(b, declination))
    at_pole = abs(declination) == 90
    middle = inf if at_pole else b.c / (b.f * moved(declination, 0, 0))
    away = max(rule / ends, ends / rule)
    near = abs(away / 2 ** (1 / 3) - 1) < 1e-3
    figures = {"rule": rule} | ({} if near else {"worst": ends}) | ({} if at_pole else {"middle": middle})
    return {
        "star_rule_and_drift": Judged(
            None if near else away > 2 ** (1 / 3),
            {name: figures[name] for name in figures if name == "rule"},
            has=("at the pole",) if at_pole else ("in the middle",),
        )
    }


def _crop(a, b, same_spot):
    views = [rig.d / rig.v * rig.long for rig in (a, b)]
    wide, tight = (a, b) if views[0] > views[1] else (b, a)
    if wide.pitch != wide.pitch or wide.lens_alone != wide.lens_alone:
        return Judged(False)
    whole = wide.half_contrast()
    prices = {part: wide.half_contrast(part) / whole for part in ("pixels", "diffraction", "defocus", "lens", "motion")}
    rest = max(price for part, price in prices.items() if part != "lens")
    alone = False if not prices["lens"] > rest else over(prices["lens"] / rest, 1.05)
    sides = [min(1.0, tight.wide / wide.wide), min(1.0, tight.high / wide.high)]
    helps = over(prices["pixels"], 1 + VIEW)
    return Judged(
        both(same_spot, None if helps is None else True, over(max(views) / min(views), 1 + VIEW), alone),
        {"left": wide.pixels / 1e6 * sides[0] * sides[1], "by_lens": prices["lens"], "wide": wide.index,
            "tight": tight.index}
        | ({"by_pixels": prices["pixels"]} if helps else {}),
        has=("{by_pixels}",) if helps else ("no finer",),
    )  # fmt: skip


def _sweet_spot(a, b):
    if a.hold.lens != "same":
        return Judged(False)
    large, small = (a, b) if b.diagonal < a.diagonal else (b, a)
    corners = [eye.corner_lines for eye in (small, large)]
    known = all(value == value for value in corners)
    ratio = corners[0] / corners[1] if known else nan
    level = (
        None if not known or over(ratio, 1.18) is None or over(1 / ratio, 1.18) is None else 1 / 1.18 <= ratio <= 1.18
    )
    words = {} if level is None else {"better": "as sharp" if level else "sharper" if ratio > 1 else "softer"}
    return Judged(
        both(known, apart(b.crop / a.crop, VIEW)),
        {"small": small.index, "large": large.index, "small_corner": corners[0], "large_corner": corners[1],
         "small_middle": small.lines, "large_middle": large.lines} if known else {},
        words,
    )  # fmt: skip


def _frames(eye):
    """How many frames the range takes as the rig is set: None where it is not known, 0 where the lens focuses no
    nearer.
    """
    from cambrel.tests.truth.test_closework import frames, largest, sharp_from

    brief = eye.brief
    if (brief.sharp_front_m is None and brief.sharp_behind_m is None) or eye.c != eye.c:
        return None
    near, far = eye.d - 1000 * (brief.sharp_front_m or 0), eye.d + 1000 * (brief.sharp_behind_m or 0)
    if near <= eye.f * (1 + 1e-9):
        return None
    most, first = largest(eye), sharp_from(eye, eye.n, near)
    if first is not None and most is not None and isfinite(most):
        m = eye.f / (first - eye.f)
        if abs(m / most - 1) < 1e-6:
            return None
        if m > most:
            return 0
    return frames(eye, eye.n, near, far) or inf


def _stack(a, b):
    counts = [_frames(a), _frames(b)]
    if None in counts:
        # at an edge of what can be told, or nothing is asked
        return Judged(None if a.brief.sharp_front_m is not None or a.brief.sharp_behind_m is not None else False)
    ones = [count == 1 for count in counts]
    deep, thin = (a, b) if ones[0] else (b, a)
    stacked = counts[1] if ones[0] else counts[0]
    edge = any(_at_an_end(eye) for eye in (a, b))
    says = sum(ones) == 1 and 1 < stacked < inf
    if stacked == inf:
        return Judged(None)  # more than are counted here
    return Judged(
        None if edge else says,
        {"deep": deep.index, "thin": thin.index, "frames": stacked, "n_deep": deep.n, "n_thin": thin.n} if says else {},
    )


def _at_an_end(eye):
    """Whether one frame more or less is a matter of rounding."""
    near, far = eye.d - 1000 * (eye.brief.sharp_front_m or 0), eye.d + 1000 * (eye.brief.sharp_behind_m or 0)
    return (
        isfinite(far)
        and near > 0
        and any(abs(got / asked - 1) < 1e-6 for got, asked in ((1000 * eye.near, near), (1000 * eye.far, far)))
    )


def _close_up(a, b):
    from cambrel.tests.truth.test_closework import largest

    width, brief = a.brief.width_shown_m, a.brief
    if width is None:
        return Judged(False)
    small, large = (b, a) if b.crop > a.crop else (a, b)

    def reaches(eye):
        most, wanted = largest(eye), eye.w / (1000 * width)
        return False if most is None else True if most == inf else no(over(wanted, most))

    less = 1 - small.carried / large.carried
    enough = over(small.largest_print, brief.shown_long_side_mm)
    other = largest(large)
    short = False if other is None else no(reaches(large))
    return Judged(
        both(no(over(width, 0.3)), apart(b.crop / a.crop, VIEW), reaches(small), over(less, WEIGHT), enough,
            short is not None),
        {"small": small.index, "large": large.index, "width": width, "less": large.carried - small.carried,
         "shown": brief.shown_long_side_mm},
        has=("close enough",) if short else (),
        lacks=() if short else ("close enough",),
    )  # fmt: skip


def _range(a, b):
    scene, school = a.brief.scene_range_stops, a.terms.range
    if scene is None or a.pitch != a.pitch or b.pitch != b.pitch:
        return Judged(False)
    held = [held_stops(eye, school) for eye in (a, b)]
    more, less = (b, a) if held[1] > held[0] else (a, b)
    high, low = max(held), min(held)

    def frames(own):
        """One where it falls short by no more than is worth saying, or holds all; more than that are counted at two
        stops apart at most.
        """
        return inf if own < 1 else 1 if scene - own <= STOPS else 1 + ceil((scene - own) / min(2, own) - 1e-9)

    few, many = frames(high), frames(low)
    edges = any(over(own, 1) is None or over(scene - own, STOPS) is None for own in held)
    edges = edges or any(own > 1 and scene > own and abs((scene - own) / min(2, own) % 1) < 1e-6 for own in held)
    figures = {"more": more.index, "less": less.index, "scene": scene, "own": high, "other": low}
    has, lacks = ("next to nothing",), ("frames",)
    if many < inf:
        lacks = ("next to nothing",)
        has = (
            ("on both",)
            if many == 1
            else ("it needs {many}",)
            if few == 1
            else ("Both need {few}",)
            if few == many
            else ("{more} needs {few}",)
        )
        figures |= {"few": few, "many": many}
    judged = "clean pixel by pixel" if a.terms.noise == "pixel" else "clean over the whole picture"
    words = {"holds": judged if school == "picture" else "above the noise of one pixel"}
    return Judged(
        None if edges else both(over(high - low, STOPS), few < inf),
        {name: value for name, value in figures.items() if value < inf},
        words,
        has=has,
        lacks=lacks,
    )


def _iso(a, b):
    brief = a.brief
    asks = brief.support or brief.slowest_shutter_s or brief.subject_speed_m_per_s or brief.declination_deg is not None
    if not asks:
        return Judged(False)
    needed = []
    for eye in (a, b):
        slowest = eye.longest_s()
        if slowest == inf:
            return Judged(False)
        needed.append(max(10 / (0.1 * 2.0**brief.light_ev * slowest / eye.effective**2), eye.body.base_iso or 0))
    apart_by = log2(needed[1] / needed[0])
    least, most = (b, a) if apart_by < 0 else (a, b)
    # the worst drift is looked for on a grid here, to five digits
    says = None if abs(abs(apart_by) - STOPS) < 1e-4 else abs(apart_by) > STOPS
    rough = brief.declination_deg is not None
    figures = {"least": least.index, "most": most.index, "n_least": least.n, "n_most": most.n}
    return Judged(says, figures if rough else figures | {"low": min(needed), "high": max(needed)})

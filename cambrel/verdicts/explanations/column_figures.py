"""Why the rest of what stands in the tables of the panels is what it is: gains and losses, the sensor mark, light of
stars and sky, tonal range.
"""

from __future__ import annotations

from math import isfinite, nan

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.slowest_shutter import steady
from cambrel.comparison.starlight import declination_of, starlight
from cambrel.comparison.tonal_range import range_of
from cambrel.optics import light
from cambrel.optics.noise_schools import RANGE_SCHOOLS, RangeSchool
from cambrel.optics.workings import Term, Working, term, working
from cambrel.verdicts.explanations.light_figures import LUX_AT_EV_0
from cambrel.verdicts.explanations.panel_figures import Special, drift, points_for
from cambrel.verdicts.explanations.why import Why, away, circle, focus, image


def _gain(c: Comparison, r: RigFigures, side: str) -> float:
    return float(getattr(r.view, side) - getattr(c.first.view, side))


def _gained(side: str, word: str) -> Special:
    def line(c: Comparison, r: RigFigures) -> Working:
        own, first = (float(getattr(rig.view, side)) for rig in (r, c.first))
        return working(
            "gain", "W − W₁", own - first, "m", term("W", f"{word} shown at the subject", own, "m"),
            term("W₁", "the reference’s", first, "m")
        )  # fmt: skip

    which = "across" if word == "width" else "from top to bottom"
    says = (
        f"How much more or less of the scene is shown {which}. Frames of different shapes gain one "
        f"way and lose the other."
    )
    return Special(f"{word} against the reference", "m", lambda c, r: _gain(c, r, side), Why(says, line, (), ("thin",)))


def _limit(c: Comparison, r: RigFigures, name: str) -> float:
    steadied = steady(c, r)
    return nan if steadied is None else steadied.limits_s[name]


def _moving(c: Comparison, r: RigFigures) -> Working:
    speed = term("s", "speed across the frame, m/s", c.brief.subject_speed_m_per_s)
    return working("t", "c × d / (s × v)", _limit(c, r, "movement"), "s", circle(r), away(r), speed, image(r))


def _iso_then(c: Comparison, r: RigFigures) -> float:
    steadied = steady(c, r)
    return nan if steadied is None or not steadied.iso else steadied.iso


def _metered(c: Comparison, r: RigFigures) -> Working | None:
    steadied = steady(c, r)
    if steadied is None:
        return None
    return working(
        "S", "g × Nₑ² / (j × 2^L × t)", _iso_then(c, r), "iso",
        term("g", "mid-grey, lux s times ISO", light.MID_GREY_LUX_S),
        term("Nₑ", "effective f-number", r.light.effective_f_number, "f"),
        term("j", "by the definition of EV", LUX_AT_EV_0),
        term("L", "light on the scene, EV at ISO 100", c.brief.light_ev),
        term("t", "slowest usable shutter", steadied.slowest_s, "s"),
    )  # fmt: skip


def _star(c: Comparison, r: RigFigures, name: str) -> float:
    sky = starlight(c, r, declination_of(c))
    return nan if sky is None else float(getattr(sky, name))


def _points(c: Comparison, r: RigFigures) -> Working:
    terms: list[Term] = []
    for rig, at, whose in ((r, "", ""), (c.first, "₁", " of the reference")):
        drifts = _star(c, rig, "middle_s")
        terms.append(term(f"A{at}", f"entrance pupil{whose}", rig.blur.pupil_mm, "mm"))
        terms.append(
            term(
                f"t{at}",
                f"shutter time{whose}, until the star has drifted off",
                min(rig.settings.shutter_s, drifts),
                "s",
            )
        )
    return working("stops", "log₂(A² × t / (A₁² × t₁))", _star(c, r, "points_stops"), "signed", *terms)


def _sky(c: Comparison, r: RigFigures) -> Working:
    terms: list[Term] = []
    for rig, at, whose in ((r, "", ""), (c.first, "₁", " of the reference")):
        terms.append(term(f"N{at}", f"f-number{whose}", rig.settings.f_number, "f"))
        terms.append(term(f"t{at}", f"shutter time{whose}", rig.settings.shutter_s, "s"))
    return working("stops", "log₂(t × N₁² / (t₁ × N²))", _star(c, r, "sky_stops"), "signed", *terms)


def _range(c: Comparison, r: RigFigures, name: str) -> float:
    held_range = range_of(c, r, r.settings.iso)
    return nan if held_range is None else held_range.by[name]


def _from_full(c: Comparison, r: RigFigures, name: str) -> Working | None:
    """From a full pixel down to the darkest tone that stands out from noise; not where the maker states the range."""
    held_range = range_of(c, r, r.settings.iso)
    return None if held_range is None or held_range.is_stated else RANGE_SCHOOLS[name].working(held_range.pixel)


def _corner(c: Comparison, r: RigFigures) -> float:
    return float(c.corner.lines_per_height[r.index])


def _lines(c: Comparison, r: RigFigures) -> Working | None:
    resolved = float(c.corner.resolved_per_mm[r.index])
    if not isfinite(resolved):
        return None
    high = term("h", "height of the frame", r.frames.height_mm, "mm")
    return working(
        "lines", "2 × k × h", _corner(c, r), "number", term("k", "cycles per mm resolved in the corner", resolved), high
    )


def _of_range(school: RangeSchool) -> Special:
    """The range of one frame by a school, whichever is in force."""
    return Special(
        f"{school.column}, as noise is judged" if school.is_judged else school.column,
        "stops",
        lambda c, r: _range(c, r, school.key),
        Why(
            school.explains or school.reason,
            lambda c, r: _from_full(c, r, school.key),
            ("noise",) if school.is_judged else (),
            ("sensor",),
        ),
    )


TABLES: dict[str, Special] = {
    "across": _gained("field_wide_m", "width"),
    "down": _gained("field_high_m", "height"),
    "sensor_mark": Special(
        "distance from the sensor mark",
        "m",
        lambda c, r: r.settings.object_distance_m + r.view.image_distance_mm / 1000,
        Why(
            "What a tape measures: from the mark on the camera, where the sensor is.",
            lambda c, r: working(
                "s",
                "u + v / 1000",
                r.settings.object_distance_m + r.view.image_distance_mm / 1000,
                "m",
                focus(r),
                image(r),
            ),
            (),
            ("thin",),
        ),
    ),
    "cycles_pixel": Special(
        "cycles per pixel",
        "number",
        lambda c, r: r.sharpness.cycles_per_pixel,
        Why(
            "How much of what the pixels could hold is there. Half a cycle in each is the limit.",
            lambda c, r: working(
                "cycles",
                "k × p / 1000",
                r.sharpness.cycles_per_pixel,
                "number",
                term("k", "cycles per mm that are resolved", r.sharpness.resolved_per_mm),
                term("p", "pixel pitch", r.frames.pitch_um, "um"),
            ),
            (),
            ("lens",),
        ),
    ),
    "corner": Special(
        "line widths in the corner",
        "number",
        _corner,
        Why("As in the middle, by what the lens resolves at that image height.", _lines, (), ("record",)),
    ),
    "horizon": Special(
        "above the horizon, held level",
        "deg",
        lambda c, r: r.view.angle_high_deg / 2,
        Why(
            "Half of what the frame shows from bottom to top is above the horizon.",
            lambda c, r: working(
                "angle",
                "a / 2",
                r.view.angle_high_deg / 2,
                "deg",
                term("a", "angle of view, high", r.view.angle_high_deg, "deg"),
            ),
            (),
            ("straight",),
        ),
    ),
    "star_limit": Special(
        "stars",
        "s",
        lambda c, r: _limit(c, r, "stars"),
        Why(
            "Until a star's trail is longer than what counts as a point, where the picture has stars.",
            points_for,
            ("star_rule", "criterion"),
            ("sky",),
        ),
    ),
    "movement": Special(
        "movement",
        "s",
        lambda c, r: _limit(c, r, "movement"),
        Why("Until the subject has moved by what counts as sharp.", _moving, ("criterion",), ("thin",)),
    ),
    "iso_then": Special(
        "ISO then",
        "iso",
        _iso_then,
        Why(
            "The ISO for the light, at that shutter time and the f-number set.",
            _metered,
            ("hand", "star_rule"),
            ("light",),
        ),
    ),
    "trail": Special(
        "longest trail now",
        "um",
        lambda c, r: 1000 * _star(c, r, "trail_mm"),
        Why(
            "At the worst edge of the frame, for the shutter time that is set.",
            lambda c, r: working(
                "trail",
                "1000 × s × t",
                1000 * _star(c, r, "trail_mm"),
                "um",
                term("s", "drift in a second at the worst edge of the frame, mm", drift(c, r)),
                term("t", "shutter time", r.settings.shutter_s, "s"),
            ),
            (),
            ("sky",),
        ),
    ),
    "points": Special(
        "light of the stars",
        "signed",
        lambda c, r: _star(c, r, "points_stops"),
        Why(
            "A star is a point. Its light depends on the area of the opening, and on how long it stays on one disc.",
            _points,
            ("criterion",),
            ("sky",),
        ),
    ),
    "sky": Special(
        "light of the sky",
        "signed",
        lambda c, r: _star(c, r, "sky_stops"),
        Why("The sky has an area. Its light depends on f-number and shutter time.", _sky, (), ("sky", "marks")),
    ),
    **{f"range_{school.key}": _of_range(school) for school in RANGE_SCHOOLS.values()},
}

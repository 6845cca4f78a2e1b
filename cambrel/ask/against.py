"""Two lenses in one sentence: whether they take the same picture, and whether their weights may be compared."""

from __future__ import annotations

from math import log2

from cambrel import wording
from cambrel.ask.elsewhere import AdvertPart, effective, same_pupil_f_number, same_view_mm
from cambrel.comparison.brief import Conventions
from cambrel.comparison.rig import aperture_stops
from cambrel.conventions.home import home_name
from cambrel.optics.formats import FORMATS, crop_factor
from cambrel.wording.sentences import LEVEL_STOPS, LEVEL_VIEW, LEVEL_WEIGHT, listed

NEAR_VIEW = 0.05
"""By what share of the focal length two views may differ and still be nearly the same."""


def _light_stops(a: AdvertPart, b: AdvertPart) -> float | None:
    """By how many stops b gathers more light in the whole picture than a, each for its time where both say one; None
    where it is not known.
    """
    if a.short is None or b.short is None:
        return None
    numbers = [effective(part.short or 0.0, part.low_mm, part.distance_m) for part in (a, b)]
    longer = log2(b.shutter_s / a.shutter_s) if a.shutter_s and b.shutter_s else 0.0
    return aperture_stops(numbers[0], numbers[1]) + log2(b.sensor.area_mm2 / a.sensor.area_mm2) + longer


def _pupil_stops(a: AdvertPart, b: AdvertPart) -> float | None:
    """By how many stops b's opening is the larger at its short end; None where it is not known."""
    if a.short is None or b.short is None or a.low_mm is None or b.low_mm is None:
        return None
    return aperture_stops(b.low_mm / b.short, a.low_mm / a.short)


def _views(part: AdvertPart, conventions: Conventions, there: str = "") -> tuple[float, float] | None:
    """Shortest and longest focal length of the same view on a format, by default the reader's own."""
    if part.low_mm is None or part.high_mm is None:
        return None
    format_ = FORMATS[there or conventions.home]
    short, long = (same_view_mm(end, part, format_, conventions.crop_by) for end in (part.low_mm, part.high_mm))
    return short, long


def _frame_alike(a: AdvertPart, b: AdvertPart, conventions: Conventions, level: float = LEVEL_VIEW) -> bool:
    """Whether both see the same, at either end, to a share of the focal length."""
    mine, others = _views(a, conventions), _views(b, conventions)
    if mine is None or others is None:
        return False
    return all(max(one / other, other / one) - 1 <= level for one, other in zip(mine, others, strict=True))


def against(a: AdvertPart, b: AdvertPart, conventions: Conventions) -> str:
    """Two lenses in one sentence: their views, and then depth and light."""
    said, alike = [], _frame_alike(a, b, conventions)
    views, home = (_views(a, conventions), _views(b, conventions)), home_name(conventions)
    stops, pupil = _light_stops(a, b), _pupil_stops(a, b)
    at = f" at {wording.distance(a.distance_m)}" if a.distance_m is not None and a.distance_m == b.distance_m else ""
    if alike and stops is not None and pupil is not None and max(abs(stops), abs(pupil)) <= LEVEL_STOPS:
        return f"A and B take the same picture{at}: same view, same depth of field, same light."
    if views[0] and views[1]:
        if alike:
            said.append(f"A and B frame alike{at}, as {wording.focal_range(*views[0])} on {home}")
        else:
            ends = (wording.focal_range(*view) for view in views if view)
            said.append(f"A frames like {next(ends)} on {home}{at}, B like {next(ends)}")
    if stops is not None:
        # of depth there is only something to say where both frame alike
        if abs(stops) <= LEVEL_STOPS:
            said.append("both gather the same light in the whole picture")
        else:
            more, less = ("B", "A") if stops > 0 else ("A", "B")
            said.append(f"{more} gathers {wording.stops(abs(stops))} more light in the whole picture than {less}")
        if alike and pupil is not None and abs(pupil) > LEVEL_STOPS:
            said.append(f"{'B' if pupil > 0 else 'A'} has less depth of field")
    if pixels := _on_subject(a, b):
        said.append(pixels)
    if not said:
        return ""
    return ". ".join(part[0].upper() + part[1:] for part in said) + "."


def less_depth(a: AdvertPart, b: AdvertPart, conventions: Conventions) -> str:
    """Which of two that do not frame alike has less depth of field: framed alike by their distance, f-number times crop
    factor decides while the subject is near; from the same place, that over the square of the equivalent focal length.
    Where both say the same it holds at any distance. Where no focal length is said, there is only the first.
    """
    views = _views(a, conventions), _views(b, conventions)
    if a.short is None or b.short is None or a.distance_m or b.distance_m or _frame_alike(a, b, conventions):
        return ""
    if (views[0] is None) != (views[1] is None) or any(view[0] != view[1] for view in views if view):
        return ""
    crops = [crop_factor(part.sensor, by=conventions.crop_by) for part in (a, b)]
    framed = aperture_stops(a.short * crops[0], b.short * crops[1])
    placed = framed + 4 * log2(views[1][0] / views[0][0]) if views[0] and views[1] else None
    near, there = (("B" if (by or 0.0) > 0 else "A") if abs(by or 0.0) > LEVEL_STOPS else "" for by in (framed, placed))
    if placed is not None and near == there:
        head = f"{near} has less" if near else "Both have about the same"
        return f"{head} depth of field, framed alike or from the same place."
    said = [f"From the same place {there} has less depth of field."] if there else []
    said += [f"Framed alike and near, {near} has less depth of field."] if near else []
    return " ".join(said) or "Framed alike and near, both have about the same depth of field."


def same_picture(a: AdvertPart, b: AdvertPart, conventions: Conventions) -> str:
    """Whether two take the same picture as far as both are said, Yes, Nearly or No: the view, and where both say an
    f-number the opening. Nearly is a view that a step to or fro makes up for.
    """
    stops, pupil = _light_stops(a, b), _pupil_stops(a, b)
    if a.low_mm is None or b.low_mm is None:
        return "Yes" if stops is not None and abs(stops) <= LEVEL_STOPS else "No"
    if pupil is not None and abs(pupil) > LEVEL_STOPS:
        return "No"
    if _frame_alike(a, b, conventions):
        return "Yes"
    return "Nearly" if _frame_alike(a, b, conventions, NEAR_VIEW) else "No"


def _on_subject(a: AdvertPart, b: AdvertPart) -> str:
    """Which puts more pixels on a subject far away, where both pixel counts are known."""
    pitches = a.sensor.pixel_pitch_um, b.sensor.pixel_pitch_um
    if pitches[0] is None or pitches[1] is None or a.high_mm is None or b.high_mm is None:
        return ""
    ratio = (b.high_mm / pitches[1]) / (a.high_mm / pitches[0])
    if abs(log2(ratio)) <= log2(1 + LEVEL_VIEW):
        return "both put the same pixels on the subject"
    more, less, times = ("B", "A", ratio) if ratio > 1 else ("A", "B", 1 / ratio)
    return f"{more} puts {wording.times(times)} as many pixels on the subject along a line as {less}"


def several(parts: tuple[AdvertPart, ...], conventions: Conventions) -> str:
    """Three lenses in a sentence or two: their views, and then light from most to least."""
    home = home_name(conventions)
    letters = [wording.letter(index) for index in range(len(parts))]
    said = []
    views = [_views(part, conventions) for part in parts]
    if all(_frame_alike(parts[0], part, conventions) for part in parts[1:]) and views[0]:
        said.append(f"All frame alike, as {wording.focal_range(*views[0])} on {home}")
    else:
        seen = [
            f"{letter} like {wording.focal_range(*view)}" for letter, view in zip(letters, views, strict=True) if view
        ]
        if seen:
            said.append(f"On {home} they frame: {listed(seen)}")
    stops = [_light_stops(parts[0], part) for part in parts]
    if None not in stops:
        ordered = sorted(zip(stops, letters, strict=True), key=lambda ranked: -(ranked[0] or 0.0))
        most = ordered[0]
        if abs((most[0] or 0.0) - (ordered[-1][0] or 0.0)) <= LEVEL_STOPS:
            said.append("All gather the same light in the whole picture")
        else:
            rest = [
                f"{wording.stops((most[0] or 0.0) - (less or 0.0))} more than {letter}" for less, letter in ordered[1:]
            ]
            said.append(f"{most[1]} gathers the most light in the whole picture, {listed(rest)}")
    return ". ".join(said) + "." if said else ""


def fair(a: AdvertPart, b: AdvertPart, conventions: Conventions) -> str:
    """Whether two weights may be compared at all: only lenses that make the same picture are opponents."""
    if a.weight_g is None or b.weight_g is None or min(a.weight_g, b.weight_g) <= 0:
        return ""
    if abs(a.weight_g / b.weight_g - 1) <= LEVEL_WEIGHT:
        return ""
    light, heavy, letter = (a, b, "A") if a.weight_g < b.weight_g else (b, a, "B")
    stops = _pupil_stops(light, heavy)
    if stops is None or None in (light.low_mm, light.high_mm, light.short, light.long):
        return ""
    if _frame_alike(light, heavy, conventions) and abs(stops) <= LEVEL_STOPS:
        return (
            f"The weights compare fairly: {wording.mass(light.weight_g or 0)} against"
            f" {wording.mass(heavy.weight_g or 0)}."
        )
    by = conventions.crop_by
    ends = [(light.low_mm or 1.0, light.short or 1.0), (light.high_mm or 1.0, light.long or 1.0)]
    focal = wording.focal_range(*(same_view_mm(f, light, heavy.sensor, by) for f, _ in ends))
    number = wording.f_number_range(*(same_pupil_f_number(n, f, light, heavy.sensor, by) for f, n in ends))
    return (
        f"The weights are no fair match. {letter} weighs less, but its true opponent on the other's format is {focal}"
        f" {number}."
    )

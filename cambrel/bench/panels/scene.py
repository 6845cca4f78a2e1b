"""The Scene panel: a picture for each rig, its overlay, its figures, and in words what is sharp and what is soft."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import Look, camera, one_of, point, switch
from cambrel.bench.panels.panel import Panel
from cambrel.bench.placing import placed
from cambrel.drawings.scene import Other, overlay
from cambrel.drawings.shapes import Drawing
from cambrel.links import Bench
from cambrel.optics.comparison import Comparison, RigFigures
from cambrel.optics.scene import disc_mm
from cambrel.optics.stops import F_NUMBERS, between
from cambrel.pictures.serving import address, pattern, shop
from cambrel.pictures.shots import HEIGHTS, Shot, arranged, camera_of, loupe_of, rig_shot
from cambrel.wording import LETTERS, Units

NOMINAL_PX = 280.0
MOST_IN_STRIP = 8
PNG_PX = HEIGHTS[-1]


@dataclass(frozen=True)
class Picture:
    """A rig's picture as the template shows it."""

    index: int
    letter: str
    token: str
    pattern: str
    """Its address, {height} standing for a height."""
    small: str
    source: str
    save: str
    ratio: float
    drawing: Drawing
    caption: str
    figures: tuple[tuple[str, str], ...]
    says: str
    loupe: str = ""
    loupe_pattern: str = ""
    loupe_source: str = ""
    grain_note: str = ""


@dataclass(frozen=True)
class Strip:
    """A stop of the aperture walk as a small picture."""

    f_number: str
    source: str
    says: str
    is_set: bool
    action: str


def build(bench: Bench, comparison: Comparison, look: Look) -> dict[str, Any]:
    """The variables of the panel."""
    units: Units = look.units
    rigs = [comparison.of(i) for i in range(len(comparison.rigs))]
    seeing = [rig for rig in rigs if rig.settings.focusable]
    height = HEIGHTS[5] if len(seeing) < 3 else HEIGHTS[4]
    cameras = {rig.index: camera_of(bench, comparison, rig) for rig in seeing}
    pictures = []
    for rig in seeing:
        shot = rig_shot(bench, comparison, rig, as_set=look["bright"] == "set", grain=look["grain"])
        others = [Other(index, camera) for index, camera in cameras.items() if index != rig.index]
        pictures.append(_picture(bench, comparison, rig, shot, others, height, look))
    scene = arranged(bench.scene, comparison.brief, bench.changes)
    arts = [layer.art for layer in scene.layers]
    return {
        "pictures": pictures,
        "blind": [LETTERS[rig.index] for rig in rigs if not rig.settings.focusable],
        "height": height,
        "strip": _strip(bench, comparison, look),
        "placed": placed(bench, units),
        "is_changed": bool(bench.changes),
        "drawn_before": shop().is_ready(scene.slug, arts),
        "scene_name": scene.name,
        "stands_apart": len({round(c.subject_distance_m, 3) for c in cameras.values()}) > 1,
    }


def _picture(
    bench: Bench, comparison: Comparison, rig: RigFigures, shot: Shot, others: list[Other], height: int, look: Look
) -> Picture:
    letter, s = LETTERS[rig.index], rig.settings
    slot = bench.slots[rig.index]
    setting = f"{wording.focal(s.focal_length_mm)} {wording.f_number(s.f_number)} {wording.shutter(s.shutter_s)} {wording.iso(s.iso)}"
    figures = (
        ("view", wording.degrees(rig.view.angle_diagonal_deg)),
        ("depth", wording.distance(rig.depth.total_m, look.units)),
        ("background blur", wording.share(rig.blur.background_share)),
    )
    token = shot.token()
    caption = f"{letter}  {slot.body_name}, {setting}; " + ", ".join(f"{name} {value}" for name, value in figures)
    loupe = loupe_of(shot, comparison.brief, *look["loupe"]).token() if look["loupe"] else ""
    return Picture(
        index=rig.index,
        letter=letter,
        token=token,
        pattern=pattern(token),
        small=address(token, HEIGHTS[HEIGHTS.index(height) - 2]),
        source=address(token, height),
        save=address(token, PNG_PX, "png"),
        ratio=shot.aspect_ratio(),
        drawing=overlay(rig, shot.camera, others, NOMINAL_PX, look.units),
        caption=caption,
        figures=figures,
        says=sharpness_sentence(bench, comparison, rig, shot),
        loupe=loupe,
        loupe_pattern=pattern(loupe) if loupe else "",
        loupe_source=address(loupe, HEIGHTS[4]) if loupe else "",
        grain_note="" if shot.snr_frame or not look["grain"] else "Its noise is unknown.",
    )


def sharpness_sentence(bench: Bench, comparison: Comparison, rig: RigFigures, shot: Shot) -> str:
    """What of the scene is sharp in a rig's picture, and what is soft and by how much."""
    scene = arranged(shot.scene, comparison.brief, bench.changes)
    limit = float(rig.frames.coc_mm)
    sharp, soft = [], []
    for layer in reversed(scene.layers):
        away = shot.camera.subject_distance_m + layer.behind_m
        if away <= 0:
            soft.append(f"the {layer.name} is behind the camera")
            continue
        disc = float(disc_mm(shot.camera, away))
        if disc <= limit:
            sharp.append(f"the {layer.name}")
        elif limit == limit:
            soft.append(f"the {layer.name} by {wording.share(disc / rig.frames.diagonal_mm)} of the diagonal")
    if limit != limit:
        return f"{LETTERS[rig.index]}: what counts as sharp is unknown under this convention."
    said = f"{LETTERS[rig.index]}: sharp: {', '.join(sharp) or 'nothing'}"
    return f"{said}; soft: {', '.join(soft)}." if soft else f"{said}; nothing is soft."


def _strip(bench: Bench, comparison: Comparison, look: Look) -> list[Strip]:
    """The pictures of one rig from its widest to its smallest stop."""
    index = look["strip"]
    if not 0 <= index < len(comparison.rigs) or not comparison.of(index).settings.focusable:
        return []
    rig = comparison.of(index)
    shot = rig_shot(bench, comparison, rig)
    lens = rig.carrier.lens
    widest = float(rig.settings.widest_f_number) if isfinite(rig.settings.widest_f_number) else 1.0
    smallest = lens.smallest_f_number or 22.0
    stops = between(F_NUMBERS, max(widest, 0.7), max(smallest, widest))
    step = max(1, -(-len(stops) // MOST_IN_STRIP))
    made = []
    for stop in stops[::step]:
        at = replace(shot, camera=replace(shot.camera, f_number=stop.typed))
        blur = float(disc_mm(at.camera, _background_m(comparison, at))) / rig.frames.diagonal_mm
        made.append(
            Strip(
                wording.f_number(stop.typed),
                address(at.token(), HEIGHTS[2]),
                f"background blur {wording.share(blur)}",
                abs(stop.typed - float(rig.settings.f_number)) < 0.01,
                f"stop:{index}:{stop.marked}",
            )
        )
    return made


def _background_m(comparison: Comparison, shot: Shot) -> float:
    behind = comparison.brief.background_m
    return shot.camera.subject_distance_m + (5.0 if behind is None else behind)


LOOK = (one_of("bright", "matched", "set"), switch("grain"), point("loupe"), camera("strip"))
PANEL = Panel("scene", "Scene", "bench/panels/scene.html", build, LOOK)

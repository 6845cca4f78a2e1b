"""The face of each rig on the bench: its picture, what is laid over it, and in words what is sharp and what is soft."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.look import Look, LookPart, camera, cameras, one_of, point, switch
from cambrel.bench.placing import placed
from cambrel.comparison.bench import Bench
from cambrel.comparison.brief import SUPPORTS
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.marks import settings_of
from cambrel.comparison.schools import support_of
from cambrel.drawings.scene import Other, overlay
from cambrel.drawings.shapes import Drawing
from cambrel.optics.quantities import is_unknown
from cambrel.optics.scene import disc_mm, place_mm, scale_mm_per_m
from cambrel.optics.stops import F_NUMBERS, between
from cambrel.pictures.shots import HEIGHTS, Shot, arranged, camera_of, loupe_of, rig_shot
from cambrel.pictures.views import address, pattern, shop
from cambrel.scenes import Scene, shipped
from cambrel.wording import LETTERS, Units

NOMINAL_PX = 280.0
MOST_IN_STRIP = 8
PNG_PX = HEIGHTS[-1]


@dataclass(frozen=True)
class RigPicture:
    """A rig's picture as the template shows it."""

    index: int
    letter: str
    token: str
    pattern: str
    """Its address, {height} standing for a height."""
    source: str
    save: str
    drawing: Drawing
    caption: str
    says: str
    subject: str
    """Where the subject's middle falls and how high it is, in shares of the picture: what two pictures are laid over
    each other by.
    """
    dissolves: str = ""
    loupe: str = ""
    loupe_pattern: str = ""
    loupe_source: str = ""
    grain_note: str = ""
    shake_note: str = ""


@dataclass(frozen=True)
class Strip:
    """A stop of the aperture walk as a small picture."""

    f_number: str
    source: str
    says: str
    is_set: bool
    action: str


@dataclass(frozen=True)
class Faces:
    """The pictures of a bench by the number of the rig, and what is shown below them."""

    pictures: dict[int, RigPicture] = field(default_factory=dict)
    blind: tuple[str, ...] = ()
    strip: tuple[Strip, ...] = ()
    placed: tuple[Any, ...] = ()
    is_changed: bool = False
    drawn_before: bool = True
    scene_name: str = ""
    stands_apart: bool = False


def faces_of(bench: Bench, comparison: Comparison, look: Look, place: Scene) -> Faces:
    """The pictures of all rigs that can focus."""
    units: Units = look.units
    rigs = [comparison.of(i) for i in range(len(comparison.rigs))]
    seeing = [rig for rig in rigs if rig.settings.focusable]
    height = HEIGHTS[5] if len(seeing) < 4 else HEIGHTS[3]
    cameras = {rig.index: camera_of(bench, comparison, rig, place) for rig in seeing}
    pictures = {}
    for rig in seeing:
        shot = rig_shot(
            bench,
            comparison,
            rig,
            place=place,
            as_set=look["bright"] == "set",
            grain=look["grain"],
            shaken=look["shake"],
        )
        others = [Other(index, camera) for index, camera in cameras.items() if rig.index != index == look["frame"]]
        pictures[rig.index] = _picture(bench, comparison, rig, shot, others, height, look)
    scene = arranged(place, comparison.brief, bench.changes)
    arts = [layer.art for layer in scene.layers]
    return Faces(
        pictures,
        tuple(LETTERS[rig.index] for rig in rigs if not rig.settings.focusable),
        tuple(_strip(bench, comparison, look, place)),
        tuple(placed(bench, units, place)),
        bool(bench.changes),
        shop().is_ready(scene.slug, arts),
        scene.name,
        len({round(c.subject_distance_m, 3) for c in cameras.values()}) > 1,
    )


def _picture(
    bench: Bench, comparison: Comparison, rig: RigFigures, shot: Shot, others: list[Other], height: int, look: Look
) -> RigPicture:
    letter = LETTERS[rig.index]
    slot = bench.slots[rig.index]
    setting = wording.settings(*settings_of(rig, marked=comparison.asked is not None))
    figures = (
        ("view", wording.degrees(rig.view.angle_diagonal_deg)),
        ("depth", wording.distance(rig.depth.total_m, look.units)),
        ("background blur", wording.share(rig.blur.background_share)),
    )
    token = shot.token()
    caption = f"{letter}  {slot.body_called}, {setting}; " + ", ".join(f"{name} {value}" for name, value in figures)
    loupe = loupe_of(shot, comparison.brief, rig, *look["loupe"]).token() if look["loupe"] else ""
    return RigPicture(
        index=rig.index,
        letter=letter,
        token=token,
        pattern=pattern(token),
        source=address(token, height),
        save=address(token, PNG_PX, "png"),
        drawing=overlay(
            rig,
            shot.camera,
            others,
            NOMINAL_PX,
            look.units,
            with_marks=look["marks"],
            background=bench.background_name or "background",
        ),
        caption=caption,
        says=sharpness_sentence(bench, comparison, rig, shot),
        subject=_subject_at(bench, comparison, shot),
        dissolves=what_dissolves(bench, comparison, rig, look.units, shot.place or shipped(shot.scene)),
        loupe=loupe,
        loupe_pattern=pattern(loupe) if loupe else "",
        loupe_source=address(loupe, HEIGHTS[4]) if loupe else "",
        grain_note="" if shot.snr_frame or not look["grain"] else "Its noise is unknown.",
        shake_note=shake_sentence(comparison, rig, shot.shake_mm) if look["shake"] else "",
    )


def shake_sentence(comparison: Comparison, rig: RigFigures, shake_mm: float) -> str:
    """How far the hand carried a point, against what still counts as sharp."""
    if support_of(comparison.brief) == "tripod":
        return "On a tripod nothing shakes."
    if not shake_mm > 0:
        return "Its shake is not known."
    times, carried = shake_mm / rig.frames.coc_mm, SUPPORTS[support_of(comparison.brief)].label
    return (
        f"Shake {carried}: {wording.times(times)} what still counts as sharp."
        if isfinite(times)
        else f"Shake {carried}."
    )


def sharpness_sentence(bench: Bench, comparison: Comparison, rig: RigFigures, shot: Shot) -> str:
    """What of the scene is sharp in a rig's picture, and what is soft and by how much."""
    scene = arranged(shot.place or shipped(shot.scene), comparison.brief, bench.changes)
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
        elif not is_unknown(limit):
            soft.append(f"the {layer.name} by {wording.share(disc / rig.frames.diagonal_mm)} of the diagonal")
    if is_unknown(limit):
        return f"{LETTERS[rig.index]}: the pixel count is not on record, so what counts as sharp is unknown."
    said = f"{LETTERS[rig.index]}: sharp: {', '.join(sharp) or 'nothing'}"
    return f"{said}; soft: {', '.join(soft)}." if soft else f"{said}. Nothing is soft."


def _subject_at(bench: Bench, comparison: Comparison, shot: Shot) -> str:
    scene, c = arranged(shot.place or shipped(shot.scene), comparison.brief, bench.changes), shot.camera
    layer = next((layer for layer in scene.layers if layer.anchor == "subject"), None)
    x, base = (layer.x_m, layer.base_m) if layer else (0.0, 0.0)
    high = comparison.brief.subject_height_m
    x_mm, y_mm = place_mm(c, x, base + high / 2, c.subject_distance_m)
    share = float(scale_mm_per_m(c, c.subject_distance_m)) * high / c.height_mm
    return f"{0.5 + float(x_mm) / c.width_mm:.5g},{0.5 + float(y_mm) / c.height_mm:.5g},{share:.5g}"


def what_dissolves(bench: Bench, comparison: Comparison, rig: RigFigures, units: Units, place: Scene) -> str:
    """What of the background and of the foreground the blur takes away, by things that are known by sight."""
    scene = arranged(place, comparison.brief, bench.changes)
    said = []
    for anchor, size in (
        ("background", rig.blur.background_dissolves_mm),
        ("foreground", rig.blur.foreground_dissolves_mm),
    ):
        layer = next((layer for layer in scene.layers if layer.anchor == anchor), None)
        if layer is not None and isfinite(size):
            said.append(dissolving_sentence(f"the {layer.name}", float(size) / 1000, layer.details, units))
    return " ".join(said)


def dissolving_sentence(where: str, size_m: float, details: tuple[tuple[str, float], ...], units: Units) -> str:
    """What dissolves somewhere and what stays, beside the size that parts them [m]."""
    if size_m <= 0:
        return f"On {where} no detail is lost."
    lost = [name for name, size in details if size < size_m]
    kept = [name for name, size in details if size >= size_m]
    said = f"On {where} detail under {wording.distance(size_m, units, 2)} is lost"
    if lost and kept:
        return (
            f"{said}: {wording.articled('a ' + lost[-1])} is gone, {wording.articled('a ' + kept[0])} is still there."
        )
    if lost:
        return f"{said}: even {wording.articled('a ' + lost[-1])} is gone."
    return f"{said}: even {wording.articled('a ' + kept[0])} is still there." if kept else f"{said}."


def _strip(bench: Bench, comparison: Comparison, look: Look, place: Scene) -> list[Strip]:
    """The pictures of one rig from its widest to its smallest stop."""
    index = look["strip"]
    if not 0 <= index < len(comparison.rigs) or not comparison.of(index).settings.focusable:
        return []
    rig = comparison.of(index)
    shot = rig_shot(bench, comparison, rig, place=place)
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


PARTS: tuple[LookPart, ...] = (
    one_of("bright", "matched", "set"),
    switch("grain"),
    switch("shake"),
    switch("marks"),
    camera("frame"),
    point("loupe"),
    camera("strip"),
    one_of("photo", "", "1", "flash"),
    cameras("pair", 2),
)

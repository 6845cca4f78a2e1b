"""The Close-up panel: magnification, depth, light and framing close by, and the stack that a range asks for."""

from __future__ import annotations

import csv
import io
from math import isfinite
from typing import Any

from cambrel import wording
from cambrel.bench.panels.panel import Panel, PanelView, rig_table
from cambrel.comparison import framing
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.drawings.closeup import closeup_drawing
from cambrel.links.benches import encode
from cambrel.optics.geometry import image_distance_mm
from cambrel.wording import DASH, LETTERS

SMALL_M = 0.15
"""Of a subject no larger than this, a picture is a close-up."""


def build(seen: PanelView) -> dict[str, Any]:
    bench, comparison, look = seen.bench, seen.comparison, seen.look
    units = look.units
    rigs = [comparison.of(index) for index in range(len(comparison.rigs))]
    stacks = {rig.index: framing.stack(comparison, rig, rig.settings.f_number) for rig in rigs}

    def cells(rig: RigFigures) -> tuple[str, ...]:
        if not rig.settings.focusable:
            return (DASH,) * 11
        now = stacks[rig.index]
        return (
            wording.significant(rig.view.magnification),
            wording.significant(framing.equivalent_magnification(rig)),
            wording.distance(rig.view.field_wide_m, units) + " × " + wording.distance(rig.view.field_high_m, units),
            _room(rig, units),
            wording.distance(rig.settings.object_distance_m, units),
            wording.distance(rig.settings.object_distance_m + rig.view.image_distance_mm / 1000, units),
            wording.distance(rig.depth.total_m, units),
            _effective(rig),
            (
                wording.f_number(framing.smallest_useful_f_number(rig))
                if isfinite(framing.smallest_useful_f_number(rig))
                else DASH
            ),
            _frames(now),
            wording.mass(rig.outfit.weight_g) if isfinite(rig.outfit.weight_g) else DASH,
        )

    heads = (
        ("times life size", "magnification"), ("as on full frame", "equal_size"), ("field", "field_wide"),
        ("before the lens", "before_lens"), ("from the lens", "focus"), ("from the sensor mark", "sensor_mark"),
        ("depth of field", "total"), ("exposes like", "effective"),
        ("before diffraction shows", "limited"), ("frames in a stack", "stack"), ("weight", "weight"),
    )  # fmt: skip
    return {
        "drawing": closeup_drawing(comparison, stacks, width=look.across, units=units),
        "sentences": [
            (LETTERS[rig.index], wording.sentence(said, units))
            for rig in rigs
            for said in _said(comparison, rig, seen.own.aids)
        ],
        "stacks": [
            (LETTERS[index], _listed(found, units))
            for index, found in stacks.items()
            if found and len(found.focused_m) > 1
        ],
        "token": encode(bench),
        "table": rig_table("Close up", heads, comparison, cells),
    }


def _said(comparison: Comparison, rig: RigFigures, aids: list[framing.Aid]) -> list[Any]:
    framed = framing.framing(comparison, rig)
    said = [framing.says_framing(rig, framed)] if framed else []
    if framed and framed.wanted > framed.largest and aids:
        said.append(framing.says_aid(framing.aid_for(rig, framed, aids), len(aids)))
    now = framing.stack(comparison, rig, rig.settings.f_number)
    if now:
        useful = framing.stack(comparison, rig, framing.smallest_useful_f_number(rig))
        said.append(framing.says_stack(rig, now, useful))
    room = framing.working_distance_m(rig)
    if isfinite(room) and rig.view.magnification * rig.frames.crop >= CLOSE:
        said.append(framing.says_working_distance(rig, room))
    return said


CLOSE = 0.1
"""From this equivalent magnification on the room before the lens is worth a sentence."""


def _room(rig: RigFigures, units: wording.Units) -> str:
    room = framing.working_distance_m(rig)
    return wording.distance(room, units) if room > 0 else "inside it" if room <= 0 else "not known"


def _effective(rig: RigFigures) -> str:
    """The f-number that the light goes by, with the stops that the extension takes where there are any."""
    number, less = wording.f_number(rig.light.effective_f_number), framing.light_lost_stops(rig)
    return f"{number}, {wording.stops(less)} less" if less >= 0.05 else number


def _frames(found: framing.Stack | None) -> str:
    if found is None:
        return DASH
    if not found.is_near_enough:
        return "too near"
    return wording.significant(found.frames, 6) if isfinite(found.frames) else "too many"


def _listed(found: framing.Stack, units: wording.Units) -> str:
    return ", ".join(wording.distance(at, units, 4) for at in found.focused_m)


def stack_csv(comparison: Comparison) -> str:
    """Every frame of every stack, one a row: the camera, the frame, and where it is focused, at full precision."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["camera", "frame", "f-number", "focus from the lens m", "focus from the sensor mark m"])
    for rig in (comparison.of(index) for index in range(len(comparison.rigs))):
        stacked = framing.stack(comparison, rig, rig.settings.f_number)
        for number, at in enumerate(stacked.focused_m if stacked else (), start=1):
            mark = at + float(image_distance_mm(rig.settings.focal_length_mm, at)) / 1000
            writer.writerow([LETTERS[rig.index], number, repr(rig.settings.f_number), repr(at), repr(mark)])
    return out.getvalue()


def asks(brief: Brief) -> bool:
    """Of something small."""
    return brief.subject_height_m <= SMALL_M or (brief.width_shown_m is not None and brief.width_shown_m <= SMALL_M)


PANEL = Panel("closeup", "Close-up", "bench/panels/closeup.html", build, asks=asks)

"""Pictures that come back to a sheet: read from their heads, put to their shots, and set against the plan."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import asdict
from datetime import datetime
from math import inf, log2
from typing import Any

from cambrel import wording
from cambrel.field.planning import SheetPlan
from cambrel.owners.sections import Row
from cambrel.photographs.taken import Taken, names_agree
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.predictions import As
from cambrel.trials.trial_shots import TrialShot

MOST_BACK = 200
FAR_APART = 6.0
NOWHERE = "none"
"""Where a picture stands that was taken off every shot by hand: it is not put to one again."""
UNTICKED = 0.05
"""A shot that nobody ticked is less likely the one of a picture than one that was ticked then."""
SAME_SETTING_STOPS = 1 / 12
SAME_FOCAL = 0.03


def row_of(head_read: Taken) -> Row:
    """The settings of a picture as they are kept."""
    row = asdict(head_read) | {"notes": list(head_read.notes), "at": head_read.at.isoformat() if head_read.at else ""}
    return {key: value for key, value in row.items() if value not in (None, "", [])}


def as_settings(row: Row) -> As:
    return As(*(row.get(key) for key in ("focal_length_mm", "f_number", "shutter_s", "iso")))


def _camera(plan: SheetPlan, rig: int, row: Mapping[str, Any]) -> float:
    """How far a picture's camera and lens are from a rig's, by name: 0 for the same, more for others."""
    slot = plan.bench.slots[rig]
    body, lens = row.get("body", ""), row.get("lens", "")
    apart = 1.0 if not body else 0.0 if names_agree(body, slot.body_called) else inf
    if lens and slot.lens_name and not names_agree(lens, slot.lens_name):
        apart += 2.0
    return apart


def _apart(shot: TrialShot, row: Mapping[str, object]) -> float:
    """How far a picture's settings are from a shot's [stops]; what is not said counts half a stop."""
    stops = 0.0
    for key, times in (("f_number", 2.0), ("shutter_s", 1.0), ("iso", 1.0), ("focal_length_mm", 4.0)):
        value = row.get(key)
        stops += 0.5 if not value else abs(times * log2(value / getattr(shot, key)))
    return stops


def placed(plan: SheetPlan, rows: Mapping[str, Row], ticks: Mapping[str, str]) -> dict[str, str]:
    """To which shot each picture belongs, by camera, settings and time; "" where it fits none.

    Parameters
        rows: by any key, those that have a "shot" already keep it
        ticks: when shots were ticked, by their keys
    """
    free = {shot.key: shot.times for shot in plan.shots}
    for row in rows.values():
        if row.get("shot") in free:
            free[row["shot"]] -= 1
    known = _is_known(plan, rows.values())
    waiting = sorted((key for key, row in rows.items() if not row.get("shot")), key=lambda key: rows[key].get("at", ""))
    tokens: dict[str, str] = {}
    for key in waiting:
        best, least = "", FAR_APART
        for order, shot in enumerate(plan.shots):
            if free[shot.key] <= 0:
                continue
            far = _far(plan, shot, rows[key], known)
            # of several alike the next in the order of the sheet, unless it was ticked at another time
            far += 1e-6 * order + (_minutes_apart(ticks.get(shot.key, ""), rows[key].get("at", "")) if ticks else 0.0)
            if far < least:
                best, least = shot.key, far
        tokens[key] = best
        if best:
            free[best] -= 1
    return tokens


def _is_known(plan: SheetPlan, rows: Iterable[Mapping[str, object]]) -> bool:
    """Whether any of some pictures is of a camera that the sheet calls by the same name; else names tell nothing."""
    return any(_camera(plan, shot.rig, row) < inf for row in rows for shot in plan.shots)


def _far(plan: SheetPlan, shot: TrialShot, row: Mapping[str, object], known: bool) -> float:
    return _apart(shot, row) + (_camera(plan, shot.rig, row) if known else 0.0)


def may_be_measured(plan: SheetPlan, row: Mapping[str, object], others: Iterable[Mapping[str, object]]) -> bool:
    """Whether a picture may belong to a shot whose pixels are measured, or to none yet, so that its file is wanted
    whole.
    """
    known = _is_known(plan, [row, *others])
    fits = [shot.trial for shot in plan.shots if _far(plan, shot, row, known) < FAR_APART]
    return not fits or any(TRIALS[trial].measured is not None for trial in fits)


def _minutes_apart(tick: str, at: str) -> float:
    """Up to a tenth for a tick and a picture far apart in time, by the minutes of the hour: zones and clocks differ by
    whole hours.
    """
    if not tick or not at:
        return UNTICKED if at else 0.0
    try:
        one, other = datetime.fromisoformat(tick), datetime.fromisoformat(at)
    except ValueError:
        return 0.0
    minutes = abs((one.minute - other.minute + 30) % 60 - 30)
    return 0.1 * min(minutes, 30) / 30


def differing(shot: TrialShot, row: Row) -> list[str]:
    """Where a picture was taken otherwise than planned, as it is read."""
    pictures = []
    for key, times, say in (
        ("f_number", 2.0, wording.f_number), ("shutter_s", 1.0, wording.shutter), ("iso", 1.0, wording.iso),
    ):  # fmt: skip
        value = row.get(key)
        if value and abs(times * log2(value / getattr(shot, key))) > SAME_SETTING_STOPS:
            pictures.append(f"planned {say(getattr(shot, key))}, taken {say(value)}")
    focal = row.get("focal_length_mm")
    if focal and abs(focal / shot.focal_length_mm - 1) > SAME_FOCAL:
        pictures.append(f"planned {wording.focal(shot.focal_length_mm)}, taken {wording.focal(focal)}")
    return pictures


def said(row: Row) -> str:
    """A picture's settings on one line."""
    words = [
        say(row[key])
        for key, say in (
            ("focal_length_mm", wording.focal),
            ("f_number", wording.f_number),
            ("shutter_s", wording.shutter),
            ("iso", wording.iso),
        )
        if row.get(key)
    ]
    return " ".join(words) or "no settings in its file"

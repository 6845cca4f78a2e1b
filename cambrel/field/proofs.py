"""Did it hold: each shot of a sheet with what was read off its pictures."""

from __future__ import annotations

from cambrel.comparison.engine import Comparison
from cambrel.field.backs import as_settings
from cambrel.field.measuring import as_reading
from cambrel.field.models import Sheet
from cambrel.field.planning import SheetPlan
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.outcomes import PictureReading
from cambrel.trials.predictions import As, as_taken
from cambrel.trials.proofs import BroughtBack, ProofLine
from cambrel.trials.trial_shots import TrialShot


def found_of(sheet: Sheet, key: str) -> dict[str, PictureReading]:
    """What was read off a shot."""
    return {what: as_reading(row) for what, row in sheet.found.get(key, {}).items()}


def settings_of(sheet: Sheet, shot: TrialShot) -> As:
    """The settings of a shot: those that the picture says that was read off, or any of its pictures, else the planned
    ones.
    """
    read_off = {row.get("of") for row in sheet.found.get(shot.key, {}).values()}
    mine = [
        (token not in read_off, as_settings(row)) for token, row in sheet.back.items() if row.get("shot") == shot.key
    ]
    said = min(mine, key=lambda ranked: ranked[0])[1] if mine else As()
    return As(
        said.focal_length_mm or shot.focal_length_mm, said.f_number or shot.f_number, said.shutter_s or shot.shutter_s,
        said.iso or shot.iso
    )  # fmt: skip


def first_shot(plan: SheetPlan, shot: TrialShot) -> TrialShot | None:
    """The reference's shot of the same trial."""
    return next(
        (planned for planned in plan.shots if planned.trial == shot.trial and planned.rig == plan.bench.reference),
        None,
    )


def taken_as(plan: SheetPlan, sheet: Sheet, shot: TrialShot) -> Comparison:
    """The comparison at the settings at which a shot and that of the reference were taken."""
    earlier = first_shot(plan, shot)
    taken = {} if earlier is None else {earlier.rig: settings_of(sheet, earlier)}
    return as_taken(plan.made, taken | {shot.rig: settings_of(sheet, shot)})


def lines_of(plan: SheetPlan, sheet: Sheet, shot: TrialShot) -> list[ProofLine]:
    """The verdicts on a shot."""
    readings, trial = found_of(sheet, shot.key), TRIALS[shot.trial]
    if not set(trial.what) & set(readings):
        return []
    earlier = first_shot(plan, shot)
    first = {} if earlier is None or earlier.key == shot.key else found_of(sheet, earlier.key)
    mine = [planned for planned in plan.shots if (planned.trial, planned.rig) == (shot.trial, shot.rig)]
    run = {
        settings_of(sheet, shot_in_run).f_number or shot_in_run.f_number: found_of(sheet, shot_in_run.key)
        for shot_in_run in mine
    }
    stop = settings_of(sheet, shot).f_number or shot.f_number
    return trial.judge(BroughtBack(taken_as(plan, sheet, shot), shot.rig, shot.times, readings, first, run, stop))

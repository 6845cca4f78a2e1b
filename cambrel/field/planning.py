"""From a bench to the shots that would prove it, as they are read on a sheet."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import groupby
from math import isfinite

from cambrel import wording
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.comparison.bench import Bench
from cambrel.comparison.engine import Comparison, compare
from cambrel.drawings.shapes import Drawing
from cambrel.drawings.standpoints import Staging, TripodPlace, standpoints_drawing
from cambrel.links.addresses import bench_address
from cambrel.pictures.shots import arranged
from cambrel.scenes import Find, shipped
from cambrel.trials.all_trials import FAIR, TRIALS
from cambrel.trials.plans import SIDE_BY_SIDE_M, changes_of_rig, shift_mm, shots_of, usual
from cambrel.trials.trial_shots import TrialShot, rounded
from cambrel.wording.cautions import CAUTIONS
from cambrel.wording.sentences import LEVEL_STOPS

SUN, TRACK, NIGHT, PATH = (CAUTIONS[key].short for key in ("sun", "track", "night", "path"))
LONG_MM = 150.0
BRIGHT_EV, DARK_EV, FAST_M_PER_S = 12.0, 2.0, 3.0


@dataclass(frozen=True)
class SheetLine:
    """A shot as it is read."""

    key: str
    trial: str
    settings: str
    focus: str
    predicted: str
    look: str
    cost: str
    times: int
    is_measured: bool
    bench: str = ""
    """The camera as it is set for the shot, on the bench."""
    why: str = ""
    """What of it the prediction is, as it stands in an address."""


@dataclass(frozen=True)
class Stand:
    """A camera at a place, with the shots that are taken of there."""

    place: str
    letter: str
    gear: str
    lines: list[SheetLine]


@dataclass(frozen=True)
class SheetPlan:
    """The shots of a bench for some trials."""

    bench: Bench
    trials: tuple[str, ...]
    find: Find = shipped
    """Finds scenes, as whoever has the sheet has them."""

    @cached_property
    def comparison(self) -> Comparison:
        b = self.bench
        return compare(b.brief, b.rigs, b.hold, b.conventions, b.reference)

    @cached_property
    def made(self) -> Comparison:
        """The same at the settings that the cameras offer."""
        return rounded(self.comparison)

    @cached_property
    def picked(self) -> list[str]:
        """The trials that are asked for, or those that the picture asks for."""
        return [key for key in TRIALS if key in self.trials] or usual(self.comparison)

    @cached_property
    def shots(self) -> list[TrialShot]:
        return shots_of(self.comparison, self.picked)

    def stands(self) -> list[Stand]:
        rows = []
        for (_, rig), shots in groupby(self.shots, key=lambda shot: (round(shot.place_m, 4), shot.rig)):
            together = list(shots)
            slot = self.bench.slots[rig]
            gear = slot.body_called + (f", {slot.lens_name}" if slot.lens_name else "")
            rows.append(
                Stand(wording.distance(together[0].place_m), wording.LETTERS[rig], gear, list(map(self.line, together)))
            )
        return rows

    def drawing(self, width: float = 660.0) -> Drawing | None:
        """Where to stand and lay the tape; None for a sheet without a shot."""
        b, made = self.bench, self.made
        places = dict.fromkeys((shot.rig, shot.place_m) for shot in self.shots)
        stands = [
            TripodPlace(rig, place, float(made.of(rig).view.field_wide_m)) for rig, place in places if isfinite(place)
        ]
        if not stands:
            return None
        scene = arranged(self.find(b.scene), b.brief, b.changes)
        staging = Staging(
            b.brief.subject_height_m, scene.camera_height_m, b.brief.foreground_m, b.brief.background_m,
            b.foreground_name or "foreground", b.background_name or "background",
        )  # fmt: skip
        return standpoints_drawing(stands, staging, width=width)

    def line(self, shot: TrialShot) -> SheetLine:
        """A shot as it is read."""
        said = " ".join(
            (wording.focal(shot.focal_length_mm), wording.marked_f_number(shot.f_number),
                wording.shutter(shot.shutter_s), wording.iso(shot.iso))
        )  # fmt: skip
        return SheetLine(
            shot.key, TRIALS[shot.trial].label, said, f"focused at {wording.distance(shot.focus_m)}",
            wording.sentence(shot.predicted),
            TRIALS[shot.trial].look, _cost(shot.cost_stops), shot.times, TRIALS[shot.trial].measured is not None,
            self._set(shot),
            f"of={TRIALS[shot.trial].figure}&rig={shot.rig}",
        )  # fmt: skip

    def _set(self, shot: TrialShot) -> str:
        """The bench with the camera as it is set for a shot."""
        made = self.made
        rigs = list(made.rigs)
        shot_rig = rigs[shot.rig]
        rigs[shot.rig] = replace(
            shot_rig, f_number=shot.f_number / shot_rig.converter, shutter_s=shot.shutter_s, iso=shot.iso
        )
        slots = tuple(replace(slot, rig=rig) for slot, rig in zip(self.bench.slots, rigs, strict=True))
        return bench_address(replace(self.bench, brief=made.brief, slots=slots, hold=made.hold))

    @property
    def how(self) -> list[tuple[str, str]]:
        """How each of the trials is set up."""
        return [
            (TRIALS[key].label, TRIALS[key].how) for key in self.picked if any(shot.trial == key for shot in self.shots)
        ]

    @property
    def missing(self) -> list[str]:
        """The trials that were picked and of which no camera here has a shot."""
        return [TRIALS[key].label for key in self.picked if not any(shot.trial == key for shot in self.shots)]

    def setting_up(self) -> list[str]:
        """What makes it fair, for this comparison."""
        said = [*FAIR]
        first = self.comparison.first
        if len(self.bench.slots) > 1 and first.settings.focusable:
            share = shift_mm(self.comparison, first) / first.frames.width_mm
            if share > 0:
                said.insert(
                    0,
                    "One tripod, used in turn, each lens at the same point: two of them"
                    f" {wording.distance(SIDE_BY_SIDE_M)} apart would shift the background by {wording.share(share)} of"
                    " the width of the picture.",
                )
        return said

    def cautions(self) -> list[str]:
        """The usual ones where this may hurt."""
        brief, rigs = self.bench.brief, range(len(self.bench.slots))
        longest = max((self.comparison.of(index).view.full_frame_focal_length_mm for index in rigs), default=0.0)
        named = {
            sample_brief.name: sample_brief.caution for sample_brief in sample_briefs().values() if sample_brief.caution
        }
        said = [named[self.bench.brief_name]] if self.bench.brief_name in named else []
        has_sun = any("sun" in line for line in said)
        said += [SUN] if not has_sun and brief.light_ev >= BRIGHT_EV and longest >= LONG_MM else []
        said += [TRACK] if brief.subject_speed_m_per_s >= FAST_M_PER_S else []
        said += [NIGHT] if brief.light_ev <= DARK_EV else []
        called = {TRIALS[shot.trial].caution for shot in self.shots} - {""}
        said += [caution.short for key, caution in CAUTIONS.items() if key in called]
        return [*said, PATH]

    @property
    def work(self) -> str:
        """How much work it is."""
        frames, changes = sum(shot.times for shot in self.shots), changes_of_rig(self.shots)
        places = len({round(shot.place_m, 3) for shot in self.shots})
        return f"{_counted(frames, 'frame')}, {_counted(places, 'place')}, {_counted(changes, 'change')} of camera"


def _counted(count: int, word: str) -> str:
    return f"{count} {word}{'' if count == 1 else 's'}"


def _cost(stops: float) -> str:
    """What the steps of the settings cost, where that is worth saying."""
    if abs(stops) <= LEVEL_STOPS:
        return ""
    return f"{wording.stops(abs(stops))} {'brighter' if stops > 0 else 'darker'} than computed, as the settings go"


def offered(picked: Sequence[str]) -> list[tuple[str, object, bool]]:
    """The trials to tick: key, what it is, whether it is ticked."""
    return [(key, trial, key in picked) for key, trial in TRIALS.items()]

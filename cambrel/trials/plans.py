"""The shots of a sheet: those that would prove a comparison, in the order of least work."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from math import inf, log2

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.optics.quantities import is_unknown
from cambrel.optics.stops import F_NUMBERS, ISOS, SHUTTERS, nearest_within
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.trial import Trial
from cambrel.trials.trial_shots import TrialShot, lowest_iso, rounded
from cambrel.wording.sentences import Sentence

SIDE_BY_SIDE_M = 0.3
"""Between two tripods that stand beside each other."""


def shots_of(comparison: Comparison, trials: Sequence[str]) -> list[TrialShot]:
    """The shots of some trials at the settings that the cameras offer, in the order of least work: place by place, rig
    by rig.

    Parameters
        comparison: what is to be proved
        trials: keys of TRIALS
    Returns
        those that can be taken; a rig that sees nothing has none
    """
    made = rounded(comparison)
    kinds = []
    for index in range(len(made.rigs)):
        rig, wanted = made.of(index), comparison.of(index).settings
        if not rig.settings.focusable or not wanted.focusable:
            continue
        for key in trials:
            for number, (other, predicted, times) in enumerate(TRIALS[key].shots(made, rig)):
                if predicted.is_sound:
                    kinds.append(_shot(rig, TRIALS[key], number, other, predicted, times, comparison))
    return _by_least_work(kinds)


def _shot(
    rig: RigFigures,
    trial: Trial,
    number: int,
    other: dict[str, float],
    predicted: Sentence,
    times: int,
    comparison: Comparison,
) -> TrialShot:
    s, times_n, lens, body = rig.settings, rig.rig.converter, rig.carrier.lens, rig.rig.body
    as_computed = comparison.of(rig.index).settings
    n, t, iso = other.get("f_number", s.f_number / times_n), other.get("shutter_s", s.shutter_s), s.iso
    # what another setting takes of the light that was computed the others give back where they can
    if "f_number" in other:
        widest = None if is_unknown(s.widest_f_number) else s.widest_f_number / times_n
        n = nearest_within(n, F_NUMBERS, widest, lens.smallest_f_number).typed
        t = as_computed.shutter_s * (n * times_n / as_computed.f_number) ** 2
    if other and not trial.is_counted:
        t = nearest_within(t, SHUTTERS, body.fastest_shutter_s, rig.rig.slowest_shutter_s).typed
    if other:
        wanted = as_computed.iso * (n * times_n / as_computed.f_number) ** 2 * as_computed.shutter_s / t
        iso = nearest_within(wanted, ISOS, lowest_iso(body, as_computed.iso), body.ceiling_iso).typed
    if trial.stop_takes_rest:
        # how sharp it is held has nothing to do with the stop, which takes what light is too much
        over = 2 * log2(as_computed.f_number / (n * times_n)) + log2(t / as_computed.shutter_s * iso / as_computed.iso)
        n = nearest_within(n * 2.0 ** (max(over, 0.0) / 2), F_NUMBERS, n, lens.smallest_f_number).typed
    cost = (
        2 * log2(as_computed.f_number / (n * times_n)) + log2(t / as_computed.shutter_s) + log2(iso / as_computed.iso)
    )
    key = f"{trial.key}-{rig.index}-{number}"
    return TrialShot(
        key, trial.key, rig.index, s.focal_length_mm, n * times_n, t, iso, s.subject_distance_m, s.object_distance_m,
        cost, predicted, times
    )  # fmt: skip


def _by_least_work(shots: list[TrialShot]) -> list[TrialShot]:
    """Place by place from the nearest, at each rig by rig; a rig that is on the tripod stays on it for the next
    place.
    """
    order = list(TRIALS)
    places: list[float] = []
    for shot in sorted(shots, key=lambda shot: shot.place_m):
        if not places or shot.place_m > places[-1] * (1 + 1e-3):
            places.append(shot.place_m)
    in_order: list[TrialShot] = []
    mounted: int | None = None
    for place in places:
        here = [shot for shot in shots if place <= shot.place_m <= place * (1 + 1e-3)]
        rigs = sorted({shot.rig for shot in here}, key=lambda rig: (rig != mounted, rig))
        for rig in rigs:
            in_order += sorted((shot for shot in here if shot.rig == rig), key=lambda shot: order.index(shot.trial))
            mounted = rig
    return in_order


def changes_of_rig(shots: Sequence[TrialShot]) -> int:
    """How often the camera on the tripod is another.

    Parameters
        shots: in their order
    Returns
        0 where one camera takes them all
    """
    return sum(one.rig != other.rig for one, other in pairwise(shots))


def shift_mm(comparison: Comparison, rig: RigFigures, gap_m: float = SIDE_BY_SIDE_M) -> float:
    """By how much two cameras side by side see the background elsewhere against the subject, v gap (1/u - 1/x).

    Parameters
        comparison: worked out
        rig: one of it
        gap_m: between the lenses [m]
    Returns
        on the sensor [mm]
    """
    there, behind = rig.settings.subject_distance_m, comparison.brief.background_m
    far = 1 / there if behind is None else 0.0 if behind == inf else 1 / (there + behind)
    return float(rig.view.image_distance_mm * gap_m * (1 / there - far))


def usual(comparison: Comparison) -> list[str]:
    """The trials that a comparison asks for by itself: those of what its picture is about.

    Parameters
        comparison: worked out
    Returns
        keys of TRIALS
    """
    return [key for key, trial in TRIALS.items() if trial.is_usual(comparison)]

"""The case of a question on the bench: its cameras and settings by value, under the terms that it is about, and its two
pictures.
"""

from __future__ import annotations

from dataclasses import replace

from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.engine import compare
from cambrel.drills.all_drills import KINDS
from cambrel.learn.put_questions import EYE, Put
from cambrel.links.addresses import bench_address
from cambrel.pictures.shots import HEIGHTS, rig_shot
from cambrel.pictures.views import address

PICTURE_PX = HEIGHTS[5]


def bench_of(put: Put) -> Bench:
    """What was asked about, on the bench."""
    given, words = put.case.given, put.words
    # two pictures of unlike shapes would tell their frames apart by those
    shape = "3:2" if put.level == EYE else "native"
    brief = replace(given.brief, background_m=5.0, light_ev=8.0, shape=shape)
    first, second = given.second_rigs if words.two_lenses else given.rigs
    brief, (first, second) = KINDS[put.kind].staged(given, brief, (first, second))
    names = (put.case.one, put.case.one if words.two_lenses else put.case.other)
    slots = tuple(
        Slot(rig, name, put.case.lens if rig.lens is first.lens and put.case.lens else "")
        for rig, name in zip((first, second), names, strict=True)
    )
    return Bench(brief, slots, words.hold, given.conventions, title=words.skill, scene=KINDS[put.kind].scene)


def on_bench(put: Put) -> str:
    """Where the case is seen."""
    return bench_address(bench_of(put), panel=put.words.panel)


def pictures(put: Put) -> list[tuple[str, int, int]]:
    """The two pictures to be told apart, in the order in which they stand: address, width and height."""
    if put.level != EYE:
        return []
    bench = bench_of(put)
    compared = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
    rigs = [compared.of(index) for index in (0, 1)]
    nearness = [1 / rig.settings.subject_distance_m if put.words.two_lenses else rig.frames.diagonal_mm for rig in rigs]
    asked = rigs[nearness.index(max(nearness))]
    other = next(rig for rig in rigs if rig is not asked)
    ordered = (asked, other) if put.shown_first == 0 else (other, asked)
    cases = []
    for rig in ordered:
        shot = rig_shot(bench, compared, rig)
        cases.append((address(shot.token(), PICTURE_PX), round(PICTURE_PX * shot.aspect_ratio()), PICTURE_PX))
    return cases

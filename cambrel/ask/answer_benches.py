"""Where an answer is seen: benches with what a question names. Pure."""

from __future__ import annotations

from dataclasses import replace

from cambrel import wording
from cambrel.ask.question_kind import GivenLine
from cambrel.ask.sensors import Named
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import Brief, Hold
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.links.addresses import bench_address

FAR_M = 10.0
"""Where the subject stands on a bench if the question does not say."""
AS_SAID = Hold("own", "spot", "own", "own")
USUAL_F_NUMBER = 4.0


def slot_of(
    named: Named,
    focal_mm: float,
    f_number: float | None = None,
    *,
    stabilisation_stops: float | None = None,
    shutter_s: float | None = None,
    iso: float | None = None,
    longest_mm: float | None = None,
) -> Slot:
    """A camera of a format with a lens as it was said."""
    body = (
        Body(named.sensor)
        if stabilisation_stops is None
        else Body(named.sensor, stabilisation_stops=stabilisation_stops)
    )
    number = USUAL_F_NUMBER if f_number is None else f_number
    last = focal_mm if longest_mm is None else longest_mm
    points = ((focal_mm, number),) if last == focal_mm else ((focal_mm, number), (last, number))
    rig = Rig(body, Lens(focal_mm, last, points if f_number is not None else ()), focal_mm, number)
    if shutter_s is not None:
        rig = replace(rig, shutter_s=shutter_s)
    if iso is not None:
        rig = replace(rig, iso=iso)
    called = named.called[:1].upper() + named.called[1:]
    focal = wording.focal_range(focal_mm, last).replace(wording.NBSP, " ")
    return Slot(rig, called.removeprefix("A ")[:60], f"{focal} f/{number:g}" if f_number is not None else focal)


def on_bench(
    given: GivenLine, *slots: Slot, panel: str = "depth", brief: Brief | None = None, label: str = ""
) -> tuple[str, str]:
    """A press that opens a bench with these cameras."""
    distance = given.one("distance") or FAR_M
    bench = Bench(brief or Brief(distance_m=distance), slots, AS_SAID, given.terms.conventions)
    return label or "See it on the Bench", bench_address(bench, panel=panel)

"""Random benches over all formats, holds, conventions, exposures and the lenses of the demo shelf, from a seed."""

import json
from dataclasses import replace
from math import exp, inf, log
from random import Random

from cambrel.comparison.brief import SHAPES, Brief, Conventions, Hold
from cambrel.comparison.hold_answers import APERTURE_HOLDS, EXPOSURE_HOLDS, LENS_HOLDS, PLACE_HOLDS
from cambrel.comparison.rig import Body, Lens, Mode, Rig
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.formats import CROP_MEASURES, FORMATS, Sensor
from cambrel.optics.good_enough import GOOD_ENOUGH_SCHOOLS
from cambrel.optics.noise_schools import NOISE_SCHOOLS, RANGE_SCHOOLS
from cambrel.optics.stars import STAR_SCHOOLS
from cambrel.optics.steadiness import HAND_SCHOOLS
from cambrel.shelf.demo import GEAR

_SECTIONS = json.loads(GEAR.read_text())["sections"]
_BODY = (
    "base_iso",
    "ceiling_iso",
    "fastest_shutter_s",
    "slowest_shutter_s",
    "stabilisation_stops",
    "weight_g",
    "mount",
    "outer_width_mm",
    "outer_height_mm",
    "outer_depth_mm",
)
_LENS = ("smallest_f_number", "max_magnification", "close_focus_m", "weight_g", "mount", "rectilinear")
_LENS += ("length_mm", "diameter_mm")


def _given(row, names):
    return {name: row[name] for name in names if row.get(name) is not None}


BODIES = [
    Body(
        Sensor(row["width_mm"], row["height_mm"], row.get("pixels_wide"), row.get("pixels_high")),
        offset_stops=row.get("offset_stops") or 0.0,
        **_given(row, _BODY),
    )
    for row in _SECTIONS["bodies"]
]
LENSES = [
    Lens(
        row["focal_min_mm"],
        row.get("focal_max_mm") or row["focal_min_mm"],
        tuple((f, n) for f, n in row.get("widest", ())),
        image_circle_mm=row.get("image_circle_mm")
        or (FORMATS[row["designed_for"]].diagonal_mm if row.get("designed_for") else None),
        **_given(row, _LENS),
    )
    for row in _SECTIONS["lenses"]
]


def spread(random, low, high):
    """Evenly over the stops between two values."""
    return exp(random.uniform(log(low), log(high)))


def maybe(random, share, value):
    return value() if random.random() < share else None


def a_rig(random):
    body = random.choice(BODIES)
    if random.random() < 0.4:
        f = random.choice(list(FORMATS.values()))
        body = Body(Sensor(f.width_mm, f.height_mm, maybe(random, 0.7, lambda: random.choice([3000, 6000, 9000]))))
    lens = random.choice(LENSES) if random.random() < 0.6 else Lens()
    if random.random() < 0.25:
        body = _narrow(random, body)
    if random.random() < 0.15:
        lens = replace(
            lens, smallest_f_number=random.choice([11.0, 16.0, 22.0]), max_magnification=spread(random, 0.05, 1)
        )
    low, high = lens.focal_min_mm or 0.0, lens.focal_max_mm or 0.0
    focal = spread(random, low, high) if low else body.sensor.diagonal_mm * spread(random, 0.3, 8)
    if random.random() < 0.1:
        focal *= random.choice([0.5, 2])  # beyond what the lens does
    return Rig(
        body,
        lens,
        focal,
        random.choice([0.95, 1.4, 1.7, 1.8, 2, 2.8, 4, 5.6, 8, 11, 16, 22]),
        random.choice([1 / 8000, 1 / 1000, 1 / 250, 1 / 125, 1 / 60, 1 / 15, 0.5, 8]),
        random.choice([50, 100, 200, 400, 1600, 6400, 51200]),
        distance_m=maybe(random, 0.5, lambda: spread(random, 0.2, 60)),
        converter=random.choice([1, 1, 1, 1, 1.4, 2, 0.71]),
        take_rest=random.random() < 0.3,
    )


def _narrow(random, body):
    """A body whose limits are met: a short range of shutter times and of ISO."""
    fastest, base = random.choice([1 / 4000, 1 / 500, 1 / 60]), random.choice([64, 200, 800])
    times, isos = random.choice([2, 16, 500]), random.choice([2, 16, 128])
    return replace(
        body, fastest_shutter_s=fastest, slowest_shutter_s=fastest * times, base_iso=base, ceiling_iso=base * isos
    )


def a_brief(random, rigs, reference):
    distance = random.choice([lambda: spread(random, 0.12, 3), lambda: spread(random, 1, 600)])()
    focal = rigs[reference].focal_length_mm
    if random.random() < 0.15:
        distance = focal * random.choice([2.05, 2.5, 4.2, 6]) / 1000  # close up
    return Brief(
        distance_m=distance,
        subject_height_m=spread(random, 0.01, 4),
        focus_distance_m=maybe(
            random, 0.2, lambda: random.choice([distance * 0.5, distance * 2.5, distance * 1.02, inf])
        ),
        distance_from=random.choice(["lens", "lens", "lens", "sensor"]),
        background_m=random.choice([None, inf, *[distance * spread(random, 0.005, 30)] * 4]),
        foreground_m=maybe(random, 0.5, lambda: distance * random.uniform(0.02, 0.95)),
        light_ev=random.choice([-3, 4, 8, 8, 9, 12, 15]),
        upright=random.random() < 0.3,
        shape=random.choice(["native", "native", *SHAPES]),
        shown_long_side_mm=random.choice([100, 300, 420, 1200]),
        viewing_distance_mm=random.choice([250, 500, 1500]),
        sharp_front_m=maybe(random, 0.4, lambda: distance * spread(random, 0.001, 0.8)),
        sharp_behind_m=maybe(random, 0.4, lambda: random.choice([inf, distance * spread(random, 0.001, 8)])),
        width_shown_m=maybe(random, 0.4, lambda: distance * spread(random, 0.02, 3)),
        slowest_shutter_s=maybe(random, 0.4, lambda: random.choice([1 / 1000, 1 / 250, 1 / 60, 1 / 8])),
        subject_speed_m_per_s=random.choice([0, 0, 0, 0.2, 2, 10]),
    )


def _measured(random, rig):
    """Half of the lenses have been measured, at a few f-numbers."""
    if random.random() < 0.5:
        return rig
    at = sorted({random.choice([1.4, 2.0, 2.8, 4.0]), random.choice([5.6, 8.0]), random.choice([11.0, 16.0, 22.0])})
    return replace(rig, lens=replace(rig.lens, mtf50=tuple((n, random.uniform(15, 120)) for n in at)))


def a_bench(seed):
    """Brief, rigs, hold, conventions and reference of one random bench; some are near twins, so that thresholds are met
    from both sides.
    """
    random = Random(seed)
    rigs = [a_rig(random) for _ in range(random.choice([1, 2, 2, 2, 3, 4]))]
    if len(rigs) > 1 and random.random() < 0.3:
        twin = rigs[0]
        rigs[1] = Rig(
            rigs[1].body,
            Lens(),
            twin.focal_length_mm * twin.converter * rigs[1].body.sensor.diagonal_mm / twin.body.sensor.diagonal_mm,
            max(0.5, twin.f_number * twin.converter * random.choice([1, 1.01, 1.06, 1.09, 0.5, 0.75]))
            * (rigs[1].body.sensor.diagonal_mm / twin.body.sensor.diagonal_mm if random.random() < 0.5 else 1),
            twin.shutter_s,
            twin.iso,
        )
    rigs = [_measured(Random(1000 * seed + index), rig) for index, rig in enumerate(rigs)]
    reference = random.randrange(len(rigs))
    hold = Hold(*(random.choice(list(table)) for table in (LENS_HOLDS, PLACE_HOLDS, APERTURE_HOLDS, EXPOSURE_HOLDS)))
    conventions = Conventions(
        crop_by=random.choice(["diagonal", *CROP_MEASURES]),
        criterion=random.choice(list(CIRCLE_OF_CONFUSION_SCHOOLS)),
        noise=random.choice(list(NOISE_SCHOOLS)),
    )
    brief = a_brief(random, rigs, reference)
    sky = Random(7000 + seed)
    brief = replace(
        brief,
        declination_deg=maybe(sky, 0.25, lambda: sky.choice([0.0, 40.0, -60.0, 90.0])),
        scene_range_stops=maybe(sky, 0.25, lambda: sky.uniform(3, 20)),
    )
    if random.random() < 0.6 and len(rigs) > 1:
        brief, rigs = _exposed_rightly(brief, rigs, reference)
    own = Random(9000 + seed)
    if own.random() < 0.5:
        brief, rigs, conventions = _more_known(own, brief, rigs, conventions)
    alike = Random(11000 + seed)
    if len(rigs) > 1 and alike.random() < 0.15:
        rigs, hold, reference = _equivalents(alike, rigs), Hold("own", "spot", "own", "own"), 0
    return brief, rigs, hold, conventions, reference


def _equivalents(random, rigs):
    """The second rig with what people take for the equivalent lens, nearly, on its own frame."""
    one, other = (replace(rig, lens=Lens(), converter=1, distance_m=None) for rig in rigs[:2])
    factor = other.body.sensor.diagonal_mm / one.body.sensor.diagonal_mm
    if random.random() < 0.3:
        # a frame of the same shape
        sensor = Sensor(one.body.sensor.width_mm * 0.5, one.body.sensor.height_mm * 0.5, 4000)
        other, factor = replace(other, body=replace(other.body, sensor=sensor, modes=()), mode=None), 0.5
    focal = one.focal_length_mm * factor * random.choice([1, 1, 1.004, 0.985, 1.016, 1.03])
    number = max(0.6, one.f_number * factor * random.choice([1, 1, 1.04, 0.95]))
    return [one, replace(other, focal_length_mm=focal, f_number=number, shutter_s=one.shutter_s), *rigs[2:]]


def _more_known(random, brief, rigs, conventions):
    """Half of the benches say more: what carries the camera, modes, stabilised lenses, ranges as stated, where one can
    stand, other schools.
    """
    near = maybe(random, 0.5, lambda: brief.distance_m * spread(random, 0.3, 1.5))
    brief = replace(
        brief,
        support=random.choice(["", "hand", "monopod", "gimbal", "tripod"]),
        nearest_m=near,
        farthest_m=maybe(random, 0.5, lambda: max(near or 0, brief.distance_m * spread(random, 0.7, 3))),
    )
    brief = replace(
        brief,
        comfortable_m=maybe(random, 0.3, lambda: brief.distance_m * spread(random, 0.2, 2)),
        flash_guide_m=maybe(random, 0.3, lambda: spread(random, 4, 60)),
    )
    if random.random() < 0.4:
        brief = replace(brief, width_shown_m=spread(random, 0.02, 0.5), shown_long_side_mm=spread(random, 100, 2500))
    conventions = replace(
        conventions,
        hand=random.choice(list(HAND_SCHOOLS)),
        shake_arc_s=random.choice([500.0, 6000.0, 40_000.0]),
        star_rule=random.choice(["exact", *STAR_SCHOOLS]),
        range=random.choice(list(RANGE_SCHOOLS)),
        good_enough=random.choice(list(GOOD_ENOUGH_SCHOOLS)),
        press_lines_per_inch=random.choice([150.0, 200.0]),
        seen_snr=random.choice([20.0, 40.0]),
        disturbing_snr=random.choice([5.0, 10.0]),
    )
    made = []
    for rig in rigs:
        body = replace(
            rig.body,
            stabilisation_stops=maybe(random, 0.5, lambda: random.choice([0.0, 3.0, 6.0])),
            stabilisation_with_lens_stops=maybe(random, 0.3, lambda: 7.5),
            range_stops=maybe(random, 0.4, lambda: random.uniform(8, 15)),
            range_iso=maybe(random, 0.5, lambda: random.choice([64.0, 200.0])),
            modes=tuple(_modes(random, rig.body.sensor)),
            register_mm=maybe(random, 0.7, lambda: random.choice([9.0, 19.3, 45.2])),
            raw_megabytes=maybe(random, 0.7, lambda: random.uniform(8, 200)),
        )
        lens = replace(rig.lens, stabilisation_stops=maybe(random, 0.4, lambda: random.choice([0.0, 4.0])))
        lens = replace(
            lens,
            length_mm=maybe(random, 0.7, lambda: spread(random, 20, 300)),
            diameter_mm=maybe(random, 0.7, lambda: random.uniform(45, 120)),
            focuses_inside=random.random() < 0.5,
        )
        if lens.mtf50 and random.random() < 0.7:
            heights = (9.0, 30.0)
            lens = replace(lens, mtf50_away=tuple((h, n, v * (1.02 - h / 60)) for h in heights for n, v in lens.mtf50))
        mode = random.randrange(len(body.modes)) if body.modes and random.random() < 0.6 else None
        made.append(replace(rig, body=body, lens=lens, mode=mode))
    return brief, made, conventions


def _modes(random, sensor):
    if random.random() < 0.5:
        return
    part = random.choice([1.0, 0.8, 0.66])
    across = None if sensor.pixels_wide is None else round(sensor.pixels_wide * part)
    yield Mode(
        Sensor(sensor.width_mm * part, sensor.height_mm * part, across), "part", random.choice([None, 30.0, 120.0])
    )
    if sensor.pixels_wide is not None:
        yield Mode(Sensor(sensor.width_mm, sensor.height_mm, sensor.pixels_wide * 2), "shifted", None, 8)


def _exposed_rightly(brief, rigs, reference):
    """Most photographers set the camera for the light."""
    r = rigs[reference]
    iso = 100 * (r.f_number * r.converter) ** 2 / r.shutter_s / 2.0**brief.light_ev
    body = replace(r.body, base_iso=None, ceiling_iso=None)
    return brief, [replace(r, iso=iso, body=body) if i == reference else one for i, one in enumerate(rigs)]

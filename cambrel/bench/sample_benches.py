"""What the bench starts from: three systems on the first of the sample pictures. Gear stands in it by value."""

from dataclasses import replace
from functools import cache

from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.engine import Body, Lens, Rig
from cambrel.comparison.rig import Mode
from cambrel.optics.formats import FORMATS, Sensor


def sensor_of(slug: str, pixels_wide: float | None = None) -> Sensor:
    format_ = FORMATS[slug]
    return Sensor(format_.width_mm, format_.height_mm, pixels_wide)


@cache
def home_bench() -> Bench:
    """Three systems on the footplate portrait: full frame, Micro Four Thirds and a phone."""
    full_frame = Slot(
        Rig(
            Body(
                Sensor(36, 24, 6120, 4080),
                100,
                51200,
                1 / 8000,
                30,
                5,
                weight_g=678,
                price=1990,
                currency="EUR",
                mount="Tarn",
                register_mm=19.0,
                stabilisation_with_lens_stops=6.0,
                raw_megabytes=33.0,
                modes=(
                    Mode(Sensor(23.5, 15.7, 3948, 2632), "APS-C crop"),
                    Mode(Sensor(23.5, 13.2, 3840, 2160), "4K at 60 frames", 60.0, rolling_s=0.017),
                ),
                outer_width_mm=133,
                outer_height_mm=97,
                outer_depth_mm=68,
                weather_sealed=True,
                handling="deep grip, dials with gloves",
            ),
            Lens(
                50,
                50,
                ((50, 1.8),),
                22,
                0.12,
                0.5,
                43.6,
                208,
                270,
                "EUR",
                "Tarn",
                mtf50=((1.8, 48.0), (3.6, 70.0), (8.0, 68.0), (16.0, 63.0)),
                mtf50_away=((21.7, 1.8, 29.0), (21.7, 3.6, 52.0), (21.7, 8.0, 60.0), (21.7, 16.0, 55.0)),
                fall_off=((21.7, 1.6),),
                length_mm=52.0,
                diameter_mm=68.0,
                autofocus=True,
            ),
            50.0,
            2.8,
            1 / 125,
            400.0,
        ),
        "Tarn Ridgeway",
        "Tarn 50 mm f/1.8",
    )
    four_thirds = Slot(
        Rig(
            Body(
                Sensor(17.3, 13, 5280, 3968),
                200,
                25600,
                1 / 8000,
                60,
                6.5,
                weight_g=529,
                price=1180,
                currency="EUR",
                mount="Pipwren",
                register_mm=19.3,
                stabilisation_with_lens_stops=7.5,
                raw_megabytes=21.0,
                outer_width_mm=123,
                outer_height_mm=86,
                outer_depth_mm=61,
                weather_sealed=True,
            ),
            Lens(
                12,
                40,
                ((12, 2.8), (40, 2.8)),
                22,
                0.27,
                0.22,
                21.8,
                401,
                890,
                "EUR",
                "Pipwren",
                mtf50=((2.8, 80.0), (5.6, 100.0), (8.0, 97.0), (16.0, 90.0)),
                mtf50_away=((10.9, 2.8, 54.0), (10.9, 5.6, 77.0), (10.9, 8.0, 83.0), (10.9, 16.0, 77.0)),
                fall_off=((10.9, 1.1),),
                length_mm=84,
                diameter_mm=70,
                longest_mm=108,
                autofocus=True,
                weather_sealed=True,
                handling="focus ring pulls back",
            ),
            25.0,
            2.8,
            1 / 125,
            400.0,
        ),
        "Pipwren Tern",
        "Pipwren 12-40 mm f/2.8",
    )
    phone = Slot(
        Rig(
            Body(
                Sensor(9.6, 7.2, 7800, 5850),
                50,
                12800,
                1 / 12000,
                30,
                3,
                0.5,
                weight_g=211,
                price=990,
                currency="EUR",
                outer_width_mm=73,
                outer_height_mm=152,
                outer_depth_mm=8.2,
            ),
            Lens(6.9, 6.9, ((6.9, 1.7),), 1.7, None, 0.15, weight_g=0),
            6.9,
            1.7,
            1 / 125,
            400.0,
        ),
        "Sorrel Nine phone",
        "Sorrel Nine main lens, 6.9 mm f/1.7",
    )
    bench = Bench(sample_briefs()["footplate-portrait"].brief, (full_frame, four_thirds, phone))
    return with_brief(bench, "footplate-portrait")


@cache
def opening_bench() -> Bench:
    """What a newcomer sees first: two systems on one picture, nothing at its limits."""
    bench = home_bench()
    return replace(bench, slots=bench.slots[:2])

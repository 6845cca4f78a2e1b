"""Whose noise is judged, and down to where a tone counts as held: the schools, and signal to noise as they judge it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields

import numpy as np

from cambrel.optics.light import (
    MID_GREY_LUX_S,
    OUTPUT_PIXELS,
    dynamic_range_stops,
    electrons,
    iso_for_exposure,
    mid_grey_photons,
    signal_for_snr,
    snr,
)
from cambrel.optics.quantities import Choices, Quantity, positive
from cambrel.optics.schools import School, by_key
from cambrel.optics.workings import Working, term, working


@dataclass(frozen=True)
class Collecting:
    """What decides the noise of a picture: how many pixels it has, what each collects from [um^2], counts of it, and
    adds by being read [e].

    is_counted: whether the number of its pixels is known
    """

    pixels: Quantity
    area_um2: Quantity
    quantum_efficiency: Quantity
    offset_stops: Quantity
    read_noise_e: Quantity
    is_counted: Quantity = True

    def electrons(self, exposure: Quantity) -> Quantity:
        """Electrons of one pixel at an exposure [lux s]."""
        return electrons(mid_grey_photons(exposure), self.area_um2, self.quantum_efficiency, self.offset_stops)

    def of(self, at: slice) -> Collecting:
        """That of some rigs of many."""
        return Collecting(
            *(np.broadcast_to(getattr(self, field.name), np.shape(self.pixels))[at] for field in fields(self))
        )


def collecting(
    pixels: Quantity,
    area_mm2: Quantity,
    quantum_efficiency: Quantity,
    offset_stops: Quantity,
    read_noise_e: Quantity,
    output_pixels: Quantity,
) -> Collecting:
    """What a frame collects with; of one whose pixels are not known (NaN) those of the output are counted, and reading
    adds nothing.

    Parameters
        pixels: of the frame, scalar or array
        area_mm2: that light is collected from, in all exposures together [mm^2]
        quantum_efficiency, offset_stops, read_noise_e: as of electrons and snr
        output_pixels: of the picture shown
    Returns
        what a school of noise takes
    """
    is_known = ~np.isnan(pixels)
    counted = np.where(is_known, pixels, output_pixels)
    read = np.where(is_known, read_noise_e, 0.0)
    return Collecting(counted, area_mm2 * 1e6 / counted, quantum_efficiency, offset_stops, read, is_known)


@dataclass(frozen=True)
class Noisy:
    """A tone of a picture: its electrons in a pixel, what it is collected with, and the pixels of the picture shown."""

    signal_e: Quantity
    made: Collecting
    output_pixels: Quantity = OUTPUT_PIXELS


@dataclass(frozen=True)
class NoiseSchool(School[Noisy]):
    """Whose noise is judged. value: signal to noise as it judges it

    scale: what the signal to noise of one pixel is multiplied by; unknown (NaN) where the school depends on pixels that
        are not known
    judged: where it is looked at, as it reads after "clean"; size: at which size that is
    collector: what collects the light that it judges, the frame or a pixel
    """

    scale: Callable[[Collecting, Quantity], Quantity] = lambda made, output_pixels: np.ones(np.shape(made.pixels))
    judged: str = "over the whole picture"
    size: str = "at this size"
    collector: str = "frame"

    @property
    def is_of_pixels(self) -> bool:
        """Whether single pixels are judged, not the picture."""
        return self.collector == "pixel"


def _picture_scale(made: Collecting, output_pixels: Quantity) -> Quantity:
    scale: Quantity = np.sqrt(made.pixels / output_pixels)
    return scale


def _pixel_scale(made: Collecting, output_pixels: Quantity) -> Quantity:
    scale: Quantity = np.where(made.is_counted, 1.0, np.nan)
    return scale


def _pixel_working(given: Noisy) -> Working:
    return working(
        "ratio", "e / √(e + r²)", float(snr(given.signal_e, given.made.read_noise_e)), "number",
        term("e", "electrons in a pixel", given.signal_e),
        term("r", "electrons of noise from reading it", given.made.read_noise_e),
    )  # fmt: skip


def _picture_working(given: Noisy) -> Working:
    of_a_pixel = float(snr(given.signal_e, given.made.read_noise_e))
    return working(
        "ratio", "q × √(P / P₀)", of_a_pixel * float(_picture_scale(given.made, given.output_pixels)), "number",
        term("q", "signal to noise of a pixel", of_a_pixel),
        term("P", "pixels of the frame", given.made.pixels, "count"),
        term("P₀", "pixels of the picture shown", given.output_pixels, "count"),
    )  # fmt: skip


def _scaled(scale: Callable[[Collecting, Quantity], Quantity]) -> Callable[[Noisy], Quantity]:
    return lambda given: snr(given.signal_e, given.made.read_noise_e) * scale(given.made, given.output_pixels)


NOISE_SCHOOLS: Choices[NoiseSchool] = by_key(
    "noise",
    NoiseSchool(
        "picture",
        "whole picture",
        "Noise at one output size: what a print or a screen shows.",
        _scaled(_picture_scale),
        _picture_working,
        scale=_picture_scale,
    ),
    NoiseSchool(
        "pixel",
        "per pixel",
        "Noise of single pixels: what 100 percent on a screen shows.",
        _scaled(_pixel_scale),
        _pixel_working,
        is_tried=False,
        scale=_pixel_scale,
        judged="pixel by pixel",
        size="at 100 percent",
        collector="pixel",
    ),
)


@dataclass(frozen=True)
class FullPixel:
    """A pixel at the brightest that is recorded, what reading it adds, and the signal to noise that is judged over that
    of one pixel.
    """

    saturation_e: Quantity
    read_noise_e: Quantity
    judged_over_pixel: Quantity = 1.0


@dataclass(frozen=True)
class RangeSchool(School[FullPixel]):
    """Down to where a tone counts as held. value: the range of a frame [stops]

    snr_floor: what the darkest must stand out from noise by; is_judged: as noise is judged, else in one pixel
    column: as its figure is headed; explains: what that figure is
    """

    snr_floor: float = 1.0
    is_judged: bool = False
    column: str = ""
    explains: str = ""

    def holds(self, noise: str) -> str:
        """How a tone is held, as it reads after the stops that are; noise: the school of noise in force."""
        return f"clean {NOISE_SCHOOLS[noise].judged}" if self.is_judged else "above the noise of one pixel"


def _range_school(
    key: str, label: str, reason: str, snr_floor: float, *, is_judged: bool, column: str, explains: str
) -> RangeSchool:
    def floor(given: FullPixel) -> Quantity:
        return positive("snr_floor", snr_floor) / (given.judged_over_pixel if is_judged else 1.0)

    def value(given: FullPixel) -> Quantity:
        return dynamic_range_stops(given.saturation_e, given.read_noise_e, floor(given))

    def written(given: FullPixel) -> Working:
        darkest = term(
            "e",
            "electrons of the darkest tone that stands out from noise",
            float(signal_for_snr(floor(given), given.read_noise_e)),
        )
        full = term("F", "electrons of a full pixel", given.saturation_e)
        return working("stops", "log₂(F / e)", float(value(given)), "stops", full, darkest)

    return RangeSchool(
        key, label, reason, value, written,
        snr_floor=snr_floor, is_judged=is_judged, column=column, explains=explains,
    )  # fmt: skip


RANGE_SCHOOLS: Choices[RangeSchool] = by_key(
    "range",
    _range_school(
        "engineer",
        "engineering",
        "Down to where a pixel is as much noise as light: what makers state.",
        1.0,
        is_judged=False,
        column="to one pixel’s noise",
        explains="Down to where a pixel is as much noise as light, or as the maker states it where that is on record.",
    ),
    _range_school(
        "picture",
        "clean in the picture",
        "Down to where a shadow is still clean, as noise is judged.",
        20.0,
        is_judged=True,
        column="clean",
        explains="Down to where a shadow is still clean, as noise is judged.",
    ),
)


def judged_snr(
    exposure: Quantity, made: Collecting, output_pixels: Quantity = OUTPUT_PIXELS, school: str = "picture"
) -> Quantity:
    """Signal to noise of mid-grey as a school judges it.

    Parameters
        exposure: [lux s], scalar or array
        made: what the picture is collected with
        output_pixels: of the picture shown
        school: a key of NOISE_SCHOOLS
    Returns
        ratio; NaN where the school depends on pixels that are not known
    References
        EMVA 1288, signal to noise ratio; ISO 15739, noise of a scene at one output size
    """
    return NOISE_SCHOOLS[school].value(Noisy(made.electrons(exposure), made, output_pixels))


def iso_for_judged_snr(
    wanted_snr: Quantity, made: Collecting, output_pixels: Quantity = OUTPUT_PIXELS, school: str = "picture"
) -> Quantity:
    """ISO at which a picture exposed for mid-grey has a signal to noise ratio as a school judges it; the inverse of
    judged_snr.

    Parameters
        wanted_snr: ratio, scalar or array; unknown (NaN) gives unknown
        made, output_pixels, school: as of judged_snr
    Returns
        ISO
    References
        ISO 12232, recommended exposure index
    """
    per_pixel = np.asarray(wanted_snr / NOISE_SCHOOLS[school].scale(made, output_pixels))
    is_known = ~np.isnan(per_pixel)
    signal = signal_for_snr(np.where(is_known, per_pixel, 1.0), made.read_noise_e)
    iso = iso_for_exposure(signal / made.electrons(1.0))
    return np.where(is_known, iso, np.nan)


def iso_as_noisy(
    iso: Quantity, one: Collecting, other: Collecting, output_pixels: Quantity = OUTPUT_PIXELS, school: str = "picture"
) -> Quantity:
    """ISO at which another frame is as noisy as one is at an ISO, both exposed for mid-grey.

    Parameters
        iso: of the one, scalar or array
        one, other: what they collect with
        output_pixels: of the picture shown
        school: a key of NOISE_SCHOOLS, by which noise is judged
    Returns
        ISO of the other; NaN where the school depends on pixels that are not known
    """
    wanted = judged_snr(MID_GREY_LUX_S / positive("iso", iso), one, output_pixels, school)
    return iso_for_judged_snr(wanted, other, output_pixels, school)

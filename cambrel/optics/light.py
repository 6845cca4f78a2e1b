"""Light: exposure, what the whole frame collects, photons, noise and tonal range. Lux seconds, square micrometres,
stops.

Noise follows the exposure, never the ISO setting alone. Absolute counts are for light at 555 nm; daylight with its
whole spectrum carries about 2.7 times as many photons per lux second. Ratios between rigs do not depend on it.
"""

from __future__ import annotations

import numpy as np

from cambrel.optics.quantities import Quantity, finite, not_negative, positive

LUMENS_PER_WATT = 683.0
"""Luminous efficacy of 540 THz light, by the definition of the lumen (SI)."""
PLANCK_J_S = 6.62607015e-34
FREQUENCY_HZ = 540e12
PHOTONS_PER_UM2_PER_LUX_S = 1e-12 / (LUMENS_PER_WATT * PLANCK_J_S * FREQUENCY_HZ)
"""Photons on a square micrometre for one lux second: about 4.1e3."""

MID_GREY_LUX_S = 10.0
"""Exposure for mid-grey times ISO (ISO 12232, recommended exposure index)."""
SATURATION_LUX_S = 78.0
"""Exposure of the brightest that is recorded, times ISO (ISO 12232, saturation-based speed)."""

QUANTUM_EFFICIENCY = 0.5
READ_NOISE_E = 2.0
OUTPUT_PIXELS = 8e6
"""Stated defaults where a body gives none: share of photons that are counted, electrons of read noise, pixels of the
picture shown.
"""
SEEN_SNR, DISTURBING_SNR = 40.0, 10.0
"""Below them noise on mid-grey is seen, and disturbs: a signal to noise of 40 is excellent, one of 10 acceptable (ISO
12232).
"""


def _log2(ratio: Quantity) -> Quantity:
    stops: Quantity = np.log2(ratio)
    return stops


def exposure_value(f_number: Quantity, shutter_s: Quantity, iso: Quantity = 100.0) -> Quantity:
    """Light level for which the settings are right, as EV at ISO 100: log2(N^2 / t) - log2(ISO / 100).

    Parameters
        f_number: effective where close up, scalar or array
        shutter_s: [s]
        iso: setting
    Returns
        [EV at ISO 100]
    References
        ISO 2720, exposure meters

    >>> round(exposure_value(16, 1/100), 2)
    14.64
    """
    n, t = positive("f_number", f_number), positive("shutter_s", shutter_s)
    return _log2(n**2 / t / (positive("iso", iso) / 100))


def effective_f_number(f_number: Quantity, magnification: Quantity) -> Quantity:
    """F-number that the sensor sees close up, N (1 + m); its square governs the exposure.

    Parameters
        f_number: as marked
        magnification: of the subject
    Returns
        effective f-number
    """
    return positive("f_number", f_number) * (1 + not_negative("magnification", magnification))


def marked_f_number(effective: Quantity, magnification: Quantity) -> Quantity:
    """F-number as marked, for a camera that displays the effective one close up; the inverse of effective_f_number.

    Parameters
        effective: the f-number that the camera displays, scalar or array
        magnification: 0 or more
    Returns
        the f-number that the lens is marked with
    """
    return positive("effective", effective) / (1 + not_negative("magnification", magnification))


def exposure_lux_s(effective: Quantity, shutter_s: Quantity, light_ev: Quantity) -> Quantity:
    """Exposure of mid-grey on the sensor, H = 0.1 lux s 2^EV t / (N (1 + m))^2.

    Parameters
        effective: effective f-number N (1 + m)
        shutter_s: [s]
        light_ev: light on the scene [EV at ISO 100]
    Returns
        [lux s]; 10 / ISO when the brightness is right
    References
        ISO 12232 and ISO 2720
    """
    ne, t = positive("effective", effective), positive("shutter_s", shutter_s)
    return MID_GREY_LUX_S / 100 * 2.0 ** finite("light_ev", light_ev) * t / ne**2


def brightness_error_stops(exposure: Quantity, iso: Quantity) -> Quantity:
    """How much brighter than right the picture comes out, log2(H ISO / 10).

    Parameters
        exposure: [lux s]
        iso: setting
    Returns
        [stops], negative when too dark
    """
    return _log2(positive("exposure", exposure) * positive("iso", iso) / MID_GREY_LUX_S)


def iso_for_light(effective: Quantity, shutter_s: Quantity, light_ev: Quantity) -> Quantity:
    """ISO at which mid-grey comes out right, 10 / H: the brightness error is 0.

    Parameters
        effective: effective f-number N (1 + m)
        shutter_s: [s]
        light_ev: light on the scene, EV at ISO 100
    Returns
        ISO
    """
    return MID_GREY_LUX_S / exposure_lux_s(effective, shutter_s, light_ev)


def shutter_for_light_s(effective: Quantity, iso: Quantity, light_ev: Quantity) -> Quantity:
    """Shutter time at which mid-grey comes out right; iso_for_light turned round.

    Parameters
        effective: effective f-number N (1 + m)
        iso: ISO
        light_ev: light on the scene, EV at ISO 100
    Returns
        [s]
    """
    return iso_for_light(effective, 1.0, light_ev) / positive("iso", iso)


def effective_f_number_for_light(shutter_s: Quantity, iso: Quantity, light_ev: Quantity) -> Quantity:
    """Effective f-number at which mid-grey comes out right; iso_for_light turned round.

    Parameters
        shutter_s: [s]; infinity gives infinity
        iso: ISO
        light_ev: light on the scene, EV at ISO 100
    Returns
        f-number N (1 + m)
    """
    gathered = positive("iso", iso) * np.asarray(shutter_s)
    wanted: Quantity = np.sqrt(gathered / iso_for_light(1.0, 1.0, light_ev))
    return wanted


def stops(quantity: Quantity, reference: Quantity) -> Quantity:
    """How many stops more one amount of light is than another, log2 of their ratio.

    Parameters
        quantity, reference: amounts of light in one unit, above 0, scalars or arrays
    Returns
        [stops]; below 0 where there is less
    """
    return _log2(positive("quantity", quantity) / positive("reference", reference))


def total_light_stops(
    exposure: Quantity, area_mm2: Quantity, reference_exposure: Quantity, reference_area_mm2: Quantity
) -> Quantity:
    """How much more light the whole frame collects than the reference's, log2 of (exposure x area) over (exposure x
    area).

    Parameters
        exposure, reference_exposure: light per area [lux s]
        area_mm2, reference_area_mm2: [mm2]
    Returns
        [stops]
    """
    ours = positive("exposure", exposure) * positive("area_mm2", area_mm2)
    return stops(
        ours, positive("reference_exposure", reference_exposure) * positive("reference_area_mm2", reference_area_mm2)
    )


def mid_grey_photons(exposure: Quantity) -> Quantity:
    """Photons at 555 nm that fall on a square micrometre of mid-grey.

    Parameters
        exposure: [lux s]
    Returns
        [1/um2]
    References
        definition of the lumen (SI) and the energy of a photon, h nu
    """
    return PHOTONS_PER_UM2_PER_LUX_S * positive("exposure", exposure)


def electrons(
    photons_per_um2: Quantity,
    area_um2: Quantity,
    quantum_efficiency: Quantity = QUANTUM_EFFICIENCY,
    offset_stops: Quantity = 0.0,
) -> Quantity:
    """Electrons counted on an area, S = photons x QE x area x 2^offset.

    Parameters
        photons_per_um2: [1/um2]
        area_um2: of a pixel, or of the whole frame [um2]
        quantum_efficiency: share of photons counted
        offset_stops: how many stops the sensor is ahead of its generation
    Returns
        [e-]
    """
    counted = positive("photons_per_um2", photons_per_um2) * positive("area_um2", area_um2)
    return counted * positive("quantum_efficiency", quantum_efficiency) * 2.0 ** finite("offset_stops", offset_stops)


def snr(signal_e: Quantity, read_noise_e: Quantity = READ_NOISE_E) -> Quantity:
    """Signal to noise of one pixel, S / sqrt(S + r^2): photon noise and read noise.

    Parameters
        signal_e: electrons [e-]
        read_noise_e: [e-]
    Returns
        ratio
    References
        EMVA 1288, signal to noise ratio
    """
    s = positive("signal_e", signal_e)
    ratio: Quantity = s / np.sqrt(s + not_negative("read_noise_e", read_noise_e) ** 2)
    return ratio


def snr_picture(snr_pixel: Quantity, pixels: Quantity, output_pixels: Quantity = OUTPUT_PIXELS) -> Quantity:
    """Signal to noise of the picture at one output size: that of a pixel times sqrt(P / P_out).

    Parameters
        snr_pixel: ratio
        pixels: of the frame
        output_pixels: of the picture shown
    Returns
        ratio
    """
    scale: Quantity = np.sqrt(positive("pixels", pixels) / positive("output_pixels", output_pixels))
    return positive("snr_pixel", snr_pixel) * scale


def signal_for_snr(snr: Quantity, read_noise_e: Quantity = READ_NOISE_E) -> Quantity:
    """Electrons that give a signal to noise ratio; the inverse of snr.

    Parameters
        snr: ratio, of one pixel
        read_noise_e: [e-]
    Returns
        [e-]
    """
    q = positive("snr", snr) ** 2
    signal: Quantity = (q + np.sqrt(q**2 + 4 * q * not_negative("read_noise_e", read_noise_e) ** 2)) / 2
    return signal


def iso_for_exposure(exposure: Quantity) -> Quantity:
    """ISO at which an exposure gives mid-grey, 10 / H.

    Parameters
        exposure: [lux s]
    Returns
        ISO
    """
    return MID_GREY_LUX_S / positive("exposure", exposure)


def saturation_e(
    pixel_area_um2: Quantity,
    iso: Quantity,
    quantum_efficiency: Quantity = QUANTUM_EFFICIENCY,
    offset_stops: Quantity = 0.0,
) -> Quantity:
    """Electrons of one pixel at the brightest that an ISO records, at 78 / ISO lux seconds.

    Parameters
        pixel_area_um2: [um2], scalar or array
        iso: the ISO in force
        quantum_efficiency, offset_stops: of the sensor
    Returns
        [e-]
    References
        ISO 12232, saturation-based speed
    """
    brightest = SATURATION_LUX_S / positive("iso", iso)
    return electrons(
        mid_grey_photons(brightest), positive("pixel_area_um2", pixel_area_um2), quantum_efficiency, offset_stops
    )


def dynamic_range_stops(
    saturation_e: Quantity,
    read_noise_e: Quantity = READ_NOISE_E,
    snr_floor: Quantity = 1.0,
    pixels: Quantity | None = None,
    output_pixels: Quantity | None = None,
) -> Quantity:
    """From the brightest that is recorded to the darkest that still stands out from noise.

    Parameters
        saturation_e: of one pixel [e-], scalar or array
        read_noise_e: [e-]
        snr_floor: signal to noise of the darkest: 1 for the engineer, 20 over the whole picture for the photographer
        pixels, output_pixels: of the frame and of the picture shown, where the floor is one of the whole picture
    Returns
        [stops]; below 0 where nothing stands out from noise
    """
    floor = positive("snr_floor", snr_floor)
    if pixels is not None:
        shown = OUTPUT_PIXELS if output_pixels is None else output_pixels
        floor = floor * np.sqrt(positive("output_pixels", shown) / positive("pixels", pixels))
    full = positive("saturation_e", saturation_e)
    return _log2(full / signal_for_snr(floor, read_noise_e))


def read_noise_for_range_e(saturation_e: Quantity, range_stops: Quantity) -> Quantity:
    """The read noise that a range by SNR 1 of one pixel means: the inverse of dynamic_range_stops; 0 where light alone
    is noisier than that.

    Parameters
        saturation_e: of one pixel [e-], scalar or array
        range_stops: [stops]
    Returns
        [e-]
    """
    darkest = positive("saturation_e", saturation_e) / 2.0 ** np.asarray(finite("range_stops", range_stops))
    noise: Quantity = np.sqrt(np.maximum(darkest * darkest - darkest, 0.0))
    return float(noise) if np.ndim(noise) == 0 else noise


def frames_to_bracket(scene_stops: Quantity, range_stops: Quantity, spacing_stops: Quantity) -> Quantity:
    """Frames that take a scene of so much range, 1 + ceil((scene - own) / spacing), at least 1.

    Parameters
        scene_stops: range of the scene [stops], scalar or array
        range_stops: what one frame holds [stops]
        spacing_stops: between frames [stops]; more than one frame holds would leave gaps, so that it counts at most so
            much
    Returns
        frames
    """
    own = positive("range_stops", range_stops)
    apart = np.minimum(positive("spacing_stops", spacing_stops), own)
    # a rounding is no frame of its own
    beyond = np.ceil((not_negative("scene_stops", scene_stops) - own) / apart - 1e-9)
    return 1 + np.maximum(beyond, 0.0)

"""The figures of every rig of a comparison, a group at a time, from what each is set to. Arrays with the rigs along the
last axis.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import lru_cache

import numpy as np

from cambrel.comparison import holds
from cambrel.comparison.brief import SHAPES, Brief, Conventions
from cambrel.comparison.figures import Blur, Depth, Diffraction, Frames, Light, Outfit, Settings, View
from cambrel.comparison.fit import same_mount
from cambrel.comparison.iso_ceiling import clean_iso
from cambrel.comparison.outer_sizes import rig_length_mm, rig_volume_l
from cambrel.comparison.rig import Rig
from cambrel.optics import blur as blurs
from cambrel.optics import depth as depths
from cambrel.optics import diffraction as diffractions
from cambrel.optics import equivalence, geometry
from cambrel.optics import light as lights
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS, Viewed, viewed
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.noise_schools import Collecting, iso_for_judged_snr, judged_snr
from cambrel.optics.quantities import Array, Flags, Quantity
from cambrel.wording.sentences import LEVEL_STOPS

Set = Settings[Array, Flags]


def frame_of(sensor: Sensor, brief: Brief) -> Sensor:
    """The part of a sensor that the brief uses: cropped to the output shape, turned when upright.

    Parameters
        sensor: whole
        brief: its shape, and whether it is upright
    Returns
        the part in use, turned as the picture is
    """
    return _frame(sensor, brief.shape, brief.upright)


@lru_cache(maxsize=4096)
def _frame(sensor: Sensor, shape: str, is_upright: bool) -> Sensor:
    frame = sensor.cropped(SHAPES[shape].aspect_ratio)
    lying = frame if frame.width_mm >= frame.height_mm else frame.turned()
    return lying.turned() if is_upright else lying


def _known(values: Array, formula: Callable[..., Quantity], *others: Array | float) -> Array:
    """A formula of values some of which are unknown (NaN): unknown stays unknown, the formula never sees it."""
    known = ~np.isnan(values)
    if known.all():
        return np.asarray(formula(values, *others))
    return np.where(known, formula(np.where(known, values, 1.0), *others), np.nan)


def circle_given(brief: Brief, conventions: Conventions, rig: Rig) -> Viewed:
    """What the circle of confusion of a rig may depend on.

    Parameters
        brief: how it is shown and looked at
        conventions: the finest lines that count
        rig: whose sensor is in use
    Returns
        what a school of the circle of confusion takes
    """
    return viewed(
        frame_of(rig.sensor, brief),
        frame_of(FULL_FRAME, brief),
        viewing_distance_mm=brief.viewing_distance_mm,
        shown_long_side_mm=brief.shown_long_side_mm,
        lines_per_mm=conventions.lines_per_mm,
    )


def frames(brief: Brief, rigs: Sequence[Rig], conventions: Conventions, reference: int) -> Frames[Array]:
    """The frames in use, after crop and orientation.

    Parameters
        brief, conventions: the picture and the schools
        rigs: in their order
        reference: the place of the one that the others are compared with
    Returns
        arrays with the rigs along the axis
    """
    sensors = [frame_of(rig.sensor, brief) for rig in rigs]
    full_frame = frame_of(FULL_FRAME, brief)
    circle = CIRCLE_OF_CONFUSION_SCHOOLS[conventions.criterion]
    crop = np.array([crop_factor(sensor, full_frame, conventions.crop_by) for sensor in sensors])

    home = crop_factor(frame_of(FORMATS[conventions.home], brief), full_frame, conventions.crop_by)

    def each(values: list[float | None]) -> Array:
        return np.array([np.nan if value is None else value for value in values], dtype=float)

    return Frames(
        width_mm=each([s.width_mm for s in sensors]),
        height_mm=each([s.height_mm for s in sensors]),
        diagonal_mm=each([s.diagonal_mm for s in sensors]),
        area_mm2=each([s.area_mm2 for s in sensors]),
        crop=crop,
        home_crop=np.full_like(crop, home),
        k=crop[reference] / crop,
        pixels=each([s.pixels for s in sensors]),
        pitch_um=each([s.pixel_pitch_um for s in sensors]),
        coc_mm=np.array([float(circle.value(circle_given(brief, conventions, rig))) for rig in rigs]),
    )


def view(brief: Brief, s: Set, frames: Frames[Array], reference: int) -> View[Array]:
    """What is in the frame, and what frames alike elsewhere.

    Parameters
        brief: its subject and what stands before and behind
        s, frames: of each rig
        reference: the place of the one that the others are compared with
    Returns
        arrays with the rigs along the last axis; NaN where a rig sees nothing
    """
    f, u, d = s.focal_length_mm, s.object_distance_m, s.subject_distance_m
    v = np.asarray(geometry.image_distance_mm(f, u))
    width, height = frames.width_mm, frames.height_mm
    first_crop = frames.crop[reference]
    behind = np.inf if brief.background_m is None else brief.background_m
    background = d + behind
    # a rig's picture on the reference's format: k runs from the rig to the reference
    same = equivalence.same_picture_focal_length_mm(f, u, 1 / frames.k)
    return View(
        magnification=np.asarray(geometry.magnification(f, u)),
        image_distance_mm=v,
        equivalent_focal_length_mm=np.asarray(equivalence.equivalent_focal_length_mm(f, frames.crop, first_crop)),
        full_frame_focal_length_mm=np.asarray(equivalence.equivalent_focal_length_mm(f, frames.crop)),
        home_focal_length_mm=np.asarray(equivalence.equivalent_focal_length_mm(f, frames.crop, frames.home_crop)),
        same_picture_focal_length_mm=np.asarray(same),
        simple_rule_error=np.asarray(equivalence.simple_rule_error(f, u, 1 / frames.k)),
        angle_wide_deg=np.asarray(geometry.angle_of_view_deg(width, f, u)),
        angle_high_deg=np.asarray(geometry.angle_of_view_deg(height, f, u)),
        angle_diagonal_deg=np.asarray(geometry.angle_of_view_deg(frames.diagonal_mm, f, u)),
        field_wide_m=d * width / v,
        field_high_m=d * height / v,
        background_wide_m=background * width / v,
        background_high_m=background * height / v,
        fill=np.asarray(geometry.fill(brief.subject_height_m, height, v, d)),
        background_scale=1 / (1 + behind / d),
    )


def depth(s: Set, frames: Frames[Array]) -> Depth[Array]:
    """From where to where each rig is sharp, and the hyperfocal distance.

    Parameters
        s, frames: of each rig
    Returns
        arrays with the rigs along the last axis; infinity where sharpness has no end, NaN where it is not known
    """
    f, n, u = s.focal_length_mm, s.f_number, s.object_distance_m
    coc = frames.coc_mm
    known = ~np.isnan(coc)
    safe = np.where(known, coc, 1.0)
    limits = depths.depth_of_field(f, n, u, safe)
    hyperfocal = depths.hyperfocal_distance_m(f, n, safe)
    front = u - limits.near_m
    with np.errstate(invalid="ignore"):
        # focused at infinity all behind is sharp as well, without end
        behind = np.where(np.isinf(limits.far_m), np.inf, limits.far_m - u)
    values = (limits.near_m, limits.far_m, limits.total_m, front, behind, hyperfocal)
    return Depth(*(np.where(known, value, np.nan) for value in values))


def disc_at(s: Set, away_m: Array) -> Array:
    """The disc of a point so far from the lens [mm]; unknown for points behind the camera, which are nowhere.

    Parameters
        s: of each rig
        away_m: distances from the lens [m]
    Returns
        diameter on the sensor [mm]; NaN for points behind the camera, which are nowhere
    """
    f, n, u = (np.where(s.focusable, value, 1.0) for value in (s.focal_length_mm, s.f_number, s.object_distance_m))
    seen = np.where(s.focusable & (away_m > 0), away_m, np.nan)
    return _known(seen, lambda x: blurs.blur_disc_mm(f, n, u, x))


def blur(brief: Brief, s: Set, frames: Frames[Array], view: View[Array]) -> Blur[Array]:
    """How large what is out of focus and what moves is drawn, on the sensor and in the picture.

    Parameters
        brief: what stands where, and how fast it moves
        s, frames, view: of each rig
    Returns
        arrays with the rigs along the last axis
    """
    f, n, u, d = s.focal_length_mm, s.f_number, s.object_distance_m, s.subject_distance_m
    diagonal = frames.diagonal_mm
    nothing = np.full(np.shape(n), np.nan)

    def at(point: Array) -> Array:
        return disc_at(s, point)

    background = nothing if brief.background_m is None else at(d + brief.background_m)
    foreground = nothing if brief.foreground_m is None else at(d - brief.foreground_m)

    def dissolving(point: Array) -> Array:
        seen = np.where(point > 0, point, np.nan)
        return _known(seen, lambda x: blurs.dissolving_mm(f, n, u, x))

    infinity, subject = at(np.full_like(d, np.inf)), at(d)
    movement = np.asarray(blurs.movement_mm(brief.subject_speed_m_per_s, s.shutter_s, view.image_distance_mm, d))
    pupil = np.asarray(blurs.entrance_pupil_mm(f, n))
    return Blur(
        pupil_mm=pupil,
        equivalent_f_number=n / frames.k,
        same_picture_f_number=np.asarray(equivalence.same_picture_f_number(n, f, view.same_picture_focal_length_mm)),
        full_frame_f_number=n * frames.crop,
        home_f_number=n * frames.crop / frames.home_crop,
        background_mm=background,
        background_share=background / diagonal,
        background_dissolves_mm=nothing if brief.background_m is None else dissolving(d + brief.background_m),
        foreground_dissolves_mm=nothing if brief.foreground_m is None else dissolving(d - brief.foreground_m),
        foreground_mm=foreground,
        foreground_share=foreground / diagonal,
        infinity_mm=infinity,
        infinity_share=infinity / diagonal,
        subject_mm=subject,
        subject_share=subject / diagonal,
        movement_mm=movement,
        movement_share=movement / diagonal,
    )


def light(
    brief: Brief,
    rigs: Sequence[Rig],
    conventions: Conventions,
    s: Set,
    frames: Frames[Array],
    view: View[Array],
    reference: int,
) -> Light[Array]:
    """What light each rig gathers, how noisy that is, and how bright.

    Parameters
        brief, conventions: the picture and the schools
        rigs: in their order
        s, frames, view: of each
        reference: the place of the one that the others are compared with
    Returns
        arrays with the rigs along the last axis; NaN where it is not known
    """
    r = slice(reference, reference + 1)
    bodies = [rig.body for rig in rigs]
    qe = np.array([body.quantum_efficiency for body in bodies])
    offset = np.array([body.offset_stops for body in bodies])
    counted_pixels = ~np.isnan(frames.pixels)
    # with the pixels unknown the whole picture is still known, without read noise
    read = np.where(counted_pixels, np.array([body.read_noise_e for body in bodies]), 0.0)
    pixels = np.where(counted_pixels, frames.pixels, conventions.output_pixels)
    pixel_area = frames.area_mm2 * 1e6 / pixels
    # frames made one picture of: their light adds up, and so does the noise of reading each of their pixels
    combined = np.array([float(rig.frames) for rig in rigs])
    read = read * np.sqrt([rig.reads for rig in rigs])
    effective = np.asarray(lights.effective_f_number(s.f_number, view.magnification))
    exposure = np.asarray(lights.exposure_lux_s(effective, s.shutter_s, brief.light_ev))
    photons = np.asarray(lights.mid_grey_photons(exposure))
    made = Collecting(pixels, combined * pixel_area, qe, offset, read, counted_pixels)
    signal, shown, school = np.asarray(made.electrons(exposure)), conventions.output_pixels, conventions.noise
    per_pixel = np.asarray(lights.snr(signal, read))
    judged = np.asarray(judged_snr(exposure, made, shown, school))

    ceiling = clean_iso(conventions, made)
    brightness = exposure * s.iso
    error = np.asarray(lights.brightness_error_stops(exposure, s.iso))
    as_the_light_asks = np.abs(error) <= LEVEL_STOPS
    looks_like = np.asarray(iso_for_judged_snr(judged, made.of(r), shown, school))
    return Light(
        effective_f_number=effective,
        exposure_value=np.asarray(lights.exposure_value(effective, s.shutter_s, s.iso)),
        exposure_lux_s=exposure,
        exposure_stops=np.asarray(lights.stops(exposure, exposure[..., r])),
        total_stops=np.asarray(
            lights.total_light_stops(
                exposure, combined * frames.area_mm2, exposure[..., r], combined[r] * frames.area_mm2[r]
            )
        ),
        brightness_stops=np.asarray(lights.stops(brightness, brightness[..., r])),
        error_stops=error,
        photons_per_um2=photons,
        photons_total=combined * photons * frames.area_mm2 * 1e6,
        electrons_per_pixel=np.where(counted_pixels, signal, np.nan),
        snr_pixel=np.where(counted_pixels, per_pixel, np.nan),
        snr_picture=np.asarray(lights.snr_picture(per_pixel, pixels, shown)),
        snr=judged,
        looks_like_iso=np.where(as_the_light_asks & as_the_light_asks[..., r], looks_like, np.nan),
        ceiling_iso=np.broadcast_to(ceiling, np.shape(exposure)),
    )


def diffraction(conventions: Conventions, s: Set, frames: Frames[Array], view: View[Array]) -> Diffraction[Array]:
    """How much diffraction softens, against what still counts as sharp and against the pixels.

    Parameters
        conventions: the wavelength
        s, frames, view: of each rig
    Returns
        arrays with the rigs along the last axis
    """
    airy = np.asarray(diffractions.airy_disc_um(s.f_number, view.magnification, conventions.wavelength_nm))

    def limited(criterion_um: Array) -> Array:
        known = ~np.isnan(criterion_um)
        limit = diffractions.diffraction_limited_f_number(
            np.where(known, criterion_um, 1.0), view.magnification, conventions.wavelength_nm
        )
        return np.where(known, limit, np.nan)

    return Diffraction(
        airy_um=airy,
        airy_share=airy / 1000 / frames.diagonal_mm,
        over_coc=airy / (1000 * frames.coc_mm),
        over_two_pixels=airy / (2 * frames.pitch_um),
        limited_f_number=limited(1000 * frames.coc_mm),
        pixel_limited_f_number=limited(2 * frames.pitch_um),
    )


def outfit(
    rigs: Sequence[Rig],
    standings: Sequence[holds.Standing],
    frames: Frames[Array],
    s: Set,
    view: View[Array],
) -> Outfit[Array]:
    """What each rig weighs and costs, whether its lens covers and fits, and how wide it opens.

    Parameters
        rigs: in their order
        standings: what the hold made of each
        frames, s, view: of each
    Returns
        arrays with the rigs along the last axis; NaN where it is not known
    """
    shape = np.shape(s.f_number)

    def total(body: float | None, lens: float | None) -> float:
        return np.nan if body is None or lens is None else body + lens

    def known(value: float | None) -> float:
        return np.nan if value is None else value

    pairs = [(rig.body, standing.lens, standing.converter) for rig, standing in zip(rigs, standings, strict=True)]
    between = [standing.converter_weight_g for standing in standings]
    weight = [
        total(body.weight_g, total(lens.weight_g, more)) for (body, lens, _), more in zip(pairs, between, strict=True)
    ]
    price = [total(body.price, lens.price) if body.currency == lens.currency else np.nan for body, lens, _ in pairs]
    circle = np.array([known(lens.image_circle_mm) * converter for _, lens, converter in pairs])
    fits = [
        float(same_mount(body.mount, lens.mount)) if body.mount and lens.mount else np.nan for body, lens, _ in pairs
    ]
    return Outfit(
        weight_g=np.broadcast_to(weight, shape),
        price=np.broadcast_to(price, shape),
        volume_l=np.broadcast_to([rig_volume_l(body, lens) for body, lens, _ in pairs], shape),
        long_mm=np.broadcast_to([rig_length_mm(body, lens) for body, lens, _ in pairs], shape),
        # the circle grows with the image distance, as the picture does
        image_circle_share=circle / frames.diagonal_mm * (1 + np.where(s.focusable, view.magnification, 0.0)),
        mount_fits=np.broadcast_to(fits, shape),
    )

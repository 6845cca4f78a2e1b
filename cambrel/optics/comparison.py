"""The comparison: every figure of every rig under one brief, one hold and one set of conventions. All rigs, and all stops of a walk, at once.

Figures are arrays with the rigs along the last axis (one more axis in front along an aperture walk). NaN means unknown; infinity is a
legitimate answer. `Comparison.of(i)` gives one rig's figures as plain numbers.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from functools import cached_property
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from cambrel.optics import blur, budget, depth, diffraction, equivalence, geometry, holds, light
from cambrel.optics.brief import SHAPES, Brief, Conventions, Hold
from cambrel.optics.depth import circle_of_confusion_mm
from cambrel.optics.figures import (
    Array,
    Blur,
    Depth,
    Diffraction,
    Flags,
    Frames,
    Light,
    Outfit,
    RigFigures,
    Settings,
    Sharpness,
    View,
)  # fmt: skip
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.quantities import DomainError
from cambrel.optics.rig import Body, Lens, Rig
from cambrel.optics.sentences import LEVEL_STOPS

__all__ = ["Body", "Brief", "Comparison", "Conventions", "Hold", "Lens", "Rig", "RigFigures", "compare", "frame_of"]

R = TypeVar("R")
Set = Settings[Array, Flags]


_INDEPENDENT = {
    "weight_g",
    "price",
    "image_circle_share",
    "mount_fits",
    "wanted_distance_m",
    "wanted_focal_length_mm",
    "wanted_object_distance_m",
}
_DEPENDENT = ("view", "depth", "blur", "light", "diffraction")


@dataclass(frozen=True)
class Comparison:
    """Rigs compared under one brief, one hold and one set of conventions."""

    brief: Brief
    rigs: tuple[Rig, ...]
    hold: Hold
    conventions: Conventions
    reference: int
    settings: Set
    frames: Frames[Array]
    view: View[Array]
    depth: Depth[Array]
    blur: Blur[Array]
    light: Light[Array]
    diffraction: Diffraction[Array]
    outfit: Outfit[Array]

    def of(self, index: int) -> RigFigures:
        """One rig's figures (of a comparison without a walk)."""
        return self._each[index]

    @cached_property
    def _each(self) -> list[RigFigures]:
        groups = ("settings", "frames", "view", "depth", "blur", "light", "diffraction", "sharpness", "outfit")
        rows = [_rows(getattr(self, group), len(self.rigs)) for group in groups]
        return [
            RigFigures(index, rig, self.carrier(index), *(row[index] for row in rows))
            for index, rig in enumerate(self.rigs)
        ]

    @cached_property
    def sharpness(self) -> Sharpness[Array]:
        """The blur budget of every rig; found when it is asked for, as a walk has no use for it."""
        return budget.sharpness(self.brief, self.conventions, self.settings, self.frames, self.view, self.blur)

    def carrier(self, index: int) -> Rig:
        """The rig whose lens a rig carries: itself, or the one whose lens is shared."""
        if self.hold.lens != "same":
            return self.rigs[index]
        return self.rigs[self.hold.donor(self.reference)]

    def without(self, indices: Sequence[int]) -> Comparison:
        """The same comparison with some rigs' figures unknown: for rigs whose settings cannot be used."""
        kept = np.ones(len(self.rigs), dtype=bool)
        kept[list(indices)] = False
        groups = {name: _masked(getattr(self, name), kept) for name in _DEPENDENT}
        focusable = self.settings.focusable & kept
        return replace(self, **groups, settings=replace(_masked(self.settings, kept), focusable=focusable))

    @property
    def first(self) -> RigFigures:
        """The reference rig's figures."""
        return self.of(self.reference)

    def others(self) -> list[RigFigures]:
        """The figures of all rigs but the reference."""
        return [self.of(i) for i in range(len(self.rigs)) if i != self.reference]


def _rows(record: R, count: int) -> list[R]:
    names = [field.name for field in fields(record)]  # type: ignore[arg-type]
    columns = [getattr(record, name).tolist() for name in names]
    made = type(record)
    return [made(*(column[index] for column in columns)) for index in range(count)]


def frame_of(sensor: Sensor, brief: Brief) -> Sensor:
    """The part of a sensor that the brief uses: cropped to the output shape, turned when upright."""
    frame = sensor.cropped(SHAPES[brief.shape].aspect_ratio)
    lying = frame if frame.width_mm >= frame.height_mm else frame.turned()
    return lying.turned() if brief.upright else lying


def compare(
    brief: Brief,
    rigs: Sequence[Rig],
    hold: Hold | None = None,
    conventions: Conventions | None = None,
    reference: int = 0,
    *,
    walked_f_numbers: Sequence[float] | None = None,
) -> Comparison:
    """Compute every figure of every rig.

    Parameters
        brief: the picture to be made
        rigs: one or more
        hold: what is kept the same; by default equivalent lenses, same spot, same f-number, same shutter
        conventions: the schools in force
        reference: index of the rig the others are compared with
        walked_f_numbers: an aperture walk: the reference takes each in turn and figures gain an axis in front
    Returns
        Comparison
    Raises
        DomainError where the reference rig has no image of the subject, or an index is out of range
    """
    hold, conventions = hold or Hold(), conventions or Conventions()
    if not 0 <= reference < len(rigs):
        raise DomainError("reference", f"the index of one of {len(rigs)} cameras", reference)
    if hold.lens_of is not None and not 0 <= hold.lens_of < len(rigs):
        raise DomainError("lens_of", f"the index of one of {len(rigs)} cameras", hold.lens_of)
    frames = _frames(brief, rigs, conventions, reference)
    standings = holds.stand(brief, rigs, hold, frames.crop.tolist(), reference)
    walked = None if walked_f_numbers is None else np.asarray(walked_f_numbers, dtype=float)
    settings = holds.settle(rigs, hold, standings, frames.coc_mm, reference, walked)
    view = _view(brief, settings, frames, reference)
    figures = (
        view,
        _depth(settings, frames),
        _blur(brief, settings, frames, view),
        _light(brief, rigs, conventions, settings, frames, view, reference),
        _diffraction(conventions, settings, frames, view),
        _outfit(rigs, standings, frames, settings, view),
    )
    if not settings.focusable.all():
        figures = tuple(_masked(figure, settings.focusable) for figure in figures)  # type: ignore[assignment]
        settings = _masked(settings, settings.focusable)
    return Comparison(brief, tuple(rigs), hold, conventions, reference, settings, frames, *figures)


def _masked(record: R, focusable: NDArray[np.bool_]) -> R:
    """Unknown figures for rigs that have no image at this distance; what does not depend on it stays."""
    changes = {}
    for field in fields(record):  # type: ignore[arg-type]
        value = getattr(record, field.name)
        if value.dtype.kind == "f" and field.name not in _INDEPENDENT:
            changes[field.name] = np.where(focusable, value, np.nan)
    return replace(record, **changes)  # type: ignore[type-var]


def _known(values: Array, formula: Any, *others: Any) -> Array:
    """A formula of values some of which are unknown (NaN): unknown stays unknown, the formula never sees it."""
    known = ~np.isnan(values)
    if known.all():
        return np.asarray(formula(values, *others))
    return np.where(known, formula(np.where(known, values, 1.0), *others), np.nan)


def _frames(brief: Brief, rigs: Sequence[Rig], conventions: Conventions, reference: int) -> Frames[Array]:
    sensors = [frame_of(rig.body.sensor, brief) for rig in rigs]
    full_frame = frame_of(FULL_FRAME, brief)
    given: dict[str, Any] = {"full_frame": full_frame}
    if conventions.criterion == "print":
        given |= {
            "viewing_distance_mm": brief.viewing_distance_mm,
            "shown_long_side_mm": brief.shown_long_side_mm,
            "lines_per_mm": conventions.lines_per_mm,
        }
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
        coc_mm=each([circle_of_confusion_mm(s, conventions.criterion, **given) for s in sensors]),
    )


def _view(brief: Brief, s: Set, frames: Frames[Array], reference: int) -> View[Array]:
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


def _depth(s: Set, frames: Frames[Array]) -> Depth[Array]:
    f, n, u = s.focal_length_mm, s.f_number, s.object_distance_m
    coc = frames.coc_mm
    known = ~np.isnan(coc)
    safe = np.where(known, coc, 1.0)
    limits = depth.depth_of_field(f, n, u, safe)
    hyperfocal = depth.hyperfocal_distance_m(f, n, safe)
    front = u - limits.near_m
    with np.errstate(invalid="ignore"):
        # focused at infinity all behind is sharp as well, without end
        behind = np.where(np.isinf(limits.far_m), np.inf, limits.far_m - u)
    values = (limits.near_m, limits.far_m, limits.total_m, front, behind, hyperfocal)
    return Depth(*(np.where(known, value, np.nan) for value in values))


def _blur(brief: Brief, s: Set, frames: Frames[Array], view: View[Array]) -> Blur[Array]:
    f, n, u, d = s.focal_length_mm, s.f_number, s.object_distance_m, s.subject_distance_m
    diagonal = frames.diagonal_mm
    nothing = np.full(np.shape(n), np.nan)

    def at(point: Array) -> Array:
        # points behind the camera are nowhere
        seen = np.where(point > 0, point, np.nan)
        return _known(seen, lambda x: blur.blur_disc_mm(f, n, u, x))

    background = nothing if brief.background_m is None else at(d + brief.background_m)
    foreground = nothing if brief.foreground_m is None else at(d - brief.foreground_m)

    def dissolving(point: Array) -> Array:
        seen = np.where(point > 0, point, np.nan)
        return _known(seen, lambda x: blur.dissolving_mm(f, n, u, x))

    infinity, subject = at(np.full_like(d, np.inf)), at(d)
    movement = np.asarray(blur.movement_mm(brief.subject_speed_m_per_s, s.shutter_s, view.image_distance_mm, d))
    pupil = np.asarray(blur.entrance_pupil_mm(f, n))
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


def _light(
    brief: Brief,
    rigs: Sequence[Rig],
    conventions: Conventions,
    s: Set,
    frames: Frames[Array],
    view: View[Array],
    reference: int,
) -> Light[Array]:
    r = slice(reference, reference + 1)
    bodies = [rig.body for rig in rigs]
    qe = np.array([body.quantum_efficiency for body in bodies])
    offset = np.array([body.offset_stops for body in bodies])
    counted_pixels = ~np.isnan(frames.pixels)
    # with the pixels unknown the whole picture is still known, without read noise
    read = np.where(counted_pixels, np.array([body.read_noise_e for body in bodies]), 0.0)
    pixels = np.where(counted_pixels, frames.pixels, conventions.output_pixels)
    pixel_area = frames.area_mm2 * 1e6 / pixels
    effective = np.asarray(light.effective_f_number(s.f_number, view.magnification))
    exposure = np.asarray(light.exposure_lux_s(effective, s.shutter_s, brief.light_ev))
    photons = np.asarray(light.mid_grey_photons(exposure))
    signal = np.asarray(light.electrons(photons, pixel_area, qe, offset))
    per_pixel = np.asarray(light.snr(signal, read))
    picture = np.asarray(light.snr_picture(per_pixel, pixels, conventions.output_pixels))

    def exposure_for(wanted: Array, of: slice) -> Array:
        return np.asarray(
            light.exposure_for_snr_picture(
                wanted, pixel_area[of], pixels[of], qe[of], read[of], offset[of], conventions.output_pixels
            )
        )

    at_ceiling = light.MID_GREY_LUX_S / conventions.iso_ceiling
    ceiling_signal = light.electrons(light.mid_grey_photons(at_ceiling), pixel_area[r], qe[r], offset[r])
    ceiling_snr = np.asarray(
        light.snr_picture(light.snr(ceiling_signal, read[r]), pixels[r], conventions.output_pixels)
    )
    ceiling = light.iso_for_exposure(exposure_for(ceiling_snr, slice(None)))
    brightness = exposure * s.iso
    error = np.asarray(light.brightness_error_stops(exposure, s.iso))
    as_the_light_asks = np.abs(error) <= LEVEL_STOPS
    looks_like = np.asarray(light.iso_for_exposure(exposure_for(picture, r)))
    return Light(
        effective_f_number=effective,
        exposure_value=np.asarray(light.exposure_value(effective, s.shutter_s, s.iso)),
        exposure_lux_s=exposure,
        exposure_stops=np.asarray(light.stops(exposure, exposure[..., r])),
        total_stops=np.asarray(
            light.total_light_stops(exposure, frames.area_mm2, exposure[..., r], frames.area_mm2[r])
        ),
        brightness_stops=np.asarray(light.stops(brightness, brightness[..., r])),
        error_stops=error,
        photons_per_um2=photons,
        photons_total=photons * frames.area_mm2 * 1e6,
        electrons_per_pixel=np.where(counted_pixels, signal, np.nan),
        snr_pixel=np.where(counted_pixels, per_pixel, np.nan),
        snr_picture=picture,
        looks_like_iso=np.where(as_the_light_asks & as_the_light_asks[..., r], looks_like, np.nan),
        ceiling_iso=np.broadcast_to(ceiling, np.shape(exposure)),
    )


def _diffraction(conventions: Conventions, s: Set, frames: Frames[Array], view: View[Array]) -> Diffraction[Array]:
    airy = np.asarray(diffraction.airy_disc_um(s.f_number, view.magnification, conventions.wavelength_nm))

    def limited(criterion_um: Array) -> Array:
        known = ~np.isnan(criterion_um)
        limit = diffraction.diffraction_limited_f_number(
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


def _outfit(
    rigs: Sequence[Rig],
    standings: Sequence[holds.Standing],
    frames: Frames[Array],
    s: Set,
    view: View[Array],
) -> Outfit[Array]:
    shape = np.shape(s.f_number)

    def total(body: float | None, lens: float | None) -> float:
        return np.nan if body is None or lens is None else body + lens

    def known(value: float | None) -> float:
        return np.nan if value is None else value

    pairs = [(rig.body, standing.lens, standing.converter) for rig, standing in zip(rigs, standings, strict=True)]
    weight = [total(body.weight_g, lens.weight_g) for body, lens, _ in pairs]
    price = [total(body.price, lens.price) if body.currency == lens.currency else np.nan for body, lens, _ in pairs]
    circle = np.array([known(lens.image_circle_mm) * converter for _, lens, converter in pairs])
    fits = [float(body.mount == lens.mount) if body.mount and lens.mount else np.nan for body, lens, _ in pairs]
    return Outfit(
        weight_g=np.broadcast_to(weight, shape),
        price=np.broadcast_to(price, shape),
        # the circle grows with the image distance, as the picture does
        image_circle_share=circle / frames.diagonal_mm * (1 + np.where(s.focusable, view.magnification, 0.0)),
        mount_fits=np.broadcast_to(fits, shape),
    )

"""The first steps from a picture to settings, over all rigs at once: where everything is, and the focal length for the
framing.

Lengths in mm.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf

import numpy as np

from cambrel.comparison.bodies import Bodies
from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.figures import Frames
from cambrel.comparison.lenses import Lenses
from cambrel.optics import geometry
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.quantities import Array, Flags, Words
from cambrel.wording.sentences import LEVEL_VIEW

TIMES_SETTLED = 6
"""Focal length and closest focus depend on each other; so often the one is worked out after the other."""


@dataclass(frozen=True)
class BriefScene:
    """What the brief asks for, in mm from the lens.

    near, far: of what must be sharp; near is not above 0 where that begins behind the camera
    """

    brief: Brief
    subject: float
    near: float
    far: float

    @classmethod
    def of(cls, brief: Brief) -> BriefScene:
        """The scene of a picture."""
        subject = 1000 * brief.distance_m
        in_front, behind = 1000 * (brief.sharp_front_m or 0.0), 1000 * (brief.sharp_behind_m or 0.0)
        return cls(brief, subject, subject - in_front, subject + behind)

    @property
    def asks_range(self) -> bool:
        """Whether more than the subject must be sharp."""
        return self.brief.sharp_front_m is not None or self.brief.sharp_behind_m is not None

    @property
    def has_range(self) -> bool:
        """Whether what must be sharp lies wholly before the camera."""
        return self.asks_range and self.near > 0

    @property
    def focus(self) -> float:
        """Where to focus: as the brief says, else between the limits in dioptres, so that both ends are as soft."""
        if self.brief.focus_distance_m is not None:
            return 1000 * self.brief.focus_distance_m
        if not self.has_range:
            return self.subject
        return 2 * self.near if self.far == inf else 2 * self.near * self.far / (self.near + self.far)

    @property
    def soft(self) -> float | None:
        """Where the background that must be soft is; None where it need not be soft."""
        if self.brief.blur_share is None or self.brief.background_m is None:
            return None
        return self.subject + 1000 * self.brief.background_m


@dataclass(frozen=True)
class Framed:
    """Focal length and focus for the framing.

    wanted_mm: the focal length for it, whatever the lens has; kept: of each side of the frame, what then is used
    image_mm: the image distance that frames what is asked for, NaN where nothing is; closest_mm: focus of the lens
    seen: whether the lens can be focused there at all; where not, stand-ins take part, to be masked at the end
    circle_mm: what counts as sharp, with a stand-in where that is not known
    """

    focal_mm: Array
    wanted_mm: Array
    focus_mm: Array
    image_mm: Array
    closest_mm: Array
    kept: Array
    seen: Flags
    frames: Frames[Array]
    circle_mm: Array
    bound: Words

    @property
    def circle_is_known(self) -> Flags:
        return ~np.isnan(self.frames.coc_mm)

    @property
    def behind_mm(self) -> Array:
        """The image distance."""
        return np.asarray(geometry.image_distance_mm(self.focal_mm, self.focus_mm / 1000))


def framed(
    scene: BriefScene, backs: Bodies, glass: Lenses, conventions: Conventions, width_m: float | None, set_mm: Array
) -> Framed:
    """The focal length for the framing at the focus, and how near the lens goes, which depends on it.

    Parameters
        scene: the picture's distances
        backs, glass: of each rig its body and its lens
        conventions: the schools in force
        width_m: to be framed at the subject where the brief says none [m]
        set_mm: focal lengths set by hand [mm], NaN where they are to be chosen
    Returns
        arrays with the rigs along the axis
    """
    by_hand, image = ~np.isnan(set_mm), _image_mm(scene.brief, backs.frames, width_m)
    u = np.full(len(glass), float(scene.focus))
    for _ in range(TIMES_SETTLED):
        with np.errstate(invalid="ignore"):
            thin = np.where(np.isinf(u), image, image / (1 + image / u))
        wanted = np.where(by_hand, set_mm, thin)
        f = np.clip(wanted, glass.low_mm, glass.high_mm)
        closest = glass.closest_mm(f)
        u = np.maximum(scene.focus, closest)
    seen = (u > f * (1 + 1e-9)) & (scene.subject > 0) & ~np.isnan(f)
    f = np.where(np.isnan(f), 1.0, f)
    u = np.where(seen, u, 4.0 * f)
    with np.errstate(invalid="ignore"):
        ends_short = ~by_hand & (wanted > f * (1 + 1e-12))
        part = np.asarray(geometry.image_distance_mm(f, u / 1000)) / image
        kept = np.where(ends_short, np.minimum(1.0, part), 1.0)
    kept = np.where(np.isnan(kept), 1.0, kept)
    frames = cropped(backs.frames, kept, conventions)
    bound = np.where(wanted < f * (1 - 1e-12), "short end", np.where(kept < 1 - LEVEL_VIEW, "crop", "framing"))
    circle = np.where(np.isnan(frames.coc_mm), frames.diagonal_mm / 1500, frames.coc_mm)
    return Framed(
        f, wanted, u, image, closest, kept, seen, frames, circle, np.where(by_hand, "hand set", bound).astype(object)
    )


def _image_mm(brief: Brief, frames: Frames[Array], width_m: float | None) -> Array:
    """The image distance that frames what is asked for; unknown where nothing is."""
    if brief.framing_deg is not None:
        return np.asarray(geometry.focal_length_for_angle_mm(brief.framing_deg, frames.width_mm))
    width = brief.width_shown_m if brief.width_shown_m is not None else width_m
    if width is None:
        return np.full_like(frames.width_mm, np.nan)
    return np.asarray(frames.width_mm * brief.distance_m / width)


def cropped(frames: Frames[Array], kept: Array, conventions: Conventions) -> Frames[Array]:
    """Frames of which only a share of each side is used: all that depends on the frame depends on what is left of it.

    Parameters
        frames: whole
        kept: share of each side that is used
        conventions: the school of the circle of confusion
    Returns
        frames as large as what is used
    """
    school = CIRCLE_OF_CONFUSION_SCHOOLS[conventions.criterion]
    return Frames(
        width_mm=frames.width_mm * kept,
        height_mm=frames.height_mm * kept,
        diagonal_mm=frames.diagonal_mm * kept,
        area_mm2=frames.area_mm2 * kept**2,
        crop=frames.crop / kept,
        home_crop=frames.home_crop,
        k=frames.k * kept,
        pixels=frames.pixels * kept**2,
        pitch_um=frames.pitch_um,
        coc_mm=frames.coc_mm * kept if school.is_of_frame else frames.coc_mm,
    )

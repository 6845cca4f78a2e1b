"""What is drawn: a scene as one rig sees it, in so many pixels. Everything that the picture depends on stands here,
bounded.
"""

from __future__ import annotations

from dataclasses import dataclass

from cambrel.optics.quantities import DomainError, finite, not_negative, positive, within
from cambrel.optics.scene import Camera
from cambrel.scenes import Scene

MOST_PIXELS = 1_600_000
MOST_MAGNIFIED = 60.0


@dataclass(frozen=True)
class Take:
    """A picture to be drawn.

    scene: as the brief has arranged it
    width_px, height_px: of the picture
    window: the part of the frame that is drawn, as left, top, width and height in shares of the frame (a loupe draws a
        small one)
    speed_m_per_s, shutter_s: of what moves
    gain_stops: brightness against the matched one
    snr: of one pixel of this picture at mid grey; 0 draws no grain
    is_sharp: drawn without any blur, as the ground for frames
    declination_deg: of the stars in the middle of the frame, which trail while the shutter is open; None where they
        stand still
    shake_mm: how far the hand's shake carries a point on the sensor
    lens_per_mm: what the lens alone resolves [cycles/mm]; 0 for a perfect one
    pitch_mm: of the pixels that record the picture; 0 for none that show
    """

    scene: Scene
    camera: Camera
    width_px: int
    height_px: int
    window: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)
    speed_m_per_s: float = 0.0
    shutter_s: float = 0.0
    gain_stops: float = 0.0
    snr: float = 0.0
    is_sharp: bool = False
    declination_deg: float | None = None
    shake_mm: float = 0.0
    lens_per_mm: float = 0.0
    pitch_mm: float = 0.0

    def __post_init__(self) -> None:
        if not (self.width_px >= 8 and self.height_px >= 8 and self.width_px * self.height_px <= MOST_PIXELS):
            raise DomainError("width_px", f"8 or more, and at most {MOST_PIXELS} pixels in all", self.width_px)
        for value in self.window:
            finite("window", value)
        for value in self.window[2:]:
            positive("window", value)
            if value * MOST_MAGNIFIED < 1:
                raise DomainError("window", f"at least 1/{MOST_MAGNIFIED:g} of the frame", value)
        for name in ("speed_m_per_s", "shutter_s", "snr", "shake_mm", "lens_per_mm", "pitch_mm"):
            not_negative(name, getattr(self, name))
        finite("gain_stops", self.gain_stops)
        if self.declination_deg is not None:
            within("declination_deg", self.declination_deg, -90, 90)

    @property
    def px_per_mm(self) -> float:
        """Pixels of the picture to a millimetre of the sensor."""
        return self.width_px / (self.camera.width_mm * self.window[2])

    @property
    def origin_px(self) -> tuple[float, float]:
        """Where the frame's centre falls in the picture."""
        left, top, wide, high = self.window
        return self.width_px * (0.5 - left) / wide, self.height_px * (0.5 - top) / high

"""What was read: the figures of one or two sides as they were said. What is not said is None; nothing is guessed
here.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class GearWords:
    """A lens, a camera or both in words.

    focal_min_mm, focal_max_mm: as stated (equal for a single focal length); equivalent: True where it is said to be
        converted, False where
    it is said to be the true one, None where nothing is said; true_focal_mm: the true (shortest) one where it stands
    beside an equivalent
    f_number, f_number_long: at the short and the long end; f_number_equivalent as `equivalent`
    format: slug of a named format; type_designation: as "1" or "1/1.3"; width_mm, height_mm, diagonal_mm: of the sensor
    converter: factor of a converter that is named; mount: by the owner's own letter codes
    """

    focal_min_mm: float | None = None
    focal_max_mm: float | None = None
    equivalent: bool | None = None
    true_focal_mm: float | None = None
    f_number: float | None = None
    f_number_long: float | None = None
    f_number_equivalent: bool | None = None
    format: str | None = None
    crop: float | None = None
    type_designation: str | None = None
    width_mm: float | None = None
    height_mm: float | None = None
    diagonal_mm: float | None = None
    megapixels: float | None = None
    pixel_pitch_um: float | None = None
    distance_m: float | None = None
    shutter_s: float | None = None
    iso: float | None = None
    weight_g: float | None = None
    converter: float | None = None
    mount: str | None = None


@dataclass(frozen=True)
class Understood:
    """A part of the text and what it was taken for."""

    text: str
    meaning: str


@dataclass(frozen=True)
class FormatChoice:
    """A word that stands for several formats: the one taken, and all that it may mean."""

    text: str
    taken: str
    formats: tuple[str, ...]


@dataclass(frozen=True)
class TextReading:
    """A text read. target: the format that is asked about; unread: what could not be placed; choices: where one of
    several was taken.

    unread_at: where in the text each of those stands, from and to
    """

    sides: tuple[GearWords, ...] = (GearWords(),)
    target: str | None = None
    understood: tuple[Understood, ...] = ()
    unread: tuple[str, ...] = ()
    choices: tuple[FormatChoice, ...] = ()
    unread_at: tuple[tuple[int, int], ...] = ()
    refused: str = ""

    @property
    def is_empty(self) -> bool:
        """Whether nothing at all was understood."""
        return not self.understood

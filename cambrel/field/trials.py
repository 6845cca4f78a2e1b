"""The kinds of trial in words: what each asks, how it is set up, and what to look at afterwards."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Trial:
    """A kind of trial."""

    label: str
    asks: str
    how: str
    look: str
    figure: str
    """Of `optics.lines`, what is predicted; or what the page of whys calls it."""


TRIALS: dict[str, Trial] = {
    "framing": Trial(
        "Framing",
        "the same view?",
        "A mark at each side of the subject, as far apart as is predicted.",
        "Whether the marks stand at the edges of the picture.",
        "field_wide",
    ),
    "depth": Trial(
        "Depth",
        "from where to where is it sharp?",
        "A tape measure along the ground, from before the near limit to behind the far one.",
        "The first and the last mark that is sharp, at the size in which it is shown.",
        "total",
    ),
    "close": Trial(
        "Close-up depth",
        "how much of a ruler is sharp?",
        "A ruler across the subject at 45°: 1.4 times the depth of it is sharp.",
        "The millimetres between the first and the last sharp line, over 1.4.",
        "total",
    ),
    "blur": Trial(
        "Background blur",
        "how soft is it behind?",
        "A point of light where the background is.",
        "The width of its disc against the diagonal of the picture.",
        "background_share",
    ),
    "noise": Trial(
        "Noise",
        "how clean is it?",
        "A grey card in even light, the same for all.",
        "The card at one size on one display; measured on a patch of it.",
        "snr_picture",
    ),
    "diffraction": Trial(
        "Diffraction",
        "from which stop on is it softer?",
        "A chart or a brick wall square to the camera, self-timer.",
        "The stop from which fine lines lose contrast.",
        "airy",
    ),
    "reach": Trial(
        "Reach",
        "how much detail far off?",
        "A chart or lettering at the distance of the subject.",
        "The finest lines or letters that can be read.",
        "detail",
    ),
    "stars": Trial(
        "Stars",
        "how long do they stay points?",
        "A clear sky, self-timer, focused on a star.",
        "The stars in the corners, at the size in which it is shown.",
        "stars",
    ),
    "steadiness": Trial(
        "Steadiness",
        "how slow can it be held?",
        "Ten frames, held as you always do.",
        "How many of the ten are sharp.",
        "steady",
    ),
    "range": Trial(
        "Tonal range",
        "how much from shadow to light?",
        "Deep shadow and bright sky in one picture, metered for the sky.",
        "The shadows lifted and the highlights drawn down by as much in all of them.",
        "snr_picture",
    ),
}

FAIR = (
    "One display for all, at one size: the whole picture, or the print that the comparison is about.",
    "Raw files through one converter with the same settings, or each camera’s own pictures with noise reduction and sharpening off.",
    "No upload or messenger in between: they shrink and sharpen.",
    "White balance set by hand, the same for all.",
)
"""How the pictures are looked at so that nobody is favoured."""

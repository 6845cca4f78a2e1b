"""On what practitioners differ, as one table: the page, the fold of the bench and what an owner prefers all follow from it.

A question of figures is answered in the core's `Conventions`, a link carries those; a question of display, such as the units, is not.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields
from typing import Any

from django.forms import Field, ValidationError

from cambrel.comparison.brief import GOOD_ENOUGH_SCHOOLS, HAND_SCHOOLS, STAR_SCHOOLS, Conventions
from cambrel.inputs.fields import ChoiceField, IsoField, NumberField
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS, circle_of_confusion_mm
from cambrel.optics.formats import CROP_MEASURES, FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.optics.noise_schools import NOISE_SCHOOLS, RANGE_SCHOOLS
from cambrel.wording import in_words

SHOWN_LONG_SIDE_MM, VIEWING_DISTANCE_MM = 420.0, 500.0
SAMPLE = FORMATS["micro-four-thirds"]
SAMPLE_PIXELS = Sensor(SAMPLE.width_mm, SAMPLE.height_mm, 5184, 3888)


@dataclass(frozen=True)
class School:
    """One answer to a question of convention."""

    label: str
    reason: str = ""
    example: str = ""


@dataclass(frozen=True)
class Question:
    """What practitioners differ on: its short label and its title, what the answer changes, and the schools or the field of its figure.

    said: how the answer is named in a list of what is in force; empty where that need not be said
    """

    key: str
    label: str
    title: str
    changes: str
    usual: str | float
    schools: Mapping[str, School] | None = None
    figure: Callable[..., Field] | None = None
    said: str = ""
    is_personal: bool = False
    """Said of the photographer's own camera, so that it moves with the reference."""

    def field(self) -> Field:
        """A field for its answer."""
        if self.schools is not None:
            return ChoiceField(label=self.label, choices=[(key, one.label) for key, one in self.schools.items()])
        assert self.figure is not None
        return self.figure(label=self.label)

    def answered(self, answer: Any) -> str | float:
        """An answer as it was kept; the usual one where it is none any more."""
        if self.schools is not None:
            return answer if answer in self.schools else self.usual
        try:
            number = self.field().clean(str(answer))
        except ValidationError:
            return self.usual
        return self.usual if number is None else float(answer)

    @property
    def is_long(self) -> bool:
        """Whether it has more answers than are set out side by side."""
        return self.schools is not None and len(self.schools) > 8

    @property
    def is_of_figures(self) -> bool:
        return self.key in {one.name for one in fields(Conventions) if one.compare}


def _circle(key: str) -> str:
    sizes = []
    for sensor in (FULL_FRAME, SAMPLE_PIXELS):
        if key == "two_pixels" and sensor.pixels_wide is None:
            sensor = Sensor(36.0, 24.0, 6000)
        size = circle_of_confusion_mm(
            sensor,
            key,
            viewing_distance_mm=VIEWING_DISTANCE_MM,
            shown_long_side_mm=SHOWN_LONG_SIDE_MM,
            lines_per_mm=5.0,
        )
        sizes.append(f"{size:.4f}")
    return f"{sizes[0]} mm on full frame, {sizes[1]} on Micro Four Thirds"


USUAL = Conventions()
QUESTIONS: tuple[Question, ...] = (
    Question(
        "crop_by",
        "Crop factor by",
        "Crop factor by",
        "Changes equivalent focal lengths and f-numbers; total light always follows the area.",
        USUAL.crop_by,
        {
            key: School(measure.label, measure.reason, f"Micro Four Thirds: {crop_factor(SAMPLE, by=key):.3f}")
            for key, measure in CROP_MEASURES.items()
        },
        said="crop by {}",
    ),
    Question(
        "criterion",
        "Sharp means",
        "Sharp means a blur disc of at most",
        "Changes depth of field, hyperfocal distance and where diffraction is flagged; never the blur of the background.",
        USUAL.criterion,
        {key: School(circle.label, circle.reason, _circle(key)) for key, circle in CIRCLE_OF_CONFUSION_SCHOOLS.items()},
        said="sharp by {}",
    ),
    Question(
        "noise",
        "Noise judged",
        "Noise is judged",
        "Changes who is cleaner, which ISO is as noisy on another camera, your ceiling carried over, and the tonal range that counts as clean.",
        USUAL.noise,
        {key: School(school.label, school.says) for key, school in NOISE_SCHOOLS.items()},
        said="noise by {}",
    ),
    Question(
        "good_enough",
        "Good enough by",
        "Sharp enough to be shown, by",
        "Changes the largest picture that is good enough; no other figure.",
        USUAL.good_enough,
        {key: School(school.label, school.says) for key, school in GOOD_ENOUGH_SCHOOLS.items()},
    ),
    Question(
        "hand",
        "A hand is steady for",
        "A hand is steady for",
        "Changes the slowest usable shutter and the shake in what softens a picture, where the picture says what carries the camera.",
        USUAL.hand,
        {key: School(school.label, school.says) for key, school in HAND_SCHOOLS.items()},
    ),
    Question(
        "shake_arc_s",
        "Your hand turns by",
        "Your hand turns the camera by so many arc seconds a second",
        "Changes how long a hand is steady where that is judged by your own hand; 6,000 is about what the habit comes to.",
        USUAL.shake_arc_s,
        figure=lambda **options: NumberField(unit="″/s", limits="shake_arc_s", **options),
    ),
    Question(
        "star_rule",
        "Stars are points by",
        "Stars are points for as long as is said by",
        "Changes whether a picture keeps its stars as points, and the slowest shutter for it; the Stars panel shows all of them.",
        USUAL.star_rule,
        {key: School(school.label, school.says) for key, school in STAR_SCHOOLS.items()},
    ),
    Question(
        "range",
        "Tonal range by",
        "The tonal range of a frame ends",
        "Changes whether a picture holds the range that it asks for; the Light panel shows both.",
        USUAL.range,
        {key: School(school.label, school.says) for key, school in RANGE_SCHOOLS.items()},
    ),
    Question(
        "home",
        "I think in",
        "Equivalents are given in terms of",
        "Changes in whose terms every equivalent is said, with full frame beside where that is another; no figure else.",
        USUAL.home,
        {slug: School(in_words(format_.name)) for slug, format_ in FORMATS.items()},
    ),
    Question(
        "units",
        "Distances in",
        "Distances in",
        "Changes distances in the scene only; the camera’s millimetres stay.",
        "m",
        {"m": School("metres"), "ft": School("feet and inches")},
    ),
    Question(
        "iso_ceiling",
        "I stop at ISO",
        "I stop at ISO, on full frame of 24 megapixels",
        "Your own ceiling, kept once and carried over to every camera by equal noise of the picture.",
        USUAL.iso_ceiling,
        figure=IsoField,
        is_personal=True,
    ),
    Question(
        "seen_snr",
        "Noise is seen below",
        "Noise is seen below a signal to noise of",
        "Changes whether a difference in noise is said to be seen. 40 on mid-grey is excellent.",
        USUAL.seen_snr,
        figure=lambda **options: NumberField(limits="seen_snr", **options),
    ),
    Question(
        "disturbing_snr",
        "Noise disturbs below",
        "Noise disturbs below a signal to noise of",
        "Changes from where noise is said to disturb. 10 on mid-grey is still acceptable.",
        USUAL.disturbing_snr,
        figure=lambda **options: NumberField(limits="disturbing_snr", **options),
    ),
    Question(
        "press_lines_per_inch",
        "A press carries",
        "A printing press carries, line widths per inch",
        "Changes the largest picture that is good enough for a printing press. A 200-line screen carries 200.",
        USUAL.press_lines_per_inch,
        figure=lambda **options: NumberField(unit="per inch", limits="press_lines_per_inch", **options),
    ),
    Question(
        "lines_per_mm",
        "Eye resolves",
        "The eye resolves, line pairs per mm at 250 mm",
        "Changes what counts as sharp where that goes by the print.",
        USUAL.lines_per_mm,
        figure=lambda **options: NumberField(limits="lines_per_mm", unit="lp/mm", **options),
    ),
)
OF_FIGURES = tuple(question for question in QUESTIONS if question.is_of_figures)


def question(key: str) -> Question:
    return next(one for one in QUESTIONS if one.key == key)


def in_force(conventions: Conventions) -> str:
    """The schools in force, named: crop by diagonal; sharp by diagonal / 1500; noise by whole picture."""
    said = (
        question.said.format(question.schools[getattr(conventions, question.key)].label)
        for question in OF_FIGURES
        if question.said and question.schools
    )
    return "; ".join(said)

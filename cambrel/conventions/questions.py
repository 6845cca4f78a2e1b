"""On what practitioners differ, as one table: the page, the fold of the bench and what an owner prefers all follow from
it.

A question of figures is answered in the core's `Conventions`, a link carries those; a question of display, such as the
units, is not.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields

from django.forms import Field, ValidationError

from cambrel.comparison.brief import SCHOOLS, Brief, Conventions
from cambrel.inputs.fields import ChoiceField, IsoField, NumberField
from cambrel.optics.depth import circle_of_confusion_mm
from cambrel.optics.formats import FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.wording import in_words

PRINT = Brief()
"""As what a picture is shown where nothing is said of it."""
SAMPLE = FORMATS["micro-four-thirds"]
SAMPLE_PIXELS = Sensor(SAMPLE.width_mm, SAMPLE.height_mm, 5280, 3968)
FULL_FRAME_PIXELS = Sensor(FULL_FRAME.width_mm, FULL_FRAME.height_mm, 6000)


@dataclass(frozen=True)
class Answer:
    """One answer to a question of convention."""

    label: str
    reason: str = ""
    example: str = ""


@dataclass(frozen=True)
class Question:
    """What practitioners differ on: its short label and its title, what the answer changes, and the schools or the
    field of its figure.

    said: how the answer is named in a list of what is in force; empty where that need not be said
    """

    key: str
    label: str
    title: str
    changes: str
    usual: str | float
    schools: Mapping[str, Answer] | None = None
    figure: Callable[..., Field] | None = None
    said: str = ""
    is_personal: bool = False
    """Said of the photographer's own camera, so that it moves with the reference."""

    def field(self) -> Field:
        """A field for its answer."""
        if self.schools is not None:
            return ChoiceField(label=self.label, choices=[(key, school.label) for key, school in self.schools.items()])
        assert self.figure is not None
        return self.figure(label=self.label)

    def answered(self, answer: object) -> str | float:
        """An answer as it was kept; the usual one where it is none any more."""
        if self.schools is not None:
            return answer if isinstance(answer, str) and answer in self.schools else self.usual
        try:
            number = self.field().clean(str(answer))
        except ValidationError:
            return self.usual
        return self.usual if number is None else float(str(answer))

    @property
    def is_long(self) -> bool:
        """Whether it has more answers than are set out side by side."""
        return self.schools is not None and len(self.schools) > 8

    @property
    def is_of_figures(self) -> bool:
        return self.key in {field.name for field in fields(Conventions) if field.compare}


def _answers(question: str, example: Callable[[str], str] = lambda key: "") -> dict[str, Answer]:
    """The schools of a question as answers, each with an example."""
    return {key: Answer(school.label, school.reason, example(key)) for key, school in SCHOOLS[question].items()}


def _circle(key: str) -> str:
    sizes = []
    for sensor in (FULL_FRAME_PIXELS, SAMPLE_PIXELS):
        size = circle_of_confusion_mm(
            sensor,
            key,
            viewing_distance_mm=PRINT.viewing_distance_mm,
            shown_long_side_mm=PRINT.shown_long_side_mm,
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
        "Changes equivalent focal lengths and f-numbers. Total light always follows the area.",
        USUAL.crop_by,
        _answers("crop_by", lambda key: f"Micro Four Thirds: {crop_factor(SAMPLE, by=key):.3f}"),
        said="crop by {}",
    ),
    Question(
        "criterion",
        "Sharp means",
        "Sharp means a blur disc of at most",
        "Changes depth of field, hyperfocal distance and where diffraction is flagged. The background blur stays.",
        USUAL.criterion,
        _answers("criterion", _circle),
        said="sharp by {}",
    ),
    Question(
        "noise",
        "Noise judged",
        "Noise is judged",
        "Changes which camera is cleaner, the matching ISO, your ceiling on other cameras, and the "
        "tonal range that counts as clean.",
        USUAL.noise,
        _answers("noise"),
        said="noise by {}",
    ),
    Question(
        "good_enough",
        "Good enough by",
        "Sharp enough to be shown, by",
        "Changes the largest print that is good enough, and no other figure.",
        USUAL.good_enough,
        _answers("good_enough"),
    ),
    Question(
        "hand",
        "A hand is steady for",
        "A hand is steady for",
        "Changes the slowest usable shutter and the blur from shake, where the picture says how the camera is held.",
        USUAL.hand,
        _answers("hand"),
    ),
    Question(
        "shake_arc_s",
        "Your hand turns by",
        "Your hand turns the camera by so many arc seconds a second",
        "Changes how long a hand is steady where you judge it by your own. 6,000 is about the usual habit.",
        USUAL.shake_arc_s,
        figure=lambda **options: NumberField(unit="″/s", limits="shake_arc_s", **options),
    ),
    Question(
        "star_rule",
        "Stars are points by",
        "Stars are points for as long as is said by",
        "Changes whether stars stay points, and the slowest shutter for that. The Stars panel shows "
        "all of these rules.",
        USUAL.star_rule,
        _answers("star_rule"),
    ),
    Question(
        "range",
        "Tonal range by",
        "The tonal range of a frame ends",
        "Changes whether a frame holds the range of the scene. The Light panel shows both.",
        USUAL.range,
        _answers("range"),
    ),
    Question(
        "home",
        "I think in",
        "Equivalents are given in terms of",
        "Changes the format that equivalents are given for, with full frame beside it. No other figure changes.",
        USUAL.home,
        {slug: Answer(in_words(format_.name)) for slug, format_ in FORMATS.items()},
    ),
    Question(
        "units",
        "Distances in",
        "Distances in",
        "Changes distances in the scene only. The camera’s millimetres stay.",
        "m",
        {"m": Answer("metres"), "ft": Answer("feet and inches")},
    ),
    Question(
        "iso_ceiling",
        "I stop at ISO",
        "I stop at ISO, on full frame of 24 megapixels",
        "Your own ceiling, kept once. On every other camera it is the ISO with the same noise in the picture.",
        USUAL.iso_ceiling,
        figure=IsoField,
        is_personal=True,
    ),
    Question(
        "seen_snr",
        "Noise is seen below",
        "Noise is seen below a signal to noise of",
        "Changes from where a difference in noise counts as seen. 40 on mid-grey is excellent.",
        USUAL.seen_snr,
        figure=lambda **options: NumberField(limits="seen_snr", **options),
    ),
    Question(
        "disturbing_snr",
        "Noise disturbs below",
        "Noise disturbs below a signal to noise of",
        "Changes from where noise counts as disturbing. 10 on mid-grey is still acceptable.",
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
        "Changes what counts as sharp where you judge it by the print.",
        USUAL.lines_per_mm,
        figure=lambda **options: NumberField(limits="lines_per_mm", unit="lp/mm", **options),
    ),
)
OF_FIGURES = tuple(question for question in QUESTIONS if question.is_of_figures)


def question(key: str) -> Question:
    return next(candidate for candidate in QUESTIONS if candidate.key == key)


def in_force(conventions: Conventions) -> str:
    """The schools in force, named: crop by diagonal; sharp by diagonal / 1500; noise by whole picture."""
    said = (
        question.said.format(question.schools[getattr(conventions, question.key)].label)
        for question in OF_FIGURES
        if question.said and question.schools
    )
    return "; ".join(said)

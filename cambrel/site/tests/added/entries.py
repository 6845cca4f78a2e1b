"""A made-up school to every question, a hold to every question, a trial and a drill: one entry each, before anything
reads the tables.
"""

from dataclasses import replace

from cambrel.comparison.brief import SCHOOLS
from cambrel.comparison.hold_answers import QUESTIONS
from cambrel.drills.all_drills import KINDS
from cambrel.optics.workings import term, working
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.outcomes import PictureReading
from cambrel.trials.trial import Eye, Typed

KEY, LABEL = "madeup", "madeup for the test"
VALUES = {
    "crop_by": 1.7,
    "criterion": 0.021,
    "noise": 33.0,
    "good_enough": 321.0,
    "hand": 0.0123,
    "star_rule": 12.5,
    "range": 9.9,
}


def add_schools():
    for question, schools in SCHOOLS.items():
        value = VALUES[question]
        usual = next(iter(schools.values()))

        def written(given, value=value):
            return working("x", "a × 2", 2 * value, "number", term("a", "half of what is madeup", value))

        schools[KEY] = replace(
            usual, key=KEY, label=LABEL, reason="A reason that is madeup.", value=lambda given,
            value=value: value + 0.0 * first_of(given),
            working=written,
        )  # fmt: skip


def first_of(given):
    """A number, or an array of the shape of what is given."""
    for name in ("diagonal_mm", "focal_length_mm", "resolved_per_mm", "saturation_e", "signal_e"):
        if hasattr(given, name):
            return getattr(given, name) * 0.0
    return 0.0


def add_holds():
    for answers in QUESTIONS.values():
        usual = next(iter(answers.values()))
        answers[KEY] = replace(
            usual, key=KEY, label=LABEL, says="in a madeup way", sentence="madeup as a word", brief="madeup"
        )


def add_trial():
    eye = Eye(
        {"madeup": Typed("number", "Madeup counts", 1, 9)},
        lambda typed: {"view": PictureReading(float(typed["madeup"]))},
        lambda held: {},
    )
    TRIALS[KEY] = replace(
        TRIALS["framing"], key=KEY, label=LABEL, asks="what is madeup?", how="Madeup, with a tape.",
        look="Whether it is madeup.", eye=eye
    )  # fmt: skip


def add_drill():
    usual = KINDS["view"]
    words = replace(usual.words, skill=LABEL, asks="{f} is madeup on A. What is it on B?")
    KINDS[KEY] = replace(usual, key=KEY, words=words, scene="viaduct")


def add():
    add_schools()
    add_holds()
    add_trial()
    add_drill()

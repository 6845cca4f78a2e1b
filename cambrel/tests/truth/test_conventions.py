"""Every convention decides: each answer to each question changes at least one figure and one sentence of some bench."""

from dataclasses import fields, replace
from functools import cache
from math import nan
from unittest import TestCase

from django.test import tag

from cambrel import wording
from cambrel.comparison.brief import Conventions
from cambrel.comparison.engine import compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.lines import LINES
from cambrel.comparison.seen_noise import noise_state
from cambrel.comparison.tonal_range import frames_for, range_of
from cambrel.conventions.questions import OF_FIGURES
from cambrel.optics.quantities import DomainError
from cambrel.tests.truth.benches import a_bench
from cambrel.verdicts import verdicts
from cambrel.verdicts.explanations import SPECIAL, value_of

SEEDS = (8, 10, 20, *range(120))
"""The first three show nearly every answer; the others are looked at for what is left."""
OTHER = {"wavelength_nm": 650.0, "output_pixels": 2e6}
"""Of what is no question on the page, another answer."""
WITH = {
    "shake_arc_s": {"hand": "typed"},
    "lines_per_mm": {"criterion": "print"},
    "press_lines_per_inch": {"good_enough": "printer"},
}
"""What has to be answered first for a question to matter."""


def answers():
    """The name of each field of the conventions with each answer but the usual one, and what is answered beside it."""
    asked = {question.key: question for question in OF_FIGURES}
    for field in fields(Conventions):
        if not field.compare:
            continue
        schools = asked[field.name].schools if field.name in asked else None
        usual = getattr(Conventions(), field.name)
        others = [key for key in schools if key != usual] if schools else [OTHER.get(field.name, usual * 2)]
        for other in others:
            yield field.name, other, WITH.get(field.name, {})


def figures(compared):
    """Every figure of every rig, the frames to bracket, and what is seen of its noise."""
    rigs = [compared.of(index) for index in range(len(compared.rigs))]
    found = [
        [value_of(key, compared, rig).value for key in (*LINES, *SPECIAL)] + [frames(compared, rig)] for rig in rigs
    ]
    return [["-" if value != value else value for value in row] for row in found], [
        noise_state(compared, rig) for rig in rigs
    ]


def frames(compared, rig):
    """Frames to bracket, as the Light panel counts them."""
    held = range_of(compared, rig, rig.settings.iso)
    return (
        nan
        if held is None
        else frames_for(compared.brief.scene_range_stops or 12.0, held.by[compared.conventions.range])
    )


def sentences(compared):
    said = [wording.sentence(verdict) for verdict in verdicts(compared)]
    return said + [f"{one.status} {wording.sentence(check)}" for one in fulfilment(compared) for check in one.checks]


@tag("long")
class ConventionTests(TestCase):
    def test_every_answer_changes_a_figure_and_a_sentence(self):
        left = {(name, other, what) for name, other, _ in answers() for what in ("figure", "sentence")}
        for seed in SEEDS:
            for best in (False, True):

                @cache
                def under(terms, seed=seed, best=best):
                    """What is read of this bench under some terms, as it is asked for."""
                    brief, rigs, hold, _, reference = a_bench(seed)
                    compared = compare(brief, rigs, replace(hold, is_best=best, lens_of=None), terms, reference)
                    return {"figure": cache(lambda: figures(compared)), "sentence": cache(lambda: sentences(compared))}

                for name, other, beside in answers():
                    open_ = {what for what in ("figure", "sentence") if (name, other, what) in left}
                    if not open_:
                        continue
                    one = Conventions(**beside)
                    try:
                        usual, changed = under(one), under(replace(one, **{name: other}))
                    except DomainError:
                        break
                    left -= {(name, other, what) for what in open_ if usual[what]() != changed[what]()}
            if not left:
                break
        self.assertEqual(sorted(map(str, left)), [], "decides nothing")

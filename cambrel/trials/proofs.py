"""Did it hold: what was read off the pictures of a shot, set against what was predicted, in words, and what would
explain a miss.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import log2

from cambrel import wording
from cambrel.comparison.engine import Comparison
from cambrel.optics.workings import Figure
from cambrel.trials.outcomes import Outcome, PictureReading, Proof, points_held, prove, softening, steady_held
from cambrel.trials.predictions import SCALES, expected
from cambrel.wording.sentences import Sentence

LABELS = {
    "view": "View by the diagonal", "near": "First sharp mark", "far": "Last sharp mark", "total": "Depth",
    "disc": "Disc of the point of light",
    "snr": "Signal to noise", "brightness": "Brightness", "pixels": "Pixels on the subject", "range": "Tonal range",
    "mtf50": "Sharpness", "points": "Stars", "steady": "Sharp frames",
}  # fmt: skip
OUTCOMES = {
    Outcome.HELD: "As predicted",
    Outcome.MISSED: "Not as predicted",
    Outcome.OPEN: "Cannot tell",
    Outcome.BASE: "Measured",
}
CAUSES = {
    ("view", -1): "a camera nearer than was measured, a view that narrows as the lens focuses close (breathing), or a"
    " rounded focal length",
    ("view", 1): "a camera farther than was measured, a view that widens as the lens focuses close (breathing), or a"
    " rounded focal length",
    ("brightness", -1): "glass that passes less light than its f-number says (its T-number), a filter, or light that"
    " changed",
    ("brightness", 1): "light that changed, or a camera that lifts its pictures",
    ("snr", 1): "noise reduction in the camera, or a sensor ahead of its generation",
    ("snr", -1): "a sensor behind its generation, or less light on it than its marks say",
    ("disc", 1): "a point farther from the plane of focus than was measured, or a pupil larger than marked",
    ("disc", -1): "a point nearer to the plane of focus than was measured, or a pupil smaller than marked",
    ("near", -1): "focus that lay nearer than was meant, or a milder eye for what is sharp",
    ("near", 1): "focus that lay farther than was meant, or a stricter eye for what is sharp",
    ("far", 1): "focus that lay farther than was meant, or a milder eye for what is sharp",
    ("far", -1): "focus that lay nearer than was meant, or a stricter eye for what is sharp",
    ("total", 1): "a milder eye for what is sharp, or a ruler that stood flatter",
    ("total", -1): "a stricter eye for what is sharp, or a ruler that stood steeper",
    ("pixels", 1): "a subject nearer than was measured, or a longer focal length than marked",
    ("pixels", -1): "a subject farther than was measured, or a shorter focal length than marked",
    ("range", 1): "a sensor ahead of its generation, or shadows that were smoothed",
    ("range", -1): "a sensor behind its generation, or a picture that was not kept raw",
}  # fmt: skip
"""What would explain a figure that was off upwards (1) or downwards (-1)."""
DOUBTS = {
    "reduced": "The patch is smoother than light allows. The camera reduced noise, so this figure is too good.",
    "sharpened": "The edge was sharpened, so this figure is too good.",
    "low": "The edge has little contrast.",
    "bent": "The edge is a little bent.",
    "periodic": "The edge is at an angle that repeats over the pixels. Turn it a little.",
    "resized": "The picture has other pixels than the camera recorded: it was made smaller or cut.",
    "cut": "The disc is cut to a cat’s eye, so its full circle was taken.",
}
LENS_UNKNOWN = (
    "How sharp this lens is at these stops is not on record, and that changes from stop to stop too. Add it to its"
    " record."
)
SAME, SAME_STOPS = 0.005, 0.05


@dataclass(frozen=True)
class ProofLine:
    """A verdict as it is read: what it is of, the sentence, how it came out, and what else is to be known.

    off_of_allowed: by how much it was off, as a multiple of what was allowed; None where nothing is allowed to either
        side
    """

    label: str
    says: Sentence
    outcome: Outcome
    more: tuple[str, ...] = ()
    off_of_allowed: float | None = None

    @property
    def verdict(self) -> str:
        return OUTCOMES[self.outcome]


@dataclass(frozen=True)
class BroughtBack:
    """What came back of a shot.

    taken: the comparison at the settings at which it and that of the reference were taken; rig: its index; times: how
        many frames it is
    readings: off its pictures; first: off those of the reference's shot of the same trial, unless it is that
    run: off all shots of its trial with its camera, by f-number; f_number: its own
    """

    taken: Comparison
    rig: int
    times: int
    readings: Mapping[str, PictureReading]
    first: Mapping[str, PictureReading]
    run: Mapping[float, Mapping[str, PictureReading]]
    f_number: float


def by_scales(back: BroughtBack) -> list[ProofLine]:
    """Each figure by its scale, against the reference's where both were read.

    Parameters
        back: what was brought back of a shot
    Returns
        one for each figure that was read
    """
    taken, proofs = back.taken, []
    for what, reading in back.readings.items():
        if what in SCALES:
            beside = back.first.get(what) if what == "snr" else None
            if what == "snr":
                reading = judged_reading(taken, back.rig, reading)
                beside = beside and judged_reading(taken, taken.reference, beside)
            proofs.append(prove(expected(taken, back.rig, what, against_first=beside is not None), reading, beside))
    if "level" in back.readings and "level" in back.first:
        stops = log2(back.readings["level"].value / back.first["level"].value)
        proofs.append(prove(expected(taken, back.rig, "brightness"), PictureReading(stops, 0.05)))
    return [line(proof, taken.reference) for proof in proofs if proof is not None]


def judged_reading(taken: Comparison, index: int, reading: PictureReading) -> PictureReading:
    """Signal to noise read off a picture, which is of the whole of it at its output size, as the school in force judges
    it.

    Parameters
        taken: as the pictures were taken
        index: of the rig
        reading: signal to noise of the whole picture
    Returns
        the same by the school in force
    """
    light = taken.of(index).light
    return replace(reading, value=reading.value * light.snr / light.snr_picture)


def line(proof: Proof, first: int) -> ProofLine:
    """A proof in words.

    Parameters
        proof: a figure predicted and read
        first: the place of the reference
    Returns
        its sentence, its outcome and what may be the cause
    """
    scale, relative = proof.scale, proof.is_relative
    said = "at least " if proof.bound == "least" else "at most " if proof.bound == "most" else ""
    figures = {"tolerance": _size(proof.what, proof.tolerance), "off": _size(proof.what, abs(proof.off))}
    if proof.what == "brightness":
        head = (
            _stops_apart("measured", proof.measured, figures)
            + ", "
            + _stops_apart("predicted", proof.predicted, figures)
        )
    elif relative:
        head = (
            said
            + _times_apart("measured", proof.measured, figures)
            + ", "
            + _times_apart("predicted", proof.predicted, figures)
        )
    else:
        figures |= {"measured": Figure(proof.measured, scale.kind), "predicted": Figure(proof.predicted, scale.kind)}
        head = f"{said}{{measured}} measured, {{predicted}} predicted"
        if proof.noted is not None:
            figures["noted"] = Figure(proof.noted, scale.kind)
            head = "{noted} noted, so the limit is at about {measured}, {predicted} predicted"
    if relative:
        figures["first"] = Figure(first, "rig")
    if proof.outcome is Outcome.HELD:
        is_same = abs(proof.off) <= (SAME_STOPS if scale.is_stops else SAME)
        tail = "the same, and {tolerance} was allowed" if is_same else "{off} apart, and {tolerance} was allowed"
    elif proof.outcome is Outcome.MISSED:
        way = {True: "more", False: "less"}[proof.off > 0]
        tail = f"{{off}} {way}, and {{tolerance}} was allowed"
    elif proof.bound:
        tail = "the picture does not say more"
    else:
        tail = "{tolerance} was allowed, too much to tell"
    used = {key: value for key, value in figures.items() if f"{{{key}}}" in head + tail}
    cause = CAUSES.get((proof.what, 1 if proof.off > 0 else -1)) if proof.outcome is Outcome.MISSED else None
    more = [f"It could be {cause}."] if cause else []
    more += [DOUBTS[doubt] for doubt in proof.doubts if doubt in DOUBTS]
    off = None if proof.bound or not proof.tolerance else proof.off / proof.tolerance
    return ProofLine(LABELS[proof.what], Sentence(f"{head}: {tail}", used), proof.outcome, tuple(more), off)


def _size(what: str, value: float) -> Figure:
    return Figure(value, "stops" if SCALES[what].is_stops else "share")


def _times_apart(word: str, ratio: float, figures: dict[str, Figure]) -> str:
    """A figure against that of the reference, as measured or as predicted."""
    if abs(ratio - 1) <= SAME:
        return f"the same as {{first}} {word}" if word == "measured" else f"the same {word}"
    figures[word] = Figure(ratio, "times")
    return f"{{{word}}} that of {{first}} {word}" if word == "measured" else f"{{{word}}} {word}"


def _stops_apart(word: str, stops: float, figures: dict[str, Figure]) -> str:
    """Brightness against the reference, as measured or as predicted."""
    if abs(stops) < SAME_STOPS:
        return f"as bright as {{first}} {word}" if word == "measured" else f"as bright {word}"
    figures[word] = Figure(abs(stops), "stops")
    return f"{{{word}}} {'brighter' if stops > 0 else 'darker'} {'than {first} ' if word == 'measured' else ''}{word}"


def along_the_run(back: BroughtBack) -> list[ProofLine]:
    """A stop of a run against the sharpest of the wider ones.

    Parameters
        back: what was brought back of a run of stops
    Returns
        one for the stop, or none where it was not measured
    """
    run = {stop: readings["mtf50"] for stop, readings in back.run.items() if "mtf50" in readings}
    here = run.get(back.f_number)
    if here is None:
        return []
    doubts = tuple(DOUBTS[doubt] for doubt in here.doubts if doubt in DOUBTS)
    figures = {"mtf50": Figure(here.value, "number")}
    head = f"{'at least ' if here.bound else ''}{{mtf50}} cycles per pixel at half contrast"
    rise = back.readings.get("rise")
    if rise is not None:
        head += ", {rise} pixels from 10 to 90%"
        figures["rise"] = Figure(rise.value, "number")
    softened = softening(back.taken, back.rig, run, back.f_number)
    if softened is None:
        return [
            ProofLine(
                LABELS["mtf50"], Sentence(f"{head}, with no wider stop to compare", figures), Outcome.BASE, doubts
            )
        ]
    figures |= {
        "wider": Figure(softened.wider, "f"), "loss": Figure(abs(softened.measured), "share"),
        "predicted": Figure(abs(softened.predicted), "share"),
        "tolerance": Figure(softened.tolerance, "share"),
    }  # fmt: skip
    sides = ["softer" if share >= 0 else "sharper" for share in (softened.measured, softened.predicted)]
    text = (
        f"{head}: {{loss}} {sides[0]} than at {{wider}} measured, {{predicted}} {sides[1]} predicted, and"
        " {tolerance} was allowed"
    )
    if softened.outcome is Outcome.OPEN and not softened.lens_known:
        doubts = (LENS_UNKNOWN, *doubts)
    off = softened.off / softened.tolerance
    return [ProofLine(LABELS["mtf50"], Sentence(text, figures), softened.outcome, doubts, off)]


def points_or_trails(back: BroughtBack) -> list[ProofLine]:
    """Whether the stars are what the time says.

    Parameters
        back: what was brought back of a shot
    Returns
        one, or none where it is not known how long stars are points
    """
    are_points = back.readings["points"].value > 0
    outcome = points_held(back.taken, back.rig, are_points)
    if outcome is None:
        return []
    seen = "points seen" if are_points else "drawn out as seen"
    time = Figure(back.taken.of(back.rig).settings.shutter_s, "time")
    return [ProofLine(LABELS["points"], Sentence(f"{seen} at {{time}}", {"time": time}), outcome)]


def most_of_them(back: BroughtBack) -> list[ProofLine]:
    """Whether most frames are sharp.

    Parameters
        back: what was brought back of a shot
    Returns
        one
    """
    sharp = round(back.readings["steady"].value)
    figures = {"sharp": Figure(sharp, "number"), "frames": Figure(back.times, "number")}
    says = Sentence("{sharp} of {frames} sharp, most of them predicted", figures)
    return [ProofLine(LABELS["steady"], says, steady_held(sharp, back.times))]


def counted(lines: list[ProofLine]) -> str:
    """How a whole sheet came out.

    Parameters
        lines: of all shots
    Returns
        one sentence
    """
    count = Counter(proof_line.outcome for proof_line in lines)
    parts = [f"{count[outcome]} {word}" for outcome, word in (
        (Outcome.HELD, "as predicted"), (Outcome.MISSED, "not as predicted"), (Outcome.OPEN, "too close to tell"),
    ) if count[outcome]]  # fmt: skip
    return ", ".join(parts)


def said(proof_line: ProofLine) -> str:
    """A verdict's sentence as it is read.

    Parameters
        proof_line: a line of a sheet
    Returns
        as it is read
    """
    return wording.sentence(proof_line.says)

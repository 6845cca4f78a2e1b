"""Diffraction: from where it shows, and how large its disc is."""

from __future__ import annotations

from cambrel import wording
from cambrel.ask.answer_benches import on_bench, slot_of
from cambrel.ask.question_kind import AnswerFigure, GivenLine, Kind, Reply
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS
from cambrel.optics.diffraction import AIRY_FACTOR, airy_disc_um, diffraction_limited_f_number
from cambrel.optics.workings import Term, Working, term, working


def _light(wavelength_nm: float) -> tuple[Term, Term]:
    ring = term("a", "the first dark ring, in units of λ N", AIRY_FACTOR)
    return ring, term("λ", "wavelength of the light, nm", wavelength_nm)


def _limit(given: GivenLine) -> Reply:
    circle, pitch, wavelength_nm = given.circle_mm, given.sensor.pixel_pitch_um, given.terms.conventions.wavelength_nm
    figures, parts = [], []
    lines = []
    if circle is not None:
        limit = float(diffraction_limited_f_number(1000 * circle, wavelength_nm=wavelength_nm))
        parts.append(f"Diffraction shows in the print from {wording.f_number(limit)} {given.where}")
        figures.append(AnswerFigure("limit in the print", limit, "f"))
        lines.append(_limit_working(1000 * circle, limit, wavelength_nm))
    if pitch is not None:
        at_pixels = float(diffraction_limited_f_number(2 * pitch, wavelength_nm=wavelength_nm))
        parts.append(f"{'at' if parts else 'Diffraction shows at'} 100 percent from {wording.f_number(at_pixels)}")
        figures.append(AnswerFigure("limit at two pixels", at_pixels, "f"))
        if not lines:
            lines.append(_limit_working(2 * pitch, at_pixels, wavelength_nm))
    says = ", and ".join(parts) + "."
    n = given.one("f_number")
    if n is not None:
        disc = float(airy_disc_um(n, wavelength_nm=wavelength_nm))
        limit = figures[0].value
        verdict = (
            f"Yes, {wording.f_number(n)} is past it." if n > limit else f"No, {wording.f_number(n)} is not there yet."
        )
        says = f"{verdict} {says}"
        figures.append(AnswerFigure("Airy disc", disc, "um"))
    if pitch is None:
        says += " Its pixel count would say from where it shows at 100 percent."
    criterion = CIRCLE_OF_CONFUSION_SCHOOLS[given.terms.conventions.criterion].judge
    assumed = (*given.assumed, f"“Shows” means that the Airy disc is larger than {criterion}.")
    return Reply(
        says,
        tuple(figures),
        tuple(lines),
        assumed,
        (on_bench(given, slot_of(given.named, 50.0, n), panel="sharpness"),),
    )


def _limit_working(criterion_um: float, limit: float, wavelength_nm: float) -> Working:
    seen = term("c", "disc that is still not seen", criterion_um, "um")
    return working("N", "1000 × c / (a × λ)", limit, "f", seen, *_light(wavelength_nm))


def _airy(given: GivenLine) -> Reply:
    n, wavelength_nm = given.sure("f_number"), given.terms.conventions.wavelength_nm
    disc = float(airy_disc_um(n, wavelength_nm=wavelength_nm))
    says = (
        f"{wording.micrometres(disc)} across at {wording.f_number(n)}, in light of"
        f" {wording.significant(wavelength_nm)}{wording.NBSP}nm. It is the same on any format."
    )
    line = working("D", "a × λ × N / 1000", disc, "um", *_light(wavelength_nm), term("N", "f-number", n, "f"))
    figures = [AnswerFigure("Airy disc", disc, "um")]
    pitch = given.sensor.pixel_pitch_um
    if pitch is not None:
        figures.append(AnswerFigure("in pixels", disc / pitch, "number"))
        says += f" That is {wording.significant(disc / pitch)} pixels of {wording.micrometres(pitch)}."
    assumed = () if not given.statement.sensors else tuple(given.assumed)
    return Reply(says, tuple(figures), (line,), assumed)


KINDS = (
    Kind(
        "diffraction",
        "Diffraction limit",
        ("sensor megapixels? f_number?", "sensor? megapixels f_number?", "sensor? pitch f_number?", "sensor? f_number"),
        _limit,
        ("diffraction limit mft", "diffraction limit 45 mp ff"),
        frozenset({"diffraction"}),
        frozenset({"aperture", "depth", "size", "format", "pixel_size", "pixels", "light"}),
        weight=1,
    ),
    Kind(
        "airy",
        "Airy disc",
        ("f_number sensor? megapixels? pitch?",),
        _airy,
        ("airy disc at f/8",),
        frozenset({"airy"}),
        frozenset({"size", "diffraction", "aperture", "diagonal"}),
        weight=2,
    ),
)

"""What a film asks of each camera, in words: filter or missing light, its mode, flicker, leaning lines and pans."""

from __future__ import annotations

from math import isfinite

from cambrel.comparison.brief import DELIVERIES, Brief
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.moving_pictures import FilmFigures, does_rate, is_steady, steady_angle_deg
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.wording.sentences import LEVEL_STOPS, Sentence

LEANS_DEG = 1.0
"""Below this an upright line looks upright."""
COARSE = 0.97
"""Of the pixels that are delivered, each way: fewer recorded ones are stretched."""


def says_light(rig: RigFigures, film: FilmFigures) -> Sentence:
    """What is left over of the light, or short of it, at the f-number in force.

    Parameters
        rig, film: its figures, and those of the film
    Returns
        one sentence
    """
    figures = {
        "f": Figure(rig.settings.f_number, "f"),
        "t": Figure(film.shutter_s, "s"),
        "iso": Figure(film.needed_iso, "iso"),
    }
    lead = "At {f} and {t} it takes {iso}"
    if film.filter_stops > LEVEL_STOPS:
        figures["filter"] = Figure(film.filter_stops, "n-stop")
        return Sentence(lead + ", below its base ISO: put a {filter} neutral filter on, or stop down.", figures)
    if film.short_stops > LEVEL_STOPS:
        figures["short"] = Figure(film.short_stops, "stops")
        return Sentence(lead + ", {short} beyond its highest ISO: add light, or open the lens.", figures)
    if is_unknown(film.filter_stops) or is_unknown(film.short_stops):
        return Sentence(lead + ". Whether the camera goes there is not known.", figures)
    return Sentence(lead + ", which it has.", figures)


def says_mode(brief: Brief, rig: RigFigures, film: FilmFigures) -> Sentence:
    """Whether what records does the frames that are asked for, and the pixels of delivery.

    Parameters
        brief: a film
        rig, film: its figures, and those of the film
    Returns
        one sentence
    """
    rate = {"rate": Figure(brief.frame_rate or 0.0, "number")}
    if rig.rig.recorded is None and not rig.rig.body.modes:
        return Sentence("Its record names no mode for video.", {})
    if rig.rig.recorded is None:
        return Sentence("Choose a mode for video under Records: the whole sensor is for still pictures.", {})
    if is_unknown(film.mode_rate):
        return Sentence("Whether its mode does {rate} frames a second is not known.", rate)
    if not does_rate(film.mode_rate, brief.frame_rate or 0.0):
        return Sentence("Its mode ends at {most} frames a second.", {"most": Figure(film.mode_rate, "number")})
    size = Figure(DELIVERIES[brief.delivery].label, "word")
    if film.pixels_share < COARSE:
        share = {"size": size, "share": Figure(film.pixels_share, "share")}
        return Sentence("Its mode has only {share} of the pixels of {size} each way: the picture is stretched.", share)
    if is_unknown(film.pixels_share):
        return Sentence("Its mode does {rate} frames a second.", rate)
    return Sentence("Its mode does {rate} frames a second, with pixels enough for {size}.", rate | {"size": size})


def says_lean(brief: Brief, film: FilmFigures) -> Sentence | None:
    """How far an upright line of the moving subject leans while the sensor is read.

    Parameters
        brief: a film
        film: of one rig
    Returns
        None where nothing moves
    """
    if not brief.subject_speed_m_per_s > 0:
        return None
    if is_unknown(film.lean_deg):
        return Sentence("How far vertical lines of the subject lean is not known. Its record does not say.", {})
    lean = {"lean": Figure(film.lean_deg, "deg")}
    if film.lean_deg < LEANS_DEG:
        return Sentence("Vertical lines of the subject stay vertical.", {})
    return Sentence("Vertical lines of the subject lean by {lean}, as the sensor is read from top to bottom.", lean)


def says_flicker(brief: Brief, film: FilmFigures) -> Sentence | None:
    """Whether lamps on the mains flicker, and the nearest angle at which they do not.

    Parameters
        brief: a film
        film: of any rig, as all have one shutter time
    Returns
        None where no lamps are on the mains
    """
    if brief.mains_hz is None or brief.frame_rate is None:
        return None
    figures = {"t": Figure(film.shutter_s, "s"), "mains": Figure(brief.mains_hz, "number")}
    if is_steady(film.shutter_s, brief.mains_hz):
        return Sentence("Lamps on {mains} Hz do not flicker at {t}.", figures)
    angle = steady_angle_deg(brief.frame_rate, brief.shutter_angle_deg, brief.mains_hz)
    if not isfinite(angle):
        return Sentence(
            "Lamps on {mains} Hz flicker at any angle: so many frames a second are too fast for them.", figures
        )
    figures |= {"angle": Figure(angle, "deg"), "steady": Figure(angle / 360 / brief.frame_rate, "s")}
    return Sentence("Lamps on {mains} Hz may flicker at {t}. Take {angle}, which is {steady}.", figures)


def says_pan(film: FilmFigures) -> Sentence:
    """How fast to pan.

    Parameters
        film: of one rig
    Returns
        one sentence
    """
    figures = {"pan": Figure(film.pan_deg_s, "deg"), "smear": Figure(film.pan_smear_share, "share")}
    text = "Pan no faster than {pan} a second, seven seconds across the frame. Each frame then smears by {smear}."
    if isfinite(film.sharp_pan_deg_s) and film.sharp_pan_deg_s < film.pan_deg_s:
        figures["sharp"] = Figure(film.sharp_pan_deg_s, "deg")
        text += " For sharp frames no faster than {sharp} a second."
    return Sentence(text, figures)


def film_says(comparison: Comparison, rig: RigFigures, film: FilmFigures) -> list[Sentence]:
    """All that is said of one camera on a film.

    Parameters
        comparison: of a brief that is a film
        rig, film: its figures, and those of the film
    Returns
        in the order in which they are shown
    """
    said = [
        says_light(rig, film),
        says_mode(comparison.brief, rig, film),
        says_lean(comparison.brief, film),
        says_pan(film),
    ]
    return [sentence for sentence in said if sentence is not None]

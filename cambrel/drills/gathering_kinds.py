"""Questions of light, noise and what is said of a lens, in the order in which they are learnt."""

from __future__ import annotations

from dataclasses import replace
from math import inf

from cambrel.comparison.brief import Brief, Hold
from cambrel.comparison.rig import Rig
from cambrel.drills import carrying, gathering, seeing
from cambrel.drills.gathering import SHUTTER_KEPT
from cambrel.drills.given import Given
from cambrel.drills.kind import ONE_DEPTH, ONE_FOCAL, ONE_NUMBER, ONE_VIEW, TWICE, DrillKind, Needs, Pair, Words
from cambrel.drills.posing import F_NUMBER, IN_STOPS, STEPS_OF_TWO
from cambrel.drills.seeing import SAME_LENS
from cambrel.optics.geometry import object_distance_for_magnification_m


def _second_settings(given: Given, brief: Brief, rigs: tuple[Rig, Rig]) -> Pair:
    """The other camera at its own settings."""
    first, second = rigs
    return brief, (
        first,
        replace(second, f_number=given.second_f_number, shutter_s=given.second_shutter_s, iso=given.second_iso),
    )


def _close_up(given: Given, brief: Brief, rigs: tuple[Rig, Rig]) -> Pair:
    near = float(object_distance_for_magnification_m(given.focal_mm, given.magnification))
    return replace(brief, distance_m=near, subject_height_m=0.06, background_m=0.3), rigs


def _under_stars(given: Given, brief: Brief, rigs: tuple[Rig, Rig]) -> Pair:
    return replace(brief, declination_deg=0.0, background_m=inf, light_ev=-3.0), rigs


GATHERING = (
    DrillKind(
        "exposure",
        "signed",
        IN_STOPS,
        gathering.exposure,
        gathering.exposure_slips,
        gathering.brightness,
        words=Words(
            "Which is brighter?",
            "A: {N}, {t}, {S}. B: {N2}, {t2}, {S2}. By how many stops is B’s picture brighter than A’s, in the same"
            " light? Minus where it is darker.",
            {
                "crop_on_f_number": (
                    "The f-number was converted: brightness goes by the f-number as it is set, on any format."
                ),
                "crop_on_shutter": "The crop factor was put on the shutter time: no format changes what a time is.",
                "inverted": "Turned round: that is by how much A is brighter.",
                "linear": (
                    "The f-number was counted once: the light goes by its square, so that from f/2 to f/4 it is two"
                    " stops."
                ),
            },
            (
                "B’s picture is darker than A’s.",
                "B’s picture is as bright as A’s.",
                "B’s picture is brighter than A’s.",
            ),
            (
                "at the same f-number, shutter time and ISO",
                "at the f-number for the same depth of field, with shutter time and ISO kept",
            ),
            "stops",
            "light",
            Hold("own", "spot", "own", "own"),
            argued="f-number",
        ),
        staged=_second_settings,
    ),
    DrillKind(
        "total_light",
        "signed",
        IN_STOPS,
        gathering.total,
        gathering.total_slips,
        gathering.total_sizes,
        words=Words(
            "Light in the whole picture",
            "At the same f-number and shutter time: by how many stops does B gather more light in the whole picture"
            " than A? Minus where it is less.",
            {
                "linear": "That is the crop factor in stops once: light goes by the area, which is twice as many.",
                "unchanged": (
                    "Light on each square millimetre is the same; the whole picture has as many more of them as its"
                    " frame is larger."
                ),
                "inverted": "Turned round: at one f-number the larger frame gathers more.",
                "ratio": "The ratio of the areas was taken for stops: a stop is a factor of two.",
            },
            (
                "B gathers less light in the whole picture than A, at the same shutter time.",
                "B gathers as much light in the whole picture as A, at the same shutter time.",
                "B gathers more light in the whole picture than A, at the same shutter time.",
            ),
            (ONE_NUMBER, ONE_DEPTH),
            "stops",
            "light",
            SHUTTER_KEPT,
            argued="f-number",
        ),
    ),
    DrillKind(
        "noise",
        "iso",
        STEPS_OF_TWO,
        gathering.noise,
        gathering.noise_slips,
        gathering.cleaner,
        words=Words(
            "ISO for the same noise",
            "A is clean enough up to {S}. Up to which ISO is B, with a sensor of the same generation, where noise is"
            " judged {noise}?",
            {
                "unchanged": (
                    "ISO was carried over as it is. At the same ISO the larger {gatherer} has gathered more light."
                ),
                "linear": (
                    "The ratio of the sides was used once. Noise follows the light that is gathered, and so the area."
                ),
                "inverted": "Turned round. The larger {gatherer} is as clean at the higher ISO.",
                "other_school": (
                    "That is by the other school of noise. Here it is judged {noise}, which goes by the area of the"
                    " {gatherer}."
                ),
            },
            ("B’s picture is noisier than A’s.", "B’s picture is as noisy as A’s.", "B’s picture is cleaner than A’s."),
            (
                "judged over the whole picture, at the same f-number and shutter time",
                "judged by single pixels, at the same f-number and shutter time",
            ),
            panel="light",
            hold=SHUTTER_KEPT,
            lead="ISO",
            argued="big-pixels",
        ),
    ),
    DrillKind(
        "closeup",
        "stops",
        IN_STOPS,
        gathering.close,
        gathering.close_slips,
        gathering.close_sizes,
        words=Words(
            "Light lost close up",
            "On B the subject is shown at {m} times its size on the sensor. How many stops of light does that cost"
            " against the f-number that is marked?",
            {
                "unchanged": (
                    "Close up the lens stands farther from the sensor, so that the f-number marked promises too much."
                ),
                "linear": "Counted once: the effective f-number is larger by 1 + m, and light goes by its square.",
                "equivalent_magnification": (
                    "Worked out with the magnification in full-frame terms: light goes by the one on the sensor."
                ),
            },
            (
                "Close up, B loses less light than A.",
                "Close up, B loses as much light as A.",
                "Close up, B loses more light than A.",
            ),
            ("at the same magnification on the sensor", "with as much of the subject in the frame"),
            "stops",
            "closeup",
            SAME_LENS,
        ),
        needs=Needs(of_other=True, full_frame=(50, 135), changed=True),
        staged=_close_up,
        scene="gauge",
    ),
    DrillKind(
        "stars",
        "s",
        STEPS_OF_TWO,
        gathering.stars,
        gathering.stars_slips,
        gathering.stars_sizes,
        words=Words(
            "Seconds before stars trail",
            "{f} on B. For how many seconds may it be open by the 500 rule before stars trail?",
            {
                "unchanged": "The crop factor was forgotten: a smaller frame is enlarged more, and its trails with it.",
                "squared": (
                    "The crop factor was used twice: the rule has the equivalent focal length below, which has it once."
                ),
                "inverted": "Turned round: the rule divides by the crop factor, as it does by the focal length.",
            },
            (
                "B trails its stars sooner than A.",
                "B may be open as long as A before stars trail.",
                "B may be open longer than A before stars trail.",
            ),
            (ONE_FOCAL, ONE_VIEW),
            "s",
            "stars",
            SAME_LENS,
        ),
        needs=Needs(of_other=True, full_frame=(14, 35)),
        staged=_under_stars,
        scene="night",
    ),
    DrillKind(
        "advert",
        "f",
        F_NUMBER,
        gathering.advert,
        gathering.advert_slips,
        gathering.advert_sizes,
        words=Words(
            "Reading an advert",
            "B is advertised as “{said} {N}”; its lens is marked {f}. Which f-number should stand beside {said}, if"
            " depth of field and light are meant?",
            {
                "unchanged": (
                    "The advert converts the focal length and leaves the f-number: beside a converted focal length it"
                    " has to be converted as well."
                ),
                "inverted": "Turned round: on the larger frame the same opening is a larger f-number.",
                "squared": TWICE,
            },
            (
                "{N} on B does less than {N} on full frame.",
                "{N} on B does as much as {N} on full frame.",
                "{N} on B does more than {N} on full frame.",
            ),
            ("for the exposure", "for the light in the whole picture"),
            panel="light",
            lead="f/",
            argued="f-number",
        ),
        needs=Needs(of_other=True, full_frame=(21, 35), against_full_frame=True),
    ),
    DrillKind(
        "ladder",
        "f",
        F_NUMBER,
        seeing.same_depth,
        carrying.slips,
        carrying.sizes,
        words=Words(
            "In the head: your own two systems",
            "{N} on A. In the head: which f-number on B for the same depth and light?",
            {
                "inverted": "Turned round: the smaller frame has to open wider.",
                "half": "Moved half as far: a factor of two in the crop is two stops of the f-number, not one.",
                "unchanged": "It stayed where it was: only for the exposure nothing is converted.",
            },
            (
                "To do the same, B’s f-number has to be smaller than A’s.",
                "To do the same, B’s f-number has to be the same as A’s.",
                "To do the same, B’s f-number has to be larger than A’s.",
            ),
            ("for the exposure", "for depth of field and light"),
            panel="depth",
            lead="f/",
        ),
        needs=Needs(own=True),
    ),
)

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
                    "You converted the f-number. For brightness the f-number set counts, on any format."
                ),
                "crop_on_shutter": "You put the crop factor on the shutter time. No format changes a time.",
                "inverted": "The wrong way round: that is how much A is brighter.",
                "linear": (
                    "You counted the f-number once. The light depends on its square, so from f/2 to f/4 is two stops."
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
                "linear": "That is the crop factor in stops, once. Light depends on the area, which is twice as many.",
                "unchanged": (
                    "Light on each square millimetre is the same. A larger frame has that many more of them."
                ),
                "inverted": "The wrong way round: at one f-number the larger frame gathers more.",
                "ratio": "You took the ratio of the areas for stops. A stop is a factor of two.",
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
                    "You kept the ISO as it is. At the same ISO the larger {gatherer} has gathered more light."
                ),
                "linear": (
                    "You used the ratio of the sides once. Noise depends on the light gathered, and so on the area."
                ),
                "inverted": "The wrong way round. The larger {gatherer} is as clean at the higher ISO.",
                "other_school": (
                    "That is by the other way of judging noise. Here it is judged {noise}, which depends on the "
                    "area of the {gatherer}."
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
                    "Close up the lens is farther from the sensor, so the marked f-number promises too much."
                ),
                "linear": "You counted it once. The effective f-number is larger by 1 + m, and light depends on its "
                "square.",
                "equivalent_magnification": (
                    "You used the magnification in full-frame terms. For light, the one on the sensor counts."
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
                "unchanged": "You forgot the crop factor. A smaller frame is enlarged more, and its trails with it.",
                "squared": (
                    "You used the crop factor twice. The rule divides by the equivalent focal length, which has "
                    "it once."
                ),
                "inverted": "The wrong way round: the rule divides by the crop factor, as it does by the focal length.",
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
            "B is advertised as “{said} {N}”, and its lens is marked {f}. Which f-number should stand "
            "beside {said}, if depth of field and light are meant?",
            {
                "unchanged": (
                    "The advert converts the focal length and leaves the f-number. Beside a converted focal "
                    "length, convert the f-number as well."
                ),
                "inverted": "The wrong way round: on the larger frame the same opening is a larger f-number.",
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
                "inverted": "The wrong way round: the smaller frame has to open wider.",
                "half": "You moved half as far. A factor of two in the crop is two stops of the f-number, not one.",
                "unchanged": "You left it where it was. Only for exposure is nothing converted.",
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

"""What people argue about, each side right under its own terms: a comparison that shows it, and the sentence that it
comes to.

Every number is of the comparison that stands on the bench; what decides which side one is on is what is kept the same.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from cambrel.comparison.bench import Bench
from cambrel.comparison.engine import Comparison
from cambrel.drills.gathering import SHUTTER_KEPT
from cambrel.drills.seeing import SAME_LENS, SAME_PICTURE, WALKING
from cambrel.learn.argued import (
    DEPTH_KEPT,
    GOOD_LENS,
    ONE_SPOT,
    PORTRAIT,
    Chosen,
    corner,
    even,
    in_the_print,
    looms,
    middle,
    native,
    no_depth,
    on_the_sensor,
    one_camera,
    per_picture,
    per_pixel,
    pixels_reach,
    reaches,
    rule,
    softer,
    stays,
    stepped,
    stopped_down,
    today,
    tomorrow,
    with_pixels,
    yes_exposure,
)

OUTSIDE = (
    "Flare and veiling light.",
    "How a lens draws: its colours, the edges of its blur, its corners where the record is silent.",
    "How a camera handles: its weight in the hand, its finder, how fast it focuses and how well it follows.",
    "What a maker’s processing does to noise and detail.",
    "Whether you would rather carry it.",
)
"""What no formula here covers."""
CLOSE_M, FAR_M = 0.3, 20.0


@dataclass(frozen=True)
class DisputeSide:
    """claim: what this side says; terms: what it keeps the same; bench: the comparison; says: what it comes to there,
    from its figures

    one_scale: the pictures stand to the scale of the sensors, not to one size; grain: they are drawn with their noise;
    at_100_percent: a part of them, pixel for pixel
    """

    claim: str
    terms: str
    bench: Callable[[Chosen], Bench]
    says: Callable[[Comparison, Chosen], str]
    panel: str = "depth"
    one_scale: bool = False
    grain: bool = False
    at_100_percent: bool = False


@dataclass(frozen=True)
class Dispute:
    """A question that people argue about. settled: what both sides come to together."""

    key: str
    title: str
    sides: tuple[DisputeSide, ...]
    settled: str


DISPUTES = {
    dispute.key: dispute
    for dispute in (
        Dispute(
            "sensor-and-depth",
            "Does the sensor change depth of field?",
            (
                DisputeSide(
                    "No: the lens draws the image.",
                    "The same lens from the same spot, looked at on the sensor, to one scale.",
                    lambda t: t.bench(SAME_LENS),
                    on_the_sensor,
                    one_scale=True,
                ),
                DisputeSide(
                    "Yes: the smaller sensor has less.",
                    "The same lens from the same spot, each picture printed to one size.",
                    lambda t: t.bench(SAME_LENS),
                    in_the_print,
                ),
                DisputeSide(
                    "Yes: the smaller sensor has more.",
                    "The same view from the same spot at the same f-number, printed to one size.",
                    lambda t: t.bench(SAME_PICTURE),
                    in_the_print,
                ),
                DisputeSide(
                    "Yes: it has more once you step back.",
                    "The same lens, walking until the subject fills as much of the frame, printed to one size.",
                    lambda t: t.bench(WALKING),
                    in_the_print,
                ),
            ),
            "All four are right. The sensor does not change the picture that the lens draws. It changes "
            "how much of it is kept and how far that is enlarged, and so what you have to do for the "
            "same view.",
        ),
        Dispute(
            "compression",
            "Does a long lens compress?",
            (
                DisputeSide(
                    "Yes: from farther back the background looms.",
                    "The subject as large in the frame, from two distances with two lenses.",
                    lambda t: one_camera(t).bench(WALKING, focal=35.0, second=105.0),
                    looms,
                    "frames",
                ),
                DisputeSide(
                    "No: from one spot nothing changes.",
                    "Both lenses from the same spot.",
                    lambda t: one_camera(t).bench(ONE_SPOT, focal=35.0, second=105.0),
                    stays,
                    "frames",
                ),
            ),
            "The distance compresses, not the lens. The long lens lets you stand back and still fill the frame.",
        ),
        Dispute(
            "f-number",
            "Is f/2.8 always f/2.8?",
            (
                DisputeSide(
                    "Yes: for the exposure.",
                    "The same f-number, shutter time and ISO.",
                    lambda t: t.bench(SAME_PICTURE),
                    yes_exposure,
                    "light",
                ),
                DisputeSide(
                    "No: for depth, blur and noise.",
                    "The same view from the same spot, at the same f-number.",
                    lambda t: t.bench(SAME_PICTURE),
                    no_depth,
                    "light",
                ),
            ),
            "An f-number says how bright the picture is on each square millimetre, on every format. "
            "Depth, blur and the light of the whole picture depend on the opening itself, which is the "
            "focal length over the f-number.",
        ),
        Dispute(
            "reach",
            "Does the small sensor reach farther?",
            (
                DisputeSide(
                    "Yes: the subject is larger in the picture.",
                    "The same lens from the same spot, both pictures shown whole.",
                    lambda t: t.bench(SAME_LENS, focal=200.0, brief=replace(PORTRAIT, distance_m=15.0)),
                    reaches,
                    "frames",
                ),
                DisputeSide(
                    "Only if its pixels are finer.",
                    "The same lens from the same spot, counted in pixels on the subject.",
                    lambda t: t.bench(SAME_LENS, focal=200.0, brief=replace(PORTRAIT, distance_m=15.0)),
                    pixels_reach,
                    "sharpness",
                ),
            ),
            "A smaller frame is a crop made beforehand. What brings detail closer is more pixels on the "
            "subject, and a lens that can feed them.",
        ),
        Dispute(
            "stepping-back",
            "Does stepping back with a longer lens change depth?",
            (
                DisputeSide(
                    "No: depth of field stays.",
                    "The subject as large in the frame, at the same f-number: the zone that counts as sharp.",
                    lambda t: one_camera(t).bench(WALKING, focal=50.0, second=135.0),
                    stepped,
                ),
                DisputeSide(
                    "Yes: the background gets softer.",
                    "The subject as large in the frame, at the same f-number: the blur discs far behind it.",
                    lambda t: one_camera(t).bench(WALKING, focal=50.0, second=135.0),
                    softer,
                ),
            ),
            "Depth of field is about what is nearly in focus, background blur about what is far from it. They are two"
            " figures, and here only one of them moves. The perspective changes with the distance as well.",
        ),
        Dispute(
            "big-pixels",
            "Are big pixels cleaner?",
            (
                DisputeSide(
                    "Yes: pixel for pixel.",
                    "One frame with 48 and with 12 million pixels in the same light, looked at at 100 percent.",
                    lambda t: with_pixels(t, 3200.0),
                    per_pixel,
                    "light",
                    grain=True,
                    at_100_percent=True,
                ),
                DisputeSide(
                    "No: picture for picture.",
                    "The same two, shown at one size.",
                    lambda t: with_pixels(t, 3200.0),
                    per_picture,
                    "light",
                    grain=True,
                ),
            ),
            "Light in the whole picture depends on the frame, however it is divided. Shown smaller, many "
            "small pixels are averaged. Only in very little light does the noise of reading each of them "
            "show.",
        ),
        Dispute(
            "low-light",
            "Is the larger sensor better in low light?",
            (
                DisputeSide(
                    "Yes: at the same f-number.",
                    "The same view, f-number and shutter time, shown at one size.",
                    lambda t: t.bench(SHUTTER_KEPT, iso=3200.0),
                    per_picture,
                    "light",
                    grain=True,
                ),
                DisputeSide(
                    "No: at the same depth of field.",
                    "The same view, depth of field and shutter time, shown at one size.",
                    lambda t: stopped_down(t).bench(DEPTH_KEPT, iso=3200.0),
                    even,
                    "light",
                    grain=True,
                ),
            ),
            "It depends on what the picture needs. Where a shallow depth of field is fine, the larger frame gathers"
            " more light. Where both need the same depth of field, they gather the same.",
        ),
        Dispute(
            "for-later",
            "Should I buy lenses for a larger sensor now?",
            (
                DisputeSide(
                    "Yes: they fit both.",
                    "One lens on the camera of today and on the larger one of later.",
                    lambda t: t.bench(SAME_LENS),
                    tomorrow,
                    "frames",
                ),
                DisputeSide(
                    "No: today you use a part of them.",
                    "The same two, counted in light.",
                    lambda t: t.bench(SAME_LENS),
                    today,
                    "light",
                ),
            ),
            "A lens for the larger frame stays with you when you change. Until then you carry more of it than you use."
            " When you change, no formula knows.",
        ),
        Dispute(
            "exact",
            "Is the equivalence exact?",
            (
                DisputeSide(
                    "Yes: at a distance.",
                    "The same picture from the same spot, far from the subject.",
                    lambda t: t.bench(SAME_PICTURE, brief=replace(PORTRAIT, distance_m=FAR_M)),
                    rule,
                    "frames",
                ),
                DisputeSide(
                    "Not close up.",
                    "The same picture from the same spot, close to the subject.",
                    lambda t: t.bench(
                        SAME_PICTURE,
                        brief=replace(PORTRAIT, distance_m=CLOSE_M, subject_height_m=0.1, background_m=0.3),
                    ),
                    rule,
                    "frames",
                ),
            ),
            "The crop factor is the rule for distant subjects. Close up the lens moves away from the "
            "sensor, and the crop factor applies to the image distances instead of the focal lengths. "
            "Then depth, blur and light agree exactly again. No real lens is quite the ideal one of "
            "these sums.",
        ),
        Dispute(
            "sweet-spot",
            "Is a small sensor under a large lens sharper?",
            (
                DisputeSide(
                    "In the corners it may be.",
                    "One lens from the same spot: the corners of each picture. The lens here is made up, good in "
                    "the middle and weak far out.",
                    lambda t: t.bench(SAME_LENS, lens=GOOD_LENS),
                    corner,
                    "sharpness",
                ),
                DisputeSide(
                    "Not in the middle.",
                    "One lens from the same spot: the middle of each picture.",
                    lambda t: t.bench(SAME_LENS, lens=GOOD_LENS),
                    middle,
                    "sharpness",
                ),
                DisputeSide(
                    "Not against a lens made for the small sensor.",
                    "Both on the smaller frame: A has the large lens, B one that is as fine for this frame as the large"
                    " lens is for its own.",
                    native,
                    middle,
                    "sharpness",
                ),
            ),
            "The smaller frame uses the better middle of the lens, and enlarges it more. Which of the "
            "two wins in the corner depends on the lens.",
        ),
    )
}

"""The cautions of the work, once: short where they stand beside a picture or a sheet, in full on their own page. Pure.

They are the usual ones. Local rules, the owner of the ground and trained people come before anything said here.
"""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Caution:
    """short: as it stands where it applies; more: what else is to be known; applies: on which pictures and pages it is
    said
    """

    key: str
    title: str
    short: str
    more: tuple[str, ...]
    applies: str


CAUTIONS = {
    caution.key: caution
    for caution in (
        Caution(
            "sun",
            "The sun",
            "Never point a long lens, or your eye behind an optical finder, at the sun.",
            (
                (
                    "A lens gathers the sun like a burning glass. An eye behind an optical finder is hurt before "
                    "it feels it, and a sensor burns."
                ),
                (
                    "With the sun in the frame use the screen, a short focal length and a short moment. Cap a "
                    "lens that is not in use."
                ),
                (
                    "For the sun itself use a filter made for it, before the lens, and follow its maker and those who"
                    " observe the sun."
                ),
            ),
            "bright light with a long lens: field sheets, the viaduct, the Stars panel",
        ),
        Caution(
            "sensor",
            "Cleaning a sensor",
            "Leave a sensor to somebody trained. Blow first, touch it last.",
            (
                (
                    "Dark, sharp-edged spots that grow sharper at small apertures lie on the sensor. Light or soft"
                    " ones: look at the lens first."
                ),
                (
                    "On a lens: blow the grit away, then moisten the cloth and never the glass, and wipe from the"
                    " middle outwards."
                ),
                (
                    "Who is trained for it cleans a sensor with the camera off and its opening down, out of the wind,"
                    " with what is made for that sensor."
                ),
            ),
            "field sheets with small apertures, where dust shows",
        ),
        Caution(
            "track",
            "Trackside and private ground",
            "Stand only where the railway or the owner of the ground allows it. Local rules and their "
            "people come first.",
            (
                (
                    "A train is wider than its track, nearer than a long lens shows, and quiet from ahead. Look up from"
                    " the finder before you move."
                ),
                "No flash and no lamp towards a driver. No tripod, bag or strap where a train or a foot passes.",
            ),
            "moving subjects: field sheets, the dusk pass, the night mail",
        ),
        Caution(
            "night",
            "Alone at night",
            "Alone at night: tell someone where you are, and keep a light for the way.",
            (
                "Say when you are back. A charged telephone, warm clothes, and the way walked once by day.",
                "A red lamp keeps your eyes used to the dark. A white one is for walking.",
            ),
            "dark pictures: field sheets, the night mail, the Stars panel",
        ),
        Caution(
            "weight",
            "Heavy lens on a light mount",
            "Support a heavy lens itself, not by the mount.",
            (
                "Carry and mount it by its own foot, and keep a hand under it.",
                (
                    "A mount, an adapter or a tripod head gives way before it shows: keep within the load that its"
                    " maker states."
                ),
                "Put the lens on the head last and take it off first. Check every lock before you let go.",
            ),
            "lenses of a kilogram and a half and more: Fit",
        ),
        Caution(
            "path",
            "Tripods on paths",
            "Keep tripod legs off the path, and a hand on a heavy lens on a light mount.",
            (
                "Legs low and wide where people pass, one leg pointing at the subject, weight hung low in wind.",
                "Ask where a tripod is allowed. In a crowd use none.",
            ),
            "every field sheet",
        ),
    )
}
"""By key, in the order of their page."""

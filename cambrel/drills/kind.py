"""A kind of question as one object: how it is worked out, what the typical mistakes give, how it is said, and what it
is drawn from.

In the words A stands for the first camera, B for the other.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import isfinite

from cambrel import wording
from cambrel.comparison.brief import Brief, Hold
from cambrel.comparison.rig import Rig
from cambrel.drills.given import Given
from cambrel.drills.posing import MOST_SLIPS, UNCLEAR, AnswerScale, Posed, Slip, sign_of
from cambrel.drills.seeing import SAME_PICTURE, diffraction_limit
from cambrel.optics.formats import crop_factor
from cambrel.optics.noise_schools import NOISE_SCHOOLS
from cambrel.optics.workings import Working

EYE_F_NUMBER = 2.0
ONE_FOCAL, ONE_VIEW = "with the same focal length on both", "with the lens for the same view on each"
ONE_NUMBER, ONE_DEPTH = "at the same f-number", "at the f-number for the same depth of field"
TWICE = "You used the crop factor twice. Lengths and f-numbers take it once, areas and ISO its square."
Pair = tuple[Brief, tuple[Rig, Rig]]
"""The picture and the two rigs that a case is shown with."""


@dataclass(frozen=True)
class Words:
    """How a kind is said.

    skill: what one can who answers it; asks: the question, with the figures of what was given in braces; unit: what is
        typed behind the number
    slips: by the mistake, what was done; claims: the sentence to be judged, of B against A: less, the same, more;
        terms: under which it may hold
    panel, hold: how the case is shown on the bench; two_lenses: it is about two lenses on one camera
    """

    skill: str
    asks: str
    slips: Mapping[str, str]
    claims: tuple[str, str, str]
    terms: tuple[str, str]
    unit: str = ""
    panel: str = "frames"
    hold: Hold = SAME_PICTURE
    two_lenses: bool = False
    eye: tuple[str, ...] = ()
    """Two pictures to tell apart: what is asked of them, and what whoever confuses them overlooks."""
    argued: str = ""
    """Which argument it is about."""
    lead: str = ""
    """Before the figure that is answered."""

    def claim(self, given: Given) -> str:
        return self.asked_of(self.claims[given.claim + 1], given)

    def question(self, given: Given) -> str:
        return self.asked_of(self.asks, given)

    def asked_of(self, text: str, given: Given) -> str:
        """A text with the figures of what was given."""
        other = crop_factor(given.other, by=given.crop_by)
        pixels = given.other.pixels_wide or 0
        whole = pixels * (given.other.pixels_high or pixels * given.other.height_mm / given.other.width_mm) / 1e6
        pitches = [1000 * s.width_mm / s.pixels_wide if s.pixels_wide else 0.0 for s in (given.one, given.other)]
        figures = {
            "f": wording.focal(given.focal_mm),
            "f2": wording.focal(given.second_focal_mm),
            "N": wording.f_number(given.f_number),
            "N2": wording.f_number(given.second_f_number),
            "t": wording.shutter(given.shutter_s),
            "t2": wording.shutter(given.second_shutter_s),
            "S": wording.iso(given.iso),
            "S2": wording.iso(given.second_iso),
            "u": wording.distance(given.distance_m),
            "W": wording.distance(given.field_m),
            "D": wording.focal(given.circle_mm),
            "m": wording.significant(given.magnification),
            "P": wording.significant(whole),
            "p1": wording.micrometres(pitches[0]),
            "p2": wording.micrometres(pitches[1]),
            "c": wording.focal(given.circle_of_confusion_mm(given.other)),
            "limit": wording.f_number(diffraction_limit(given, given.one)),
            "said": wording.focal(given.focal_mm * other),
            "noise": NOISE_SCHOOLS[given.noise].judged,
            "gatherer": NOISE_SCHOOLS[given.noise].collector,
            "steps": "longer" if given.second_focal_mm > given.focal_mm else "shorter",
        }
        return wording.articled(text.format_map(figures))


@dataclass(frozen=True)
class Needs:
    """What a kind of question is drawn from.

    of_other: whether the lens is on the camera that is asked about
    full_frame: the focal lengths it is asked about, in full-frame terms
    one_lens: one lens goes on both cameras; changed: another lens can be put on the one that carries it; two_lenses:
        another focal length, too
    from_smaller: the first frame is the smaller; against_full_frame: the first is full frame; own: of the reader's own
        two systems
    """

    of_other: bool = False
    full_frame: tuple[float, float] = (14, 400)
    one_lens: bool = False
    changed: bool = False
    two_lenses: bool = False
    from_smaller: bool = False
    against_full_frame: bool = False
    own: bool = False


def _usual_pair(given: Given, crop: float) -> Given:
    """A short telephoto, wide open."""
    return replace(given, focal_mm=float(f"{70 / crop:.2g}"), f_number=EYE_F_NUMBER, distance_m=2.0)


@dataclass(frozen=True)
class DrillKind:
    """One thing that people get wrong.

    unit: the kind of figure that is answered
    sizes: what the sentence to be judged is about, of the other frame against the first under either of two terms, as
        signed multiples of the smallest difference worth saying
    words: how it is said; needs: what it is drawn from
    scene: where its case is shown on the bench; staged: the picture and the cameras as they are shown there
    seen_with: settings at which two pictures of the case differ for everybody to see, of whatever lens has them; crop:
        of the first frame
    """

    key: str
    unit: str
    scale: AnswerScale
    working: Callable[[Given], Working]
    slips: Callable[[Given, float], dict[str, float]]
    sizes: Callable[[Given], tuple[float, float]]
    words: Words
    needs: Needs = Needs()
    scene: str = "footplate"
    staged: Callable[[Given, Brief, tuple[Rig, Rig]], tuple[Brief, tuple[Rig, Rig]]] = lambda given, brief, rigs: (
        brief,
        rigs,
    )
    seen_with: Callable[[Given, float], Given] = _usual_pair

    def pose(self, given: Given) -> Posed:
        """The question with its answers."""
        line = self.working(given)
        right = float(line.result.value)
        made = [Slip(key, value) for key, value in self.slips(given, right).items() if isfinite(value)]
        known = self._told_apart(right, made, 1.0)
        return Posed(right, known, self._told_apart(right, known, self.scale.at_a_glance)[:MOST_SLIPS], line)

    def _told_apart(self, right: float, slips: Sequence[Slip], by: float) -> tuple[Slip, ...]:
        """The mistakes whose answers are farther than that from the right one and from those of the mistakes before
        them.
        """
        kept: list[Slip] = []
        for slip in slips:
            others = [right, *(mistake.value for mistake in kept)]
            if all(self.scale.apart(slip.value, other) > by for other in others):
                kept.append(slip)
        return tuple(kept)

    def is_right(self, given: Given, said: float) -> bool:
        """Whether an answer is as near as is asked for."""
        return bool(self.scale.apart(said, self.pose(given).right) <= 1)

    def slip_of(self, given: Given, said: float) -> str:
        """Which mistake gives an answer, the nearest where several do; empty where none does."""
        near = [(self.scale.apart(said, slip.value), slip.key) for slip in self.pose(given).slips]
        distance, key = min(near, default=(float("inf"), ""))
        return key if distance <= 1 else ""

    def holds(self, given: Given) -> tuple[bool, bool]:
        """Whether the sentence is true under the first terms, and under the second."""
        first, second = (sign_of(size) == given.claim for size in self.sizes(given))
        return first, second

    def is_clear(self, given: Given) -> bool:
        """Whether nothing that is to be judged is near to the smallest difference worth saying."""
        low, high = UNCLEAR
        return all(isfinite(size) and not low < abs(size) < high for size in self.sizes(given))

"""Whether noise is seen: signal to noise of mid-grey against what is found excellent and what is still acceptable.

Source: ISO 12232, where a ratio of 40 is excellent and one of 10 acceptable; a reader may have others.
"""

from __future__ import annotations

from enum import StrEnum

from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.optics.quantities import is_unknown


class Noise(StrEnum):
    """What is seen of a camera's noise."""

    CLEAN = "clean"
    SEEN = "seen"
    DISTURBING = "disturbing"
    UNKNOWN = "not known"


def noise_state(comparison: Comparison, rig: RigFigures) -> Noise:
    """What is seen of the noise of a rig as it is set, as noise is judged.

    Parameters
        comparison: whose school of noise is in force
        rig: one of it
    Returns
        unknown where its noise is
    """
    terms, snr = comparison.conventions, rig.light.snr
    if is_unknown(snr):
        return Noise.UNKNOWN
    if snr < terms.disturbing_snr:
        return Noise.DISTURBING
    return Noise.SEEN if snr < terms.seen_snr else Noise.CLEAN

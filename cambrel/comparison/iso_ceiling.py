"""The noise that a photographer still finds clean enough: an ISO on one usual camera, kept once and carried over to
every other.
"""

from __future__ import annotations

import numpy as np

from cambrel.comparison.brief import Conventions
from cambrel.comparison.rig import Body
from cambrel.optics.formats import FULL_FRAME, Sensor
from cambrel.optics.noise_schools import Collecting, collecting, iso_as_noisy
from cambrel.optics.quantities import Quantity

USUAL_BODY = Body(Sensor(FULL_FRAME.width_mm, FULL_FRAME.height_mm, 6000))
"""The camera on which a ceiling is meant: full frame of 24 megapixels."""


def clean_iso(conventions: Conventions, made: Collecting) -> Quantity:
    """The ISO at which a picture is as noisy, by the school in force, as the usual camera makes one at the ceiling.

    Parameters
        made: what the picture is collected with, scalar or array
    Returns
        ISO; unknown (NaN) where the school depends on pixels that are not known
    """
    body, shown = USUAL_BODY, conventions.output_pixels
    own = collecting(
        body.sensor.pixels or np.nan,
        body.sensor.area_mm2,
        body.quantum_efficiency,
        body.offset_stops,
        body.read_noise_e,
        shown,
    )
    return iso_as_noisy(conventions.iso_ceiling, own, made, shown, conventions.noise)

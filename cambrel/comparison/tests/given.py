"""What the tests of the core share: rigs of named formats, random values, and closeness to 1e-9."""

from itertools import product

from hypothesis import strategies as st

from cambrel.comparison.engine import Body, Hold, Lens, Rig
from cambrel.comparison.hold_answers import APERTURE_HOLDS, EXPOSURE_HOLDS, LENS_HOLDS, PLACE_HOLDS
from cambrel.optics.formats import FORMATS, Sensor

ACCURACY = 1e-9

focal_lengths = st.floats(2, 800)
f_numbers = st.floats(0.7, 45)
ratios = st.floats(0.15, 6)
far_enough = st.floats(1.05, 5000)
"""Object distance as a multiple of the focal length."""

ALL_HOLDS = [Hold(*answers) for answers in product(LENS_HOLDS, PLACE_HOLDS, APERTURE_HOLDS, EXPOSURE_HOLDS)]


def body(slug="full-frame", pixels=6000, **more):
    format_ = FORMATS[slug]
    return Body(Sensor(format_.width_mm, format_.height_mm, pixels), **more)


def rig(slug="full-frame", focal=50.0, n=2.8, t=1 / 125, iso=400.0, lens=None, pixels=6000, body_options=None, **more):
    return Rig(body(slug, pixels, **(body_options or {})), lens or Lens(), focal, n, t, iso, **more)


def prime(focal, widest, smallest=22.0, **more):
    return Lens(focal, focal, ((focal, widest),), smallest, **more)


class Close:
    """Mixed into test cases: equality to 1e-9 relative."""

    def close(self, found, expected, because=""):
        found, expected = float(found), float(expected)
        if found == expected:
            return
        self.assertLessEqual(
            abs(found - expected), ACCURACY * max(abs(expected), 1e-12), f"{found!r} is not {expected!r}; {because}"
        )

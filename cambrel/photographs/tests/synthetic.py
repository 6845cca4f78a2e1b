"""Pictures of known truth: an edge of known blur, an even patch of known noise, a disc of known width."""

from io import BytesIO

import numpy as np
from PIL import Image
from scipy.special import erf

from cambrel.optics.colour import to_srgb


def coded(light, quality=None):
    """Linear grey light as the bytes of a picture, by way of a JPEG where a quality is given."""
    codes = np.clip(np.round(255 * to_srgb(light)), 0, 255).astype(np.uint8)
    codes = np.repeat(codes[..., None], 3, axis=-1)
    if quality is None:
        return codes
    out = BytesIO()
    Image.fromarray(codes).save(out, "JPEG", quality=quality)
    return np.asarray(Image.open(out))


def edge(mtf50, angle_deg, wide=90, high=120, dark=0.1, bright=0.5, snr=60.0, bend=0.0, seed=1):
    """A Gaussian edge as pixels of a whole area see it: MTF = exp(-2 pi^2 s^2 f^2) sinc(f along the normal)."""
    # the Gaussian that leaves so much at mtf50 once the area of a pixel has taken its part
    angle = np.radians(angle_deg)
    pixel = np.sinc(mtf50 * np.cos(angle)) * np.sinc(mtf50 * np.sin(angle))
    sigma = np.sqrt(max(np.log(2 * pixel), 0) / (2 * np.pi**2 * mtf50**2))
    over = 8
    y, x = (np.arange(n * over) / over + 0.5 / over for n in (high, wide))
    dy = (y - high / 2)[:, None]
    distance = ((x - wide / 2)[None, :] - np.tan(angle) * dy - bend * (2 * dy / high) ** 2) * np.cos(angle)
    fine = erf(distance / (sigma * np.sqrt(2))) if sigma > 0 else np.sign(distance)
    light = dark + (bright - dark) * (fine.reshape(high, over, wide, over).mean(axis=(1, 3)) + 1) / 2
    random = np.random.default_rng(seed)
    return light + random.standard_normal(light.shape) * (bright - dark) / snr


def patch(snr, mean=0.18, side=100, seed=1, read=0.0):
    """An even patch of photon noise with so much signal to noise a pixel."""
    random = np.random.default_rng(seed)
    electrons = snr**2
    seen = random.poisson(electrons, (side, side, 3)) + random.standard_normal((side, side, 3)) * read
    return seen / electrons * mean


def disc(diameter, side, sigma=0.6, level=0.5, ground=0.02, snr=30.0, cut=0.0, seed=1):
    """An even disc of a width with a soft edge; `cut`: the barrel's circle is moved by so much of the diameter."""
    at = np.arange(side) - side / 2 + 0.3
    away = np.hypot(at[None, :], at[:, None])
    away = np.maximum(away, np.hypot(at[None, :], at[:, None] - cut * diameter))
    light = ground + level * (1 - erf((away - diameter / 2) / (sigma * np.sqrt(2)))) / 2
    return light + np.random.default_rng(seed).standard_normal(light.shape) * level / snr

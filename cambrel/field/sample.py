"""A made-up logbook: the railway's photographer over four years, with two systems and habits that decide something."""

from __future__ import annotations

import numpy as np

PICTURES = 3000
SYSTEMS = (
    # body, its pixels, crop factor, how often, lenses: name, focal range, widest f-number, how often
    ("Tarn Ridgeway", (6120, 4080), 1.0, 0.62, (
        ("Tarn 24-70 mm f/2.8", 24, 70, 2.8, 0.79), ("Tarn 70-300 mm f/4.5-5.6", 70, 300, 4.5, 0.06),
        ("Tarn 50 mm f/1.8", 50, 50, 1.8, 0.15),
    )),
    ("Pipwren Tern", (5280, 3968), 2.0, 0.38, (
        ("Pipwren 12-40 mm f/2.8", 12, 40, 2.8, 0.8), ("Pipwren 25 mm f/1.4", 25, 25, 1.4, 0.2),
    )),
)  # fmt: skip
STOPS = (2.8, 4.0, 5.6, 8.0, 11.0)


def sample_rows(count: int = PICTURES) -> list[dict[str, object]]:
    """The pictures, the same at every call."""
    random = np.random.default_rng(7)
    return [_picture(k, count, random) for k in range(count)]


def _picture(k: int, count: int, random: np.random.Generator) -> dict[str, object]:
    body, pixels, crop, _, lenses = SYSTEMS[int(random.random() > SYSTEMS[0][3])]
    lens, low, high, widest, _ = lenses[int(random.choice(len(lenses), p=[weighted[4] for weighted in lenses]))]
    if high < 200:
        focal = float(np.clip(np.exp(random.normal(np.log(38 / crop), 0.35)), low, high))
    else:
        focal = float(random.choice([low, 135, high, high, high]))
    is_dark = random.random() < (0.5 if 60 < focal * crop < 90 else 0.005)
    f_number = max(
        widest, float(random.choice(STOPS, p=[0.1, 0.15, 0.3, 0.3, 0.15])) if random.random() > 0.1 else widest
    )
    iso = float(random.choice([6400, 12800])) if is_dark else float(random.choice([100, 200, 400, 800]))
    ev = random.normal(6, 1.5) if is_dark else random.normal(12, 1.5)
    shutter = float(np.clip(f_number**2 / 2 ** (ev + np.log2(iso / 100)), 1 / 8000, 30))
    left = float(random.uniform(0.45, 0.65)) if focal >= 290 and random.random() < 0.8 else 1.0
    month, year = 1 + k * 48 // count % 12, 2023 + k * 4 // count
    return {
        "taken_at": f"{year}-{month:02d}-{1 + k % 28:02d} {8 + k % 11:02d}:{k % 60:02d}:{k // 60 % 60:02d}",
        "body": body, "lens": lens, "focal_length_mm": round(focal, 1),
        "focal_35_mm": None if k % 9 == 0 else float(round(focal * crop)),
        "f_number": f_number, "shutter_s": float(f"{shutter:.3g}"), "iso": iso,
        "wide_px": int(pixels[0] * left), "high_px": int(pixels[1] * left),
    }  # fmt: skip

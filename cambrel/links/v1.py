"""Version 1 of links: the fields of each record in their order, with the defaults that are left out. Never changed; a
change is a new version.
"""

from __future__ import annotations

from typing import Any


class Of(str):
    """In the place of a default: a record of its own, by its name."""


Table = tuple[tuple[str, Any], ...]
TABLES: dict[str, Table] = {
    "Sensor": (("width_mm", 36.0), ("height_mm", 24.0), ("pixels_wide", None), ("pixels_high", None)),
    "Body": (
        ("sensor", Of("Sensor")),
        ("base_iso", None),
        ("ceiling_iso", None),
        ("fastest_shutter_s", None),
        ("slowest_shutter_s", None),
        ("stabilisation_stops", None),
        ("offset_stops", 0.0),
        ("quantum_efficiency", 0.5),
        ("read_noise_e", 2.0),
        ("weight_g", None),
        ("price", None),
        ("currency", ""),
        ("mount", ""),
    ),
    "Lens": (
        ("focal_min_mm", None),
        ("focal_max_mm", None),
        ("widest", ()),
        ("smallest_f_number", None),
        ("max_magnification", None),
        ("close_focus_m", None),
        ("image_circle_mm", None),
        ("weight_g", None),
        ("price", None),
        ("currency", ""),
        ("mount", ""),
        ("rectilinear", True),
    ),
    "Rig": (
        ("body", Of("Body")),
        ("lens", Of("Lens")),
        ("focal_length_mm", 50.0),
        ("f_number", 4.0),
        ("shutter_s", 1 / 125),
        ("iso", 400.0),
        ("distance_m", None),
        ("converter", 1.0),
        ("take_rest", False),
    ),
    "Slot": (("rig", Of("Rig")), ("body_name", ""), ("lens_name", "")),
    "Brief": (
        ("distance_m", 2.0),
        ("subject_height_m", 1.75),
        ("focus_distance_m", None),
        ("distance_from", "lens"),
        ("background_m", 5.0),
        ("foreground_m", None),
        ("light_ev", 8.0),
        ("upright", False),
        ("shape", "native"),
        ("shown_long_side_mm", 420.0),
        ("viewing_distance_mm", 500.0),
        ("sharp_front_m", None),
        ("sharp_behind_m", None),
        ("width_shown_m", None),
        ("slowest_shutter_s", None),
        ("subject_speed_m_per_s", 0.0),
    ),
    "Hold": (
        ("lens", "equivalent"),
        ("place", "spot"),
        ("aperture", "f_number"),
        ("exposure", "shutter"),
        ("lens_of", None),
    ),
    "Conventions": (
        ("crop_by", "diagonal"),
        ("criterion", "diagonal_1500"),
        ("noise", "picture"),
        ("lines_per_mm", 5.0),
        ("wavelength_nm", 550.0),
        ("output_pixels", 8e6),
        ("iso_ceiling", 3200.0),
    ),
    "Bench": (
        ("brief", Of("Brief")),
        ("slots", ()),
        ("hold", Of("Hold")),
        ("conventions", Of("Conventions")),
        ("reference", 0),
        ("title", ""),
        ("brief_name", ""),
        ("background_name", ""),
        ("foreground_name", ""),
        ("scene", ""),
    ),
}

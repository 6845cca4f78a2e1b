"""What stands at a place of a picture."""

from __future__ import annotations

import numpy as np

from cambrel.optics.scene import ground_distance_m
from cambrel.rendering.cutouts import Shop
from cambrel.rendering.paint import alpha_at, wanted_px_per_cm
from cambrel.rendering.render import cutouts
from cambrel.rendering.take import Take
from cambrel.scenes import Layer

SOLID = 0.5


def pick(view: Take, shop: Shop, x_share: float, y_share: float) -> tuple[Layer | None, float]:
    """The nearest thing at a place of the picture.

    Parameters
        view: the picture
        x_share, y_share: the place, in shares of its width and height
    Returns
        its layer (None for the ground and for the sky) and its distance from the lens [m]; infinite for the sky
    """
    x, y = x_share * view.width_px, y_share * view.height_px
    at_x, at_y = np.array([[x]]), np.array([[y]])
    picked: tuple[Layer | None, float] = (None, np.inf)
    for cutout in cutouts(view):
        sheet = shop.sheet(view.scene.slug, cutout.layer.art, wanted_px_per_cm(view, cutout.layer, cutout.away_m))
        if alpha_at(view, sheet, cutout.layer, cutout.away_m, at_x, at_y)[0, 0] >= SOLID:
            picked = (cutout.layer, cutout.away_m)
    row_mm = (y - view.origin_px[1]) / view.px_per_mm
    for ground in view.scene.surfaces:
        away = float(ground_distance_m(view.camera, row_mm, ground.height_m))
        behind = away - view.camera.subject_distance_m
        if ground.from_m <= behind <= ground.to_m and away < picked[1]:
            picked = (None, away)
    return picked

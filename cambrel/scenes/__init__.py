"""Scenes as data: flat layers of vector art at known distances in metres, with real heights. Pure; drawn by the storeys
above.

A layer's art is an SVG file in centimetres, its origin on the ground at the layer's middle. `behind_m` counts from the
subject. Layers anchored to the background, the foreground or the subject follow the brief; the others keep their place.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path
from typing import Any

from cambrel.comparison.bench import LayerChange
from cambrel.comparison.brief import Brief

HOME = Path(__file__).parent
USUAL = "footplate"


@dataclass(frozen=True)
class Layer:
    """A flat cut-out that faces the camera: where it stands, and the file that draws it."""

    name: str
    art: str
    behind_m: float
    x_m: float = 0.0
    base_m: float = 0.0
    anchor: str = ""
    scale: float = 1.0
    moves: bool = False
    """Whether it crosses the frame at the brief's speed."""
    details: tuple[tuple[str, float], ...] = ()
    """Things on it by name and size [m], from small to large: a scale for what the blur takes away."""


@dataclass(frozen=True)
class Lamp:
    """A point of light: a small globe of a radiance in whites."""

    name: str
    behind_m: float
    x_m: float
    height_m: float
    size_m: float
    radiance: float
    colour: str
    moves: bool = False


@dataclass(frozen=True)
class Sky:
    """Colours at heights above the horizon in degrees, from low to high, and stars."""

    stops: tuple[tuple[float, str], ...]
    stars: int = 0
    star_radiance: float = 4.0


@dataclass(frozen=True)
class Ground:
    """A level surface: bands across it at a step, between two distances from the subject; lines along it at
    `cross_step_m`, if any.
    """

    height_m: float
    colour: str
    line: str
    step_m: float
    from_m: float
    to_m: float
    left_m: float = -40.0
    right_m: float = 40.0
    cross_step_m: float = 0.0
    rough: float = 0.08


@dataclass(frozen=True)
class Scene:
    """A made-up scene: where the camera is and aims, the surfaces, and the layers from far to near."""

    slug: str
    name: str
    camera_height_m: float
    camera_x_m: float
    aim_x_m: float
    aim_height_m: float
    backdrop: str
    subject_height_m: float
    surfaces: tuple[Ground, ...]
    layers: tuple[Layer, ...]
    sky: Sky | None = None
    lamps: tuple[Lamp, ...] = ()

    @property
    def subject(self) -> str:
        """What the picture is of."""
        return next((layer.name for layer in self.layers if layer.anchor == "subject"), "subject")

    def arranged(self, brief: Brief, changes: tuple[LayerChange, ...] = ()) -> Scene:
        """The scene as a brief and its owner have it: anchored layers at the brief's distances, changed ones where they
        were put, far to near.
        """
        layers = []
        changed = {change.layer: change for change in changes}
        for index, layer in enumerate(self.layers):
            if change := changed.get(index):
                moved = replace(
                    layer, behind_m=change.behind_m, x_m=change.x_m, scale=layer.scale * change.scale, anchor=""
                )
                layers += [moved] if change.scale > 0 else []
                continue
            if layer.anchor == "background" and brief.background_m is not None:
                layer = replace(layer, behind_m=min(brief.background_m, 1e6))
            elif layer.anchor == "foreground":
                if brief.foreground_m is None:
                    continue
                layer = replace(layer, behind_m=-brief.foreground_m)
            elif layer.anchor == "subject":
                layer = replace(layer, scale=brief.subject_height_m / self.subject_height_m)
            layers.append(layer)
        layers.sort(key=lambda layer: -layer.behind_m)
        grown = brief.subject_height_m / self.subject_height_m
        return replace(self, layers=tuple(layers), aim_height_m=self.aim_height_m * grown)


@cache
def scenes() -> dict[str, Scene]:
    """All scenes that ship with the application.

    Returns
        by slug
    """
    read = [_read(path) for path in sorted(HOME.glob("*/scene.json"))]
    return {scene.slug: scene for scene in read}


Find = Callable[[str], Scene]
"""Finds a scene by its slug, whoever's it is; one that is not known is the usual one."""


def shipped(slug: str) -> Scene:
    """A scene that ships with the application; for any other slug the footplate.

    Parameters
        slug: of a scene
    Returns
        the footplate for one that is not there
    """
    return scenes().get(slug) or scenes()[USUAL]


def _read(path: Path) -> Scene:
    data: dict[str, Any] = json.loads(path.read_text())
    if data.pop("schema") != 1:
        raise ValueError(f"{path.name}: unknown schema")
    surfaces = tuple(Ground(**surface) for surface in data.pop("surfaces"))
    layers = tuple(
        Layer(**{**layer, "details": tuple((name, float(size)) for name, size in layer.get("details", ()))})
        for layer in data.pop("layers")
    )
    lamps = tuple(Lamp(**lamp) for lamp in data.pop("lamps", ()))
    sky = data.pop("sky", None)
    if sky is not None:
        sky = Sky(tuple((float(up), colour) for up, colour in sky.pop("stops")), **sky)
    return Scene(**data, surfaces=surfaces, layers=layers, lamps=lamps, sky=sky)


def art_path(slug: str, art: str) -> Path:
    """The file of a layer's drawing.

    Parameters
        slug: of a scene
        art: the layer's drawing
    Returns
        where it stands
    """
    return HOME / slug / art

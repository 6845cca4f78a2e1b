"""Scenes as data: flat layers of vector art at known distances in metres, with real heights. Pure; drawn by the storeys above.

A layer's art is an SVG file in centimetres, its origin on the ground at the layer's middle. `behind_m` counts from the subject. Layers
anchored to the background, the foreground or the subject follow the brief; the others keep their place.
"""

from __future__ import annotations

import json
import re
from dataclasses import dataclass, replace
from functools import cache
from pathlib import Path
from typing import Any

from cambrel.optics.brief import Brief

HOME = Path(__file__).parent
CENTIMETRES = 100.0


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


@dataclass(frozen=True)
class Ground:
    """A level surface: bands across it at a step, between two distances from the subject."""

    height_m: float
    colour: str
    line: str
    step_m: float
    from_m: float
    to_m: float
    left_m: float = -40.0
    right_m: float = 40.0


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

    def arranged(self, brief: Brief) -> Scene:
        """The scene as a brief has it: anchored layers at its distances, the subject at its height, far to near."""
        layers = []
        for layer in self.layers:
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

    def art(self) -> dict[str, str]:
        """The markup of each piece of art, by the name under which drawings use it."""
        return {art_name(self.slug, layer.art): _markup(self.slug, layer.art) for layer in self.layers}


def art_name(slug: str, art: str) -> str:
    return f"art-{slug}-{art.removesuffix('.svg')}"


@cache
def scenes() -> dict[str, Scene]:
    """All scenes that ship with the application, by slug."""
    found = [_read(path) for path in sorted(HOME.glob("*/scene.json"))]
    return {scene.slug: scene for scene in found}


def _read(path: Path) -> Scene:
    data: dict[str, Any] = json.loads(path.read_text())
    if data.pop("schema") != 1:
        raise ValueError(f"{path.name}: unknown schema")
    surfaces = tuple(Ground(**surface) for surface in data.pop("surfaces"))
    layers = tuple(Layer(**layer) for layer in data.pop("layers"))
    return Scene(**data, surfaces=surfaces, layers=layers)


@cache
def _markup(slug: str, art: str) -> str:
    """What stands inside the art file's svg element."""
    text = (HOME / slug / art).read_text()
    inside = re.search(r"<svg[^>]*>(.*)</svg>", text, re.DOTALL)
    if inside is None:
        raise ValueError(f"{slug}/{art} is not a drawing")
    return re.sub(r">\s+<", "><", inside.group(1)).strip()

"""What is chosen between, by value: kits of named pieces, the pictures to be made with them, and the conventions."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from cambrel.comparison.bench import Task
from cambrel.comparison.brief import Conventions
from cambrel.comparison.rig import Body, Lens

MOST_KITS = 6
MOST_PICTURES = 60
MOST_PIECES = 200
LONGEST_NOTE = 300


@dataclass(frozen=True)
class Support:
    """What carries a camera: its kind, and what it weighs, costs and may carry; None where that is not known."""

    kind: str
    weight_g: float | None = None
    price: float | None = None
    currency: str = ""
    payload_g: float | None = None


@dataclass(frozen=True)
class Adapter:
    """A ring from a lens's mount to a body's, and what it weighs and costs."""

    lens_mount: str
    mount: str
    weight_g: float | None = None
    price: float | None = None
    currency: str = ""


W = TypeVar("W", Body, Lens, Support, Adapter, Any)


@dataclass(frozen=True)
class Piece(Generic[W]):
    """A thing in a kit under its name. accepts: the mounts whose lenses a body takes; fixed: the lenses that are part
    of it.

    key: where it stands on a shelf, as {kind}-{number}; empty for what came by a link
    """

    name: str
    what: W
    accepts: tuple[str, ...] = ()
    fixed: tuple[Piece[Lens], ...] = ()
    key: str = field(default="", compare=False)

    @property
    def kind(self) -> str:
        return {Body: "body", Lens: "lens", Support: "support", Adapter: "adapter"}[type(self.what)]


@dataclass(frozen=True)
class KitBag:
    """A kit under its name."""

    name: str
    pieces: tuple[Piece[Any], ...]
    note: str = ""
    key: str = field(default="", compare=False)


@dataclass(frozen=True)
class Choice:
    """What is chosen between, for which pictures, how often each is made, and by which conventions."""

    kits: tuple[KitBag, ...]
    pictures: tuple[tuple[Task, float], ...]
    conventions: Conventions

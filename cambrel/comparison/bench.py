"""What stands on a bench, by value: the brief and the scene as it was arranged, up to six rigs with the names of their
gear, and the terms.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from cambrel.bounds.names import check_name
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.optics.quantities import DomainError, finite, not_negative

MOST_RIGS = 6
MOST_CHANGES = 12
MOST_MODES = 6
MOST_LAYERS = 24
FARTHEST_M = 1e5
SMALLEST_SCALE, LARGEST_SCALE = 0.001, 20.0


@dataclass(frozen=True)
class LayerChange:
    """A layer that was moved or resized: which, how far behind the subject, how far across, and at what part of its
    size (0 takes it away).
    """

    layer: int
    behind_m: float
    x_m: float
    scale: float = 1.0

    def __post_init__(self) -> None:
        if not 0 <= self.layer < MOST_LAYERS:
            raise DomainError("layer", f"from 0 to {MOST_LAYERS - 1}", self.layer)
        for name in ("behind_m", "x_m"):
            finite(name, getattr(self, name))
            if abs(getattr(self, name)) > FARTHEST_M:
                raise DomainError(name, f"within {FARTHEST_M:g} m", getattr(self, name))
        not_negative("scale", self.scale)
        if self.scale and not SMALLEST_SCALE <= self.scale <= LARGEST_SCALE:
            raise DomainError("scale", f"0, or from {SMALLEST_SCALE:g} to {LARGEST_SCALE:g}", self.scale)


@dataclass(frozen=True)
class Slot:
    """A rig on the bench with the names of its gear, by value."""

    rig: Rig
    body_name: str = ""
    lens_name: str = ""

    def __post_init__(self) -> None:
        for name in (self.body_name, self.lens_name):
            check_name(name)

    @property
    def body_called(self) -> str:
        """The body, with the mode that records."""
        mode = self.rig.recorded
        return f"{self.body_name or 'body'}, {mode.label}" if mode and mode.label else self.body_name


@dataclass(frozen=True)
class Task:
    """A picture to be made, without cameras: the brief, its names, and the scene as it was arranged."""

    brief: Brief
    name: str = ""
    background_name: str = ""
    foreground_name: str = ""
    scene: str = ""
    changes: tuple[LayerChange, ...] = ()


@dataclass(frozen=True)
class Bench:
    """All that a bench shows: the brief and its names, up to six rigs, the hold, the conventions and the reference."""

    brief: Brief
    slots: tuple[Slot, ...]
    hold: Hold = field(default_factory=Hold)
    conventions: Conventions = field(default_factory=Conventions)
    reference: int = 0
    title: str = ""
    brief_name: str = ""
    background_name: str = ""
    foreground_name: str = ""
    scene: str = ""
    changes: tuple[LayerChange, ...] = ()
    """What of the scene was moved or resized."""

    def __post_init__(self) -> None:
        if not 1 <= len(self.slots) <= MOST_RIGS:
            raise DomainError("rigs", f"from one to {MOST_RIGS} in number", len(self.slots))
        if not 0 <= self.reference < len(self.slots):
            raise DomainError("reference", f"the index of one of {len(self.slots)} cameras", self.reference)
        if self.hold.lens_of is not None and not 0 <= self.hold.lens_of < len(self.slots):
            raise DomainError("lens_of", f"the index of one of {len(self.slots)} cameras", self.hold.lens_of)
        if len(self.changes) > MOST_CHANGES:
            raise DomainError("changes", f"at most {MOST_CHANGES} in number", len(self.changes))
        for name in (self.title, self.brief_name, self.background_name, self.foreground_name, self.scene):
            check_name(name)

    @property
    def task(self) -> Task:
        """The picture that it is about, by itself."""
        return Task(self.brief, self.brief_name, self.background_name, self.foreground_name, self.scene, self.changes)

    def with_task(self, task: Task) -> Bench:
        """The same cameras before another picture."""
        return replace(
            self,
            brief=task.brief,
            brief_name=task.name,
            background_name=task.background_name,
            foreground_name=task.foreground_name,
            scene=task.scene,
            changes=task.changes,
        )

    @property
    def rigs(self) -> tuple[Rig, ...]:
        return tuple(slot.rig for slot in self.slots)


@dataclass(frozen=True)
class Gear:
    """A body, a lens, or a camera with its fixed lens, by value: what a shelf hands to a bench."""

    body: Body | None = None
    body_name: str = ""
    lens: Lens | None = None
    lens_name: str = ""

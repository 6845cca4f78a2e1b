"""How an owner spells the mounts: one mount is one name, whatever the case in which it is typed or stands in a file."""

from __future__ import annotations

from cambrel.comparison.fit import folded_mount
from cambrel.owners.models import User
from cambrel.shelf.models import Adapter, Body, Converter, Lens, Mount

NAMES_MOUNTS: dict[str, tuple[str, ...]] = {
    "mounts": ("name", "accepts"),
    "bodies": ("mount",),
    "lenses": ("mount",),
    "converters": ("mount",),
    "adapters": ("lens_mount", "mount"),
    "close_up_aids": ("mount",),
    "codes": ("mount",),
}
"""By section, the fields that hold the name of a mount, or several names."""


class Spellings:
    """The names of mounts as they are spelt on a shelf; of a new one, as it was spelt first."""

    def __init__(self, owner: User) -> None:
        self._known: dict[str, str] = {}
        for model, field in (
            (Mount, "name"),
            (Body, "mount"),
            (Lens, "mount"),
            (Converter, "mount"),
            (Adapter, "mount"),
        ):
            for name in model.objects.for_owner(owner).order_by("pk").values_list(field, flat=True):
                self._known.setdefault(folded_mount(name), name)
        self._known.pop("", None)

    def names(self) -> list[str]:
        return sorted(self._known.values(), key=str.casefold)

    def of(self, name: str) -> str:
        return self._known.setdefault(folded_mount(name), name) if name.strip() else name

    def respelt(self, section: str, row: dict[str, object]) -> dict[str, object]:
        """A row of a file with its mounts as they are spelt here."""
        row = dict(row)
        for field in NAMES_MOUNTS.get(section, ()):
            value = row.get(field)
            if isinstance(value, str):
                row[field] = self.of(value)
            elif isinstance(value, list):
                row[field] = [self.of(mount) if isinstance(mount, str) else mount for mount in value]
        return row

"""How a bench is looked at: the panel, the units, and what each panel lets be chosen. It stands in the address beside
the bench itself.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field, replace
from math import inf
from typing import Any

from cambrel.comparison.bench import FARTHEST_M, MOST_RIGS, Bench
from cambrel.conventions.preferred import Preferred
from cambrel.inputs.fields import INFINITE_WORDS, whole
from cambrel.links.addresses import bench_address
from cambrel.phrases import typed_figures
from cambrel.wording import METRES, Units


@dataclass(frozen=True)
class LookPart:
    """One choice in a panel as it stands in the address: its key, what is usual, and how it is read and written.

    What cannot be read, or is not there on this bench, is the usual; `problem` says why of what was typed, where a
    reader may have typed it.
    """

    key: str
    usual: Any
    read: Callable[[str, Bench], Any]
    write: Callable[[Any, Bench], str] = lambda value, bench: str(value)
    problem: Callable[[str], str] = lambda text: ""


def one_of(key: str, usual: str, *others: str) -> LookPart:
    return LookPart(key, usual, lambda text, bench: text if text in others else usual)


def switch(key: str) -> LookPart:
    return LookPart(key, False, lambda text, bench: text == "1", lambda value, bench: str(int(value)))


def line(key: str, most: int = 60) -> LookPart:
    return LookPart(key, "", lambda text, bench: text[:most])


def number(key: str, usual: float, low: float, high: float) -> LookPart:
    """A figure within a range; anything else is the usual, and said to be none."""

    def problem(text: str) -> str:
        try:
            value = typed_figures.number(text, low, high)
        except typed_figures.DoubtfulError as doubt:
            return str(doubt)
        except ValueError:
            return f"“{text[:20]}” is not a number. Type a figure, such as 2.5." if text.strip() else ""
        return "" if low <= value <= high else f"Type a figure from {low:g} to {high:g}."

    def read(text: str, bench: Bench) -> float:
        return usual if problem(text) or not text.strip() else typed_figures.number(text, low, high)

    return LookPart(key, usual, read, lambda value, bench: f"{value:g}", problem)


def away(key: str) -> LookPart:
    """A distance from the lens [m], infinity among them; None where none is given."""

    def parsed(text: str) -> float:
        return inf if text.strip().lower() in INFINITE_WORDS else typed_figures.length(text, 1.0, 0.001, 1e6)

    def problem(text: str) -> str:
        try:
            value = parsed(text) if text.strip() else 1.0
        except typed_figures.DoubtfulError as doubt:
            return str(doubt)
        except ValueError:
            return f"“{text[:20]}” is not a distance. Type metres, such as 2.5, or feet, such as 8 ft."
        return "" if 0.001 <= value <= 1e6 or value == inf else "Type a distance from 1 mm to 1000 km, or ∞."

    def read(text: str, bench: Bench) -> float | None:
        return None if problem(text) or not text.strip() else parsed(text)

    def write(value: float | None, bench: Bench) -> str:
        return "" if value is None else "inf" if value == inf else f"{value:.6g}"

    return LookPart(key, None, read, write, problem)


def camera(key: str) -> LookPart:
    """A camera of the bench by its number; -1 for none."""

    def there(index: int, bench: Bench) -> int:
        return index if index < len(bench.slots) else -1

    return LookPart(
        key,
        -1,
        lambda text, bench: there(whole(text, -1), bench),
        lambda value, bench: str(there(value, bench)),
    )


def cameras(key: str, most: int) -> LookPart:
    """Some cameras of the bench by their numbers, in the order in which they were pressed."""

    def there(numbers: Iterable[int], bench: Bench) -> tuple[int, ...]:
        return tuple(dict.fromkeys(number for number in numbers if number < len(bench.slots)))[:most]

    return LookPart(
        key,
        (),
        lambda text, bench: there((int(letter) for letter in text[:MOST_RIGS] if letter in "012345"), bench),
        lambda value, bench: "".join(str(number) for number in there(value, bench)),
    )


def point(key: str) -> LookPart:
    """A point of the scene: across, and above the ground [m]; None for none."""

    def read(text: str, bench: Bench) -> tuple[float, float] | None:
        try:
            x, height = (float(part) for part in text.split(","))
        except ValueError:
            return None
        return (x, height) if abs(x) < FARTHEST_M and abs(height) < FARTHEST_M else None

    return LookPart(key, None, read, lambda at, bench: "" if at is None else f"{at[0]:.5g},{at[1]:.5g}")


WIDTHS = {"narrow": 350.0, "middle": 780.0, "wide": 1216.0}
"""How wide drawings are made, by how wide the screen is said to be."""


@dataclass(frozen=True)
class Look:
    """One way of looking at a bench; what a panel's parts are set to is had by key, in templates too."""

    parts: Mapping[str, LookPart]
    panel: str = ""
    """The panel that was asked for; empty for the one that the picture calls for first."""
    chosen: Mapping[str, Any] = field(default_factory=dict)
    units: Units = METRES
    remembered: str = ""
    """The panel that the reader chose last."""
    unfolded: bool = False
    """Whether the scene in words, or its arrangement, is open on the reader's page."""
    opened: int = -1
    """Whose controls are open; -1 for the reference's."""
    width: str = "wide"
    """How wide the reader's screen is: one of WIDTHS."""
    preferred: Preferred = field(default_factory=Preferred)
    unread: Mapping[str, tuple[str, str]] = field(default_factory=dict)
    """What was typed for a choice and could not be read, with its message, by the key of the choice."""

    def __getitem__(self, key: str) -> Any:
        return self.chosen.get(key, self.parts[key].usual)

    def shown(self, key: str, bench: Bench | None = None) -> str:
        """What stands in the field of a choice: as it was typed where that could not be read."""
        if key in self.unread:
            return self.unread[key][0]
        text = self.parts[key].write(self[key], bench)  # type: ignore[arg-type]
        return "∞" if text == "inf" else text

    def message(self, key: str) -> str:
        return self.unread[key][1] if key in self.unread else ""

    @property
    def across(self) -> float:
        """The width of a drawing."""
        return WIDTHS[self.width]

    @property
    def narrow(self) -> bool:
        return self.width == "narrow"

    def choosing(self, **chosen: Any) -> Look:
        return replace(self, chosen={**self.chosen, **chosen})

    def query(self, bench: Bench) -> dict[str, str]:
        """This way of looking at a bench as parameters beside it; what is usual is left out."""
        written = {"panel": self.panel} if self.panel else {}
        for key, value in self.chosen.items():
            part = self.parts[key]
            text = part.write(value, bench)
            if text != part.write(part.usual, bench):
                written[key] = text
        return written if self.units is METRES else {**written, "units": self.units.key}

    def address(self, bench: Bench, token: str = "") -> str:
        """The canonical address of a bench looked at in this way."""
        return bench_address(bench, token=token, **self.query(bench))

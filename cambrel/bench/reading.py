"""From the query string to a bench: the link parameter is the base, readable fields change it. Nothing is replaced by a default."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Any

from cambrel.bench.forms import BriefForm, ConventionsForm, HoldForm, RigForm
from cambrel.bench.samples import home_bench
from cambrel.fields import whole
from cambrel.links import MOST_RIGS, Bench, LinkError, bench_address, decode
from cambrel.optics.brief import Conventions
from cambrel.optics.quantities import DomainError
from cambrel.scenes import FARTHEST_M
from cambrel.wording import METRES, UNITS, Units

PANELS = {
    "frames": "Frames",
    "depth": "Depth",
    "scene": "Scene",
    "light": "Light",
    "walk": "Aperture walk",
    "numbers": "Numbers",
}


@dataclass(frozen=True)
class Preferred:
    """What a bench starts from where no link says otherwise."""

    conventions: Conventions = field(default_factory=Conventions)
    units: str = "m"


@dataclass(frozen=True)
class Look:
    """How the bench is looked at; it stands in the address beside the bench itself."""

    panel: str = "frames"
    scale: str = "linear"
    sort: str = ""
    walk: int = -1
    bright: str = "matched"
    grain: bool = False
    loupe: tuple[float, float] | None = None
    """The point of the scene that the loupe is on: across, and above the ground [m]."""
    strip: int = -1
    units: Units = METRES
    narrow: bool = False
    preferred: Preferred = field(default_factory=Preferred)

    def query(self, bench: Bench) -> dict[str, str]:
        """This way of looking at a bench as parameters beside it; what is usual is left out."""
        count = len(bench.slots)
        parts = {
            "panel": (self.panel, "frames"),
            "scale": (self.scale, "linear"),
            "sort": (self.sort, ""),
            "walk": (str(self.walk) if self.walk < count else "-1", "-1"),
            "bright": (self.bright, "matched"),
            "grain": (str(int(self.grain)), "0"),
            "loupe": ("" if self.loupe is None else f"{self.loupe[0]:.5g},{self.loupe[1]:.5g}", ""),
            "strip": (str(self.strip) if self.strip < count else "-1", "-1"),
            "units": (self.units.key, "m"),
        }
        return {key: value for key, (value, usual) in parts.items() if value != usual}

    def address(self, bench: Bench) -> str:
        """The canonical address of a bench looked at in this way."""
        return bench_address(bench, **self.query(bench))


@dataclass
class Reading:
    """What a request says: the base bench, the forms over it, the messages, and the bench when all is sound."""

    base: Bench
    look: Look
    brief_form: BriefForm
    hold_form: HoldForm
    conventions_form: ConventionsForm
    rig_forms: list[RigForm]
    bench: Bench
    messages: dict[str, str] = field(default_factory=dict)
    void: list[int] = field(default_factory=list)
    """Rigs whose settings cannot be used."""
    broken: bool = False
    """Whether the brief, the hold, the conventions or the reference cannot be used, so that nothing can be compared."""

    @property
    def sound(self) -> bool:
        return not self.messages

    def refuse(self, error: DomainError) -> None:
        """A refusal by the core, put beside the field it speaks of."""
        name = f"brief-{error.parameter}"
        key = name if error.parameter in self.brief_form.fields else "bench"
        self.messages[key] = f"This must be {error.wanted}."
        self.broken = True


def read(query: Any, narrow: bool = False, preferred: Preferred | None = None) -> Reading:
    """Read a request.

    Raises
        LinkError where the link parameter cannot be read, or more rigs are given than a bench holds
    """
    preferred = preferred or Preferred()
    base = decode(query["b"]) if query.get("b") else replace(home_bench(), conventions=preferred.conventions)
    _count_rigs(query, len(base.slots))
    look = _look(query, base, narrow, preferred)
    brief_form = BriefForm(query, base.brief, "brief", look.units)
    hold_form = HoldForm(query, base.hold, "hold", look.units)
    conventions_form = ConventionsForm(query, base.conventions, "conventions", look.units)
    rig_forms = [RigForm(query, rig, f"rigs-{index}", look.units) for index, rig in enumerate(base.rigs)]
    reading = Reading(base, look, brief_form, hold_form, conventions_form, rig_forms, base)
    for form in (brief_form, hold_form, conventions_form):
        if not form.is_valid():
            reading.messages |= form.messages()
            reading.broken = True
    slots = list(base.slots)
    for index, form in enumerate(rig_forms):
        if form.is_valid():
            slots[index] = replace(slots[index], rig=replace(slots[index].rig, **form.values()))
        else:
            reading.messages |= form.messages()
            reading.void.append(index)
            reading.broken = reading.broken or index == base.reference
    if not reading.broken:
        try:
            reading.bench = replace(
                base,
                brief=_with_unchanged(base.brief, brief_form),
                slots=tuple(slots),
                hold=_with_unchanged(base.hold, hold_form),
                conventions=_with_unchanged(base.conventions, conventions_form),
            )
        except DomainError as error:
            reading.refuse(error)
    return reading


def _with_unchanged(record, form):
    values = form.values()
    if isinstance(form, HoldForm) and values["lens"] != "same":
        values["lens_of"] = None
    return replace(record, **values)


def _count_rigs(query: Any, present: int) -> None:
    """Refuse more rigs than a bench holds before any is read."""
    numbers = {key.split("-")[1] for key in query if key.startswith("rigs-") and key.count("-") >= 2}
    if len(numbers) > MOST_RIGS:
        raise LinkError(f"A bench holds at most {MOST_RIGS} cameras; this address names {len(numbers)}.")


def _look(query: Any, base: Bench, narrow: bool, preferred: Preferred) -> Look:
    panel = query.get("panel", "frames")
    walk, strip = (_rig_of(query.get(name, ""), base) for name in ("walk", "strip"))
    return Look(
        panel=panel if panel in PANELS else "frames",
        scale="log" if query.get("scale") == "log" else "linear",
        sort=query.get("sort", "")[:60],
        walk=walk,
        bright="set" if query.get("bright") == "set" else "matched",
        grain=query.get("grain") == "1",
        loupe=_loupe(query.get("loupe", "")),
        strip=strip,
        units=UNITS.get(query.get("units", "m" if query.get("b") else preferred.units), METRES),
        narrow=narrow,
        preferred=preferred,
    )


def _rig_of(text: str, base: Bench) -> int:
    """The index of a rig of the bench; -1 for none."""
    index = whole(text, -1)
    return index if index < len(base.slots) else -1


def _loupe(text: str) -> tuple[float, float] | None:
    """The point that a loupe is on; what is no such point puts the loupe away."""
    try:
        x, height = (float(part) for part in text.split(","))
    except ValueError:
        return None
    return (x, height) if abs(x) < FARTHEST_M and abs(height) < FARTHEST_M else None

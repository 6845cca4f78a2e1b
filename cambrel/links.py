"""A bench as one link parameter, and back: compact positional JSON, defaults left out, deflated, base64url.

Pure, so that every screen can link to a bench by value. A version's tables never change: old links stay readable, whatever becomes of
the defaults in the core. Every value is checked on the way in by the core's own records.
"""

from __future__ import annotations

import base64
import json
import zlib
from dataclasses import dataclass, field
from math import inf, isfinite
from typing import Any
from urllib.parse import urlencode

from cambrel.limits import named, outside
from cambrel.names import is_shown
from cambrel.optics.brief import Brief, Conventions, Hold
from cambrel.optics.formats import Sensor
from cambrel.optics.quantities import DomainError
from cambrel.optics.rig import Body, Lens, Rig
from cambrel.scenes import Change

VERSION = 2
"""Version 1 had no changed scenes; a bench without any is still written as version 1, so that equal benches keep equal links."""
HOME = "/"
"""The address of the bench."""

MOST_RIGS = 6
MOST_CHANGES = 12
LONGEST_NAME = 60
LONGEST_TOKEN = 3500
MOST_BYTES = 12_000


class LinkError(ValueError):
    """A link that cannot be read; the message says why, for the reader of the page."""


@dataclass(frozen=True)
class Slot:
    """A rig on the bench with the names of its gear, by value."""

    rig: Rig
    body_name: str = ""
    lens_name: str = ""

    def __post_init__(self) -> None:
        for name in (self.body_name, self.lens_name):
            _check_name(name)


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
    changes: tuple[Change, ...] = ()
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
            _check_name(name)

    @property
    def rigs(self) -> tuple[Rig, ...]:
        return tuple(slot.rig for slot in self.slots)


def _check_name(name: Any) -> None:
    if not isinstance(name, str) or len(name) > LONGEST_NAME or not is_shown(name):
        raise DomainError("name", f"at most {LONGEST_NAME} printable characters", str(name)[: LONGEST_NAME + 1])


# Field order and defaults of version 1; a type as default is a record of its own. Never change these; a change is a new version beside them.
_SENSOR_1 = (("width_mm", 36.0), ("height_mm", 24.0), ("pixels_wide", None), ("pixels_high", None))
_BODY_1 = (
    ("sensor", Sensor),
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
)
_LENS_1 = (
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
)
_RIG_1 = (
    ("body", Body),
    ("lens", Lens),
    ("focal_length_mm", 50.0),
    ("f_number", 4.0),
    ("shutter_s", 1 / 125),
    ("iso", 400.0),
    ("distance_m", None),
    ("converter", 1.0),
    ("take_rest", False),
)
_SLOT_1 = (("rig", Rig), ("body_name", ""), ("lens_name", ""))
_BRIEF_1 = (
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
)
_HOLD_1 = (
    ("lens", "equivalent"),
    ("place", "spot"),
    ("aperture", "f_number"),
    ("exposure", "shutter"),
    ("lens_of", None),
)
_CONVENTIONS_1 = (
    ("crop_by", "diagonal"),
    ("criterion", "diagonal_1500"),
    ("noise", "picture"),
    ("lines_per_mm", 5.0),
    ("wavelength_nm", 550.0),
    ("output_pixels", 8e6),
    ("iso_ceiling", 3200.0),
)
_BENCH_1 = (
    ("brief", Brief),
    ("slots", ()),
    ("hold", Hold),
    ("conventions", Conventions),
    ("reference", 0),
    ("title", ""),
    ("brief_name", ""),
    ("background_name", ""),
    ("foreground_name", ""),
    ("scene", ""),
)
_CHANGE_2 = (("layer", 0), ("behind_m", 0.0), ("x_m", 0.0), ("scale", 1.0))
_BENCH_2 = (*_BENCH_1, ("changes", ()))
_TABLES: dict[type, tuple[tuple[str, Any], ...]] = {
    Sensor: _SENSOR_1,
    Body: _BODY_1,
    Lens: _LENS_1,
    Rig: _RIG_1,
    Slot: _SLOT_1,
    Brief: _BRIEF_1,
    Hold: _HOLD_1,
    Conventions: _CONVENTIONS_1,
    Bench: _BENCH_2,
    Change: _CHANGE_2,
}
_WHOLE = frozenset({"reference", "lens_of", "layer"})
_LISTS: dict[str, tuple[type, int]] = {"slots": (Slot, MOST_RIGS), "changes": (Change, MOST_CHANGES)}
_UNKNOWN, _INFINITE = "-", "i"  # stand for None where that is not the default, and for infinity


def encode(bench: Bench) -> str:
    """The bench as link parameter; equal benches give equal parameters."""
    return _deflate([2 if bench.changes else 1, _pack(bench)])


def decode(token: str) -> Bench:
    """The bench that a link parameter stands for.

    Raises
        LinkError for anything that is not a whole, sound bench
    """
    content = _inflate(token)
    if len(content) != 2:
        raise LinkError("This link holds no bench.")
    try:
        bench = _unpack(Bench, content[1])
    except LinkError:
        raise
    except DomainError as error:
        raise LinkError(f"This link holds a value that cannot be: the {named(error.parameter)}.") from error
    except (TypeError, ValueError, OverflowError) as error:
        raise LinkError("This link is damaged: a value in it is not of its kind.") from error
    assert isinstance(bench, Bench)
    _check_limits(bench)
    return bench


def _check_limits(record: Any) -> None:
    """What no field of a form takes, no link brings."""
    for name, _ in outside(record):
        raise LinkError(f"This link holds a value outside what makes sense: the {named(name)}.")


def bench_address(bench: Bench, **look: str) -> str:
    """The address of a bench, with more parameters of how it is looked at."""
    return HOME + "?" + urlencode({"b": encode(bench), **look})


def put_address(gear: Gear, carrier: Gear | None = None) -> str:
    """The address that puts gear on the bench as one more rig; a lens goes on the carrier where no body there has its mount."""
    tokens = [encode_gear(one) for one in (gear, carrier) if one is not None]
    return HOME + "?" + urlencode({"action": ":".join(["put", *tokens])})


def encode_list(values: list[Any]) -> str:
    """A list of plain values as a parameter of its own."""
    return _deflate([1, *values])


def decode_list(token: str) -> list[Any]:
    """The values that a parameter stands for.

    Raises
        LinkError for a parameter that is damaged or too long
    """
    return _inflate(token)[1:]


def _deflate(content: list[Any]) -> str:
    text = json.dumps(content, separators=(",", ":"), ensure_ascii=False)
    return base64.urlsafe_b64encode(zlib.compress(text.encode(), 9)).decode().rstrip("=")


def _inflate(token: str) -> list[Any]:
    """The content of a parameter of this version, with its size capped before and after inflating."""
    if len(token) > LONGEST_TOKEN:
        raise LinkError(f"This link is too long: {len(token)} characters, at most {LONGEST_TOKEN} are read.")
    try:
        packed = base64.b64decode(token + "=" * (-len(token) % 4), altchars=b"-_", validate=True)
        inflater = zlib.decompressobj()
        data = inflater.decompress(packed, MOST_BYTES)
        if inflater.unconsumed_tail or not inflater.eof:
            raise LinkError("This link is cut short, or holds more than a bench.")
        content = json.loads(data.decode(), parse_constant=_refuse)
    except (ValueError, zlib.error, RecursionError) as error:
        if isinstance(error, LinkError):
            raise
        raise LinkError("This link is damaged: it may have been cut or changed on the way.") from error
    if not (isinstance(content, list) and content and content[0] in range(1, VERSION + 1)):
        raise LinkError("This link was written by a newer version, or not by Cambrel.")
    return content


def _refuse(constant: str) -> None:
    raise LinkError(f"This link holds {constant}, which is no number.")


def _pack(record: Any) -> list[Any]:
    cells: list[Any] = []
    for name, default in _TABLES[type(record)]:
        value = getattr(record, name)
        cells.append(
            None
            if value == default and isinstance(value, bool) == isinstance(default, bool)
            else _pack_value(name, value)
        )
    while cells and cells[-1] is None:
        cells.pop()
    return cells


def _pack_value(name: str, value: Any) -> Any:
    if value is None:
        return _UNKNOWN
    if name in _LISTS:
        return [_pack(record) for record in value]
    if name == "widest":
        return [_pack_value("", float(number)) for point in value for number in point]
    if type(value) in _TABLES:
        return _pack(value)
    if isinstance(value, bool):
        return int(value)
    if isinstance(value, float):
        if value == inf:
            return _INFINITE
        return int(value) if value.is_integer() and abs(value) < 2**53 else value
    return value


def _unpack(made: type, cells: Any) -> Any:
    table = _TABLES[made]
    if not isinstance(cells, list) or len(cells) > len(table):
        raise TypeError(f"{made.__name__} is not a list of at most {len(table)} values")
    padded = cells + [None] * (len(table) - len(cells))
    values = {name: _unpack_value(name, default, cell) for (name, default), cell in zip(table, padded, strict=True)}
    return made(**values)


def _unpack_value(name: str, default: Any, cell: Any) -> Any:
    if name in _LISTS:
        made, most = _LISTS[name]
        if cell is None:
            return ()
        if not isinstance(cell, list):
            raise TypeError(f"{name} is not a list")
        if len(cell) > most:
            raise LinkError(
                f"This link holds {len(cell)} {'rigs' if made is Slot else name}; at most {most} are taken."
            )
        return tuple(_unpack(made, record) for record in cell)
    if isinstance(default, type):
        return _unpack(default, [] if cell is None else cell)
    if cell is None:
        return default
    if cell == _UNKNOWN and not isinstance(default, str):
        return None
    if name == "widest":
        numbers = [_number(name, number) for number in cell]
        return tuple(zip(numbers[::2], numbers[1::2], strict=True))
    if isinstance(default, str):
        if not isinstance(cell, str) or len(cell) > LONGEST_NAME or not is_shown(cell):
            raise TypeError(f"{name} is no text that can be shown")
        return cell
    if isinstance(default, bool):
        return bool(_flag(name, cell))
    if name in _WHOLE:
        return _whole(name, cell)
    return inf if cell == _INFINITE else _number(name, cell)


def _whole(name: str, cell: Any) -> int:
    if isinstance(cell, bool) or not isinstance(cell, int):
        raise TypeError(f"{name} is not a whole number")
    return cell


def _flag(name: str, cell: Any) -> int:
    if isinstance(cell, bool) or cell not in (0, 1):
        raise TypeError(f"{name} is neither 0 nor 1")
    return int(cell)


def _number(name: str, cell: Any) -> float:
    if isinstance(cell, bool) or not isinstance(cell, int | float):
        raise TypeError(f"{name} is not a number")
    number = float(cell)
    if not isfinite(number):
        raise DomainError(name, "finite", number)
    return number


@dataclass(frozen=True)
class Gear:
    """A body, a lens, or a camera with its fixed lens, by value: what a shelf hands to a bench."""

    body: Body | None = None
    body_name: str = ""
    lens: Lens | None = None
    lens_name: str = ""


def encode_gear(gear: Gear) -> str:
    """Gear as a parameter of its own."""
    cells = [
        1,
        None if gear.body is None else [gear.body_name, _pack(gear.body)],
        None if gear.lens is None else [gear.lens_name, _pack(gear.lens)],
    ]
    return _deflate(cells)


def decode_gear(token: str) -> Gear:
    """The gear that a parameter stands for.

    Raises
        LinkError for anything that is not sound gear
    """
    content = _inflate(token)
    if len(content) != 3:
        raise LinkError("This is not gear.")
    try:
        found: list[Any] = []
        for made, cell in zip((Body, Lens), content[1:], strict=True):
            if cell is None:
                found += [None, ""]
                continue
            name, packed = cell
            _check_name(name)
            found += [_unpack(made, packed), name]
        gear = Gear(*found)
    except (TypeError, ValueError, OverflowError) as error:
        raise LinkError("This gear cannot be read.") from error
    for record in (gear.body, gear.lens):
        if record is not None:
            _check_limits(record)
    return gear

"""A bench as one link parameter, and back: compact positional JSON, defaults left out, deflated, base64url.

Pure, so that every screen can link to a bench by value. A version's tables never change: old links stay readable,
whatever becomes of the defaults in the core. Every value is checked on the way in by the core's own records.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import fields
from functools import lru_cache
from math import inf, isfinite
from typing import Any

from cambrel.bounds.limits import named, outside
from cambrel.bounds.names import LONGEST_NAME, check_name, is_shown
from cambrel.comparison.bench import MOST_CHANGES, MOST_MODES, MOST_RIGS, Bench, Gear, LayerChange, Slot, Task
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.rig import Body, Lens, Mode, Rig
from cambrel.links import v1, v2, v3, v4, v5, v6
from cambrel.links.codec import LinkError, deflated, inflated
from cambrel.optics.formats import Sensor
from cambrel.optics.quantities import DomainError

VERSIONS = {1: v1.TABLES, 2: v2.TABLES, 3: v3.TABLES, 4: v4.TABLES, 5: v5.TABLES, 6: v6.TABLES}
UPGRADES: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {
    2: v2.upgraded,
    3: v3.upgraded,
    4: v4.upgraded,
    5: v5.upgraded,
    6: v6.upgraded,
}
"""To each version, the bench of the one before."""
NEWEST = max(VERSIONS)

_RECORDS: dict[str, type] = {
    "Sensor": Sensor,
    "Mode": Mode,
    "Body": Body,
    "Lens": Lens,
    "Rig": Rig,
    "Slot": Slot,
    "Brief": Brief,
    "Hold": Hold,
    "Conventions": Conventions,
    "Bench": Bench,
    "Change": LayerChange,
}
"""By the names that the tables of the versions have for them, whatever the house calls them."""
_NAMES = {made: name for name, made in _RECORDS.items()}
_MAY_BE_UNKNOWN = frozenset(
    known.name
    for made in _RECORDS.values()
    for known in fields(made)
    if "None" in str(known.type) and known.default is not None
)
"""Fields that may be None although that is not their default."""
_YES_OR_NO = frozenset({"autofocus", "zoom_lock", "weather_sealed"})
"""Fields that are yes, no or not known."""
_WHOLE = frozenset({"reference", "lens_of", "layer", "mode", "frames"})
_LISTS = {"slots": ("Slot", MOST_RIGS), "changes": ("Change", MOST_CHANGES), "modes": ("Mode", MOST_MODES)}
_POINTS = {"widest": 2, "mtf50": 2, "mtf50_away": 3, "fall_off": 2}
"""Lists of points, each of so many numbers."""
Tables = Mapping[str, v1.Table]
_UNKNOWN, _INFINITE = "-", "i"  # stand for None where that is not the default, and for infinity


def encode(bench: Bench) -> str:
    """The bench as link parameter; equal benches give equal parameters: one that uses nothing of a newer version is
    written as before it.

    Parameters
        bench: whole and sound
    Returns
        base64url; equal benches give equal parameters, and one that uses nothing of a newer version is written as
            before it
    """
    return deflated([_version(bench), pack(bench)])


def _version(bench: Bench) -> int:
    """The oldest version that holds all of a bench."""
    shared = {"Brief": bench.brief, "Hold": bench.hold, "Conventions": bench.conventions}
    rigs = bench.rigs
    of_gear = [
        (name, gear_part) for rig in rigs for name, gear_part in (("Rig", rig), ("Body", rig.body), ("Lens", rig.lens))
    ]
    if _uses(bench.brief, v6.ADDED["Brief"]) or any(_is_of_six(name, part) for name, part in of_gear):
        return 6
    is_printed = bench.conventions.good_enough == "printer"
    if is_printed or any(_uses(shared[name], table) for name, table in v5.ADDED.items()):
        return 5
    if any(_uses(shared[name], table) for name, table in v4.ADDED.items()):
        return 4
    if any(_uses(part, v4.OF_GEAR[name]) for name, part in of_gear):
        return 4
    if any(_uses(shared[name], table) for name, table in v3.ADDED.items()):
        return 3
    if any(rig.lens.mtf50 for rig in rigs):
        return 3
    return 2 if bench.changes else 1


def _is_of_six(name: str, part: Any) -> bool:
    """Whether a part of a rig says what version 6 added, or a body has a mode that does."""
    modes = part.modes if name == "Body" else ()
    return (name in v6.OF_GEAR and _uses(part, v6.OF_GEAR[name])) or any(_uses(mode, v6.OF_MODES) for mode in modes)


def _uses(record: Any, table: v1.Table) -> bool:
    """Whether a record says anything of what a version added."""
    return any(getattr(record, key) != usual for key, usual in table)


def _content(token: str) -> list[Any]:
    """What a parameter of some version of ours holds."""
    content = inflated(token)
    if not (isinstance(content, list) and content and type(content[0]) is int and content[0] in VERSIONS):
        raise LinkError("This link was written by a newer version, or not by Cambrel.")
    return content


@lru_cache(maxsize=256)
def decode(token: str) -> Bench:
    """The bench that a link parameter stands for; the pictures, drawings and refreshes of a bench all ask for the same
    one.

    Parameters
        token: as it came
    Returns
        the bench, all of its values within their limits
    Raises
        LinkError for anything that is not a whole, sound bench
    """
    content = _content(token)
    if len(content) != 2:
        raise LinkError("This link holds no bench.")
    try:
        bench = Bench(**upgraded(values("Bench", content[1], VERSIONS[content[0]]), content[0]))
    except LinkError:
        raise
    except DomainError as error:
        raise LinkError(f"This link is damaged: its {named(error.parameter)} makes no sense.") from error
    except (TypeError, ValueError, OverflowError) as error:
        raise LinkError("This link is damaged: a value in it is not of its kind.") from error
    _check_limits(bench)
    return bench


def upgraded(bench: dict[str, Any], version: int) -> dict[str, Any]:
    """The values of a bench of some version, step by step as they are in the newest.

    Parameters
        bench: its values by their names, as that version has them
        version: from 1 on
    Returns
        the values as the newest version has them
    """
    for newer in range(version + 1, NEWEST + 1):
        bench = UPGRADES[newer](bench)
    return bench


def _check_limits(record: Any) -> None:
    """What no field of a form takes, no link brings."""
    for name, _ in outside(record):
        raise LinkError(f"This link is damaged: its {named(name)} is out of range.")


def pack(record: Any) -> list[Any]:
    """A record as a list of its values, defaults left out.

    Parameters
        record: one of those that links hold
    Returns
        plain values, None for a default, without those at the end
    """
    cells: list[Any] = []
    for name, default in VERSIONS[NEWEST][_NAMES[type(record)]]:
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
        return [pack(record) for record in value]
    if name in _POINTS:
        return [_pack_value("", float(number)) for point in value for number in point]
    if type(value) in _NAMES:
        return pack(value)
    if isinstance(value, bool):
        return int(value)
    if isinstance(value, float):
        if value == inf:
            return _INFINITE
        return int(value) if value.is_integer() and abs(value) < 2**53 else value
    return value


def unpack(name: str, cells: Any, tables: Tables) -> Any:
    """A record from such a list.

    Parameters
        name: of the kind of record
        cells: as a link holds them
        tables: of the link's version
    Returns
        the record
    Raises
        LinkError, TypeError or DomainError for what it cannot be
    """
    return _RECORDS[name](**values(name, cells, tables))


def values(name: str, cells: Any, tables: Tables) -> dict[str, Any]:
    """The values of a record, by their names.

    Parameters
        name: of the kind of record
        cells: as a link holds them
        tables: of the link's version
    Returns
        by the name of each field
    Raises
        LinkError, TypeError or DomainError for what it cannot be
    """
    table = tables[name]
    if not isinstance(cells, list) or len(cells) > len(table):
        raise TypeError(f"{name} is not a list of at most {len(table)} values")
    padded = cells + [None] * (len(table) - len(cells))
    pairs = zip(table, padded, strict=True)
    return {field: _unpack_value(field, default, cell, tables) for (field, default), cell in pairs}


def _unpack_value(name: str, default: Any, cell: Any, tables: Tables) -> Any:
    if name in _LISTS:
        made, most = _LISTS[name]
        if cell is None:
            return ()
        if not isinstance(cell, list):
            raise TypeError(f"{name} is not a list")
        if len(cell) > most:
            raise LinkError(
                f"This link holds {len(cell)} {'rigs' if name == 'slots' else name}. At most {most} are read."
            )
        return tuple(unpack(made, record, tables) for record in cell)
    if isinstance(default, v1.Of):
        return unpack(default, [] if cell is None else cell, tables)
    if cell is None:
        return default
    if cell == _UNKNOWN and name in _MAY_BE_UNKNOWN:
        return None
    if name in _YES_OR_NO:
        if type(cell) is not int or cell not in (0, 1):
            raise TypeError(f"{name} is neither yes nor no")
        return bool(cell)
    if name in _POINTS:
        numbers, size = [_number(name, number) for number in cell], _POINTS[name]
        return tuple(zip(*(numbers[start::size] for start in range(size)), strict=True))
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


def encode_brief(task: Task) -> str:
    """A picture to be made as a parameter of its own: it is written as a bench of the usual camera, so that it grows
    with benches.

    Parameters
        task: the picture under its name
    Returns
        base64url
    """
    return encode(Bench(task.brief, (Slot(Rig(Body(Sensor(36.0, 24.0)), Lens())),)).with_task(task))


def decode_brief(token: str) -> Task:
    """The picture that a parameter stands for; that of a whole bench is its picture.

    Parameters
        token: as it came
    Returns
        the picture under its name
    Raises
        LinkError as `decode` does
    """
    return decode(token).task


def encode_gear(gear: Gear) -> str:
    """Gear as a parameter of its own.

    Parameters
        gear: a body, a lens or both
    Returns
        base64url, of the oldest version that holds it
    """
    version = 3 if gear.lens is not None and gear.lens.mtf50 else 1
    parts = [(_NAMES[type(part)], part) for part in (gear.body, gear.lens) if part is not None]
    if any(_uses(part, v4.OF_GEAR[name]) for name, part in parts):
        version = 4
    if any(_is_of_six(name, part) for name, part in parts):
        version = 6
    cells = [
        version,
        None if gear.body is None else [gear.body_name, pack(gear.body)],
        None if gear.lens is None else [gear.lens_name, pack(gear.lens)],
    ]
    return deflated(cells)


def decode_gear(token: str) -> Gear:
    """The gear that a parameter stands for.

    Parameters
        token: as it came
    Returns
        a body, a lens or both
    Raises
        LinkError for anything that is not sound gear
    """
    content = _content(token)
    if len(content) != 3:
        raise LinkError("This is not gear.")
    try:
        parts: list[Any] = []
        for made, cell in zip(("Body", "Lens"), content[1:], strict=True):
            if cell is None:
                parts += [None, ""]
                continue
            name, packed = cell
            check_name(name)
            parts += [unpack(made, packed, VERSIONS[content[0]]), name]
        gear = Gear(*parts)
    except (TypeError, ValueError, OverflowError) as error:
        raise LinkError("This gear cannot be read.") from error
    for record in (gear.body, gear.lens):
        if record is not None:
            _check_limits(record)
    return gear

"""Gear from XML files in the open lens-database format of the lensfun library. Only what the file says is taken, and
what is inferred is marked.

What the format leaves to be known: a camera's mount whose name begins in lower case is private to it, so the lens of
that mount is part of the camera. `compat` runs one way and is not chained. A lens's crop factor is that of the body it
was measured on, not its coverage. Sizes of sensors are not in it: they follow from crop factor and shape.
"""

import io
import re
from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field
from math import hypot
from typing import TypeGuard
from xml.sax import SAXException
from xml.sax.handler import ContentHandler
from xml.sax.xmlreader import AttributesImpl, Locator

from defusedxml import DefusedXmlException
from defusedxml.expatreader import DefusedExpatParser

from cambrel.bounds.names import shortened
from cambrel.optics.formats import FULL_FRAME
from cambrel.owners.sections import Row
from cambrel.phrases.reader import read
from cambrel.phrases.typed_figures import decimal
from cambrel.shelf.intake.found import Contents, FileError, FileRecord, Known, counted
from cambrel.shelf.naming import points_of

DEEPEST = 12
MOST_TAGS, MOST_ATTRIBUTES = 600_000, 600_000
LONGEST_TEXT = 400
KEPT = {"maker", "model", "name", "mount", "compat", "cropfactor", "type", "aspect-ratio", "variant"}
FOUR_BY_THREE = 4 / 3
GENERIC = "Generic"
FIXED = "fixed lens"
SAME_REGISTER_MM = 0.02
NAME_LENGTH, MOUNT_LENGTH = 60, 40
SHAPE = re.compile(r"(?<![\d:])(?:4:3|3:2|16:9|1:1|5:4|65:24)(?![\d:.])")
MOST_TEXTS = 60
"""So many texts of one kind of one record are looked at."""
FISHEYES = {"fisheye", "stereographic", "equisolid", "orthographic", "thoby"}


class _Refused(SAXException):
    pass


@dataclass
class Entry:
    """A mount, camera or lens of the file: the line where it begins, the shortest and the longest focal length that it
    was measured at, the attributes of its elements, and its texts with their languages.
    """

    kind: str
    line: int
    focals: tuple[float, ...] = ()
    attrs: dict[str, dict[str, str]] = field(default_factory=dict)
    texts: dict[str, list[tuple[str, str]]] = field(default_factory=dict)


class _Reader(DefusedExpatParser):  # type: ignore[misc]
    """The files of the format name a DTD, which is not fetched; any other reference out of the file is refused."""

    def defused_external_entity_ref_handler(
        self, context: str | None, base: str | None, sysid: str | None, pubid: str | None
    ) -> int:
        if context is None:
            return 1
        return int(super().defused_external_entity_ref_handler(context, base, sysid, pubid))


class _Records(ContentHandler):
    """Collects mounts, cameras and lenses with their lines."""

    def __init__(self) -> None:
        super().__init__()
        self.depth, self.text, self.language = 0, "", ""
        self.record: Entry | None = None
        self.found: list[Entry] = []

    def setDocumentLocator(self, locator: Locator) -> None:  # noqa: N802
        self.locator = locator

    def startElement(self, name: str, attrs: AttributesImpl) -> None:  # noqa: N802
        self.depth += 1
        if self.depth > DEEPEST:
            raise _Refused("elements are nested too deeply")
        if self.depth == 2 and name in ("mount", "camera", "lens"):
            self.record = Entry(name, self.locator.getLineNumber() or 0)
            counted(len(self.found) + 1)
        elif self.record is not None:
            if name in ("focal", "aperture"):
                self.record.attrs.setdefault(name, dict(attrs))

            if name == "cropfactor" and attrs.get("value"):
                _keep(self.record, "cropfactor", "", attrs["value"])
            if "focal" in attrs and self.depth > 3 and (focal := _number(attrs["focal"])):
                # of any number of rows the shortest and the longest
                met = (*self.record.focals, focal)
                self.record.focals = (min(met), max(met))
        self.text, self.language = "", attrs.get("lang", "")

    def characters(self, content: str) -> None:
        if len(self.text) < LONGEST_TEXT:
            self.text += content

    def endElement(self, name: str) -> None:  # noqa: N802
        if self.record is not None and self.depth == 3 and name in KEPT and self.text.strip():
            _keep(self.record, name, self.language, " ".join(self.text.split()))
        if self.depth == 2 and self.record is not None:
            self.found.append(self.record)
            self.record = None
        self.depth -= 1
        self.text = ""


def _keep(record: Entry, name: str, language: str, text: str) -> None:
    texts = record.texts.setdefault(name, [])
    if len(texts) < MOST_TEXTS:
        texts.append((language, text))


def _one(record: Entry, name: str) -> str:
    """A text in English, else in the default language."""
    texts = record.texts.get(name, [])
    english = next((text for language, text in texts if language == "en"), None)
    return english or next((text for language, text in texts if not language), texts[0][1] if texts else "")


def _all(record: Entry, name: str) -> list[str]:
    return list(dict.fromkeys(text for _, text in record.texts.get(name, [])))


def _number(text: str) -> float | None:
    """A figure above 0 that makes sense, or None."""
    try:
        number = decimal(text)
    except ValueError:
        return None
    return number if 0 < number < 1e5 else None


def _full_name(record: Entry) -> str:
    """Maker, model and variant; what is too long is shortened in the middle, so that variants stay apart."""
    maker, model = _one(record, "maker"), _one(record, "model")
    variant = _one(record, "variant")
    name = model if not maker or model.lower().startswith(maker.lower()) else f"{maker} {model}"
    if not variant:
        return shortened(name, NAME_LENGTH)
    variant = shortened(variant, NAME_LENGTH // 2)
    return f"{shortened(name, NAME_LENGTH - len(variant) - 3)} ({variant})"


def read_lens_xml(data: bytes, owners: Known) -> Contents:
    """The mounts, cameras and lenses of a file.

    Parameters
        owners: what is known of the owner's (register distances)

    Raises
        FileError for what is no such file, holds entities or references, or is nested too deeply
    """
    if data.count(b"<") > MOST_TAGS or data.count(b"=") > MOST_ATTRIBUTES:
        raise FileError(f"The file has more than {MOST_TAGS:,} elements, more than is read at a time.")
    records = _Records()
    try:
        reader = _Reader(forbid_dtd=False, forbid_entities=True, forbid_external=True)
        reader.setContentHandler(records)
        reader.parse(io.BytesIO(data))
    except DefusedXmlException:
        raise FileError("The file declares entities or refers to other files. Such files are not read.") from None
    except _Refused as error:
        raise FileError(f"The file is not read: {error.getMessage()}.") from None
    except SAXException as error:
        line = getattr(error, "getLineNumber", lambda: 0)()
        raise FileError(f"This is not valid XML (line {line}).") from None
    kept = [record for record in records.found if not _is_generic(record)]
    known = _Known(kept, owners.registers_mm)
    rows = []
    for record in kept:
        rows += _RECORDS[record.kind](record, known)
        counted(len(rows))
    left_out = len(records.found) - len(kept)
    said = "1 generic entry, which stands" if left_out == 1 else f"{left_out:,} generic entries, which stand"
    notes = [f"Left out: {said} for no gear."] if left_out else []
    return Contents(_merged(rows), notes=notes)


class _Known:
    """The cameras and lenses of a file by their mounts, and the register distances that the owner keeps."""

    def __init__(self, records: Iterable[Entry], registers_mm: Mapping[str, float]) -> None:
        self.registers_mm = registers_mm
        self.cameras: dict[str, list[Entry]] = defaultdict(list)
        self.lenses: dict[str, list[Entry]] = defaultdict(list)
        for record in records:
            if record.kind != "mount":
                by_mount = self.cameras if record.kind == "camera" else self.lenses
                for mount in _all(record, "mount"):
                    by_mount[mount].append(record)


def _is_private(mount: str, known: _Known) -> bool:
    """Whether a mount belongs to one camera with a fixed lens: it begins in lower case, or all of its lenses are called
    fixed.
    """
    if mount[:1].islower():
        return True
    lenses = known.lenses.get(mount, ())
    return bool(lenses) and all(FIXED in _one(lens, "model").lower() for lens in lenses)


def _is_generic(record: Entry) -> bool:
    return GENERIC in (_one(record, "name"), _one(record, "maker"), _one(record, "model"))


def _mount(record: Entry, known: _Known) -> list[FileRecord]:
    """A mount. What the file calls compatible mixes lenses that fit as they are with those that need an adapter, and
    says not which.
    """
    name = shortened(_one(record, "name"), MOUNT_LENGTH)
    if not name:
        return [FileRecord("mounts", record.line, {}, "a mount has no name")]
    if _is_private(name, known):
        return []
    others = [
        shortened(other, MOUNT_LENGTH)
        for other in _all(record, "compat")
        if other not in (GENERIC, _one(record, "name"))
    ]
    accepts = sorted(
        {other for other in others if _same_mount(name, other) or _same_register(name, other, known.registers_mm)}
    )
    made = [FileRecord("mounts", record.line, {"name": name, "accepts": accepts})]
    for other in sorted(set(others) - set(accepts)):
        row = {
            "name": shortened(f"{other} on {name}", NAME_LENGTH), "lens_mount": other, "mount": name,
            "inferred": ["kind"],
            "note": "Called compatible in the file. An adapter is assumed.",
        }  # fmt: skip
        made.append(FileRecord("adapters", record.line, row))
    return made


def _same_mount(one: str, other: str) -> bool:
    """Whether two names differ in nothing but the format that they are for."""

    def bare(name: str) -> str:
        formats = {part.text for part in read(name).understood}
        words = " ".join(name.split())
        for text in formats:
            words = words.replace(text, " ")
        return " ".join(words.replace("(", " ").replace(")", " ").split()).lower()

    return bool(bare(one) == bare(other) != "")


def _same_register(one: str, other: str, registers_mm: Mapping[str, float]) -> bool:
    return one in registers_mm and abs(registers_mm[one] - registers_mm.get(other, 0.0)) < SAME_REGISTER_MM


def _aspect(record: Entry, lenses: Collection[Entry], crop: float) -> float:
    """The shape of a camera's frame: by its name, by what its own lens was measured on, by what is usual for its crop;
    and whether it is said.
    """
    shape = SHAPE.search(f"{_one(record, 'model')} {_one(record, 'variant')}")
    said = [shape[0]] if shape else [text for lens in lenses for text in _all(lens, "aspect-ratio")]
    for text in said:
        wide, _, high = text.partition(":")
        across, up = _number(wide), _number(high) if high else 1.0
        if across is not None and up is not None:
            return max(across, up) / min(across, up)
    return FOUR_BY_THREE if 1.9 <= crop <= 2.1 or crop > 3 or crop < 0.9 else 1.5


def _camera(record: Entry, known: _Known) -> list[FileRecord]:
    name, mount = _full_name(record), _one(record, "mount")
    crop = _number(_one(record, "cropfactor"))
    if not name or crop is None:
        reason = "no crop factor that can be read" if name else "a camera has no name"
        return [FileRecord("bodies", record.line, {"name": name}, reason)]
    aspect = _aspect(record, known.lenses.get(mount, ()) if _is_private(mount, known) else (), crop)
    height = FULL_FRAME.diagonal_mm / crop / hypot(aspect, 1)
    row = {
        "name": name,
        "mount": "" if _is_private(mount, known) else shortened(mount, MOUNT_LENGTH),
        "width_mm": aspect * height,
        "height_mm": height,
        "inferred": ["width_mm", "height_mm"],
    }
    return [FileRecord("bodies", record.line, row)]


def _lens(record: Entry, known: _Known) -> list[FileRecord]:
    name = _full_name(record)
    if not name:
        return [FileRecord("lenses", record.line, {}, "a lens has no name")]
    row: Row = {"name": name} | _figures(record)
    if "focal_min_mm" not in row:
        return [FileRecord("lenses", record.line, {"name": name}, "no focal length, neither stated nor in the name")]
    if _one(record, "type").lower() in FISHEYES:
        row["rectilinear"] = False
    made = []
    for mount in _all(record, "mount") or [""]:
        if mount == GENERIC:
            continue
        if not _is_private(mount, known):
            made.append(FileRecord("lenses", record.line, row | {"mount": shortened(mount, MOUNT_LENGTH)}))
            continue
        for camera in known.cameras.get(mount, ()):
            own = {
                "name": shortened(_full_name(camera), NAME_LENGTH - 5) + " lens",
                "fixed_to": _full_name(camera),
                "weight_g": 0.0,
            }
            made.append(FileRecord("lenses", record.line, row | own))
    return made or [
        FileRecord("lenses", record.line, {"name": name}, "its mount belongs to a camera that is not in this file")
    ]


def _figures(record: Entry) -> Row:
    """Focal lengths and f-numbers of a lens: as stated, else by its name (read by the one reader) and by where it was
    measured; with what was worked out."""
    said = read(_one(record, "model")).sides[0]
    focal, aperture = record.attrs.get("focal", {}), record.attrs.get("aperture", {})
    stated = _pair(focal.get("min") or focal.get("value"), focal.get("max") or focal.get("value"))
    measured = record.focals
    factor = said.converter or 1.0
    row: Row = {}
    inferred: list[str] = []
    if stated:
        low, high = sorted(stated)
    elif factor != 1 and measured:
        # with the converter on, the name gives the lens without it, and the measurements the lens as it is
        low, high = min(measured), max(measured)
    elif said.focal_min_mm is not None:
        low, high = said.focal_min_mm * factor, (said.focal_max_mm or said.focal_min_mm) * factor
    elif measured:
        low, high = min(measured), max(measured)
    else:
        return {}
    if not stated:
        inferred += ["focal_min_mm", "focal_max_mm"]
    row |= {"focal_min_mm": low, "focal_max_mm": high}
    if factor != 1:
        row["note"] = f"With a {factor:g} × converter, as its name says."
    named = [said.f_number, said.f_number_long or said.f_number] if _is_f_number(said.f_number) else []
    widest = _number(aperture.get("min") or aperture.get("value") or "")
    if named and (len(set(named)) > 1 or not _is_f_number(widest)):
        # an element gives one f-number; where the name gives one for each end, the name knows more
        numbers = [n * factor for n in named]
        inferred.append("widest")
    elif _is_f_number(widest):
        numbers = [widest, widest]
        if low < high:
            inferred.append("widest")
    else:
        numbers = []
    if numbers:
        row["widest"] = points_of(low, high, *numbers)
    smallest = _number(aperture.get("max") or "")
    if smallest and numbers and smallest > max(numbers):
        row["smallest_f_number"] = smallest
    return row | ({"inferred": inferred} if inferred else {})


def _is_f_number(value: float | None) -> TypeGuard[float]:
    return value is not None and 0.5 <= value <= 64


def _pair(low: str | None, high: str | None) -> tuple[float, float] | None:
    first = _number(low) if low else None
    last = _number(high) if high else first
    return None if first is None or last is None else (first, last)


def _merged(found: Iterable[FileRecord]) -> list[FileRecord]:
    """The same lens recorded for several crop factors is one lens."""
    kept: list[FileRecord] = []
    seen: dict[tuple[object, ...], int] = {}
    for record in found:
        key = (record.section, record.row.get("name"), record.row.get("mount", ""), record.row.get("fixed_to", ""))
        if record.section == "lenses" and not record.reason and key in seen:
            first = kept[seen[key]].row
            for name, value in record.row.items():
                first.setdefault(name, value)
            continue
        seen[key] = len(kept)
        kept.append(record)
    return kept


_RECORDS = {"mount": _mount, "camera": _camera, "lens": _lens}

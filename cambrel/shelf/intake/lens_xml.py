"""Gear from XML files in the open lens-database format of the lensfun library. Only what the file says is taken, and what is inferred is marked.

What the format leaves to be known: a camera's mount whose name begins in lower case is private to it, so the lens of that mount is part
of the camera. `compat` runs one way and is not chained. A lens's crop factor is that of the body it was measured on, not its coverage.
Sizes of sensors are not in it: they follow from crop factor and shape.
"""

import io
import re
from math import hypot
from xml.sax import SAXException
from xml.sax.handler import ContentHandler

from defusedxml import DefusedXmlException
from defusedxml.expatreader import DefusedExpatParser

from cambrel.fields import parse_number
from cambrel.optics.formats import FULL_FRAME
from cambrel.shelf.intake.found import FileError, Found, too_many

DEEPEST = 12
LONGEST_TEXT = 400
KEPT = {"maker", "model", "name", "mount", "compat", "cropfactor", "type", "aspect-ratio", "variant"}
N = r"(\d+(?:[.,]\d+)?)"
RANGE = rf"{N}(?:\s*[-–]\s*{N})?"
FOCAL_MM = re.compile(rf"(?<![\d.,/]){RANGE}\s*mm\b", re.IGNORECASE)
# "f/2.8", "F2.8", "1:2.8", but not the F28 of a type number
APERTURE = re.compile(
    rf"(?:(?<![A-Za-z0-9-])[fF]/\s?{RANGE}|(?<![A-Za-z0-9-])[fF]\s?(\d+[.,]\d+)(?:\s*[-–]\s*{N})?|(?<!\d)1:\s?{RANGE})"
)
# "2,9/22", "1:1.9/31", "3.5-5.6/18-55": the f-number over the focal length
OVER = re.compile(rf"(?<![\d./fF])(?:1:)?{RANGE}\s*/\s*{RANGE}(?![\d.,]*\s*(?:type|inch|\"))")
FOUR_BY_THREE = 4 / 3
FISHEYES = {"fisheye", "stereographic", "equisolid", "orthographic", "thoby"}


class _Refused(SAXException):
    pass


class _Reader(DefusedExpatParser):
    """The files of the format name a DTD, which is not fetched; any other reference out of the file is refused."""

    def defused_external_entity_ref_handler(self, context, base, sysid, pubid):
        if context is None:
            return 1
        return super().defused_external_entity_ref_handler(context, base, sysid, pubid)


class _Records(ContentHandler):
    """Collects mounts, cameras and lenses with their lines."""

    def __init__(self):
        super().__init__()
        self.depth, self.record, self.text, self.language = 0, None, "", ""
        self.found = []

    def setDocumentLocator(self, locator):  # noqa: N802
        self.locator = locator

    def startElement(self, name, attrs):  # noqa: N802
        self.depth += 1
        if self.depth > DEEPEST:
            raise _Refused("elements are nested too deeply")
        if self.depth == 2 and name in ("mount", "camera", "lens"):
            self.record = {"kind": name, "line": self.locator.getLineNumber(), "focals": [], "attrs": {}, "texts": {}}
            too_many(len(self.found) + 1)
        elif self.record is not None:
            if name in ("focal", "aperture"):
                self.record["attrs"].setdefault(name, dict(attrs))
            if name == "cropfactor" and attrs.get("value"):
                self._keep("cropfactor", "", attrs["value"])
            if "focal" in attrs and self.depth > 3:
                self.record["focals"].append(attrs["focal"])
        self.text, self.language = "", attrs.get("lang", "")

    def characters(self, content):
        if len(self.text) < LONGEST_TEXT:
            self.text += content

    def endElement(self, name):  # noqa: N802
        if self.record is not None and self.depth == 3 and name in KEPT and self.text.strip():
            self._keep(name, self.language, " ".join(self.text.split()))
        if self.depth == 2 and self.record is not None:
            self.found.append(self.record)
            self.record = None
        self.depth -= 1
        self.text = ""

    def _keep(self, name, language, text):
        self.record["texts"].setdefault(name, []).append((language, text))


def _one(record, name):
    """A text in English, else in the default language."""
    texts = record["texts"].get(name, [])
    english = next((text for language, text in texts if language == "en"), None)
    return english or next((text for language, text in texts if not language), texts[0][1] if texts else "")


def _all(record, name):
    return list(dict.fromkeys(text for _, text in record["texts"].get(name, [])))


def _number(text):
    """A figure above 0 that makes sense, or None."""
    try:
        number = parse_number(text)
    except ValueError:
        return None
    return number if 0 < number < 1e5 else None


def _full_name(record):
    maker, model = _one(record, "maker"), _one(record, "model")
    variant = _one(record, "variant")
    name = model if not maker or model.lower().startswith(maker.lower()) else f"{maker} {model}"
    return (f"{name} ({variant})" if variant else name)[:60].strip()


def read_lens_xml(data):
    """The mounts, cameras and lenses of a file.

    Raises
        FileError for what is no such file, holds entities or references, or is nested too deeply
    """
    records = _Records()
    try:
        reader = _Reader(forbid_dtd=False, forbid_entities=True, forbid_external=True)
        reader.setContentHandler(records)
        reader.parse(io.BytesIO(data))
    except DefusedXmlException:
        raise FileError("The file declares entities or refers to other files; such files are not read.") from None
    except _Refused as error:
        raise FileError(f"The file is not read: {error.getMessage()}.") from None
    except SAXException as error:
        line = getattr(error, "getLineNumber", lambda: 0)()
        raise FileError(f"This is no sound XML (line {line}).") from None
    cameras = [record for record in records.found if record["kind"] == "camera"]
    found = []
    for record in records.found:
        found += _RECORDS[record["kind"]](record, cameras)
    return _merged(found)


def _is_private(mount):
    return mount[:1].islower()


def _mount(record, _):
    name = _one(record, "name")[:40]
    if name == "Generic" or _is_private(name):
        return []
    accepts = sorted({other[:40] for other in _all(record, "compat") if other not in ("Generic", name)})
    return [Found("mounts", record["line"], {"name": name, "accepts": accepts}, "" if name else "a mount has no name")]


def _camera(record, _):
    name, mount = _full_name(record), _one(record, "mount")[:40]
    crop = _number(_one(record, "cropfactor"))
    if not name or crop is None:
        return [
            Found(
                "bodies",
                record["line"],
                {"name": name},
                "no crop factor that can be read" if name else "a camera has no name",
            )
        ]
    aspect = FOUR_BY_THREE if 1.9 <= crop <= 2.1 or crop > 3 or crop < 0.9 else 1.5
    height = FULL_FRAME.diagonal_mm / crop / hypot(aspect, 1)
    row = {
        "name": name,
        "mount": "" if _is_private(mount) else mount,
        "width_mm": aspect * height,
        "height_mm": height,
        "inferred": ["width_mm", "height_mm"],
    }
    return [Found("bodies", record["line"], row)]


def _lens(record, cameras):
    name = _full_name(record)
    if not name:
        return [Found("lenses", record["line"], {}, "a lens has no name")]
    row, inferred = {"name": name}, []
    focal = _focal_of(record, inferred)
    if focal is None:
        return [Found("lenses", record["line"], {"name": name}, "no focal length, neither stated nor in the name")]
    row["focal_min_mm"], row["focal_max_mm"] = focal
    widest = _aperture_of(record, inferred)
    if widest:
        points = [[focal[0], widest[0]], [focal[1], widest[1]]]
        row["widest"] = points[:1] if focal[0] == focal[1] else points
    if _one(record, "type").lower() in FISHEYES:
        row["rectilinear"] = False
    if inferred:
        row["inferred"] = inferred
    made = []
    for mount in _all(record, "mount") or [""]:
        if mount == "Generic":
            continue
        if not _is_private(mount):
            made.append(Found("lenses", record["line"], row | {"mount": mount[:40]}))
            continue
        for camera in cameras:
            if mount in _all(camera, "mount"):
                own = row | {"name": f"{_full_name(camera)[:55]} lens", "fixed_to": _full_name(camera), "weight_g": 0.0}
                made.append(Found("lenses", record["line"], own))
    return made or [
        Found("lenses", record["line"], {"name": name}, "its mount belongs to a camera that is not in this file")
    ]


def _pair(low, high):
    first = _number(low) if low else None
    last = _number(high) if high else first
    return None if first is None or last is None else (first, last)


def _focal_of(record, inferred):
    stated = record["attrs"].get("focal", {})
    pair = _pair(stated.get("min") or stated.get("value"), stated.get("max") or stated.get("value"))
    if pair:
        return tuple(sorted(pair))
    model = _one(record, "model")
    inferred += ["focal_min_mm", "focal_max_mm"]
    if match := FOCAL_MM.search(model):
        return _ordered(_pair(match[1], match[2]))
    if match := OVER.search(model):
        return _ordered(_pair(match[3], match[4]))
    measured = [number for number in map(_number, record["focals"]) if number]
    return (min(measured), max(measured)) if measured else None


def _ordered(pair):
    return pair and tuple(sorted(pair))


def _aperture_of(record, inferred):
    stated = record["attrs"].get("aperture", {})
    pair = _pair(stated.get("min") or stated.get("value"), None)
    if pair and pair[0] >= 0.5:
        return pair
    model = _one(record, "model")
    if match := APERTURE.search(model):
        groups = [group for group in match.groups() if group]
        pair = _pair(groups[0], groups[1] if len(groups) > 1 else None)
    elif match := OVER.search(model):
        pair = _pair(match[1], match[2])
    if pair and all(0.5 <= number <= 64 for number in pair):
        inferred.append("widest")
        return pair
    return None


def _merged(found):
    """The same lens recorded for several crop factors is one lens."""
    kept, seen = [], {}
    for one in found:
        key = (one.section, one.row.get("name"), one.row.get("mount", ""), one.row.get("fixed_to", ""))
        if one.section == "lenses" and not one.reason and key in seen:
            first = kept[seen[key]].row
            for name, value in one.row.items():
                first.setdefault(name, value)
            continue
        seen[key] = len(kept)
        kept.append(one)
    return kept


_RECORDS = {"mount": _mount, "camera": _camera, "lens": _lens}

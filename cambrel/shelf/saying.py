"""A record's row in words, as the preview of an import shows it: what was read, and where the file differs from the
shelf.
"""

import re

from cambrel import wording
from cambrel.owners.sections import REFERENCES, Row
from cambrel.shelf.table import BY_KEY

LEFT_OUT = {"name", "inferred", "measured", "focal_max_mm", "currency", "bench", "brief", *REFERENCES}
LONGEST = 60


def value_text(name: str, value: object) -> str:
    """A value of a field, as the shelf shows it."""
    if value is None or value == "" or value == []:
        return "unknown"
    if name in BY_KEY:
        try:
            return str(BY_KEY[name].sort.shown(value))[:LONGEST]
        except (TypeError, ValueError):
            return str(value)[:LONGEST]  # it is refused, and shown as it came
    return ", ".join(map(str, value)) if isinstance(value, list) else str(value)[:LONGEST]


def label_of(name: str) -> str:
    label = BY_KEY[name].label if name in BY_KEY else name.replace("_", " ")
    return label if label.isupper() or label.startswith("ISO") else label[:1].lower() + label[1:]


RAW = re.compile(r"\b[a-z]+(?:_[a-z0-9]+)+\b")


def plainly(text: str) -> str:
    """A text with the fields that it names in words."""
    return RAW.sub(lambda found: str(label_of(found[0])), text)


def said(row: Row) -> list[tuple[str, str]]:
    """What was read of a record: label and value of every field that it states, and which of them were worked out."""
    parts = []
    for name, value in row.items():
        if name in LEFT_OUT or value in (None, "", []):
            continue
        if name == "focal_min_mm":
            parts.append(("focal length", wording.focal_range(value, row.get("focal_max_mm") or value)))
        elif name == "price":
            parts.append(("price", wording.money(value, row.get("currency", ""))))
        else:
            parts.append((label_of(name), value_text(name, value)))
    return parts


def worked_out(row: Row) -> str:
    """The fields that were not stated but worked out, in words."""
    names = [name for name in row.get("inferred") or [] if name not in LEFT_OUT]
    return ", ".join("focal length" if name == "focal_min_mm" else label_of(name) for name in names)


def differing(mine: Row, row: Row) -> str:
    """Where a file's row differs from the shelf's, in words; an empty text where it does not."""
    parts = [
        f"{label_of(name)}: {value_text(name, mine.get(name))} here, {value_text(name, value)} in the file"
        for name, value in row.items()
        if name not in REFERENCES and mine.get(name) != value
    ]
    return "; ".join(parts)

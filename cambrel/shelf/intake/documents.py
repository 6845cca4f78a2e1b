"""The JSON document: read against its schema."""

from functools import cache
from typing import Any

from jsonschema import Draft202012Validator

from cambrel.bounds.documents import DocumentError, read_json
from cambrel.owners.sections import SECTIONS
from cambrel.shelf.intake.found import FileError, Found, counted
from cambrel.shelf.saying import label_of

VERSION = 1


@cache
def _validator(section: str) -> Any:
    return Draft202012Validator(SECTIONS[section].schema)


def problem_of(section: str, row: dict[str, Any]) -> Any:
    """What in a row does not stand up to the schema, or an empty text."""
    error = next(_validator(section).iter_errors(row), None)
    if error is None:
        return ""
    if error.validator == "required":
        missing = [name for name in error.validator_value if name not in error.instance]
        return f"{label_of(missing[0])} is missing"
    field, *within = error.absolute_path or [""]
    where = ".".join((label_of(str(field)), *(str(part) for part in within)))
    return (f"{where}: " if where else "") + error.message[:200]


def read_document(data: Any) -> Any:
    """The records of a document, section by section.

    Raises
        FileError for what is no document of this version
    """
    try:
        content = read_json(data, "gear")
    except DocumentError as error:
        raise FileError(str(error)) from None
    if (
        not isinstance(content, dict)
        or content.get("cambrel") != VERSION
        or not isinstance(content.get("sections"), dict)
    ):
        raise FileError(f"This is no Cambrel document of version {VERSION}.")
    counted(sum(len(rows) for rows in content["sections"].values() if isinstance(rows, list)))
    unknown = sorted(set(content["sections"]) - set(SECTIONS))
    if unknown:
        raise FileError(f"The document has a section that is not known here: {unknown[0][:40]}.")
    found: list[Any] = []
    for section, rows in content["sections"].items():
        if not isinstance(rows, list):
            raise FileError(f"The section {section} is not a list.")
        counted(len(found) + len(rows))
        for line, row in enumerate(rows, start=1):
            counted(len(found))
            if isinstance(row, dict):
                found.append(Found(section, line, row))
            else:
                found.append(Found(section, line, {}, "this is not a record"))
    return found

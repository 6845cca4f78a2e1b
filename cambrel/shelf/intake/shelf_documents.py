"""The JSON document: read against its schema."""

from functools import cache

from jsonschema import Draft202012Validator

from cambrel.bounds.documents import DocumentError, read_json
from cambrel.bounds.names import shortened
from cambrel.owners.sections import SECTIONS, Row, Schema
from cambrel.shelf.intake.found import FileError, FileRecord, counted
from cambrel.shelf.saying import label_of

VERSION = 1


@cache
def _validator(section: str) -> Draft202012Validator:
    return Draft202012Validator(SECTIONS[section].schema)


def problem_of(section: str, row: Row) -> str:
    """What in a row does not stand up to the schema, or an empty text."""
    error = next(_validator(section).iter_errors(row), None)
    if error is None:
        return ""
    if error.validator == "required":
        missing = [name for name in error.validator_value if name not in error.instance]
        return f"{label_of(missing[0])} is missing"
    field, *within = error.absolute_path or [""]
    where = ".".join((label_of(str(field)), *(str(part) for part in within)))
    return (f"{where}: " if where else "") + str(error.message)[:200]


KINDS: dict[str, tuple[type, ...]] = {
    "number": (int, float), "integer": (int, float), "string": (str,), "boolean": (bool,), "array": (list,),
    "object": (dict,),
    "null": (type(None),),
}  # fmt: skip


def ill_typed(section: str, row: Row) -> str:
    """The first field of a row that is of another kind than its schema has it, with why; an empty text where none is.

    Told before anything is made of the row; all else that the schema says is judged when it is looked at.
    """
    properties = SECTIONS[section].schema["properties"]
    for name, value in row.items():
        if name in properties and not _fits(value, properties[name]):
            return f"{label_of(name)}: {shortened(str(value), 40)} is not of the kind that is kept there"
    return ""


def _kinds(schema: Schema) -> list[str]:
    kinds = schema.get("type", [])
    return [kinds] if isinstance(kinds, str) else list(kinds)


def _fits(value: object, schema: Schema) -> bool:
    kinds = _kinds(schema)
    if kinds and not any(
        isinstance(value, KINDS[kind]) and (kind == "boolean" or not isinstance(value, bool)) for kind in kinds
    ):
        return False
    if "enum" in schema and not isinstance(value, str | int | float | None):
        return False
    if isinstance(value, list):
        inner = schema.get("items")
        if schema.get("minItems") == schema.get("maxItems", -1) != len(value):
            return False
        return not isinstance(inner, dict) or all(_fits(part, inner) for part in value)
    if isinstance(value, dict):
        named, others = schema.get("properties", {}), schema.get("additionalProperties")
        inner = {name: named.get(name, others) for name in value}
        return all(not isinstance(inner[name], dict) or _fits(part, inner[name]) for name, part in value.items())
    return True


def read_document(data: bytes) -> list[FileRecord]:
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
        raise FileError(f"This is not a Cambrel document of version {VERSION}.")
    counted(sum(len(rows) for rows in content["sections"].values() if isinstance(rows, list)))
    unknown = sorted(set(content["sections"]) - set(SECTIONS))
    if unknown:
        raise FileError(f"The document has a section that is not known here: {unknown[0][:40]}.")
    shelf_rows: list[FileRecord] = []
    for section, rows in content["sections"].items():
        if not isinstance(rows, list):
            raise FileError(f"The section {section} is not a list.")
        counted(len(shelf_rows) + len(rows))
        for line, row in enumerate(rows, start=1):
            counted(len(shelf_rows))
            if not isinstance(row, dict):
                shelf_rows.append(FileRecord(section, line, {}, "this is not a record"))
            elif problem := ill_typed(section, row):
                name = row.get("name")
                shelf_rows.append(FileRecord(section, line, {"name": name} if isinstance(name, str) else {}, problem))
            else:
                shelf_rows.append(FileRecord(section, line, row))
    return shelf_rows

"""The shelf's sections of the document: how each kind of record becomes a row and is made from one."""

from collections.abc import Callable, Collection, Hashable
from functools import partial

from django.db.models import Value
from django.db.models.functions import Coalesce

from cambrel.bounds import names
from cambrel.bounds.limits import is_outside
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.owners.models import Owned, User
from cambrel.owners.sections import REFERENCE, Ids, Row, Section, record_schema, register, those_called
from cambrel.owners.undo import ChangePlan
from cambrel.shelf.gear_records import Carried
from cambrel.shelf.models import (
    MOST_IN_KIT,
    Adapter,
    Bag,
    Body,
    CloseUpAid,
    Converter,
    CropMode,
    Kit,
    Lens,
    LetterCode,
    Mount,
    OwnFormat,
    Support,
)
from cambrel.shelf.saying import label_of, plainly
from cambrel.shelf.sorts import NAME
from cambrel.shelf.table import kept

Called = Collection[str] | None
Pairs = list[tuple[int | None, Row]]

MODELS = {
    "mounts": Mount, "bodies": Body, "crop_modes": CropMode, "lenses": Lens, "converters": Converter,
    "adapters": Adapter,
    "supports": Support, "close_up_aids": CloseUpAid, "bags": Bag, "kits": Kit,
    "formats": OwnFormat, "codes": LetterCode,
}  # fmt: skip
FIELDS = {
    model: (*(field.key for field in kept(section)), *(("inferred", "measured") if issubclass(model, Carried) else ()))
    for section, model in MODELS.items()
}
"""The fields of a row that are fields of the record, in the order of a table's columns."""
MEMBERS = {
    "type": "array",
    "items": {"type": "string", "minLength": 1, "maxLength": 60, "pattern": "\\S"},
    "maxItems": 500,
}
MEMBER_IDS = {"type": "array", "maxItems": 2000, "items": {"type": ["integer", "string"], "maxLength": 120}}
PACKED = (
    ("bodies", "body_ids", Body),
    ("lenses", "lens_ids", Lens),
    ("adapters", "adapter_ids", Adapter),
    ("supports", "support_ids", Support),
)
"""What a kit holds: the section, where its keys stand in a row, and the records."""
BESIDE = {
    "crop_modes": {"body": NAME.schema, "body_id": REFERENCE},
    "lenses": {"fixed_to": {"type": "string", "maxLength": 60}, "fixed_to_id": REFERENCE},
    "kits": {name: MEMBERS for name, _, _ in PACKED} | {ids: MEMBER_IDS for _, ids, _ in PACKED},
}
"""What a row says of other records."""
SAYS = {
    "mounts": "A lens mount. accepts: names of mounts whose lenses fit as they are, never chained.",
    "bodies": "A camera, by name and mount.",
    "crop_modes": "A named part of a body's sensor, or a way of combining several frames. body: its name.",
    "lenses": (
        "A lens, by name and mount. widest: pairs of focal length and f-number along the range. "
        "mtf50: pairs of f-number and line pairs per mm. mtf50_away: image height, f-number and line "
        "pairs per mm. fall_off: image height and stops. fixed_to: name of the body that it is part "
        "of, or empty."
    ),
    "converters": "A teleconverter (factor above 1) or reducer.",
    "adapters": "From a lens's mount to a body's (mount).",
    "supports": "What carries a camera, or turns it with the sky.",
    "close_up_aids": "A tube between lens and body, or a close-up lens before the lens.",
    "bags": "What gear is carried in, by its inner sides.",
    "kits": "A bag, with bodies, lenses, adapters and supports by name.",
    "formats": "A sensor size of the owner's own.",
    "codes": (
        "Letters in lens names and what they stand for by the owner's own table: a format by its slug, or a mount."
    ),
}


def schema_of(section: str) -> dict[str, object]:
    """What a record of the document may say, and must."""
    properties = {field.key: field.schema for field in kept(section)} | BESIDE.get(section, {}) | {"id": REFERENCE}
    if "inferred" in FIELDS[MODELS[section]]:
        properties["inferred"] = {"type": "array", "items": {"type": "string"}, "maxItems": 40}
        read_off = {"type": "string", "maxLength": 60, "pattern": r"^[a-z0-9_]+ \d{4}-\d\d-\d\d$"}
        properties["measured"] = {"type": "array", "items": read_off, "maxItems": 40}
    stated = [gear_field.key for gear_field in kept(section) if gear_field.stated] + (
        ["body"] if section == "crop_modes" else []
    )
    return record_schema(SAYS[section], properties, stated)


def _rows(model: type[Owned], owner: User, called: Called = None) -> list[tuple[int, Row]]:
    rows = those_called(model.objects.for_owner(owner).values("pk", *FIELDS[model]), called)
    return [(row["pk"], {"id": row.pop("pk"), **row}) for row in rows]


def _part_rows(model: type[Owned], parent: str, name: str, owner: User, called: Called = None) -> list[tuple[int, Row]]:
    """Rows of records that are part of another, which is given by its name and its id."""
    named = Coalesce(f"{parent}__name", Value(""))
    fields = FIELDS[model]
    records = model.objects.for_owner(owner).annotate(whole=named).values("pk", "whole", f"{parent}_id", *fields)
    return [
        (
            row["pk"],
            {
                "id": row["pk"],
                **{field: row[field] for field in fields},
                name: row["whole"],
                f"{name}_id": row[f"{parent}_id"],
            },
        )
        for row in those_called(records, called)
    ]


def _kit_rows(owner: User, called: Called = None) -> list[tuple[int, Row]]:
    made = []
    held = [section for section, _, _ in PACKED]
    for kit in those_called(Kit.objects.for_owner(owner).prefetch_related(*held), called):
        row = {"id": kit.pk, "name": kit.name, "note": kit.note}
        for section, refer, _ in PACKED:
            members = sorted(getattr(kit, section).all(), key=lambda member: (member.name, member.pk))
            row |= {section: [member.name for member in members], refer: [member.pk for member in members]}
        made.append((kit.pk, row))
    return made


def _by_name(row: Row) -> Hashable:
    return str(row["name"])


def _by_name_and_mount(row: Row) -> Hashable:
    return row["name"], row.get("mount", ""), row.get("fixed_to", "")


def _by_name_and_body(row: Row) -> Hashable:
    return row["name"], row["body"]


def _check(model: type[Owned], row: Row) -> Row:
    """A sound row; the core says what cannot be."""
    row = dict(row)
    row["name"] = names.clean(row["name"])
    for name, value in row.items():
        if isinstance(value, int | float) and not isinstance(value, bool) and is_outside(name, value):
            raise ValueError(f"{label_of(name)}: {value:g} is out of range")
    if row.get("price") and not row.get("currency"):
        raise ValueError("a price has no currency")
    if model is Kit and sum(len(row.get(section, ())) for section, _, _ in PACKED) > MOST_IN_KIT:
        raise ValueError(f"a kit holds at most {MOST_IN_KIT} bodies, lenses, adapters and supports")
    if model is Lens:
        row.setdefault("focal_max_mm", row["focal_min_mm"])
        if row.get("designed_for") and row["designed_for"] not in FORMATS:
            raise ValueError(f"designed_for “{row['designed_for']}” is no known format")
        if "widest" in row:
            row["widest"] = sorted([float(focal), float(number)] for focal, number in row["widest"])
        for points in ("mtf50", "mtf50_away", "fall_off"):
            if points in row:
                row[points] = sorted([float(number) for number in point] for point in row[points])
    sample = {name: value for name, value in row.items() if name in FIELDS[model]}
    try:
        record = model(**sample)
        if hasattr(record, "to_optics"):
            record.to_optics()
        elif "width_mm" in row:
            Sensor(row["width_mm"], row["height_mm"], row.get("pixels_wide"), row.get("pixels_high"))
    except DomainError as error:
        raise ValueError(plainly(f"{error.parameter} must be {error.wanted}")) from None
    return row


def _plan(
    model: type[Owned],
    section: str,
    plan: ChangePlan,
    pairs: Pairs,
    ids: Ids,
    parents: Callable[[Row], Row] | None = None,
) -> None:
    """Create or change records in one batch. parents: from a row to the fields that point at other records."""
    fields = FIELDS[model]

    def assign(record: Owned, row: Row) -> None:
        for name in fields:
            if name in row:
                setattr(record, name, row[name])

    plan.change(model, {key: row for key, row in pairs if key is not None}, assign)
    rows = [row for key, row in pairs if key is None]
    made = []
    for row in rows:
        record = model(owner=plan.owner, **(parents(row) if parents else {}))
        assign(record, row)
        made.append(record)
    plan.add(model, made)
    for record, row in zip(made, rows, strict=True):
        note_id(ids, section, row, record.pk)


def note_id(ids: Ids, section: str, row: Row, key: int) -> None:
    """Keep under which key a record of the document is known here."""
    if row.get("id") is not None:
        ids[section, str(row["id"])] = key


def _keys_by_name(plan: ChangePlan, model: type[Owned]) -> dict[str, int]:
    """The keys of records by name, those that the plan adds among them; of two with one name the first."""
    there = model.objects.for_owner(plan.owner).order_by("pk").values_list("name", "pk")
    added = [(str(record), record.pk) for record in plan.new.get(model, ())]
    return dict(reversed([*there, *added]))


def _parent(plan: ChangePlan, field: str, name: str, ids: Ids) -> Callable[[Row], Row]:
    """From a row to the body that it names, by id or by name; a body that is not there is refused when the file is
    looked at.
    """
    bodies = _keys_by_name(plan, Body)

    def parent_of(row: Row) -> Row:
        key = ids.get(("bodies", str(row.get(f"{name}_id"))))
        return {f"{field}_id": key if key is not None else bodies.get(row.get(name, ""))}

    return parent_of


def _plan_parts(
    model: type[Owned],
    section: str,
    field: str,
    name: str,
    plan: ChangePlan,
    pairs: Pairs,
    ids: Ids,
) -> None:
    _plan(model, section, plan, pairs, ids, _parent(plan, field, name, ids))


def _plan_kits(plan: ChangePlan, pairs: Pairs, ids: Ids) -> None:
    _plan(Kit, "kits", plan, pairs, ids)
    keys = iter([kit.pk for kit in plan.new.get(Kit, ())])
    placed = [(next(keys) if key is None else key, row) for key, row in pairs]
    for section, refer, model in PACKED:
        named, held = _keys_by_name(plan, model), {}
        for key, row in placed:
            by_id = [ids[section, str(key)] for key in row.get(refer, ()) if (section, str(key)) in ids]
            by_name = [named[name] for name in row.get(section, ()) if name in named]
            if section in row or by_id:
                held[key] = by_id or by_name
        plan.batch.hold(Kit, section, held)


def _plain(key: str, label: str, model: type[Owned], identity: Callable[[Row], Hashable] = _by_name) -> Section:
    return Section(
        key,
        label,
        model,
        partial(_rows, model),
        identity,
        partial(_check, model),
        partial(_plan, model, key),
        schema_of(key),
    )


def _part(
    key: str, label: str, model: type[Owned], field: str, name: str, identity: Callable[[Row], Hashable]
) -> Section:
    rows = partial(_part_rows, model, field, name)
    plan = partial(_plan_parts, model, key, field, name)
    return Section(key, label, model, rows, identity, partial(_check, model), plan, schema_of(key))


def register_all() -> None:
    """The order is that in which they are applied: what is pointed at comes first."""
    for section in (
        _plain("mounts", "Mounts", Mount),
        _plain("bodies", "Bodies", Body, _by_name_and_mount),
        _part("crop_modes", "Crop modes", CropMode, "body", "body", _by_name_and_body),
        _part("lenses", "Lenses", Lens, "fixed_to", "fixed_to", _by_name_and_mount),
        _plain("converters", "Converters", Converter),
        _plain("adapters", "Adapters", Adapter),
        _plain("supports", "Supports", Support),
        _plain("close_up_aids", "Close-up aids", CloseUpAid),
        _plain("bags", "Bags", Bag),
        Section("kits", "Kits", Kit, _kit_rows, _by_name, partial(_check, Kit), _plan_kits, schema_of("kits")),
        _plain("formats", "Own formats", OwnFormat),
        _plain("codes", "Letter codes", LetterCode),
    ):
        register(section)

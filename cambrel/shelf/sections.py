"""The shelf's sections of the document: how each kind of record becomes a row and is made from one."""

from functools import partial

from django.db.models import Value
from django.db.models.functions import Coalesce

from cambrel.links import LONGEST_NAME
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.quantities import DomainError
from cambrel.owners.sections import Section, register
from cambrel.shelf.models import Adapter, Body, Converter, CropMode, Kit, Lens, Mount, OwnFormat

BATCH = 500
PRICED = ("system", "mount", "weight_g", "price", "currency", "note", "inferred")
FIELDS = {
    Mount: ("name", "register_mm", "accepts", "note"),
    Body: (
        "name", *PRICED, "width_mm", "height_mm", "pixels_wide", "pixels_high", "base_iso", "ceiling_iso", "fastest_shutter_s",
        "slowest_shutter_s", "stabilisation_stops", "offset_stops",
    ),
    CropMode: ("name", "use", "width_mm", "height_mm", "pixels_wide", "pixels_high"),
    Lens: (
        "name", *PRICED, "focal_min_mm", "focal_max_mm", "widest", "smallest_f_number", "max_magnification", "close_focus_m",
        "image_circle_mm", "designed_for", "rectilinear", "stabilised", "length_mm", "diameter_mm",
    ),
    Converter: ("name", *PRICED, "factor"),
    Adapter: ("name", *PRICED, "lens_mount", "kind", "loses"),
    Kit: ("name", "note"),
    OwnFormat: ("name", "designation", "width_mm", "height_mm"),
}  # fmt: skip
"""The fields of a row that are fields of the record, in the order of a table's columns."""


def _rows(model, owner):
    return [(row.pop("pk"), row) for row in model.objects.for_owner(owner).values("pk", *FIELDS[model])]


def _part_rows(model, parent, name, owner):
    """Rows of records that are part of another, which is given by its name."""
    named = Coalesce(f"{parent}__name", Value(""))
    fields = FIELDS[model]
    records = model.objects.for_owner(owner).annotate(whole=named).values("pk", "whole", *fields)
    return [(row["pk"], {field: row[field] for field in fields} | {name: row["whole"]}) for row in records]


def _kit_rows(owner):
    kits = Kit.objects.for_owner(owner).prefetch_related("bodies", "lenses")
    return [
        (
            kit.pk,
            {
                "name": kit.name,
                "note": kit.note,
                "bodies": _names(kit.bodies.all()),
                "lenses": _names(kit.lenses.all()),
            },
        )
        for kit in kits
    ]


def _names(records):
    return sorted(record.name for record in records)


def _by_name(row):
    return row["name"]


def _by_name_and_mount(row):
    return row["name"], row.get("mount", ""), row.get("fixed_to", "")


def _by_name_and_body(row):
    return row["name"], row["body"]


def _check(model, row):
    """A sound row; the core says what cannot be."""
    row = dict(row)
    row["name"] = " ".join(row["name"].split())
    if not row["name"].isprintable() or len(row["name"]) > LONGEST_NAME:
        raise ValueError("the name has characters that cannot be shown")
    if row.get("price") and not row.get("currency"):
        raise ValueError("a price has no currency")
    if model is Lens:
        row.setdefault("focal_max_mm", row["focal_min_mm"])
        if row.get("designed_for") and row["designed_for"] not in FORMATS:
            raise ValueError(f"designed_for “{row['designed_for']}” is no known format")
        if "widest" in row:
            row["widest"] = sorted([float(focal), float(number)] for focal, number in row["widest"])
    sample = {name: value for name, value in row.items() if name in FIELDS[model]}
    try:
        record = model(**sample)
        if hasattr(record, "to_optics"):
            record.to_optics()
        elif "width_mm" in row:
            Sensor(row["width_mm"], row["height_mm"], row.get("pixels_wide"), row.get("pixels_high"))
    except DomainError as error:
        raise ValueError(str(error)) from None
    return row


def _write(model, owner, pairs, change, parents=None):
    """Create or change records in one batch. parents: from a row to the fields that point at other records."""
    fields = FIELDS[model]
    news, changed = [], {key: row for key, row in pairs if key is not None}
    for key, row in pairs:
        if key is None:
            values = {name: row[name] for name in fields if name in row}
            news.append(model(owner=owner, **values, **(parents(row) if parents else {})))
    existing = list(model.objects.for_owner(owner).in_bulk(list(changed)).values()) if changed else []
    change.touch(*existing)
    for record in existing:
        row = changed[record.pk]
        for name in fields:
            if name in row:
                setattr(record, name, row[name])
    if existing:
        model.objects.bulk_update(existing, fields, batch_size=BATCH // 10)
    change.created(*model.objects.bulk_create(news, batch_size=BATCH))


def _parent(owner, field, name):
    """From a row to the body that it names; a body that is not there is refused when the file is looked at."""
    bodies = {body.name: body for body in Body.objects.for_owner(owner)}
    return lambda row: {field: bodies.get(row.get(name, ""))}


def _write_parts(model, field, name, owner, pairs, change):
    _write(model, owner, pairs, change, _parent(owner, field, name))


def _write_kits(owner, pairs, change):
    bodies = {body.name: body for body in Body.objects.for_owner(owner)}
    lenses = {lens.name: lens for lens in Lens.objects.for_owner(owner)}
    for key, row in pairs:
        kit = Kit(owner=owner) if key is None else Kit.objects.for_owner(owner).get(pk=key)
        if key is not None:
            change.touch(kit)
        kit.name, kit.note = row["name"], row.get("note", kit.note)
        kit.save()
        kit.bodies.set(bodies[name] for name in row.get("bodies", ()) if name in bodies)
        kit.lenses.set(lenses[name] for name in row.get("lenses", ()) if name in lenses)
        change.created(kit)


def _plain(key, label, model, identity=_by_name):
    return Section(key, label, partial(_rows, model), identity, partial(_check, model), partial(_write, model))


def _part(key, label, model, field, name, identity):
    rows = partial(_part_rows, model, field, name)
    return Section(key, label, rows, identity, partial(_check, model), partial(_write_parts, model, field, name))


def register_all():
    """The order is that in which they are applied: what is pointed at comes first."""
    for section in (
        _plain("mounts", "Mounts", Mount),
        _plain("bodies", "Bodies", Body, _by_name_and_mount),
        _part("crop_modes", "Crop modes", CropMode, "body", "body", _by_name_and_body),
        _part("lenses", "Lenses", Lens, "fixed_to", "fixed_to", _by_name_and_mount),
        _plain("converters", "Converters", Converter),
        _plain("adapters", "Adapters", Adapter),
        Section("kits", "Kits", _kit_rows, _by_name, partial(_check, Kit), _write_kits),
        _plain("formats", "Own formats", OwnFormat),
    ):
        register(section)

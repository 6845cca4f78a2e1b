"""What is done to many records at once, each told to the recorder of a change so that it can be undone."""

from cambrel.shelf.models import Body, Kit, Lens

CHUNK = 900
COPY = " (copy)"


def delete_all(chosen, change):
    """Delete records of one kind; a body takes its crop modes and fixed lens along, and kits lose what they held."""
    model = type(chosen[0])
    for start in range(0, len(chosen), CHUNK):
        part, kits = chosen[start : start + CHUNK], []
        if model is Body:
            change.touch(*(mode for body in part for mode in body.crop_modes.all()))
            change.touch(*(lens for body in part for lens in body.fixed_lenses.all()))
        if model in (Body, Lens):
            field = "bodies__in" if model is Body else "lenses__in"
            kits = list(Kit.objects.filter(**{field: part}).distinct())
            change.touch(*kits)
        change.touch(*part)
        model.objects.filter(pk__in=[record.pk for record in part]).delete()
        for kit in kits:
            kit.save()  # it holds less now


def duplicate_all(chosen, change):
    """A copy of each record, with its parts."""
    for record in chosen:
        modes = list(record.crop_modes.all()) if isinstance(record, Body) else []
        lenses = list(record.fixed_lenses.all()) if isinstance(record, Body) else []
        members = [list(record.bodies.all()), list(record.lenses.all())] if isinstance(record, Kit) else None
        record.name = record.name[: 60 - len(COPY)] + COPY
        _copied(record, change)
        for part in (*modes, *lenses):
            setattr(part, "body" if part in modes else "fixed_to", record)
            _copied(part, change)
        if members:
            record.bodies.set(members[0])
            record.lenses.set(members[1])


def _copied(record, change):
    record.pk, record.version = None, 0
    record._state.adding = True
    record.save()
    change.created(record)


def add_to_kit(kit, chosen, change):
    change.touch(kit)
    (kit.bodies if isinstance(chosen[0], Body) else kit.lenses).add(*chosen)
    kit.save()

from collections import defaultdict

from django.db import migrations

FIELDS = {
    "Mount": ("name",),
    "Body": ("mount",),
    "Lens": ("mount",),
    "Converter": ("mount",),
    "Adapter": ("mount", "lens_mount"),
    "CloseUpAid": ("mount",),
}


def folded(name):
    return " ".join(name.split()).casefold()


def one_spelling(apps, schema_editor):
    """Of the spellings of a mount that differ by case only, the first one stays, that of a record of the mount before others."""
    known = defaultdict(dict)
    for model, fields in FIELDS.items():
        records = apps.get_model("shelf", model).objects.order_by("pk")
        for field in fields:
            for owner, name in records.exclude(**{field: ""}).values_list("owner_id", field):
                known[owner].setdefault(folded(name), name)
    for model, fields in FIELDS.items():
        if model == "Mount":
            continue  # a second record of one mount is the owner's to join
        records = apps.get_model("shelf", model).objects
        for field in fields:
            for pk, owner, name in records.exclude(**{field: ""}).values_list("pk", "owner_id", field):
                if known[owner][folded(name)] != name:
                    records.filter(pk=pk).update(**{field: known[owner][folded(name)]})


class Migration(migrations.Migration):
    dependencies = [("shelf", "0009_measured")]
    operations = [migrations.RunPython(one_spelling, migrations.RunPython.noop)]

from django.db import migrations, models

OLD = ("crop_by", "criterion", "noise", "lines_per_mm", "iso_ceiling", "units")


def to_answers(apps, schema_editor):
    """What was chosen goes into the one field; so does what undoing an earlier choice would bring back."""
    for record in apps.get_model("owners", "Preferences").objects.all():
        record.answers = {name: getattr(record, name) for name in OLD}
        record.save(update_fields=["answers"])
    for change_set in apps.get_model("owners", "ChangeSet").objects.filter(label="Changed the conventions"):
        for change in change_set.changes:
            for _, before, _ in change["rows"] if change["model"] == "owners.preferences" else ():
                if before:
                    before["answers"] = {name: before.pop(name) for name in OLD if name in before}
        change_set.save(update_fields=["changes"])


class Migration(migrations.Migration):

    dependencies = [
        ("owners", "0005_keeping"),
    ]

    operations = [
        migrations.AddField("preferences", "answers", models.JSONField(default=dict)),
        migrations.RunPython(to_answers, migrations.RunPython.noop),
        *(migrations.RemoveField("preferences", name) for name in OLD),
    ]

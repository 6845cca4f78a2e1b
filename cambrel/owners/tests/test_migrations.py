from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.test import TransactionTestCase


class MigrationTests(TransactionTestCase):
    def at(self, owners):
        executor = MigrationExecutor(connection)
        executor.migrate([("owners", owners)])
        return executor.loader.project_state([("owners", owners)]).apps

    def tearDown(self):
        executor = MigrationExecutor(connection)
        executor.migrate(executor.loader.graph.leaf_nodes())

    def test_what_was_preferred_and_what_undoing_it_brings_back_become_answers(self):
        before = self.at("0005_keeping")
        owner = before.get_model("owners", "User").objects.create(username="ada")
        kept = before.get_model("owners", "Preferences").objects.create(owner=owner, crop_by="width", lines_per_mm=6)
        old = {
            "crop_by": "area",
            "criterion": "print",
            "noise": "pixel",
            "lines_per_mm": 4,
            "iso_ceiling": 800,
            "units": "ft",
        }
        rows = [{"model": "owners.preferences", "rows": [[kept.pk, {**old, "owner_id": owner.pk}, 7]]}]
        before.get_model("owners", "ChangeSet").objects.create(
            owner=owner, label="Changed the conventions", changes=rows
        )
        after = self.at("0006_preferences_as_answers")
        answers = after.get_model("owners", "Preferences").objects.get().answers
        self.assertEqual((answers["crop_by"], answers["lines_per_mm"], answers["units"]), ("width", 6, "m"))
        (change,) = after.get_model("owners", "ChangeSet").objects.get().changes
        self.assertEqual(change["rows"][0][1], {"owner_id": owner.pk, "answers": old})

"""A shelf that is made at once is the one that its twelve steps make, which older databases still go through."""

from django.db.migrations.loader import MigrationLoader
from django.test import SimpleTestCase, override_settings


@override_settings(MIGRATION_MODULES={})
class MadeWholeTests(SimpleTestCase):
    def shelf(self, migration):
        """Every record as the migrations leave it: its columns, indexes and rules by their names."""
        state = MigrationLoader(None, replace_migrations=False).project_state(("shelf", migration))
        return {
            name: (
                {column: field.deconstruct()[1:] for column, field in model.fields.items()},
                {key: sorted(map(repr, value)) if isinstance(value, list) else value
                    for key, value in model.options.items()},
                model.bases,
            )
            for (room, name), model in state.models.items() if room == "shelf"
        }  # fmt: skip

    def test_at_once_and_step_by_step_are_the_same(self):
        at_once = self.shelf("0001_squashed_0012_made_whole")
        self.assertGreater(len(at_once), 10)
        self.assertEqual(at_once, self.shelf("0012_size_use_worth_and_film"))

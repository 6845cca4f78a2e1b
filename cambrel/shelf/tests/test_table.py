import json

from django.conf import settings
from django.test import SimpleTestCase

from cambrel.bounds.limits import LIMITS
from cambrel.owners.sections import document_schema
from cambrel.shelf.intake.headings import NATURAL
from cambrel.shelf.kinds import KINDS
from cambrel.shelf.models import Lens
from cambrel.shelf.shelf_sections import MODELS
from cambrel.shelf.table import BODIES, LENSES, TABLE, kept

NOT_TOLD = {
    "id",
    "owner",
    "version",
    "inferred",
    "measured",
    "fixed_to",
    "body",
    "bodies",
    "lenses",
    "adapters",
    "supports",
}
READ_TOGETHER = {"focal", "iso", "maker", "crop", "size"}


class TableTests(SimpleTestCase):
    def test_the_table_says_what_the_database_keeps(self):
        for section, model in MODELS.items():
            columns = {one.name: one for one in (*model._meta.concrete_fields, *model._meta.many_to_many)}
            self.assertEqual({one.key for one in kept(section)}, set(columns) - NOT_TOLD, section)
            for one in kept(section):
                column = columns[one.key]
                if column.get_internal_type() in ("FloatField", "PositiveIntegerField", "BooleanField"):
                    with self.subTest(section=section, field=one.key):
                        self.assertEqual(
                            column.null, not one.needed, "null is unknown, and what is needed is never unknown"
                        )

    def test_each_figure_has_its_limits_its_form_and_its_heading(self):
        for section, fields in TABLE.items():
            form = (
                next(kind.form for kind in KINDS.values() if kind.section_key == section)
                if section != "crop_modes"
                else None
            )
            for one in fields:
                with self.subTest(section=section, field=one.key):
                    schema = one.sort.schema
                    if schema.get("type") == "number" and not one.asked_only:
                        low, high = LIMITS[one.key]
                        bounds = {**schema, **one.bounds}
                        self.assertLessEqual(bounds.get("minimum", bounds.get("exclusiveMinimum")), low)
                        self.assertGreaterEqual(bounds["maximum"], high)
                    if form is not None:
                        self.assertTrue(one.key in form.base_fields or one.asked_only)
        for section, fields in (("lenses", LENSES), ("bodies", BODIES)):
            headed = {column.field for column in NATURAL[section]} - READ_TOGETHER
            self.assertEqual(headed - {field.key for field in fields}, set())
            self.assertEqual(
                {one.key for one in fields} - headed - {"offset_stops", "mtf50_pitch_um"},
                set(),
                "each can be written in a table",
            )

    def test_the_copy_in_the_documentation_is_what_is_read_by(self):
        copy = json.loads((settings.ROOT / "docs" / "document.schema.json").read_text())
        self.assertEqual(copy, json.loads(json.dumps(document_schema())), "make schema")

    def test_forms_have_the_labels_and_the_order_of_the_table(self):
        form = KINDS["lenses"].form(instance=Lens())
        first = ["name", "mount", "focal_min_mm", "focal_max_mm", "widest"]
        self.assertEqual([field.name for field in form.first()], first)
        folded = {part.heading: [field.name for field in part.fields] for part in form.folded()}
        self.assertEqual(folded["Close"], ["close_focus_m", "max_magnification", "focusing", "autofocus"])
        every = [*first, *(name for names in folded.values() for name in names)]
        self.assertEqual(sorted(every), sorted(form.fields), "each stands there once")
        self.assertFalse(any(part.is_open or part.on_record for part in form.folded()))
        kept = Lens(pk=1, name="Beck", focal_min_mm=30, focal_max_mm=30, close_focus_m=0.4, autofocus=False)
        counted = {part.heading: part.on_record for part in KINDS["lenses"].form(instance=kept).folded()}
        self.assertEqual({heading: count for heading, count in counted.items() if count}, {"Close": 2})
        self.assertEqual(form["smallest_f_number"].label, "Smallest aperture")
        self.assertFalse(form.fields["focal_min_mm"].required, "the name may say it")

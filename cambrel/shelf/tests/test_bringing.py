"""Tables as people write them, and what the names of gear and of formats say where nothing else does."""

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase

from cambrel.optics.formats import FORMATS
from cambrel.shelf import cells
from cambrel.shelf.editing import stamp_of
from cambrel.shelf.intake import FileError, Known, read_file
from cambrel.shelf.intake.headings import NATURAL, heading, section_of_headings, understood
from cambrel.shelf.models import Body, ImportPreview, Lens, LetterCode, OwnFormat
from cambrel.shelf.naming import figures_of_name, filled_from_name
from cambrel.shelf.tests.test_shelf import NEW_LENS, ShelfTestCase

LENSES = """Lens;Focal length (mm);Max. aperture;Weight (g);Min. focus (cm);Price;Hood;For sensor;IS
Tarn 50;50;f/1.8;186;45;€ 1.299,00;49;full frame;no
Tarn 24-70;24–70;2,8-4;"1,050";38;480 EUR;77;APS-C;yes
Pipwren 12-40 mm f/2.8;;;0.38 kg;20 cm;;;;
Wren thing;;;1;1;;;;
Odd;35;fast;1;1;;;;
"""


def read(text, **known):
    return read_file("t.csv", text.encode(), Known(**known))


class HeadingTests(SimpleTestCase):
    def test_every_spelling_of_the_list_is_read_in_its_own_section(self):
        for section, columns in NATURAL.items():
            for column in columns:
                for text in (column.usual, *column.also, column.field, column.usual.upper() + ":"):
                    with self.subTest(section=section, text=text):
                        self.assertEqual(heading(section, text).column.field, column.field)

    def test_no_spelling_stands_for_two_columns(self):
        for columns in NATURAL.values():
            said = [text for column in columns for text in (column.usual, *column.also)]
            self.assertEqual(len(said), len(set(said)))

    def test_units_in_a_heading_are_those_of_its_bare_numbers(self):
        for text, unit in (
            ("Weight (kg)", "kg"),
            ("weight [oz]", "oz"),
            ("weight in lb", "lb"),
            ("Weight, g", "g"),
            ("Min focus cm", "cm"),
        ):
            self.assertEqual(heading("lenses", text).unit, unit, text)
        for text in ("weight (mm)", "focal length (kg)", "colour", "hood", "f/ratio of something"):
            self.assertIsNone(heading("lenses", text), text)
        self.assertEqual(
            [bool(one) for one in understood("lenses", ["lens", "name", "", "weight"])], [True, False, False, True]
        )

    def test_what_a_table_lists_is_told_by_its_headings(self):
        for texts, section in (
            (["Lens", "Weight"], "lenses"), (["Body", "Weight"], "bodies"), (["Camera", "Format", "MP"], "bodies"),
            (["name", "aperture"], "lenses"),
            (["model", "megapixels", "sensor"], "bodies"), (["colour", "weight"], None), (["name"], "lenses"),
        ):  # fmt: skip
            self.assertEqual(section_of_headings(texts), section, texts)


class CellTests(SimpleTestCase):
    def test_cells_are_read_as_people_write_them(self):
        for got, wanted in (
            (cells.quantity("0.36 kg", "g", "g"), 360), (cells.quantity("1,050", "g", "g"), 1050),
            (cells.quantity("1,05", "g", "kg"), 1050),
            (cells.quantity("45", "m", "cm"), 0.45), (cells.quantity("1.5 ft", "m", "m"), 0.4572),
            (cells.quantity("2.5 in", "mm", "mm"), 63.5),
            (cells.focal("24 - 70mm", "mm"), {"focal_min_mm": 24, "focal_max_mm": 70}),
            (cells.focal("5 cm", "mm"), {"focal_min_mm": 50, "focal_max_mm": 50}),
            (cells.widest("2.8", 50, None), {"widest": [[50, 2.8]]}),
            (cells.widest("F3.5–5.6", 18, 55), {"widest": [[18, 3.5], [55, 5.6]]}),
            (cells.widest("1:4", 300, 300), {"widest": [[300, 4]]}),
            (cells.widest("2,8", 12, 40), {"widest": [[12, 2.8], [40, 2.8]]}),
            (cells.magnification("1:4"), 0.25), (cells.magnification("0,33x"), 0.33),
            (cells.price("€ 1.299,00", ""), {"price": 1299, "currency": "EUR"}),
            (cells.price("480 gbp", ""), {"price": 480, "currency": "GBP"}),
            (cells.price("1,299.95", "eur"), {"price": 1299.95, "currency": "EUR"}),
            (cells.price("$499", ""), {"price": 499}),
            (cells.price("499", "usd"), {"price": 499, "currency": "USD"}),
            (cells.iso_range("ISO 100–51,200"), {"base_iso": 100, "ceiling_iso": 51200}),
            (cells.stops("5 stops"), 5),
            (cells.yes_or_no("Y"), True), (cells.yes_or_no("none"), False),
            (cells.size("23,5 × 15.6 mm"), {"width_mm": 23.5, "height_mm": 15.6}),
        ):  # fmt: skip
            with self.subTest(wanted=wanted):
                self.assertEqual(got, wanted) if not isinstance(wanted, float) else self.assertAlmostEqual(got, wanted)

    def test_what_cannot_be_read_is_refused(self):
        for reader, *arguments in (
            (cells.quantity, "heavy", "g", "g"), (cells.quantity, "5 mm", "g", "g"), (cells.focal, "long", "mm"),
            (cells.widest, "fast", 50, 50),
            (cells.widest, "2.8", None, None), (cells.magnification, "1:0"), (cells.price, "dear", ""),
            (cells.iso_range, "high"),
            (cells.yes_or_no, "perhaps"), (cells.projection, "round"), (cells.size, "large"),
            (cells.named_format, "large", {}),
        ):  # fmt: skip
            with self.subTest(arguments=arguments), self.assertRaises(ValueError):
                reader(*arguments)

    def test_a_sensor_by_format_type_crop_or_size_with_its_pixels(self):
        for said, width, pixels, inferred in (
            ({"format": "full frame", "megapixels": "24"}, 36, 6000, True),
            ({"format": "APS-C"}, FORMATS["aps-c"].width_mm, None, True),
            ({"format": '1/1.3"'}, 9.6, None, True), ({"crop": "2.0"}, None, None, True),
            ({"width_mm": 23.5, "height_mm": 15.6, "megapixels": "6000 x 4000"}, 23.5, 6000, False),
            ({"format": "Plate"}, 60, None, False),
        ):  # fmt: skip
            with self.subTest(said=said):
                row = cells.sensor(said, {"plate": (60, 45)})
                if width:
                    self.assertAlmostEqual(row["width_mm"], width, places=1)
                self.assertEqual(row.get("pixels_wide"), pixels)
                self.assertEqual("width_mm" in row.get("inferred", ()), inferred)
        with self.assertRaises(ValueError):
            cells.sensor({"format": "plate"}, {})


class TableTests(SimpleTestCase):
    def test_a_table_of_lenses_under_natural_headings(self):
        contents = read(LENSES)
        first, zoom, named, nothing, odd = contents.found
        self.assertEqual({one.section for one in contents.found}, {"lenses"})
        self.assertEqual(first.row["price"], 1299)
        self.assertEqual(
            (first.row["widest"], first.row["close_focus_m"], first.row["designed_for"]),
            ([[50, 1.8]], 0.45, "full-frame"),
        )
        self.assertEqual(
            (zoom.row["widest"], zoom.row["weight_g"], zoom.row["stabilised"]), ([[24, 2.8], [70, 4]], 1050, True)
        )
        self.assertNotIn("inferred", zoom.row)
        self.assertEqual(
            (named.row["focal_max_mm"], named.row["widest"], named.row["weight_g"]), (40, [[12, 2.8], [40, 2.8]], 380)
        )
        self.assertEqual(named.row["inferred"], ["focal_max_mm", "focal_min_mm", "widest"])
        self.assertIn("nor in the name", nothing.reason)
        self.assertEqual(odd.reason, "max aperture: “fast” cannot be read")
        self.assertIn(("Max. aperture", "max aperture"), contents.understood)
        self.assertEqual(contents.unread, ["Hood"])

    def test_bodies_makers_and_a_list_of_both(self):
        contents = read(
            "Brand,Camera,Sensor,MP,Weight\nTarn,Fell,full frame,24,650 g\nTarn,Tarn Rise,Plate,,1 kg\n",
            formats={"plate": (60.0, 45.0)},
        )
        fell, rise = contents.found
        self.assertEqual(
            (fell.row["name"], fell.row["pixels_wide"], rise.row["name"], rise.row["height_mm"]),
            ("Tarn Fell", 6000, "Tarn Rise", 45),
        )
        mixed = read("Type,Name,Focal,Sensor\nbody,Fell,,APS-C\nlens,25mm f/1.7,,\ntripod,Legs,,\n")
        self.assertEqual(
            [(one.section, one.row.get("name")) for one in mixed.found],
            [("bodies", "Fell"), ("lenses", "25mm f/1.7"), ("lenses", "Legs")],
        )
        self.assertIn("neither a lens nor a body", mixed.found[2].reason)

    def test_a_currency_is_taken_from_the_heading_the_cell_or_what_was_said(self):
        (one,) = read("lens,price (gbp)\n25mm,300\n").found
        self.assertEqual(one.row["currency"], "GBP")
        (one,) = read("lens,price\n25mm,300\n", currency="EUR").found
        self.assertEqual(one.row["currency"], "EUR")
        (one,) = read("lens,price\n25mm,£300\n", currency="EUR").found
        self.assertEqual(one.row["currency"], "GBP")

    def test_empty_cells_at_the_end_and_strange_columns_do_no_harm(self):
        (one,) = read("lens,weight\n25mm f/1.7,150,,,\n").found
        self.assertEqual((one.reason, one.row["weight_g"]), ("", 150))
        contents = read("name,factor,colour\nDoubler,2,black\n")
        self.assertEqual((contents.found[0].row, contents.unread), ({"name": "Doubler", "factor": 2.0}, ["colour"]))
        with self.assertRaisesRegex(FileError, "no known columns"):
            read("colour,weight\nred,3\n")


class NamingTests(ShelfTestCase):
    def test_names_say_what_no_field_says_and_are_marked(self):
        self.assertEqual(
            figures_of_name("Tarn 40 mm f/2"), {"focal_min_mm": 40, "focal_max_mm": 40, "widest": [[40, 2]]}
        )
        self.assertEqual(figures_of_name("Tarn pocket"), {})
        said = figures_of_name("Tarn 40 mm f/2 ZQ QV", {"ZQ": "format:aps-c", "QV": "mount:Tarn"})
        self.assertEqual((said["designed_for"], said["mount"]), ("aps-c", "Tarn"))
        self.assertEqual(figures_of_name("24 mm equivalent f/2"), {})
        row = {"name": "Tarn 24-70 f/2.8-4", "focal_min_mm": 24.0, "focal_max_mm": 70.0}
        self.assertEqual(filled_from_name(row)["widest"], [[24, 2.8], [70, 4]])
        self.assertEqual(
            filled_from_name(row | {"focal_max_mm": 50.0}),
            row | {"focal_max_mm": 50.0},
            "the name speaks of another range",
        )
        self.assertEqual(filled_from_name(row | {"widest": [[24, 4]]})["widest"], [[24, 4]])

    def test_a_new_lens_takes_its_figures_from_its_name(self):
        LetterCode.objects.create(owner=self.owner, name="ZQ", stands_for="aps-c")
        self.client.post(
            "/shelf/lenses/new/", NEW_LENS | {"name": "Tarn 18-55 mm f/3.5-5.6 ZQ", "focal_min_mm": "", "widest": ""}
        )
        lens = Lens.objects.get(name__startswith="Tarn 18-55 mm f/3.5-5.6 ZQ")
        self.assertEqual((lens.focal_max_mm, lens.widest), (55, [[18, 3.5], [55, 5.6]]))
        self.assertEqual(
            (lens.designed_for, lens.inferred), ("aps-c", ["designed_for", "focal_max_mm", "focal_min_mm", "widest"])
        )
        self.client.post(
            f"/shelf/lenses/{lens.pk}/edit/",
            NEW_LENS
            | {
                "name": lens.name,
                "focal_min_mm": "18",
                "focal_max_mm": "56",
                "widest": "f/3.5-5.6",
                "version": stamp_of(lens),
            },
        )
        lens.refresh_from_db()
        self.assertEqual(
            (lens.focal_max_mm, lens.inferred), (56, ["focal_min_mm"]), "what was typed is worked out no longer"
        )

    def test_a_body_by_format_and_megapixels(self):
        own = OwnFormat.objects.create(owner=self.owner, name="Plate back", width_mm=60, height_mm=45)
        new = {"modes-TOTAL_FORMS": 0, "modes-INITIAL_FORMS": 0, "offset_stops": "0"}
        self.client.post("/shelf/bodies/new/", new | {"name": "Muir Fen", "format": "aps-c", "megapixels": "24"})
        body = Body.objects.get(name="Muir Fen")
        self.assertEqual(
            (body.width_mm, body.inferred),
            (FORMATS["aps-c"].width_mm, ["height_mm", "pixels_high", "pixels_wide", "width_mm"]),
        )
        self.assertAlmostEqual(body.pixels_wide * body.pixels_high, 24e6, delta=1e4)
        self.client.post("/shelf/bodies/new/", new | {"name": "Muir Plate", "format": f"own-{own.pk}"})
        self.assertEqual(Body.objects.get(name="Muir Plate").width_mm, 60)
        for more, word in (
            ({}, "Choose the format"), ({"width_mm": "20"}, "both sides"),
            ({"format": "aps-c", "width_mm": "36", "height_mm": "24"}, "another size"),
        ):  # fmt: skip
            self.assertContains(
                self.client.post("/shelf/bodies/new/", new | {"name": "Muir Odd"} | more), word, status_code=422
            )


class PageTests(ShelfTestCase):
    def bring(self, text, **more):
        page = self.client.post(
            "/shelf/import/", {"files": SimpleUploadedFile("mine.csv", text.encode()), **more}, follow=True
        )
        preview = ImportPreview.objects.first()
        self.client.post(f"/shelf/import/{preview.pk}/work/")
        return preview, page

    def test_the_page_lists_the_columns_and_gives_an_empty_table(self):
        page = self.client.get("/shelf/import/")
        for columns in NATURAL.values():
            for column in columns:
                self.assertContains(page, f">{column.usual}<")
        for section, columns in NATURAL.items():
            table = self.client.get(f"/shelf/import/{section}.csv").content.decode("utf-8-sig").strip()
            self.assertEqual(table.split(","), [column.usual for column in columns])
            self.assertTrue(all(understood(section, table.split(","))))
        self.assertEqual(self.client.get("/shelf/import/stars.csv").status_code, 404)

    def test_what_was_read_is_shown_refusals_are_open_and_it_lands_on_what_came_in(self):
        preview, _ = self.bring(LENSES + "Tarn 50;50;f/2;1;1;;;;\n")
        page = self.client.get(f"/shelf/import/{preview.pk}/?status=new")
        for text in (
            "How “mine.csv” was read",
            "Hood",
            "not understood",
            "fast” cannot be read",
            "nor in the name",
            "24–70\u00a0mm",
            "worked out, not stated",
        ):
            self.assertContains(page, text)
        after = self.client.post(f"/shelf/import/{preview.pk}/apply/", {"leave_out": "1"}, follow=True)
        self.assertEqual(after.redirect_chain[-1][0], f"/shelf/lenses/?brought={preview.pk}")
        names = {row.name for row in after.context["listing"].rows}
        self.assertEqual(names, {"Tarn 50", "Tarn 24-70", "Pipwren 12-40 mm f/2.8"})
        self.assertContains(after, "Show all")
        # "all that was found" of a list so narrowed is what came in, and no more
        before = Lens.objects.count()
        self.client.post("/shelf/lenses/act/", {"action": "delete", "all": "1", "brought": preview.pk})
        self.assertEqual(Lens.objects.count(), before - 3)

    def test_only_what_was_taken_counts_as_brought_in(self):
        changed = Lens.objects.get(name="Tarn 50 mm f/1.8")
        text = f"lens,mount,focal length,weight\n{changed.name},{changed.mount},50,999\nTarn new 33 mm,Tarn,33,100\n"
        preview, _ = self.bring(text)
        page = self.client.post(f"/shelf/import/{preview.pk}/apply/", {}, follow=True)
        self.assertEqual([row.name for row in page.context["listing"].rows], ["Tarn new 33 mm"])
        changed.refresh_from_db()
        self.assertNotEqual(changed.weight_g, 999)

    def test_ticking_one_row_takes_that_row_alone(self):
        lenses = list(Lens.objects.filter(fixed_to=None, mount="Tarn")[:3])
        rows = "".join(f"{lens.name},{lens.mount},{lens.focal_min_mm},{lens.focal_max_mm},777\n" for lens in lenses)
        preview, _ = self.bring("lens,mount,shortest focal length,longest focal length,weight\n" + rows)
        ticked = preview.rows.get(row__name=lenses[1].name)
        self.client.post(f"/shelf/import/{preview.pk}/apply/", {"take": ticked.pk})
        weights = [Lens.objects.get(pk=lens.pk).weight_g == 777 for lens in lenses]
        self.assertEqual(weights, [False, True, False])

    def test_another_owner_s_import_narrows_nothing(self):
        from cambrel.owners.models import User

        other = User.objects.create_user("other")
        theirs = ImportPreview.objects.create(owner=other, name="theirs")
        page = self.client.get(f"/shelf/lenses/?brought={theirs.pk}")
        self.assertIsNone(page.context["listing"].brought)

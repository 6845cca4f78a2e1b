"""Figures as people type them: read alike in every form and file, and asked back where they may be two."""

import re
from unittest import TestCase

from django import forms
from django.http import QueryDict

from cambrel.bench.reading import read
from cambrel.bench.sample_benches import home_bench
from cambrel.inputs.fields import (
    DistanceField,
    FNumberField,
    FocalLengthField,
    GramField,
    IsoField,
    MillimetreField,
    PriceField,
    ShutterField,
    WholeField,
)
from cambrel.links.benches import encode
from cambrel.phrases.typed_figures import DoubtfulError, decimal, number
from cambrel.shelf.models import Lens
from cambrel.shelf.table import BY_KEY
from cambrel.shelf.tests.test_round_trip import TransferTestCase
from cambrel.shelf.tests.test_shelf import NEW_LENS
from cambrel.shelf.widest import read_widest

READ = {
    # kind: what is typed, and what it is; a text for what is asked back
    (IsoField, "base_iso"): {
        "1.600": 1600, "1,600": 1600, "12 800": 12800, "ISO 400": 400, "iso400": 400, "51'200": 51200,
        "1.600.000": 1_600_000,
        "400 ": 400,
    },
    (ShutterField, "fastest_shutter_s"): {
        "1/250": 1 / 250, "1/8.000": 1 / 8000, "1/8,000 s": 1 / 8000, "2.5": 2.5, "30": 30, "8s": 8, '15"': 15,
        "250 s": 250, "0.4 sec": 0.4,
        "250": "“250” may be 1/250 or 250 s", "60": "“60” may be 1/60 or 60 s", "1.250": "“1.250” may be 1.25 or 1250",
    },
    (GramField, "weight_g"): {
        "400": 400, "400g": 400, "0.4 kg": 400, "0,4 kg": 400, "14 oz": 14 * 28.349523125,
        "1 lb 3 oz": 453.59237 + 3 * 28.349523125,
        "1.299": 1299, "1,299 g": 1299, "1.234 kg": 1234, "2 lbs": 907.18474, "half": "is not a weight",
        "5 mm": "is not a weight",
    },
    (PriceField, "price"): {
        "450": 450, "450 EUR": 450, "€ 1,299.00": 1299, "1.299,00 EUR": 1299, "1 299 eur": 1299, "1.200": 1200,
        "$499": 499,
        "450 euros": "is not a price",
    },
    (FNumberField, "smallest_f_number"): {
        "f1.4": 1.4, "f/1.4": 1.4, "F 1,4": 1.4, "ƒ/22": 22, "1:2.8": 2.8, "1.400": 1.4, "2.828": 2.828,
        "wide": "is not an f-number",
    },
    (FocalLengthField, "focal_min_mm"): {
        "50": 50, "50mm": 50, "5 cm": 50, "24.500": 24.5, "2 in": 50.8, "1.200": "“1.200” may be 1.2 or 1200",
        "long": "is not a focal length",
    },
    (MillimetreField, "length_mm"): {"64,5": 64.5, "6.45 cm": 64.5, "2.5 in": 63.5, "0.125": 0.125},
    (DistanceField, "close_focus_m"): {
        "0.38": 0.38, "38 cm": 0.38, "0.380": 0.38, "15 in": 0.381, "1' 3\"": 0.381,
    },
}  # fmt: skip


class ReaderTests(TestCase):
    def test_forms_and_tables_read_alike(self):
        for (made, key), cases in READ.items():
            for typed, wanted in cases.items():
                with self.subTest(field=made.__name__, typed=typed):
                    cell = BY_KEY[key].sort.cell
                    unit = {"weight_g": "g", "length_mm": "mm", "focal_min_mm": "mm", "close_focus_m": "m"}.get(key, "")
                    if isinstance(wanted, str):
                        with self.assertRaisesRegex(forms.ValidationError, re.escape(wanted)):
                            made().clean(typed)
                        with self.assertRaises(ValueError):
                            cell(typed, unit)
                        continue
                    self.assertAlmostEqual(made().clean(typed) / wanted, 1, places=9)
                    found = cell(typed, unit)
                    self.assertAlmostEqual((found["price"] if key == "price" else found) / wanted, 1, places=9)

    def test_a_distance_that_may_be_two_is_asked_back_in_the_unit_it_is_typed_in(self):
        for typed, says in (("1.250", "“1.250” may be 1.25 or 1250"), ("1,250 m", "may be 1.25 or 1250")):
            with self.assertRaisesRegex(forms.ValidationError, says):
                DistanceField(low=0.001, high=1e6).clean(typed)
        self.assertEqual(DistanceField(low=0.001, high=100).clean("1.250"), 1.25, "so far is not asked about")
        self.assertEqual(DistanceField(low=0.001, high=1e6).clean("1250"), 1250)
        self.assertEqual(DistanceField(low=0.001, high=1e6).clean("0.125"), 0.125)
        with self.assertRaises(DoubtfulError):
            number("-1.250", -2000, 0)
        self.assertEqual(number("-1.250", -2, 0), -1.25)

    def test_what_machines_write_is_read_as_it_stands(self):
        self.assertEqual([decimal("1.250"), decimal("1,250"), decimal("-2e3")], [1.25, 1.25, -2000])
        for wrong in ("1.250.000", "1 250", "", "f", "--1", "1" * 50):
            with self.assertRaises(ValueError):
                decimal(wrong)

    def test_f_numbers_along_a_range(self):
        for typed in ("f1.4", "f/1.4", "F1,4", "ƒ/1.4", "1:1.4", "1.4"):
            self.assertEqual(read_widest(typed, 50, 50), [[50, 1.4]])
        self.assertEqual(read_widest("f3.5-5.6", 18, 55), [[18, 3.5], [55, 5.6]])

    def test_whole_numbers(self):
        self.assertEqual([WholeField().clean(one) for one in ("6000", "6,000", "6.000", "6 000")], [6000] * 4)
        with self.assertRaisesRegex(forms.ValidationError, "whole number"):
            WholeField().clean("6.5")


class EverywhereTests(TransferTestCase):
    def test_a_shelf_form_takes_what_a_table_takes(self):
        given = NEW_LENS | {
            "widest": "f2",
            "weight_g": "0.4 kg",
            "price": "450 EUR",
            "currency": "",
            "close_focus_m": "38 cm",
        }
        self.client.post("/shelf/lenses/new/", given)
        lens = Lens.objects.get(name=NEW_LENS["name"])
        self.assertEqual(
            (lens.widest, lens.weight_g, lens.price, lens.currency, lens.close_focus_m),
            ([[40, 2]], 400, 450, "EUR", 0.38),
        )
        page = self.client.post("/shelf/lenses/new/", given | {"currency": "USD", "name": "Other"})
        self.assertContains(page, "The price is typed in EUR", status_code=422)
        page = self.client.post("/shelf/lenses/new/", given | {"focal_min_mm": "1.200", "name": "Other"})
        self.assertContains(page, "may be 1.2 or 1200. Type which", status_code=422)
        self.assertContains(page, 'value="1.200"', status_code=422)

    def test_the_bench_asks_back_and_keeps_what_it_had(self):
        sent = QueryDict(mutable=True)
        sent.update({"b": encode(home_bench()), "rigs-0-shutter_s": "250"})
        reading = read(sent)
        self.assertFalse(reading.sound)
        self.assertIn("“250” may be 1/250 or 250 s", str(reading.forms.rigs[0].errors))
        sent["rigs-0-shutter_s"], sent["rigs-0-iso"] = "1/250", "1.600"
        reading = read(sent)
        self.assertTrue(reading.sound)
        self.assertEqual((reading.bench.rigs[0].shutter_s, reading.bench.rigs[0].iso), (1 / 250, 1600))

    def test_a_table_names_the_cell_that_may_be_two(self):
        preview = self.bring(("lenses.csv", "name,mount,focal length (mm)\nTarn long,Tarn,1.200\n"))
        row = preview.rows.get()
        self.assertEqual(row.status, "refused")
        self.assertIn("may be 1.2 or 1200", row.reason)

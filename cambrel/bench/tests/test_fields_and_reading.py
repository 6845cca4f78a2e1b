from math import inf

from django import forms
from django.http import QueryDict
from django.test import SimpleTestCase

from cambrel.bench.forms import OwnBodyForm, OwnLensForm
from cambrel.bench.look import Look
from cambrel.bench.reading import PARTS, read
from cambrel.bench.sample_benches import home_bench, opening_bench
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.inputs.fields import DistanceField, EvField, FNumberField, FocalLengthField, IsoField, ShutterField
from cambrel.links.benches import decode, encode
from cambrel.links.codec import LinkError
from cambrel.phrases.typed_figures import length
from cambrel.wording import FEET, METRES


class FieldTests(SimpleTestCase):
    def test_figures_are_read_as_people_type_them(self):
        cases = (
            (FNumberField(), "f/2.8", 2.8), (FNumberField(), "2,8", 2.8), (FNumberField(), "F 11", 11),
            (FocalLengthField(), "42.5 mm", 42.5),
            (ShutterField(), "1/250", 1 / 250), (ShutterField(), "2 s", 2), (ShutterField(), "0.5", 0.5),
            (IsoField(), "ISO 400", 400),
            (ShutterField(), "180° at 25", 1 / 50), (ShutterField(), "90 degrees @ 50 fps", 1 / 200),
            (ShutterField(), "360° at 24/s", 1 / 24),
            (DistanceField(), "2 m", 2), (DistanceField(may_be_infinite=True), "∞", inf), (EvField(), "EV -3", -3),
            (EvField(), "−2", -2),
        )  # fmt: skip
        for field, text, value in cases:
            with self.subTest(text=text):
                self.assertEqual(field.clean(text), value)

    def test_nonsense_gets_a_message_with_what_was_typed_or_the_range(self):
        cases = (
            (FNumberField(), "0", "out of range"), (FNumberField(), "f/0", "out of range"),
            (FNumberField(), "fast", "not an f-number"),
            (FNumberField(), "", "Give a number"), (FocalLengthField(), "-50", "out of range"),
            (ShutterField(), "1/0", "not a shutter"),
            (ShutterField(), "180°", "needs a frame rate"), (ShutterField(), "400° at 25", "at most 360"),
            (ShutterField(), "180° at 0", "not a"),
            (IsoField(), "1e400", "not an ISO|out of range"), (IsoField(), "nan", "not an ISO"),
            (DistanceField(), "inf", "Infinity"),
            (DistanceField(), "1" * 60, "characters"), (DistanceField(), "0", "out of range"),
        )  # fmt: skip
        for field, text, says in cases:
            with self.subTest(text=text), self.assertRaisesRegex(forms.ValidationError, says):
                field.clean(text)

    def test_untouched_text_keeps_the_exact_value(self):
        field = FocalLengthField()
        field.base = 25.324198951869615
        self.assertEqual(field.show(field.base), "25.3")
        self.assertEqual(field.clean("25.3"), 25.324198951869615)
        self.assertEqual(field.clean("25.4"), 25.4)

    def test_distances_are_read_in_any_unit_and_a_bare_number_in_the_one_in_force(self):
        cases = {
            "2 m": 2, "2m": 2, "250 cm": 2.5, "350mm": 0.35, "8 ft": 2.4384, "8'": 2.4384, "8′": 2.4384,
            "8' 2\"": 2.4892, "8’2”": 2.4892,
            "8 ft 2 in": 2.4892, "8 feet 2 inches": 2.4892, "96''": 2.4384, "96 in": 2.4384, "1,5 m": 1.5,
            "0.3 km": 300, "12 FT": 3.6576,
        }  # fmt: skip
        field = DistanceField()
        for units in (METRES, FEET):
            field.units = units
            for text, metres in cases.items():
                with self.subTest(text=text, units=units.key):
                    self.assertAlmostEqual(field.clean(text), metres, delta=1e-12)
            self.assertAlmostEqual(field.clean("10"), 10 * units.metres)
            for text in (
                "8 ft 14 in",
                "2 m 30",
                "2 stone",
                "8 in 2 ft",
                "2 m 3 m",
                "1 2",
                "m",
                "ft 8",
                "8''2'",
                "1.2.3 m",
            ):
                with (
                    self.subTest(text=text, units=units.key),
                    self.assertRaisesRegex(forms.ValidationError, "is not a distance"),
                ):
                    field.clean(text)
        self.assertEqual(field.show(3.048), "10")
        self.assertAlmostEqual(length("-8' 2\""), -2.4892)


class OwnGearFormTests(SimpleTestCase):
    def form(self, made, **given):
        return made({f"own-{key}": value for key, value in given.items()}, prefix="own")

    def test_a_format_or_a_size(self):
        form = self.form(OwnBodyForm, format="aps-c", pixels_wide="6000")
        self.assertTrue(form.is_valid())
        self.assertEqual(form.to_gear().body.sensor.pixels_wide, 6000)
        form = self.form(OwnBodyForm, width_mm="30", height_mm="20")
        self.assertTrue(form.is_valid())
        self.assertEqual(form.to_gear().body_name, "30 × 20 mm sensor")
        self.assertFalse(self.form(OwnBodyForm, width_mm="30").is_valid())

    def test_a_lens_as_far_as_it_is_known(self):
        form = self.form(OwnLensForm, focal_min_mm="20", widest="1.8")
        self.assertTrue(form.is_valid())
        self.assertEqual((form.to_gear().lens.focal_max_mm, form.to_gear().lens_name), (20, "20 mm lens f/1.8"))
        self.assertTrue(self.form(OwnLensForm).is_valid())
        for wrong in (
            {"focal_min_mm": "70", "focal_max_mm": "24"},
            {"widest": "8", "smallest_f_number": "4"},
            {"widest": "wide"},
        ):
            with self.subTest(wrong=wrong):
                self.assertFalse(self.form(OwnLensForm, **wrong).is_valid())


class ReadingTests(SimpleTestCase):
    def read(self, text=""):
        return read(QueryDict(text))

    def test_nothing_sent_is_the_opening_bench(self):
        reading = self.read()
        self.assertTrue(reading.sound)
        self.assertEqual(reading.bench, opening_bench())

    def test_what_was_shown_and_sent_back_changes_nothing(self):
        reading = self.read()
        sent = {"b": encode(home_bench())}
        forms = reading.forms
        for form in (forms.brief, forms.hold, forms.conventions, *forms.rigs):
            sent |= {field.html_name: field.value() for field in form}
        again = read(sent)
        self.assertEqual(again.bench, home_bench())
        self.assertEqual(decode(again.look.address(again.bench).split("b=")[1]), home_bench())

    def test_a_field_changes_its_value_and_nothing_else(self):
        reading = self.read("rigs-1-f_number=5.6&hold-aperture=own&brief-distance_m=3")
        self.assertEqual(
            (reading.bench.rigs[1].f_number, reading.bench.hold.aperture, reading.bench.brief.distance_m),
            (5.6, "own", 3),
        )
        self.assertEqual(reading.bench.rigs[0], home_bench().rigs[0])

    def test_bad_values_are_kept_apart(self):
        reading = self.read("rigs-1-f_number=0&rigs-2-iso=loud&b=" + encode(home_bench()))
        self.assertEqual(set(reading.messages), {"rigs-1-f_number", "rigs-2-iso"})
        self.assertEqual((reading.void, reading.broken), ([1, 2], False))
        self.assertEqual(reading.forms.rigs[1]["f_number"].value(), "0", "as it was typed")
        self.assertTrue(
            self.read("rigs-0-f_number=0").broken, "nothing can be compared with a reference that is not there"
        )
        self.assertTrue(self.read("hold-lens=longest").broken)

    def test_too_many_rigs_are_refused_before_they_are_read(self):
        with self.assertRaisesRegex(LinkError, "at most 6"):
            self.read("&".join(f"rigs-{i}-iso=100" for i in range(100)))

    def test_the_look_stands_in_the_address(self):
        look = self.read("panel=depth&scale=log&units=ft&walk=1&sort=near").look
        self.assertEqual((look.panel, look["scale"], look.units.key, look["walk"]), ("depth", "log", "ft", 1))
        self.assertIn("panel=depth", look.address(home_bench()))
        odd = self.read("panel=<x>&walk=-9&units=cubit").look
        self.assertEqual(odd, Look(PARTS))

    def test_sample_briefs_are_those_of_the_railway(self):
        self.assertEqual(len(sample_briefs()), 8)
        for sample in sample_briefs().values():
            with self.subTest(brief=sample.name):
                self.assertTrue(sample.note and sample.background_name and sample.foreground_name)

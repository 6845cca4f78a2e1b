"""Every error that can be read is provoked by a test, and stands beside the field that it is about.

What has its test in its own room is found there by its words; the rest is provoked here.
"""

import ast
import json
import re
from dataclasses import replace
from html import unescape
from pathlib import Path
from unittest.mock import patch

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import SimpleTestCase, TestCase, override_settings
from django.utils import timezone

from cambrel.bench.actions import ActionError, State, perform
from cambrel.bench.actions.picture import MOST_CHANGES
from cambrel.bench.forms import OwnBodyForm
from cambrel.bench.look import Look
from cambrel.bench.reading import PARTS
from cambrel.bench.sample_benches import home_bench
from cambrel.bounds.lanes import BusyError
from cambrel.choose.forms import KeepForm
from cambrel.comparison import Lens as OpticsLens
from cambrel.comparison.bench import MOST_RIGS
from cambrel.field import logbook
from cambrel.field.forms import PlaceForm
from cambrel.field.models import OwnScene, Sheet
from cambrel.field.views.counting import _logged
from cambrel.inputs.fields import NumberField, ShutterField
from cambrel.links.benches import decode, encode
from cambrel.links.choices import decode_choice
from cambrel.links.codec import LinkError, deflated, inflated
from cambrel.owners.keeping import QuotaError, check_quota
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.owners.undo import StaleError
from cambrel.photographs.decoding import DecodeError
from cambrel.photographs.decoding import decode as decode_picture
from cambrel.photographs.edges import slanted_edge
from cambrel.photographs.heads import read_head
from cambrel.photographs.light import MeasureError
from cambrel.photographs.noise import patch_noise
from cambrel.photographs.tags import FileParts, TagError, read_tags
from cambrel.photographs.tests.synthetic import coded, edge
from cambrel.photographs.tests.synthetic import patch as even_patch
from cambrel.pictures.shots import slug_of
from cambrel.shelf.demo import load_demo
from cambrel.shelf.intake import any_file, found
from cambrel.shelf.intake.any_file import read_file
from cambrel.shelf.intake.found import FileError
from cambrel.shelf.models import ImportPreview, Kit, Lens
from cambrel.shelf.previews import ApplyError, apply
from cambrel.site.tests.spoken import code_of
from cambrel.site.views.accounts import RegisterForm
from cambrel.wording import METRES

ROOT = Path(__file__).parents[2]
SAYING = {"add_error", "error"}
"""Calls that show what they are given; and whatever is called an error."""
NOT_SHOWN = {"DomainError", "ValueError", "TypeError", "KeyError", "LookupError", "AttributeError", "CommandError"}
"""Of these the caller makes a sentence, or nobody sees them."""


def literal(node):
    """The text of an expression, its figures left open."""
    if isinstance(node, ast.Constant):
        return node.value if isinstance(node.value, str) else ""
    if isinstance(node, ast.JoinedStr):
        return "".join(part.value if isinstance(part, ast.Constant) else "{}" for part in node.values)
    if isinstance(node, ast.BinOp):
        return literal(node.left) + literal(node.right)
    return ""


def errors():
    """Every text of an error, with where it stands."""
    for path in sorted(ROOT.rglob("*.py")):
        if "/tests/" in str(path) or "/migrations/" in str(path):
            continue
        for node in ast.walk(code_of(path)):
            if not isinstance(node, ast.Call):
                continue
            name = getattr(node.func, "attr", getattr(node.func, "id", ""))
            texts = [literal(argument) for argument in node.args] if name in SAYING or name.endswith("Error") else []
            texts = [] if name in NOT_SHOWN else texts
            for keyword in node.keywords:
                if keyword.arg == "error_messages" and isinstance(keyword.value, ast.Dict):
                    texts += map(literal, keyword.value.values)
            for text in texts:
                if len(text.replace("{}", "").split()) > 2:
                    yield f"{path.relative_to(ROOT)}:{node.lineno}", text


def threes(text):
    """Each three words of a text that stand together; fewer where it has no three."""
    for part in text.split("{}"):
        words = part.split()
        for at in range(max(len(words) - 2, 1 if len(words) > 1 else 0)):
            yield " ".join(words[at : at + 3])


class AllProvokedTests(SimpleTestCase):
    def test_every_error_stands_in_a_test(self):
        tests = "\n".join(path.read_text() for path in ROOT.rglob("tests/*.py"))
        tests = re.sub(r'"\s*\n\s*f?r?"', "", tests)
        known = list(errors())
        self.assertGreater(len(known), 180)
        missing = [f"{where}: {text}" for where, text in known if not any(words in tests for words in threes(text))]
        self.assertEqual(missing, [], "\n".join(missing))

    def test_an_error_that_no_test_names_is_found(self):
        self.assertEqual(list(threes("{} has no such thing: {}")), ["has no such", "no such thing:"])
        self.assertEqual(list(threes("{} missed.")), [])


class PressErrorTests(SimpleTestCase):
    def test_what_a_press_cannot_do(self):
        bench = home_bench()
        full = bench
        while len(full.slots) < MOST_RIGS:
            full = perform("add", State(full, Look(PARTS))).bench
        # longer than the subject is away, none of the others can focus on it
        slots = [replace(slot, rig=replace(slot.rig, lens=OpticsLens(), focal_length_mm=9000)) for slot in bench.slots]
        slots[bench.reference] = bench.slots[bench.reference]
        alone = replace(bench, slots=tuple(slots), hold=replace(bench.hold, lens="own"))
        for start, press, says in (
            (bench, "units:yards", "Choose metres or feet."),
            (bench, "units", "This button sent too little. Load the page again."),
            (full, "add", f"A bench holds {MOST_RIGS} cameras. Remove one first."),
            (bench, "convert:0:9", "A converter multiplies by 0.2 to 5."),
            (bench, "drag_at:0:0.5:0.5:1000", "That is too far for one drag. Drag a shorter way."),
            (bench, "focus_at:0:2:0.5", "That is outside the picture. Press inside it."),
            (bench, "stop:0:0", "That does not work: "),
            (bench, "arrange:0:near:1:1", "Type a distance for its place, such as 3 m, and a number for its size."),
            (alone, f"remove:{alone.reference}", "A is the only one that can focus there, so it stays."),
        ):
            with self.subTest(press=press), self.assertRaisesRegex(ActionError, "^" + re.escape(says)):
                perform(press, State(start, Look(PARTS)))

    def test_what_leads_beyond_what_can_be_set(self):
        with (
            patch("cambrel.bench.actions.outside", return_value=[("distance_m", 1e9)]),
            self.assertRaisesRegex(ActionError, "That would take a .* of .*, more than can be set here."),
        ):
            perform("best", State(home_bench(), Look(PARTS)))

    def test_a_link_holds_so_many_moved_things(self):
        with patch("cambrel.bench.actions.picture.with_change", return_value=None):
            says = f"A link holds {MOST_CHANGES} moved things. Put one back first."
            with self.assertRaisesRegex(ActionError, says):
                perform("drag_at:0:0.5:0.5:1.2", State(home_bench(), Look(PARTS)))

    def test_a_place_behind_the_camera(self):
        with (
            patch("cambrel.bench.actions.touches.pick", return_value=(None, -5.0)),
            self.assertRaisesRegex(ActionError, "That is behind the reference camera. Press farther away."),
        ):
            perform("focus_at:0:0.5:0.9", State(home_bench(), Look(PARTS)))


class LinkErrorTests(SimpleTestCase):
    def test_a_link_of_another_kind(self):
        version, packed = inflated(encode(home_bench()))
        slots = next(cell for cell in packed if isinstance(cell, list) and len(cell) == len(home_bench().slots))
        slots += [slots[0]] * 6
        for read, content, says in (
            (decode, [version], "This link holds no bench."),
            (decode, [version, packed], "This link holds 9 rigs. At most "),
            (decode_choice, [version], "This link holds no kits to choose between."),
        ):
            with self.subTest(says=says), self.assertRaisesRegex(LinkError, says):
                read(deflated(content))


class ReadErrorTests(SimpleTestCase):
    def test_files_of_gear(self):
        for name, data, says in (
            ("a.csv", b"", "“a.csv” is empty."),
            ("a.csv", b"x" * (any_file.MOST_BYTES + 1), "“a.csv” is larger than 20 MB. Bring it in in parts."),
            ("a.zip", b"PK\3\4", "“a.zip” is packed. Unpack it first. Only plain files are read."),
            ("a.jpg", b"\xff\xd8\xff\xe0", "“a.jpg” is a picture. Here lists of gear are read: tables"),
            (
                "a.xml",
                b"<!DOCTYPE a [<!ENTITY b 'c'>]><a>&b;</a>",
                "The file declares entities or refers to other files.",
            ),
        ):
            with self.subTest(name=name, says=says), self.assertRaisesRegex(FileError, "^" + re.escape(says)):
                read_file(name, data)

    def test_more_than_is_read_at_a_time(self):
        with self.assertRaisesRegex(FileError, "At most .* records are read at a time. Bring them in in parts."):
            found.counted(10**9)
        says = "Reading this takes too long. Bring it in in parts."
        with self.assertRaisesRegex(FileError, says), found.time_limit(-1):
            found.counted(1)

    def test_tables_of_pictures(self):
        now = timezone.localtime().replace(tzinfo=None)
        head = b"camera,lens,focal length\n"
        for data, says in (
            (b"x" * (logbook.MOST_TABLE_BYTES + 1), "A table may have 20 MB at most. Bring it in in parts."),
            (head + b"\xff\xfe\xff,x,50\n", "not in UTF-8|not written in UTF-8"),
            (b'{"pictures": 1}', "This JSON holds no list of pictures."),
            (b"[" * 2000 + b"]" * 2000, "It is nested too deeply."),
            (head + b"a,b,50\n" * (logbook.MOST_LINES + 1), "A table may have .* lines at most. Bring it in in parts."),
        ):
            with self.subTest(says=says), self.assertRaisesRegex(logbook.TableError, says):
                logbook.read_table(data, now)
        with (
            patch("cambrel.field.logbook.time.monotonic", side_effect=[0.0, *[1e9] * 9]),
            self.assertRaisesRegex(logbook.TableError, "Reading this takes too long. Bring it in in parts."),
        ):
            logbook.read_table(head + b"a,b,50\n", now)

    def test_heads_of_pictures(self):
        with self.assertRaisesRegex(TagError, "its first bytes were not sent"):
            read_head(FileParts(1000, []))
        with self.assertRaisesRegex(TagError, "this is no EXIF block"):
            read_tags(FileParts(64, [(0, b"x" * 64)]))
        source = FileParts(64, [(0, b"x" * 64)])
        with self.assertRaisesRegex(TagError, "it asks for too many readings"):
            while True:
                source.get(0, 1)

    def test_a_line_of_pictures_that_is_full(self):
        with (
            patch("cambrel.photographs.decoding._LANE.turn", side_effect=BusyError),
            self.assertRaisesRegex(
                DecodeError, "Too many pictures are being read just now. Send it again in a moment."
            ),
        ):
            decode_picture(Path(__file__), Path("/nowhere"))

    def test_an_address_of_a_picture(self):
        for token in ("", "x"):
            with self.subTest(token=token), self.assertRaisesRegex(LinkError, "This picture's address is damaged.|cut"):
                slug_of(token)

    def test_patches_of_pictures(self):
        even, two = coded(even_patch(40)), coded(even_patch(40, side=80))
        with self.assertRaisesRegex(MeasureError, "The two frames are not of one size."):
            patch_noise(even, 24e6, other=two)
        for light, says in (
            (edge(0.2, 5, 38, 90), "Take at least 40 pixels across the edge and 60 along it."),
            (edge(0.2, 5, bend=1.2), "The edge is bent: take a shorter piece of it."),
            (edge(0.2, 5, dark=0.3, bright=0.42), "The two sides differ too little: take an edge with more contrast."),
            (edge(0.006, 5, 60, 120), "The edge is too soft for this patch: take a wider one."),
            (edge(0.2, 3, 90, 70)[:, 38:], "The edge leaves the patch: take it in the middle."),
        ):
            with self.subTest(says=says), self.assertRaisesRegex(MeasureError, says):
                slanted_edge(coded(light))


class FieldErrorTests(TestCase):
    """What is typed wrongly is said at its own field, and what was typed stays."""

    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)

    def beside(self, page, name):
        """What is said at the field of a name: by the note that describes it, or right behind it."""
        text = page.content.decode()
        field = re.search(rf'<(?:input|select|textarea)[^>]*\sname="{re.escape(name)}"[^>]*>', text)
        self.assertIsNotNone(field, f"the page has no field {name}")
        told = re.search(r'aria-describedby="([^"]+)"', field[0])
        notes = [
            re.search(rf'id="{re.escape(key)}"[^>]*>(.*?)</', text, re.DOTALL)
            for key in (told[1].split() if told else ())
        ]
        return " ".join(unescape(re.sub(r"<[^>]*>", "", note[1])).strip() for note in notes if note)

    def refused(self, page, name, says):
        self.assertIn(says, self.beside(page, name), f"{name} of {page.request['PATH_INFO']}")

    def test_forms_of_the_shelf(self):
        body = {
            "name": "Own",
            "mount": "Tarn",
            "modes-TOTAL_FORMS": 0,
            "modes-INITIAL_FORMS": 0,
            "stabilised": "unknown",
        }
        lens = {"name": "Own", "mount": "Tarn", "focal_min_mm": "50", "stabilised": "unknown"}
        for kind, sent, name, says in (
            ("bodies", body, "width_mm", "Choose the format, or give width and height."),
            ("bodies", body | {"width_mm": "36"}, "height_mm", "Give both sides of the sensor."),
            ("bodies", body | {"format": "full-frame", "pixels_wide": "4"}, "pixels_wide",
             "Type from 16 to 200,000 pixels."),
            ("bodies", body | {"format": "full-frame", "width_mm": "20", "height_mm": "10"}, "format",
             "This format has another size than the one beside it. Keep one of the two."),
            ("bodies", body | {"format": "full-frame", "price": "100", "currency": "E1R"}, "currency",
             "A currency is three letters, such as EUR."),
            ("bodies", body | {"format": "full-frame", "price": "100"}, "currency",
             "Type the currency too, such as EUR. Prices are never converted."),
            ("lenses", lens | {"focal_max_mm": "20"}, "focal_max_mm",
             "The longest focal length is at least the shortest."),
            ("lenses", lens | {"widest": "f/0.2"}, "widest",
             "Type an f-number from f/0.5, the limit in air, to f/256."),
            ("lenses", lens | {"widest": "f/2 at 20"}, "widest",
             "The points must lie within the range, 50\u00a0mm to 50\u00a0mm."),
            ("lenses", lens | {"widest": "wide"}, "widest", "“wide” cannot be read. Type f/2.8"),
            ("lenses", lens | {"widest": "f/4", "smallest_f_number": "2"}, "smallest_f_number",
             "The smallest aperture has at least the f-number of the widest."),
            ("lenses", {"name": "No figures"}, "focal_min_mm", "Give the focal length, for a zoom the shortest."),
            ("mounts", {"name": "Own", "accepts": "\u202edesrever"}, "accepts", "…”: "),
            ("mounts", {"name": "tarn"}, "name", "A mount of this name is there already. Choose another name."),
            ("codes", {"name": "A1", "stands_for": "aps-c"}, "name", "A code is one to eight letters"),
            ("codes", {"name": "AB"}, "stands_for",
             "Say what the letters stand for: a format or a mount, one of the two."),
            ("close-up-aids", {"name": "Ring", "kind": "tube"}, "length_mm", "Say how long the tube is."),
        ):  # fmt: skip
            with self.subTest(kind=kind, says=says):
                self.refused(self.client.post(f"/shelf/{kind}/new/", sent), name, says)

    def test_an_advert(self):
        for sent, name, says in (
            ({"type": "big", "focal_min_mm": "7"}, "type", "Write the type as 1/1.3 or 1."),
            ({"width_mm": "9", "focal_min_mm": "7"}, "height_mm", "Give both sides of the sensor."),
            ({"width_mm": "9", "height_mm": "6"}, "focal_min_mm", "An advert states a focal length at least."),
        ):
            with self.subTest(says=says):
                self.refused(self.client.get("/advert/", sent), name, says)

    def test_a_bag_holds_so_many(self):
        kit, lens = Kit.objects.first(), Lens.objects.first()
        with patch("cambrel.shelf.views.kits.MOST_IN_KIT", 0):
            page = self.client.post(f"/shelf/kits/{kit.pk}/pack/", {"record": lens.pk}, follow=True)
            self.assertContains(page, "A kit holds at most 0 bodies, lenses, adapters and supports.")
        page = self.client.post(f"/shelf/kits/{kit.pk}/pack/", {}, follow=True)
        self.assertContains(page, "Choose what to put into the bag.")
        with patch("cambrel.shelf.views.lists.MOST_IN_KIT", 0):
            sent = {"action": "pack", "kit": kit.pk, "pk": lens.pk}
            page = self.client.post("/shelf/lenses/act/", sent, follow=True)
            self.assertContains(page, "A kit holds at most 0 bodies and lenses.")

    def test_a_camera_of_one_s_own_on_the_bench(self):
        form = OwnBodyForm({"format": "", "width_mm": "9"})
        self.assertEqual(form.errors, {"height_mm": ["Give the sensor's size, or choose a format."]})

    def test_a_name_that_is_taken(self):
        form = RegisterForm({"username": LOCAL_OWNER.upper()})
        self.assertIn("This name is taken.", form.errors["username"])

    def test_figures_as_they_are_typed(self):
        for field, typed, says in (
            (NumberField(label="x", limits="width_mm"), "9" * 200, "At most .* characters are read."),
            (NumberField(label="x", limits="width_mm"), "infinity", "Infinity is not a .* here. Type a number."),
            (ShutterField(label="x"), "400° at 25", "A shutter is open for at most 360° of a frame."),
            (ShutterField(label="x"), "180°", "An angle needs a frame rate. Type it as 180° at 25."),
        ):
            with self.subTest(typed=typed[:12]), self.assertRaisesRegex(Exception, says):
                field.to_python(typed)

    def test_a_scene_of_one_s_own(self):
        page = self.client.post("/field/scenes/new/", {"name": "Own"})
        for name, says in (
            ("background", "Choose a picture of the place."),
            ("distance_m", "Give a distance."),
            ("background_m", "Give a distance."),
            ("camera_height_m", "Give a height."),
        ):
            with self.subTest(name=name):
                self.refused(page, name, says)
        form = PlaceForm({"name": "Own"}, {"background": "no file"}, METRES, OwnScene(), is_new=True)
        self.assertEqual(form.errors["background"], ["Choose a file."])
        page = self.client.post("/field/scenes/bring/", {}, follow=True)
        self.assertContains(page, "Choose a file of scenes of ", status_code=page.status_code)

    def test_a_logbook(self):
        page = self.client.post("/field/habits/table/", {})
        self.assertEqual(json.loads(page.content), {"problem": "Choose a table of 20 MB at most."})
        with (
            patch("cambrel.field.logbook.MOST_LOGGED", 0),
            self.assertRaisesRegex(
                logbook.TableError, "A logbook holds 0 pictures, and that would be 1. Nothing was kept."
            ),
        ):
            logbook.plan_of(self.owner, [{"body": "a", "taken_at": "2026-11-01 12:00:00"}])

    def test_reasons_to_decide(self):
        form = KeepForm({"name": "Which?", "reasons": "\x07"})
        self.assertEqual(form.errors, {"reasons": ["It has characters that cannot be shown."]})

    def test_records_that_change_meanwhile_and_more_than_are_kept(self):
        with (
            patch("cambrel.field.views.counting.carry_out", side_effect=StaleError),
            self.assertRaisesRegex(logbook.TableError, "Your records are being changed at this very moment."),
        ):
            _logged(self.owner, [{"body": "a", "taken_at": "2026-11-01 12:00:00"}])
        with (
            override_settings(MOST_RECORDS=1),
            self.assertRaisesRegex(
                QuotaError, "That would be .* records, and at most 1 are kept. Nothing was changed."
            ),
        ):
            check_quota(self.owner)

    def test_a_picture_that_cannot_be_read_is_said_on_the_page_of_the_sheet(self):
        sheet = Sheet.objects.create(owner=self.owner, name="Proof", token=encode(home_bench()), trials=["depth"])
        sent = {"file": SimpleUploadedFile("a.jpg", b"no picture")}
        page = self.client.post(f"/field/{sheet.pk}/bring/", sent, follow=True)
        self.assertContains(page, "It could not be read: ")

    def test_a_file_is_brought_in_once(self):
        for name, content, says in (
            ("a.csv", b"name,mount,focal length\n", "“a.csv” holds no records."),
            (
                "b.csv",
                b"name,mount\nWithout figures,Tarn\n",
                "are refused. Mend the file, or tick that they are left out.",
            ),
        ):
            with self.subTest(says=says):
                page = self.client.post("/shelf/import/", {"files": SimpleUploadedFile(name, content)}, follow=True)
                preview = ImportPreview.objects.order_by("pk").last()
                if preview is not None:
                    self.client.post(f"/shelf/import/{preview.pk}/work/")
                    page = self.client.post(f"/shelf/import/{preview.pk}/apply/", follow=True)
                self.assertContains(page, says, status_code=page.status_code)
        whole = SimpleUploadedFile("c.csv", b"name,mount,focal length\nOwn 50 mm,Tarn,50\n")
        self.client.post("/shelf/import/", {"files": whole}, follow=True)
        address = f"/shelf/import/{ImportPreview.objects.latest('pk').pk}/"
        self.client.post(address + "work/")
        address += "apply/"
        self.client.post(address)
        with self.assertRaisesRegex(ApplyError, "This file has been brought in already."):
            apply(ImportPreview.objects.latest("pk"), frozenset())
        again = SimpleUploadedFile("c.csv", b"name,mount,focal length\nOwn 50 mm,Tarn,50\n")
        self.client.post("/shelf/import/", {"files": again}, follow=True)
        address = f"/shelf/import/{ImportPreview.objects.latest('pk').pk}/"
        self.client.post(address + "work/")
        page = self.client.post(address + "apply/", follow=True)
        self.assertContains(page, "There is nothing to bring in.")

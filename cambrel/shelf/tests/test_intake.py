"""Reading files: the document, tables and lens-database XML, sound and hostile."""

import json

from django.test import SimpleTestCase

from cambrel.exports.csv_tables import neutral, plain
from cambrel.shelf.intake import FileError, Known, read_file
from cambrel.shelf.intake.found import MOST_BYTES, MOST_ROWS
from cambrel.shelf.intake.shelf_documents import problem_of
from cambrel.shelf.intake.tables import write_table

LENS_XML = """<?xml version="1.0"?>
<!DOCTYPE lensdatabase SYSTEM "lensfun-database.dtd">
<lensdatabase version="2">
  <mount><name>Tarn</name><compat>Tarn Reflex</compat><compat>Generic</compat></mount>
  <mount><name>Generic</name><compat>Tarn</compat></mount>
  <camera>
    <maker>Tarn Werke</maker><maker lang="en">Tarn</maker><model>Hügel</model><model lang="en">Knoll</model>
    <mount>Tarn</mount><cropfactor>1.5</cropfactor>
  </camera>
  <camera><maker>Bothy</maker><model>Cove</model><mount>bothyCove</mount><cropfactor>4.6</cropfactor></camera>
  <lens><maker>Tarn</maker><model>Tarn 13-52mm f/3.4-5.4</model><mount>Tarn</mount><cropfactor>1.5</cropfactor></lens>
  <lens><maker>Tarn</maker><model>Tarn 13-52mm f/3.4-5.4</model><mount>Tarn</mount><cropfactor>1</cropfactor></lens>
  <lens><maker>Old Works</maker><model>Lumen 2,9/22</model><mount>Tarn Reflex</mount></lens>
  <lens><maker>Old Works</maker><model>Lumen 1:1.9/31</model><mount>Tarn Reflex</mount></lens>
  <lens><maker>Old Works</maker><model>QX-F28 40mm</model><mount>Tarn</mount><type>fisheye</type></lens>
  <lens><maker>Old Works</maker><model>Stated</model><mount>Tarn</mount><mount>Pipwren</mount>
    <focal min="18" max="55"/><aperture min="3.5" max="22"/></lens>
  <lens><maker>Old Works</maker><model>Measured</model><mount>Tarn</mount>
    <calibration><distortion model="poly3" focal="35" k1="0"/>
    <distortion model="poly3" focal="80" k1="0"/></calibration></lens>
  <lens><maker>Old Works</maker><model>Nameless glass</model><mount>Tarn</mount></lens>
  <lens><maker>Bothy</maker><model>fixed lens 6.1mm F2.8</model><mount>bothyCove</mount></lens>
</lensdatabase>"""


def rows(found, section):
    return {one.row.get("name"): one.row for one in found if one.section == section and not one.reason}


class LensXmlTests(SimpleTestCase):
    def setUp(self):
        self.contents = read_file("glass.xml", LENS_XML.encode())
        self.found = self.contents.found

    def test_a_fixed_lens_is_known_by_its_name_and_read_from_all_of_its_rows(self):
        rows_measured = "".join(
            f'<distortion model="poly3" focal="{focal}" k1="0"/>' for focal in [6, *[7 + k / 20 for k in range(90)], 36]
        )
        found = read_file(
            "fixed.xml",
            f"""<lensdatabase>
            <camera><maker>Bothy</maker><model>Fell</model><mount>BOTHYFELL</mount><cropfactor>4.6</cropfactor></camera>
            <lens><maker>Bothy</maker><model>Fell &amp; compatibles (fixed lens)</model><mount>BOTHYFELL</mount>
            <calibration>{rows_measured}</calibration></lens></lensdatabase>""".encode(),
        ).found
        lens = rows(found, "lenses")["Bothy Fell lens"]
        self.assertEqual((lens["focal_min_mm"], lens["focal_max_mm"], lens["fixed_to"]), (6, 36, "Bothy Fell"))
        self.assertEqual(rows(found, "bodies")["Bothy Fell"]["mount"], "")

    def test_what_is_called_compatible_can_be_adapted_and_generic_is_dropped_and_said(self):
        self.assertEqual(rows(self.found, "mounts"), {"Tarn": {"name": "Tarn", "accepts": []}})
        adapter = rows(self.found, "adapters")["Tarn Reflex on Tarn"]
        self.assertEqual(
            (adapter["lens_mount"], adapter["mount"], adapter["inferred"]), ("Tarn Reflex", "Tarn", ["kind"])
        )
        self.assertEqual(self.contents.notes, ["Left out: 1 generic entry, which stands for no gear."])
        mount = """<lensdatabase><mount><name>Muir</name><compat>Muir APS-C</compat><compat>Muir (full frame)</compat>
            <compat>Fen</compat><compat>Muirton</compat></mount></lensdatabase>"""
        found = read_file("m.xml", mount.encode()).found
        self.assertEqual(rows(found, "mounts")["Muir"]["accepts"], ["Muir (full frame)", "Muir APS-C"])
        self.assertEqual(set(rows(found, "adapters")), {"Fen on Muir", "Muirton on Muir"})
        known = Known(registers_mm={"Muir": 44.0, "Fen": 44.01, "Muirton": 18.0})
        found = read_file("m.xml", mount.encode(), known).found
        self.assertEqual(rows(found, "mounts")["Muir"]["accepts"], ["Fen", "Muir (full frame)", "Muir APS-C"])

    def test_a_zoom_s_own_name_knows_more_than_one_element(self):
        for model, aperture, widest, smallest, inferred in (
            ("Tarn 18-55mm F3.5-5.6", '<aperture min="3.5" max="22"/>', [[18, 3.5], [55, 5.6]], 22, True),
            ("Tarn 18-55mm", '<aperture min="3.5" max="22"/>', [[18, 3.5], [55, 3.5]], 22, True),
            ("Tarn 50mm", '<aperture min="1.8"/>', [[50, 1.8]], None, False),
            ("Tarn 50mm f/1.7", '<aperture min="1.8"/>', [[50, 1.8]], None, False),
            ("Tarn 17-40mm F4L", "", [[17, 4], [40, 4]], None, True),
        ):
            lens = f"<lensdatabase><lens><model>{model}</model><mount>Tarn</mount>{aperture}</lens></lensdatabase>"
            with self.subTest(model):
                (one,) = read_file("l.xml", lens.encode()).found
                self.assertEqual((one.row["widest"], one.row.get("smallest_f_number")), (widest, smallest))
                self.assertEqual("widest" in one.row["inferred"], inferred)

    def test_a_converter_that_is_named_multiplies_both(self):
        rows_ = "".join(f'<distortion model="poly3" focal="{f}" k1="0"/>' for f in (98, 140, 280))
        for calibration in (f"<calibration>{rows_}</calibration>", ""):
            lens = (
                "<lensdatabase><lens><model>Tarn 70-200mm f/2.8 + 1.4x"
                f" ext.</model><mount>Tarn</mount>{calibration}</lens></lensdatabase>"
            )
            (one,) = read_file("l.xml", lens.encode()).found
            self.assertAlmostEqual(one.row["focal_min_mm"], 98)
            self.assertAlmostEqual(one.row["focal_max_mm"], 280)
            self.assertAlmostEqual(one.row["widest"][1][1], 3.92)
            self.assertIn("1.4 × converter", one.row["note"])

    def test_shapes_and_variants_of_cameras(self):
        def camera(model, crop, mount="Tarn", variant=""):
            variant = f"<variant>{variant}</variant>" if variant else ""
            named = f"<maker>Muir</maker><model>{model}</model>{variant}"
            return f"<camera>{named}<mount>{mount}</mount><cropfactor>{crop}</cropfactor></camera>"

        long = "Fen with a name that is far longer than a name on the shelf may be"
        text = "<lensdatabase>" + "".join((
            camera("Fen 4:3", 1.0), camera("Fen 1:1", 1.0), camera("Fen 16:9", 1.5), camera("Fen", 1.5),
            camera("Pocket", 4.6, "muirPocket"),
            camera(long, 1.5, variant="old"), camera(long, 1.5, variant="new"), camera("Fen", 1.5, variant="infrared"),
        ))  # fmt: skip
        text += "<lens><model>6 mm</model><mount>muirPocket</mount>"
        text += "<aspect-ratio>3:2</aspect-ratio></lens></lensdatabase>"
        bodies = rows(read_file("c.xml", text.encode()).found, "bodies")
        shapes = {name: round(row["width_mm"] / row["height_mm"], 3) for name, row in bodies.items()}
        self.assertEqual(
            {name: shapes[f"Muir {name}"] for name in ("Fen 4:3", "Fen 1:1", "Fen 16:9", "Fen", "Pocket")},
            {"Fen 4:3": 1.333, "Fen 1:1": 1.0, "Fen 16:9": 1.778, "Fen": 1.5, "Pocket": 1.5},
        )
        self.assertEqual(len(bodies), 8, "variants are cameras of their own")
        self.assertTrue(all(len(name) <= 60 for name in bodies))
        self.assertEqual(sum("…" in name for name in bodies), 2, "what was cut is marked")

    def test_cameras_show_english_and_mark_what_was_inferred(self):
        bodies = rows(self.found, "bodies")
        self.assertEqual(set(bodies), {"Tarn Knoll", "Bothy Cove"})
        knoll = bodies["Tarn Knoll"]
        self.assertAlmostEqual(knoll["width_mm"], 24, places=9)
        self.assertAlmostEqual(knoll["height_mm"], 16, places=9)
        self.assertEqual(knoll["inferred"], ["width_mm", "height_mm"])
        self.assertAlmostEqual(bodies["Bothy Cove"]["width_mm"] / bodies["Bothy Cove"]["height_mm"], 4 / 3)
        self.assertEqual(bodies["Bothy Cove"]["mount"], "")

    def test_lenses(self):
        for name, focal, widest, why in (
            ("Tarn 13-52mm f/3.4-5.4", (13, 52), [[13, 3.4], [52, 5.4]], "from the name, two crops merged"),
            ("Old Works Lumen 2,9/22", (22, 22), [[22, 2.9]], "f-number over focal length, decimal comma"),
            ("Old Works Lumen 1:1.9/31", (31, 31), [[31, 1.9]], "ratio over focal length"),
            ("Old Works QX-F28 40mm", (40, 40), None, "a type number is no f-number"),
            ("Old Works Stated", (18, 55), [[18, 3.5], [55, 3.5]], "stated in elements"),
            ("Old Works Measured", (35, 80), None, "from where it was measured"),
            ("Bothy Cove lens", (6.1, 6.1), [[6.1, 2.8]], "part of the camera with its private mount"),
        ):
            with self.subTest(name, why=why):
                lens = rows(self.found, "lenses")[name]
                self.assertEqual((lens["focal_min_mm"], lens["focal_max_mm"]), focal)
                self.assertEqual(lens.get("widest"), widest)
                self.assertNotIn("designed_for", lens)
        self.assertEqual(rows(self.found, "lenses")["Bothy Cove lens"]["fixed_to"], "Bothy Cove")
        self.assertIs(rows(self.found, "lenses")["Old Works QX-F28 40mm"]["rectilinear"], False)
        stated = [one.row["mount"] for one in self.found if one.row.get("name") == "Old Works Stated"]
        self.assertEqual(stated, ["Tarn", "Pipwren"])
        self.assertEqual(sum(one.row.get("name") == "Tarn 13-52mm f/3.4-5.4" for one in self.found), 1)

    def test_what_cannot_be_read_is_named_with_its_line(self):
        refused = [one for one in self.found if one.reason]
        self.assertEqual([(one.row["name"], one.line) for one in refused], [("Old Works Nameless glass", 21)])


class HostileFileTests(SimpleTestCase):
    def test_refused_whole(self):
        deep = b"<lensdatabase>" + b"<a>" * 40 + b"</a>" * 40 + b"</lensdatabase>"
        entity = (
            b'<!DOCTYPE l [<!ENTITY a "aaaa"><!ENTITY b'
            b' "&a;&a;">]><lensdatabase><lens><model>&b;</model></lens></lensdatabase>'
        )
        outside = (
            b"<!DOCTYPE l [<!ENTITY x SYSTEM"
            b' "file:///etc/passwd">]><lensdatabase><lens><model>&x;</model></lens></lensdatabase>'
        )
        for name, data, word in (
            ("packed", b"PK\x03\x04....", "packed"),
            ("gzip", b"\x1f\x8b....", "packed"),
            ("empty", b" \n", "empty"),
            ("large", b"{" + b" " * MOST_BYTES, "20 MB"),
            ("entities", entity, "entities"),
            ("outside", outside, "entities"),
            ("deep xml", deep, "deeply"),
            ("broken xml", b"<lensdatabase><lens>", "XML"),
            ("deep json", b'{"cambrel": 1, "sections": ' + b"[" * 100_000, "deeply"),
            ("other json", b'{"version": 3}', "not a Cambrel document"),
            ("broken json", b'{"cambrel": 1,', "line 1"),
            ("strange section", b'{"cambrel": 1, "sections": {"stars": []}}', "stars"),
            ("digits", b'{"cambrel": ' + b"9" * 5000 + b"}", "not a Cambrel document"),
            ("strange table", b"colour,smell\na,b\n", "no known columns"),
            ("latin", "name;width_mm;height_mm\nHöhe;1;1\n".encode("latin-1"), "UTF-8"),
            ("many", json.dumps({"cambrel": 1, "sections": {"kits": [{}] * (MOST_ROWS + 1)}}).encode(), "60,000"),
        ):
            with self.subTest(name), self.assertRaisesRegex(FileError, word):
                read_file(name, data)

    def test_numbers_that_are_none_are_refused_by_row(self):
        text = '{"cambrel": 1, "sections": {"lenses": [{"name": "a", "focal_min_mm": %s}]}}'
        for number in ("NaN", "Infinity", "1e400", "-5", "0", '"5"', "true"):
            with self.subTest(number):
                (one,) = read_file("x.json", (text % number).encode()).found
                self.assertTrue(problem_of("lenses", one.row))


class DoorTests(SimpleTestCase):
    """What no record may hold is refused where it comes in, by row and reason, whatever the kind of file."""

    def test_numbers_and_texts_beyond_sense(self):
        def document(row):
            return '{"cambrel": 1, "sections": {"lenses": [' + row + ', {"name": "Good", "focal_min_mm": 5}]}}'

        for row, reason in (
            ('{"name": "a", "focal_min_mm": 1e400}', "focal_min_mm: a number too large"),
            ('{"name": "a", "focal_min_mm": -1e300}', "too large"),
            ('{"name": "a", "focal_min_mm": 5e-324}', "focal_min_mm: a number too small"),
            ('{"name": "a\\u0000b"}', "name: characters"),
            ('{"name": "a", "note": "\\ud83d"}', "note: characters"), ('{"name": "a", "\\u0007": 1}', "a field's name"),
            ('{"name": "a", "widest": [[5, 1e999]]}', "widest: a number"),
            ('{"name": "a", "note": "%s"}' % ("x" * 70_000), "note: longer"),
            ('{"name": "a", "note": [[[[[[[[[1]]]]]]]]]}', "note: [[[[[[[[[1]]]]]]]]] is not of the kind"),
        ):  # fmt: skip
            with self.subTest(row[:50]):
                bad, good = read_file("d.json", document(row).encode()).found
                self.assertIn(reason, bad.reason)
                self.assertEqual((bad.line, set(bad.row), good.reason), (1, {"name"}, ""))
                json.dumps(bad.row).encode()
        table = read_file("t.csv", "lens,focal length\nA\u0007,5\nB,5e-320\nC 👩\u200d🚒,5\n".encode()).found
        self.assertEqual([bool(one.reason) for one in table], [True, True, False])
        glass = "<lensdatabase><lens><model>\u202e50mm</model><mount>M</mount></lens></lensdatabase>"
        (one,) = read_file("x.xml", glass.encode()).found
        self.assertIn("cannot be shown", one.reason)

    def test_a_name_that_is_too_long_is_refused_and_not_cut(self):
        text = json.dumps({"cambrel": 1, "sections": {"mounts": [{"name": "x" * 61}]}})
        (one,) = read_file("m.json", text.encode()).found
        self.assertIn("long", problem_of("mounts", one.row))


class TableTests(SimpleTestCase):
    def test_comma_semicolon_mark_and_decimal_comma(self):
        for data in (
            b"name,mount,focal_min_mm,widest,stabilised\nBeck 9,Tarn,9.5,f/1.8,yes\n",
            "\ufeffname;mount;focal_min_mm;widest;stabilised\r\nBeck 9;Tarn;9,5;f/1,8;yes\r\n".encode(),
            b"name\tmount\tfocal_min_mm\twidest\tstabilised\nBeck 9\tTarn\t9.5\tf/1.8\tyes\n",
        ):
            (one,) = read_file("t.csv", data).found
            self.assertEqual((one.section, one.line), ("lenses", 2))
            wanted = {
                "name": "Beck 9",
                "mount": "Tarn",
                "focal_min_mm": 9.5,
                "widest": [[9.5, 1.8]],
                "stabilised": True,
            }
            self.assertEqual(one.row, wanted)

    def test_a_bad_cell_is_named(self):
        good, bad, long = read_file("t.csv", b"name,focal_min_mm\nA,20\nB,nan\nC,1,2\n").found
        self.assertEqual((good.reason, bad.line, long.reason), ("", 3, "more cells than columns"))
        self.assertIn("nan", bad.reason)

    def test_formulas_are_neutralised_and_come_back(self):
        for text in ("=1+1", "+4", "-0.5", "@x", "plain", "'quoted"):
            with self.subTest(text):
                self.assertNotIn(neutral(text)[0], "=+-@")
                self.assertEqual(plain(neutral(text)), text)
        table = write_table(
            ["name", "focal_min_mm", "widest"], [{"name": "=cmd()", "focal_min_mm": 9.5, "widest": [[9.5, 1.8]]}]
        )
        self.assertIn("'=cmd()", table)
        (one,) = read_file("t.csv", table.encode()).found
        self.assertEqual(one.row, {"name": "=cmd()", "focal_min_mm": 9.5, "widest": [[9.5, 1.8]]})

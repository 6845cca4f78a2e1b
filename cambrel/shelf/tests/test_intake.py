"""Reading files: the document, tables and lens-database XML, sound and hostile."""

import json

from django.test import SimpleTestCase

from cambrel.shelf.intake import FileError, read_file
from cambrel.shelf.intake.documents import problem_of
from cambrel.shelf.intake.found import MOST_BYTES, MOST_ROWS
from cambrel.shelf.intake.tables import neutral, plain, write_table

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
    <calibration><distortion model="poly3" focal="35" k1="0"/><distortion model="poly3" focal="80" k1="0"/></calibration></lens>
  <lens><maker>Old Works</maker><model>Nameless glass</model><mount>Tarn</mount></lens>
  <lens><maker>Bothy</maker><model>fixed lens 6.1mm F2.8</model><mount>bothyCove</mount></lens>
</lensdatabase>"""


def rows(found, section):
    return {one.row.get("name"): one.row for one in found if one.section == section and not one.reason}


class LensXmlTests(SimpleTestCase):
    def setUp(self):
        self.found = read_file("glass.xml", LENS_XML.encode())

    def test_mounts_run_one_way_and_generic_is_dropped(self):
        self.assertEqual(rows(self.found, "mounts"), {"Tarn": {"name": "Tarn", "accepts": ["Tarn Reflex"]}})

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
        self.assertEqual([(one.row["name"], one.line) for one in refused], [("Old Works Nameless glass", 20)])


class HostileFileTests(SimpleTestCase):
    def test_refused_whole(self):
        deep = b"<lensdatabase>" + b"<a>" * 40 + b"</a>" * 40 + b"</lensdatabase>"
        entity = b'<!DOCTYPE l [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><lensdatabase><lens><model>&b;</model></lens></lensdatabase>'
        outside = b'<!DOCTYPE l [<!ENTITY x SYSTEM "file:///etc/passwd">]><lensdatabase><lens><model>&x;</model></lens></lensdatabase>'
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
            ("other json", b'{"version": 3}', "no Cambrel document"),
            ("broken json", b'{"cambrel": 1,', "line 1"),
            ("strange section", b'{"cambrel": 1, "sections": {"stars": []}}', "stars"),
            ("digits", b'{"cambrel": ' + b"9" * 5000 + b"}", "digits"),
            ("strange table", b"name,colour\na,b\n", "no columns"),
            ("strange column", b"name,width_mm,height_mm,colour\na,1,1,b\n", "colour"),
            ("latin", "name;width_mm;height_mm\nHöhe;1;1\n".encode("latin-1"), "UTF-8"),
            ("many", json.dumps({"cambrel": 1, "sections": {"kits": [{}] * (MOST_ROWS + 1)}}).encode(), "25,000"),
        ):
            with self.subTest(name), self.assertRaisesRegex(FileError, word):
                read_file(name, data)

    def test_numbers_that_are_none_are_refused_by_row(self):
        text = '{"cambrel": 1, "sections": {"lenses": [{"name": "a", "focal_min_mm": %s}]}}'
        for number in ("NaN", "Infinity", "1e400", "-5", "0", '"5"', "true"):
            with self.subTest(number):
                (one,) = read_file("x.json", (text % number).encode())
                self.assertTrue(problem_of("lenses", one.row))


class TableTests(SimpleTestCase):
    def test_comma_semicolon_mark_and_decimal_comma(self):
        for data in (
            b"name,mount,focal_min_mm,widest,stabilised\nBeck 9,Tarn,9.5,f/1.8,yes\n",
            "\ufeffname;mount;focal_min_mm;widest;stabilised\r\nBeck 9;Tarn;9,5;f/1,8;yes\r\n".encode(),
            b"name\tmount\tfocal_min_mm\twidest\tstabilised\nBeck 9\tTarn\t9.5\tf/1.8\tyes\n",
        ):
            (one,) = read_file("t.csv", data)
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
        good, bad, long = read_file("t.csv", b"name,focal_min_mm\nA,20\nB,nan\nC,1,2\n")
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
        (one,) = read_file("t.csv", table.encode())
        self.assertEqual(one.row, {"name": "=cmd()", "focal_min_mm": 9.5, "widest": [[9.5, 1.8]]})

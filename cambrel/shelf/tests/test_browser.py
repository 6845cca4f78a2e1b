"""The shelf and the formats as a person uses them."""

import json
import tempfile
from pathlib import Path

from selenium.webdriver.support.ui import Select

from cambrel.shelf.models import Kit, Lens
from cambrel.site.tests.browser import COLOURS, BrowserTestCase

VIEWS = (
    "/formats/", "/formats/?how=side&f=full-frame&f=micro-four-thirds&shape=1:1&megapixels=20", "/formats/?none=1",
    "/formats/?megapixels=x",
    "/advert/", "/advert/?text=nothing", "/conventions/", "/shelf/bodies/", "/shelf/lenses/?q=zebra",
    "/shelf/own-formats/",
    "/shelf/bodies/new/", "/shelf/kits/{kit}/", "/shelf/import/", "/shelf/export/",
)  # fmt: skip


IN_THE_DARK = (
    "/formats/",
    "/advert/",
    "/conventions/",
    "/shelf/lenses/?q=zebra",
    "/shelf/bodies/new/",
    "/shelf/import/",
)
"""Of one kind each: colours are those of the one style sheet."""
ARROWS = ("color-contrast",)
"""axe cannot judge the contrast of a select, whose arrow is a background image."""


class ShelfTests(BrowserTestCase):
    def test_every_view_is_accessible_light_and_dark_wide_and_narrow(self):
        kit = Kit.objects.first().pk
        for view in VIEWS:
            with self.subTest(view=view):
                self.open(view.format(kit=kit))
                # a heading that the edge of a wide table cuts is not decided
                self.assert_accessible((*ARROWS, "link-in-text-block"))
                self.size(390, 844)
                if view in IN_THE_DARK:
                    self.dark(True)
                    self.assert_accessible((*ARROWS, "link-in-text-block"), COLOURS)
                    self.dark(False)
                across = self.script("return document.documentElement.scrollWidth")
                self.assertLessEqual(across, 390, "nothing runs off the side")
                self.size(1280, 800)

    def test_find_tick_delete_and_undo(self):
        self.open("/shelf/lenses/")
        self.changed("#list", lambda: self.type("#id_q", "macro", enter=False))
        self.wait(lambda: "q=macro" in self.address())
        self.wait(lambda: len(self.all("#list tbody tr")) == 4)
        self.assertEqual(self.script("return document.activeElement.id"), "id_q")
        self.press("#tick-all")
        self.assertEqual(self.text("#ticked"), "4 ticked")
        self.press('[name="action"][value="delete"]')
        self.wait(lambda: "Deleted 4 lenses" in self.text(".notice"))
        self.assertFalse(Lens.objects.filter(name__icontains="macro").exists())
        self.press(".undo-last button")
        self.wait(lambda: "Undone" in self.text(".notice"))
        self.assertEqual(Lens.objects.filter(name__icontains="macro").count(), 4)
        self.assertIn("q=macro", self.address())
        Select(self.one("#into-kit")).select_by_visible_text("Lineside bag")
        self.wait(lambda: "Tick at least one" in self.text(".notice"))

    def warns(self):
        """Whether the browser asks before the page is left."""
        return self.script(
            "const e = new Event('beforeunload', {cancelable: true}); window.dispatchEvent(e); return"
            " e.defaultPrevented"
        )

    def test_a_form_half_filled_in_warns_before_it_is_lost(self):
        self.open("/shelf/lenses/new/")
        self.assertFalse(self.warns())
        self.type("#id_name", "Half", enter=False)
        self.assertTrue(self.warns())
        self.press(".record-buttons .btn-accent")
        self.wait(lambda: "Give the focal length" in self.text(".record"))
        self.assertTrue(self.warns(), "what came back with a message is kept nowhere yet")
        self.type("#id_focal_min_mm", "33", enter=False)
        self.press(".record-buttons .btn-accent")
        self.wait(lambda: "is on the shelf" in self.text(".notice"))
        self.assertFalse(self.warns())

    def test_a_new_lens_with_a_mistake_then_kept_and_put_on_the_bench(self):
        self.open("/shelf/lenses/new/")
        for field, value in (("name", "Beck 31 mm"), ("mount", "Tarn"), ("focal_min_mm", "31"), ("widest", "f/0.2")):
            self.type(f"#id_{field}", value, enter=False)
        self.press(".record-buttons [type=submit]")
        self.wait(lambda: "limit in air" in self.text(".record"))
        self.assert_accessible(ARROWS)
        self.assertEqual(self.one("#id_name").get_attribute("value"), "Beck 31 mm")
        self.type("#id_widest", "f/1.9")
        self.wait(lambda: "is on the shelf" in self.text(".notice"))
        self.open("/?panel=depth")
        self.changed("#figures-0", lambda: self.type("#id_rigs-0-f_number", "5.6"))
        self.open("/shelf/lenses/?q=Beck")
        self.press("a[data-put]")
        self.wait(lambda: len(self.all(".plate")) == 3)
        self.assertIn("panel=depth", self.address())
        self.assertEqual(self.one("#id_rigs-0-f_number").get_attribute("value"), "5.6")
        self.assertIn("Beck 31 mm", self.text("#plate-2"))

    def test_a_file_is_shown_first_and_then_brought_in(self):
        rows = [{"name": f"Beck {i}", "mount": "Tarn", "focal_min_mm": 20 + i} for i in range(300)]
        rows += [
            {"name": "Tarn 50 mm f/1.8", "mount": "Tarn", "focal_min_mm": 50, "weight_g": 199},
            {"name": "None", "focal_min_mm": 0},
        ]
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "glass.json"
            path.write_text(json.dumps({"cambrel": 1, "sections": {"lenses": rows}}))
            self.open("/shelf/import/")
            self.one("#files").send_keys(str(path))
            self.press(".import-form [type=submit]")
            self.wait(lambda: "300 new" in self.text(".preview-counts"))
        self.assertIn("1 changed", self.text(".preview-counts"))
        self.assert_accessible(ARROWS)
        self.press('a[href="?status=changed"]')
        self.wait(lambda: "199 g in the file" in self.text(".preview-table"))
        self.press('[name="take"]')
        self.press('[name="leave_out"]')
        self.press("#apply-form .btn-accent")
        self.wait(lambda: "Added 300, changed 1" in self.text(".notice"))
        self.open("/shelf/lenses/?sort=-focal")
        self.assertIn("page 1 of 7", self.text(".pages"))
        self.press(".undo-last button")
        self.wait(lambda: "Undone" in self.text(".notice"))
        self.assertEqual(Lens.objects.get(name="Tarn 50 mm f/1.8").weight_g, 208)
        self.assertEqual(Lens.objects.filter(name__startswith="Beck").count(), 0)

    def test_formats_change_at_once_and_true_size_is_kept(self):
        self.open("/formats/")
        before = len(self.all("#formats tbody tr"))
        self.press('[name="f"][value="sheet-4x5"]')
        self.wait(lambda: len(self.all("#formats tbody tr")) == before + 1)
        self.assertIn("f=sheet-4x5", self.address())
        self.press("#true-size")
        self.script(
            "const s = document.getElementById('card-size'); s.value = 428; s.dispatchEvent(new Event('input'))"
        )
        width = self.script("return document.getElementById('card').getBoundingClientRect().width")
        self.assertAlmostEqual(width, 428, delta=0.5)
        frames = (
            "return [...document.querySelectorAll('#life-frames svg')].map((svg) => svg.getBoundingClientRect().width)"
        )
        for found, mm in zip(self.script(frames), (120, 43.8, 36), strict=False):
            self.assertAlmostEqual(found, mm * 428 / 85.6, delta=0.05)
        self.assert_accessible(ARROWS)
        self.open("/formats/")
        self.press("#true-size")
        self.assertEqual(self.one("#card-size").get_attribute("value"), "428")

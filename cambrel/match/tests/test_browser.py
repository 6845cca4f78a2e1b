"""The three main questions in the browser: what matches it, does it fit, what stays with another body."""

from selenium.webdriver.support.ui import Select

from cambrel.shelf.models import Body, Kit, Lens
from cambrel.site.tests.browser import BrowserTestCase

ARROWS = ("color-contrast",)
"""axe cannot judge the contrast of a select, whose arrow is a background image, or of a canvas."""


class MatchTests(BrowserTestCase):
    def test_from_a_rig_on_the_bench_to_its_match_and_back_onto_the_bench(self):
        self.open("/")
        self.press("#menu-1")
        self.press('[data-rig-action="match"]')
        self.wait(lambda: self.address().startswith("/match/"))
        self.wait(lambda: "Pipwren 12-40" in self.text(".asked"))
        self.assertIn("f/2.8 on Micro Four Thirds", self.text(".match-lead"))
        self.assert_accessible(ARROWS)
        before = self.text(".target b")
        self.changed(".target b", lambda: self.type("#id_f_number", "4"))
        self.assertNotEqual(self.text(".target b"), before)
        self.assertIn("f_number=4", self.address())
        self.press('[name="t"][value="44x33"]')
        self.wait(lambda: "Medium format 44 x 33" in self.text(".targets"))
        self.press(".target:last-child")
        self.wait(lambda: "Holmgate" in self.text(".match-table tbody"))
        self.press(".match-table tbody tr:first-child a.quiet")
        self.wait(lambda: len(self.all(".plate")) == 2)
        self.assertIn("Holmgate", self.text("#plate-1"))

    def test_a_mistake_is_named_and_the_question_stays(self):
        self.open("/match/")
        self.type("#id_f_number", "0")
        self.wait(lambda: "out of range" in self.text("#answers"))
        self.assertEqual(self.one("#id_f_number").get_attribute("value"), "0")
        self.assert_accessible(ARROWS)

    def test_the_chart_is_drawn_and_redrawn(self):
        self.open("/match/?format=full-frame&focal_length_mm=50&f_number=2.8&t=micro-four-thirds")
        titled = "return document.querySelector('#tradeoff-title')?.textContent ?? ''"
        self.assertIn("against weight", self.script(titled))
        Select(self.one("#id_cost")).select_by_value("price")
        self.wait(lambda: "against price" in self.script(titled))
        self.assertGreater(len(self.all(".pareto .tradeoff-best")), 1)

    def test_fit_matrix_and_upgrade(self):
        lens, body = Lens.objects.get(name="Tarn Compact 18-50 mm f/2.8"), Body.objects.get(name="Tarn Ridgeway")
        self.open("/fit/matrix/")
        self.assert_accessible(ARROWS)
        self.press(f'a[href="/fit/?lens={lens.pk}&body={body.pk}"]')
        self.wait(lambda: "Dark corners" in self.text(".fit-page"))
        self.assert_accessible(ARROWS)
        circle = self.script("return document.querySelector('.fit-circle').getBoundingClientRect().width")
        sensor = self.script("return document.querySelector('.fit-edge').getBoundingClientRect().width")
        self.assertAlmostEqual(circle / sensor, 28.6 / 36, delta=0.01)
        Select(self.one("#id_body")).select_by_visible_text("Pipwren Tern")
        self.wait(lambda: "only with an adapter with optics" in self.text(".fit-page"))
        self.dark(True)
        self.size(390, 844)
        for view in (self.address(), f"/fit/upgrade/?kit={Kit.objects.first().pk}&body={body.pk}", "/match/"):
            self.open(view)
            self.assert_accessible(ARROWS)
            self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)

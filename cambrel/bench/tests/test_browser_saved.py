"""Comparisons that are kept, and from a figure to a bench that has it, in a real browser."""

from selenium.webdriver.common.keys import Keys

from cambrel.bench.models import SavedComparison
from cambrel.site.tests.browser import BrowserTestCase


class SavedTests(BrowserTestCase):
    def test_a_comparison_is_saved_renamed_deleted_and_brought_back(self):
        self.open("/")
        self.type("#id_rigs-0-f_number", "4")
        self.wait(lambda: "f/4" in self.text("#figures-0"))
        verdicts = self.text("#verdicts")
        self.press("#save-button")
        self.type("#save-name", "Driver at f/4")
        self.wait(lambda: "Saved “Driver at f/4”" in self.text(".notice"))
        self.open("/saved/")
        self.press(".saved-name")
        self.assertEqual(self.text("#verdicts"), verdicts)
        self.open("/saved/")
        self.type(".rename input[name=name]", "Driver")
        self.wait(lambda: self.text(".saved-name") == "Driver")
        self.press(".saved-tools form:last-child button")
        self.wait(lambda: "Nothing saved yet" in self.text("main"))
        self.press(".list-head button")
        self.wait(lambda: self.text(".saved-name") == "Driver")
        self.assertEqual(SavedComparison.objects.get().name, "Driver")


class TakeTests(BrowserTestCase):
    def test_from_a_figure_to_what_it_would_take_and_to_a_bench_that_has_it(self):
        for width in (1280, 390):
            with self.subTest(width=width):
                self.size(width, 844)
                self.open("/why/?of=total&rig=1")
                self.wait(lambda: self.all(".take-levers li"))
                before = self.text(".take-levers")
                self.type(".take-wanted input[name=wanted]", "20 cm")
                self.wait(lambda before=before: self.all(".take-levers") and self.text(".take-levers") != before)
                self.assertIn("Go ", self.text(".take-levers"))
                self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), width)
                # the letters of its drawing are judged by cambrel.drawings.tests.test_palette
                self.assert_accessible({"color-contrast"})
                self.type(".take-wanted input[name=wanted]", "soon")
                self.wait(lambda: "That is not a length" in self.text(".take"))
        self.size(1280, 800)
        self.open("/take/?of=depth&rig=1&wanted=20+cm")
        self.one(".take-levers li a.btn").send_keys(Keys.ENTER)
        self.wait(lambda: self.all("#plate-1"))
        self.assertIn("20\u00a0cm", self.text("#figures-1").replace(" cm", "\u00a0cm"))

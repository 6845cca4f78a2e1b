from selenium.webdriver.common.keys import Keys

from cambrel.site.tests.browser import BrowserTestCase

ARROWS = {"color-contrast"}


class AskTests(BrowserTestCase):
    def test_a_newcomer_types_one_line_and_is_answered(self):
        for view in ("/", "/formats/"):
            self.open(view)
            self.key("/")
            self.assertEqual(self.script("return document.activeElement.id"), "ask-q")
            self.one("#ask-q").send_keys("21 f/2.2 aps-c 1.6")
            self.wait(lambda: "33.9\u00a0mm" in self.text("#ask-card") or "33.9 mm" in self.text("#ask-card"))
            self.assertIn("f/3.5", self.text("#ask-card"))
            self.assertTrue(self.one("#ask-card").is_displayed())
            self.assert_accessible(ARROWS)
            self.one("#ask-q").send_keys(Keys.ESCAPE)
            self.wait(lambda: not self.one("#ask-card").is_displayed())
        self.assertTrue(self.address().startswith("/formats/"), "a line that is typed leads nowhere")

    def test_enter_on_two_sides_opens_the_bench_with_both(self):
        self.open("/shelf/lenses/")
        self.key("/")
        self.one("#ask-q").send_keys("25 f/1.4 mft vs 50 f/1.8 ff", Keys.ENTER)
        self.wait(lambda: len(self.all(".plate")) == 2)
        self.assertIn("Micro Four Thirds", self.text("#plate-0"))
        self.assertIn("f/1.8", self.text("#plate-1"))

    def test_a_word_of_several_meanings_is_chosen_in_place_and_narrow_screens_hold_it(self):
        self.size(390, 844)
        self.open("/")
        self.one("#ask-q").send_keys("35mm on crop")
        self.wait(lambda: self.all("#ask-card select"))
        before = self.text(".ask-says")
        self.script(
            "const s = document.querySelector('#ask-card select'); s.value = 'aps-c-small';"
            "s.dispatchEvent(new Event('change', {bubbles: true}))"
        )
        self.wait(lambda: self.text(".ask-says") != before)
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)

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
            self.wait(lambda: "33.6\u00a0mm" in self.text("#ask-card") or "33.6 mm" in self.text("#ask-card"))
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

    def test_a_piece_that_was_understood_is_changed_in_place_and_narrow_screens_hold_it(self):
        self.size(390, 844)
        self.open("/")
        self.one("#ask-q").send_keys("35mm on crop")
        self.wait(lambda: self.all("#ask-card select"))
        before = self.text(".ask-says")
        self.script(
            "const s = document.querySelector('#ask-card select'); s.value = 'aps-c 1.6x';"
            "s.dispatchEvent(new Event('change', {bubbles: true}))"
        )
        self.wait(lambda: self.text(".ask-says") != before)
        self.assertEqual(self.one("#ask-q").get_property("value"), "35mm on aps-c 1.6x")
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.assert_accessible(ARROWS)

    def test_what_it_may_have_meant_is_one_press_and_the_line_grows_with_it(self):
        self.size(1280, 800)
        self.open("/")
        self.one("#ask-q").send_keys("dof 85 1.8")
        self.wait(lambda: self.all("#ask-card [data-ask]"))
        self.one("#ask-card [data-ask]").click()
        self.wait(lambda: "Sharp from" in self.text("#ask-card"))
        self.assertEqual(self.one("#ask-q").get_property("value"), "dof 85 1.8 at 2 m")
        narrow = self.script("return document.getElementById('ask-q').offsetWidth")
        self.one("#ask-q").send_keys(" on a micro four thirds camera that I hold in my hand")
        self.assertGreater(self.script("return document.getElementById('ask-q').offsetWidth"), narrow)
        self.assertTrue(
            self.script("const q = document.getElementById('ask-q'); return q.scrollWidth <= q.clientWidth + 1"),
            "all that is typed is seen",
        )
        values = "return [...document.querySelectorAll('#ask-card [data-chip]')].map(c => c.value)"
        self.wait(lambda: "2 m" in self.script(values), "what is typed is understood with what was pressed")

    def test_a_pasted_link_opens(self):
        self.open("/shelf/lenses/")
        self.one("#ask-q").send_keys("https://elsewhere.example/formats/")
        self.wait(lambda: "That is a link of Cambrel" in self.text("#ask-card"))
        self.one("#ask-q").send_keys(Keys.ENTER)
        self.wait(lambda: self.address().startswith("/formats/"))

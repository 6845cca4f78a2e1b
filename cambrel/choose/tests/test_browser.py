"""The Choose page in the browser: from kits to a reasoned choice, by keyboard, light and dark, and on a phone."""

from selenium.webdriver.common.keys import Keys

from cambrel.site.tests.browser import BrowserTestCase


class ChooseBrowserTests(BrowserTestCase):
    def test_from_two_kits_to_a_decision(self):
        self.open("/choose/")
        self.assertTrue(self.all(".choose-says li"))
        self.assert_accessible()
        self.wait(
            lambda: self.script(
                "return [...document.querySelectorAll('.choose-cell img')].slice(0, 3).every(one => one.naturalWidth)"
            )
        )
        # one picture only: what is said of the kits follows
        field = self.one("#share-dusk-pass")
        field.clear()
        field.send_keys("40" + Keys.ENTER)
        self.wait(lambda: "dusk-pass=40" in self.driver.current_url)
        self.press("button[name='look'][value='help']")
        self.wait(lambda: self.all(".choose-helps"))
        self.assert_accessible()
        columns = len(self.all(".choose-table thead th"))
        self.press(".choose-helps button[name='what']")
        self.wait(lambda: len(self.all(".choose-table thead th")) == columns + 1)
        self.press("[name='out'][value='night-mail']")
        self.press(".choose-kits button:not([name])")
        self.wait(lambda: self.all(".choose-carry"))
        self.press(".choose-cell a")
        self.wait(lambda: self.all("#best-button[aria-pressed='true']"))

    def test_it_is_read_in_the_dark_and_on_a_phone(self):
        self.dark(True)
        self.size(390, 844)
        self.open("/choose/?look=help")
        self.assert_accessible({"color-contrast"})  # axe cannot tell where a table is cut by its scroll
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)

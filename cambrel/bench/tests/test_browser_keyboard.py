"""The bench by keyboard alone."""

from selenium.webdriver.common.keys import Keys

from cambrel.site.tests.browser import BrowserTestCase


class KeyboardTests(BrowserTestCase):
    def test_every_control_is_reached_by_tab_and_shows_its_focus(self):
        self.open("/")
        controls = (
            "[...document.querySelectorAll('#bench input:not([type=hidden]), #bench button, #bench select, #bench summary, #bench a[href]')]"
            ".filter((e) => e.checkVisibility() && !e.disabled && !(e.type === 'radio' && !e.checked))"
        )
        wanted = self.script(f"return {controls}.length")
        self.script("window.reached = new Set(); document.querySelector('.brand').focus()")
        unseen = []
        for _ in range(wanted + 30):
            self.key(Keys.TAB)
            unseen += self.script(
                "const e = document.activeElement; reached.add(e); if (!e.closest('#bench')) return [];"
                "const ring = (e) => e && (getComputedStyle(e).outlineStyle !== 'none' || getComputedStyle(e).boxShadow !== 'none');"
                "return ring(e) || ring(e.nextElementSibling) ? [] : [e.outerHTML.slice(0, 90)]"
            )
        missed = self.script(f"return {controls}.filter((e) => !reached.has(e)).map((e) => e.outerHTML.slice(0, 90))")
        self.assertEqual((missed, unseen), ([], []))

    def test_a_line_of_settings_opens_its_controls_where_the_keyboard_comes_to_it(self):
        self.open("/")
        self.assertTrue(self.one("#controls-0").is_displayed())
        self.script("document.querySelector('#menu-1').focus()")
        self.key(Keys.TAB)
        self.wait(lambda: self.one("#controls-1").is_displayed())
        self.assertFalse(self.one("#controls-0").is_displayed())
        self.wait(lambda: self.text("#now-1-focal_length_mm"))  # and what follows is asked for
        self.key(Keys.ENTER)
        self.assertTrue(self.script("return document.activeElement.closest('#controls-1') !== null"))
        self.script("document.querySelector('#menu-0').focus()")
        self.key(Keys.TAB)
        self.wait(lambda: self.one("#controls-0").is_displayed())

    def test_shortcuts_are_listed_and_work_and_can_be_switched_off(self):
        self.open("/")
        self.key("?")
        self.wait(lambda: self.one("#keys").is_displayed())
        self.assertIn("undo, redo", self.text("#keys"))
        self.key(Keys.ESCAPE)
        self.wait(lambda: not self.one("#keys").is_displayed())
        self.key("2")
        self.wait(lambda: "panel=frames" in self.address())
        self.key("b")
        self.assertTrue(self.script("return document.activeElement.closest('#controls-1') !== null"))
        self.script("document.activeElement.blur()")
        self.key("n")
        self.wait(lambda: len(self.all(".plate")) == 3)
        self.key("u")
        self.wait(lambda: len(self.all(".plate")) == 2)
        self.key("h")
        self.assertEqual(self.script("return document.activeElement.tagName"), "SUMMARY")
        self.script("localStorage.setItem('keys', 'off')")
        self.driver.refresh()
        self.key("n")
        self.assertEqual(len(self.all(".plate")), 2)
        self.script("localStorage.removeItem('keys')")

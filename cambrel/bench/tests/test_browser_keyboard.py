"""The bench by keyboard alone."""

from selenium.webdriver.common.keys import Keys

from cambrel.site.tests.browser import BrowserTestCase


class KeyboardTests(BrowserTestCase):
    def test_every_control_is_reached_by_tab_and_shows_its_focus(self):
        self.open("/")
        controls = (
            "[...document.querySelectorAll('#bench input:not([type=hidden]), #bench button, #bench select, #bench"
            " summary, #bench a[href]')].filter((e) => e.checkVisibility() && !e.disabled && !(e.type === 'radio' &&"
            " !e.checked))"
        )
        wanted = self.script(f"return {controls}.length")
        self.script("window.reached = new Set(); document.querySelector('.brand').focus()")
        unseen = []
        for _ in range(wanted + 30):
            self.key(Keys.TAB)
            unseen += self.script(
                "const e = document.activeElement; reached.add(e); if (!e.closest('#bench')) return [];const ring = (e)"
                " => e && (getComputedStyle(e).outlineStyle !== 'none' || getComputedStyle(e).boxShadow !=="
                " 'none');return ring(e) || ring(e.nextElementSibling) ? [] : [e.outerHTML.slice(0, 90)]"
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

    def test_gear_is_picked_by_arrows_and_enter_and_a_lens_that_fits_is_offered(self):
        self.open("/")
        self.press("#body-0")
        self.wait(lambda: len(self.all("#offers .offer")) > 3)
        self.key(Keys.ARROW_DOWN, Keys.ARROW_DOWN)
        second = self.script("return document.querySelectorAll('#offers button')[1] === document.activeElement")
        self.assertTrue(second)
        self.key(Keys.ARROW_UP, Keys.ARROW_UP)
        self.assertEqual(self.script("return document.activeElement.id"), "picker-q")
        # Enter before the shelf has been looked through takes what is found first
        self.key("larkmoor beck", Keys.ENTER)
        self.wait(lambda: "Larkmoor Beck" in self.text("#body-0"))
        self.wait(lambda: "has the Tarn mount" in self.text("#picker-says"))
        self.wait(lambda: "Larkmoor" in self.text("#offers .offer"))
        self.assertIn("Lens for A", self.text("#picker-title"))
        self.key(Keys.ENTER)
        self.wait(lambda: "Larkmoor" in self.text("#lens-0"))
        self.assertFalse(self.one("#picker").is_displayed())

    def test_sliders_stand_where_their_figures_are_whatever_was_changed(self):
        def hold():
            self.wait(lambda: not self.script("return document.querySelector('.htmx-request') !== null"))
            told = self.script(
                "return [...document.querySelectorAll('[data-slider]')].map((s) => [s.getAttribute('aria-valuetext'),"
                " document.getElementById(s.dataset.for).value, s.dataset.stops?.split(' ')[s.value]])"
            )
            for spoken, typed, stop in told:
                self.assertEqual(spoken, typed or "not set")
                if stop and "/" not in typed and typed:
                    self.assertLess(abs(float(stop) / float(typed) - 1), 0.2, (stop, typed))

        self.open("/")
        hold()
        self.press("#add-rig")
        self.wait(lambda: self.all("#plate-2"))
        hold()
        self.press("#lens-1")
        self.wait(lambda: self.all("#offers .offer"))
        self.press("#offers .offer:nth-of-type(2)")
        self.wait(lambda: not self.one("#picker").is_displayed())
        hold()
        self.script(
            "const s = document.getElementById('brief-choice'); s.value = 'viaduct'; s.dispatchEvent(new"
            " Event('change', {bubbles: true}))"
        )
        self.wait(lambda: self.script("return document.getElementById('id_brief-distance_m').value") == "400")
        hold()

    def test_the_skip_link_and_a_corrected_field_leave_the_page_as_it_is(self):
        self.open("/")
        self.script("window.stays = 1")
        address = self.address()
        self.key(Keys.TAB)
        self.assertEqual(self.script("return document.activeElement.className"), "skip")
        self.key(Keys.ENTER)
        self.assertEqual(self.script("return document.activeElement.id"), "main")
        self.assertEqual((self.script("return window.stays"), self.address()), (1, address))
        marked = "return [...document.querySelectorAll('[aria-invalid]')].map((e) => e.id)"
        self.type("#id_brief-distance_m", "abc")
        self.wait(lambda: self.script(marked) == ["id_brief-distance_m"])
        self.type("#id_brief-distance_m", "3")
        self.wait(lambda: self.script(marked) == [])
        self.assertEqual(self.text("#err-brief-distance_m"), "")

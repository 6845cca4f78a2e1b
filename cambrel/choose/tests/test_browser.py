"""The Choose page in the browser: from kits to a reasoned choice, by keyboard, light and dark, and on a phone."""

from selenium.webdriver.common.keys import Keys

from cambrel.shelf.models import Kit
from cambrel.site.tests.browser import COLOURS, BrowserTestCase

FEWER = "".join(
    f"&out={slug}" for slug in ("footplate-portrait", "platform-party", "engine-shed", "gauge-face", "whole-yard")
)
"""Most of the pictures left out: what would help is looked for the sooner."""


DRAWN = {"color-contrast", "label-content-name-mismatch"}
"""axe does not read the letters of a drawing, nor what lies behind them; nor where a table is cut by its scroll."""


class ChooseBrowserTests(BrowserTestCase):
    def test_from_two_kits_to_a_decision(self):
        kits = "".join(f"&kit={Kit.objects.get(name=name).pk}" for name in ("Day off bag", "Footplate bag"))
        self.open(f"/choose/?{kits}{FEWER}")
        self.assertTrue(self.all(".choose-says li"))
        self.assert_accessible(DRAWN)
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
        self.wait(lambda: self.all(".choose-helps"), patience_s=90)  # it looks through the whole shelf
        self.assert_accessible(DRAWN)
        columns = len(self.all(".choose-table thead th"))
        self.press(".choose-helps button[name='what']")
        self.wait(lambda: len(self.all(".choose-table thead th")) == columns + 1)
        # how far the search is can be seen, and it can be left
        self.script(
            "window.askedFor = window.fetch; window.fetch = (address, how) => window.askedFor(address, how).then(async"
            " (answer) => { await new Promise((done, left) => { setTimeout(done, 1500);"
            " how.signal.addEventListener('abort', () => left(new DOMException('', 'AbortError'))); }); return"
            " answer; })"
        )
        self.press("button[name='look'][value='help']")
        self.wait(lambda: self.all(".choose-progress progress"))
        self.press(".choose-progress button")
        self.wait(lambda: "Left: nothing was looked for" in self.one("#look").text)
        self.press("[name='out'][value='night-mail']")
        self.press(".choose-kits button:not([name])")
        self.wait(lambda: self.all(".choose-carry"))
        for look in ("sure", "side", "swap", "later"):
            self.press(f"button[name='look'][value='{look}']")
            self.wait(lambda look=look: f"look={look}" in self.driver.current_url)
            self.assertTrue(self.one("#look").text)
            # axe cannot tell what lies behind a label of a drawing, or behind the arrow of a list
            self.assert_accessible(DRAWN, within="#look")
        # by keyboard from the first field of the form to the decision that is kept
        self.one("#keep-name").send_keys(
            "Which bag?" + Keys.TAB + "Day off bag" + Keys.TAB + "The dials." + Keys.TAB + Keys.ENTER
        )
        self.wait(lambda: "/choose/kept/" in self.driver.current_url)
        self.assertIn("The dials.", self.one(".choose-decided").text)
        self.assertIn("on the shelf", self.one(".choose-decided").text, "a kit that was tried is on no shelf")
        self.assert_accessible(DRAWN)
        self.press(".choose-cell a")
        self.wait(lambda: self.all("#best-button[aria-pressed='true']"))

    def test_it_is_read_in_the_dark_and_on_a_phone(self):
        self.dark(True)
        self.size(390, 844)
        for look in ("sure", "side"):
            self.open(f"/choose/?look={look}&must_stabilised=on{FEWER}")
            self.assert_accessible(DRAWN, COLOURS, None if look == "sure" else "#look")
            self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)

"""The edges of the bench in the browser: open dialogs, lost connections, refused storage, keys, touch, and what has the
focus afterwards.
"""

from dataclasses import replace

from selenium import webdriver
from selenium.webdriver.common.keys import Keys

from cambrel.bench.sample_benches import home_bench, sensor_of
from cambrel.comparison.bench import Slot
from cambrel.comparison.engine import Body, Lens, Rig
from cambrel.links.benches import encode
from cambrel.site.tests.browser import BrowserTestCase

COUNT = """window.requests = []; document.body.addEventListener('htmx:beforeRequest', (e) => {
    if (e.detail.elt.id === 'bench') window.requests.push(e.detail.requestConfig.triggeringEvent?.type); });"""
FOCUSED = "return document.activeElement.id"


class EdgeTests(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.open(f"/?b={encode(home_bench())}")

    def offline(self, on):
        self.driver.execute_cdp_cmd("Network.enable", {})
        conditions = {"offline": on, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
        self.driver.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)

    def settled(self):
        self.wait(lambda: not self.script("return document.querySelector('.htmx-request') !== null"))

    def test_the_picker_outlasts_every_answer_but_its_own_and_begins_empty(self):
        figures = self.text("#figures-0")
        self.type("#id_rigs-0-f_number", "8", enter=False)
        self.press("#lens-0")  # the answer to what was typed is still to come
        self.wait(lambda: self.text("#figures-0") != figures)
        self.settled()
        self.assertTrue(self.one("#picker").is_displayed())
        self.assertEqual(self.script(FOCUSED), "picker-q")
        own = (
            "return document.querySelector('#picker"
            " [data-own]:not([hidden])').compareDocumentPosition(document.querySelector('#picker-q'))"
        )
        self.assertEqual(self.script(own), 4, "what is typed by its figures stands before the shelf")
        self.type("[name='own-focal_min_mm']", "33", enter=False)
        self.key(Keys.ESCAPE)
        self.press("#lens-1")
        self.assertEqual(self.one("[name='own-focal_min_mm']").get_attribute("value"), "")
        self.type("#picker-q", "25/1.4", enter=False)
        self.wait(lambda: "As typed" in self.text("#offers"))
        self.press(".offer")
        self.wait(lambda: "25 mm f/1.4" in self.text("#lens-1"))
        self.assertFalse(self.one("#picker").is_displayed())
        self.wait(lambda: self.script(FOCUSED) == "lens-1")

    def test_a_lost_connection_greys_the_figures_and_is_said_in_the_picker_too(self):
        self.offline(True)
        try:
            self.type("#id_rigs-0-f_number", "8")
            self.wait(lambda: "does not answer" in self.text("#err-bench"))
            self.assertTrue(self.one("#stale").is_displayed())
            self.assertIn("connection", self.text("#stale"))
            self.assertIn(
                "grayscale", self.script("return getComputedStyle(document.querySelector('.figures')).filter")
            )
            self.press("#body-0")
            self.wait(lambda: "does not answer" in self.text("#offers-problem"))
            self.assertEqual(self.text("#offers"), "")
            self.key(Keys.ESCAPE)
        finally:
            self.offline(False)
            self.expected.append("ERR_INTERNET_DISCONNECTED")
            self.expected.append("htmx:")
        self.wait(lambda: not self.one("#stale").is_displayed(), "it goes on by itself when the connection is back")
        self.assertEqual(self.text("#err-bench"), "")
        self.assertIn("f/8", self.text("#figures-0"))

    def test_a_key_on_a_slider_is_one_request_and_one_step(self):
        self.script(COUNT)
        slider = self.one("[data-for='id_rigs-0-f_number']")
        self.changed("#figures-0", lambda: slider.send_keys(Keys.ARROW_RIGHT))
        self.settled()
        self.assertEqual(self.script("return window.requests"), ["change"])

    def test_setting_by_hand_leaves_the_focus_in_the_field_and_menus_come_back(self):
        self.press("#figures-1 .settings-press")
        self.press("#now-1-f_number .follow-mark")
        self.press("#follow-menu [data-follow='by_hand']")
        self.wait(lambda: self.script(FOCUSED) == "id_rigs-1-f_number")
        self.press("#menu-1")
        self.press("#rig-menu [data-rig-action='right']")
        self.wait(lambda: self.script(FOCUSED) == "menu-2")
        self.press("#menu-2")
        self.press("#rig-menu [data-rig-action='remove']")
        self.wait(lambda: self.script(FOCUSED) == "menu-1" and len(self.all(".plate")) == 2)

    def test_back_and_undo_are_one(self):
        addresses = [self.address()]
        for n in ("4", "5.6"):
            self.type("#id_rigs-0-f_number", n)
            self.wait(lambda: self.address() != addresses[-1])
            addresses.append(self.address())
        self.driver.back()
        self.wait(lambda: self.address() == addresses[1])
        self.wait(lambda: self.one("#redo-button").is_enabled() and self.one("#undo-button").is_enabled())
        self.press("#undo-button")
        self.wait(lambda: self.address() == addresses[0])
        self.wait(lambda: self.one("#redo-button").is_enabled())
        self.assertFalse(self.one("#undo-button").is_enabled())
        self.driver.forward()
        self.wait(lambda: self.address() == addresses[1] and self.one("#redo-button").is_enabled())
        self.type("#id_rigs-0-f_number", "16")
        self.wait(lambda: self.address() not in addresses)
        self.assertFalse(self.one("#redo-button").is_enabled())

    def test_copying_the_link_is_seen(self):
        self.driver.execute_cdp_cmd(
            "Browser.grantPermissions", {"permissions": ["clipboardReadWrite", "clipboardSanitizedWrite"]}
        )
        self.press("#share-button")
        self.press("#copy-link")
        self.wait(lambda: self.text("#copy-link") == "Link copied; it opens on this machine only")
        self.wait(lambda: self.text("#copy-link") == "Copy link")

    def test_the_comparison_is_saved_as_one_picture(self):
        self.open(f"/?b={encode(home_bench())}")
        self.script(
            "window.kept = []; URL.createObjectURL = (file) => { window.kept.push(file); return '#'; };"
            " HTMLAnchorElement.prototype.click = () => {}"
        )
        self.press("#share-button")
        self.press("#save-picture")
        self.wait(lambda: self.script("return window.kept.length"))
        sides = self.driver.execute_async_script(
            "const done = arguments[0];"
            " createImageBitmap(window.kept[0]).then((made) => done([made.width, made.height]))"
        )
        self.assertEqual(sides[0], 1600)
        self.assertGreater(sides[1], 900)

    def test_a_word_of_the_trade_explains_itself_in_place(self):
        address = self.address()
        self.press("#more-to-say summary")
        self.press("#verdicts a.term[href$='#depth-of-field']")
        self.wait(lambda: "look sharp" in self.text("#term-card"))
        self.assertTrue(self.script("return document.querySelector('#term-card').matches(':popover-open')"))
        self.assertEqual(self.address(), address)
        self.key(Keys.ESCAPE)
        self.assertFalse(self.script("return document.querySelector('#term-card').matches(':popover-open')"))
        self.press("a.term")
        self.wait(lambda: self.one("#term-card").is_displayed())
        self.press(".card-close")
        self.wait(lambda: not self.one("#term-card").is_displayed())

    def test_everything_works_where_the_browser_keeps_nothing(self):
        refuse = """for (const name of ['localStorage', 'sessionStorage']) Object.defineProperty(window, name,
            {get() { throw new DOMException('refused', 'SecurityError'); }});"""
        added = self.driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": refuse})
        try:
            for path in ("/", "/formats/"):
                self.open(path)
            self.open("/")
            self.changed("#figures-0", lambda: self.type("#id_rigs-0-f_number", "8"))
            self.press("#theme-button")
            self.assertEqual(self.script("return document.documentElement.dataset.bsTheme"), "dark")
            self.wait(lambda: self.one("#undo-button").is_enabled())
        finally:
            self.driver.execute_cdp_cmd("Page.removeScriptToEvaluateOnNewDocument", {"identifier": added["identifier"]})

    def test_the_loupe_works_where_the_first_rig_sees_nothing(self):
        blind = Slot(Rig(Body(sensor_of("aps-c", 6000)), Lens(), 3000, 4), "Far", "far")
        bench = home_bench()
        bench = replace(bench, slots=(blind, *bench.slots[:2]), reference=1, hold=replace(bench.hold, lens="own"))
        self.open(f"/?b={encode(bench)}")
        self.assertEqual(len(self.all("#views img")), 2)
        self.assertIn("cannot focus there", self.text("#view-0"))
        self.look()
        self.press('[data-scene="loupe"]')
        self.wait(lambda: len(self.all(".loupes img")) == 2)
        self.assertEqual(self.text("#err-bench"), "")

    def test_a_picture_is_dragged_sideways_by_touch_while_the_page_scrolls_upright(self):
        self.open("/")
        mat = self.one('[data-view="0"] .mat')
        self.assertEqual(self.script("return getComputedStyle(arguments[0]).touchAction", mat), "pan-y")
        address = self.address()
        touch = webdriver.common.actions.pointer_input.PointerInput("touch", "finger")
        finger = webdriver.ActionChains(self.driver, devices=[touch])
        finger.w3c_actions.pointer_action.move_to(mat).pointer_down().move_by(60, 2).pointer_up()
        finger.perform()
        self.wait(lambda: self.address() != address)
        self.assertEqual(self.text("#err-bench"), "")
        self.assertNotIn("focus", self.text("#verdicts"), "it was dragged, not pressed")

    def test_a_button_stays_readable_under_the_keyboard(self):
        self.open("/shelf/lenses/new/")
        self.assertEqual(self.one("#id_widest").get_attribute("value"), "")
        button = ".record-buttons .btn-accent"
        look = "const s = getComputedStyle(document.querySelector(arguments[0])); return [s.color, s.backgroundColor]"
        calm = self.script(look, button)
        self.script("document.querySelector(arguments[0]).focus({focusVisible: true})", button)
        self.assertEqual(
            self.script("return document.querySelector(arguments[0]).matches(':focus-visible')", button), True
        )
        self.assertEqual(self.script(look, button), calm)

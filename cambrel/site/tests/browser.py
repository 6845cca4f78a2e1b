"""Headless Chromium for the browser tests: one for each process of the tests, nothing beyond this machine, waits on
conditions.
"""

import base64
import contextlib
import functools
import os
import sqlite3
from multiprocessing.util import Finalize
from pathlib import Path
from random import randrange

from django.contrib.contenttypes.management import create_contenttypes
from django.db import connection
from django.db.models.signals import post_migrate
from django.test import LiveServerTestCase, tag
from selenium import webdriver
from selenium.common.exceptions import (
    ElementClickInterceptedException,
    StaleElementReferenceException,
    WebDriverException,
)
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo

AXE = (Path(__file__).parent / "vendor" / "axe.min.js").read_bytes()
AXE_PATH = "/axe.js"
LOOKED_BY_AXE = """
const [address, only, within, done] = arguments;
// a colour that is still on its way to another is neither
const settled = () => document.getAnimations().every(
  (one) => !(one instanceof CSSTransition) || one.playState !== 'running');
const loaded = () => new Promise((ready, failed) => {
  const script = Object.assign(document.createElement('script'), { src: address, onload: ready, onerror: failed });
  document.head.append(script);
  script.remove();
});
async function look() {
  while (!settled()) await new Promise((next) => { setTimeout(next, 20); });
  if (!window.axe) await loaded();
  const options = { preload: false, resultTypes: ['violations', 'incomplete'], ...(only.length && { runOnly: only }) };
  const { violations, incomplete } = await window.axe.run(within ?? document, options);
  const first = ({ id, help, nodes: [{ html, failureSummary }] }) => [
    id, `${id}: ${help}: ${html.slice(0, 160)}: ${(failureSummary ?? '').slice(0, 300)}`];
  return { violations: violations.map(first), incomplete: incomplete.map(first) };
}
look().then(done, (error) => done({ error: String(error) }));
"""
PATIENCE_S = 20
BROWSERS = (os.environ.get("CHROMIUM", ""), "/usr/bin/chromium-headless-shell", "/usr/bin/chromium")
"""The first that is there: the one that is asked for, Chromium without its windows, the whole of it."""
IN_VIEW = """
arguments[0].scrollIntoView({ block: 'center', behavior: 'instant' });
return !arguments[0].matches(':disabled');
"""
COLOURS = ("color-contrast",)
"""All that the dark changes."""
# htmx says of a request that was given up that it ended, and that it was aborted; one that failed is named as such
# beside. A busy machine answers a picture with 503 and when to ask again, and the page does
NO_COMPLAINTS = ("status of 4", "status of 503", "Response Status Error", "htmx:sendAbort", "htmx:afterRequest")


class Browser(webdriver.Chrome):
    """Chromium that ends with its driver, also the one without windows, which outlives it where it is not told."""

    def quit(self):
        with contextlib.suppress(WebDriverException):
            self.execute_cdp_cmd("Browser.close", {})
        super().quit()


def make_driver():
    os.environ["SE_OFFLINE"] = "true"
    options = webdriver.ChromeOptions()
    options.binary_location = next((path for path in BROWSERS if Path(path).is_file()), BROWSERS[-1])
    for argument in (
        "--headless=new", "--disable-gpu", "--disable-dev-shm-usage", "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync", "--no-first-run", "--hide-scrollbars", "--disable-extensions", "--disable-default-apps",
        # one page at a time stands open: it needs no process of its own for each site
        "--process-per-site", "--renderer-process-limit=1", "--disable-site-isolation-trials",
        "--disable-features=Translate,OptimizationHints,MediaRouter,SitePerProcess",
        "--disable-component-extensions-with-background-pages", "--metrics-recording-only", "--mute-audio",
        "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE localhost, EXCLUDE 127.0.0.1",
    ):  # fmt: skip
        options.add_argument(argument)
    if os.geteuid() == 0:
        options.add_argument("--no-sandbox")
    options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
    return Browser(options=options, service=Service(os.environ.get("CHROMEDRIVER", "/usr/bin/chromedriver")))


@functools.cache
def shared_driver(process):
    """The browser of this process. A class of tests has an address of its own, so that what one keeps no other sees."""
    driver = make_driver()
    Finalize(None, driver.quit, exitpriority=10)  # a forked process runs nothing of `atexit`
    return driver


@functools.cache
def demo_shelf(process):
    """The database with the demo shelf and its owner, as it was put together in this process."""
    owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
    load_demo(owner)
    kept = sqlite3.connect(":memory:", check_same_thread=False)
    connection.connection.backup(kept)
    return kept


def with_demo_shelf(process):
    """Begin with the demo shelf; what was worked out of it in another test is not taken for its own."""
    kept = demo_shelf(process)
    connection.ensure_connection()
    kept.backup(connection.connection)
    User.objects.update(shelf_version=randrange(2**40))


@tag("browser")
class BrowserTestCase(LiveServerTestCase):
    """A browser on the application with the demo shelf; any message of the content security policy fails the test."""

    @staticmethod
    def static_handler(application):
        """Static files come from the application itself, as they were collected, and axe from here: a browser asks for
        each once.
        """

        def served(environ, start_response):
            if environ["PATH_INFO"] != AXE_PATH:
                return application(environ, start_response)
            start_response("200 OK", [("Content-Type", "text/javascript"), ("Cache-Control", "max-age=3600")])
            return [AXE]

        return served

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.driver = shared_driver(os.getpid())
        # rights by name, which nothing here asks for, would be written anew after every test
        post_migrate.disconnect(dispatch_uid="django.contrib.auth.management.create_permissions")
        post_migrate.disconnect(create_contenttypes)

    @classmethod
    def tearDownClass(cls):
        # nothing of the last page asks a server that is no more
        cls.driver.get("about:blank")
        cls.driver.get_log("browser")
        super().tearDownClass()

    def setUp(self):
        with_demo_shelf(os.getpid())
        self.driver.delete_all_cookies()
        self.expected = []  # parts of complaints that a test provokes
        self.size(1280, 800)
        self.dark(False)

    def tearDown(self):
        complaints = [entry["message"] for entry in self.driver.get_log("browser") if self.is_complaint(entry)]
        self.assertEqual(
            [complaint for complaint in complaints if not any(part in complaint for part in self.expected)], []
        )

    @staticmethod
    def is_complaint(entry):
        """Errors of scripts and of the policy; what is refused (422, 400) or given up for a newer request is none."""
        return entry["level"] == "SEVERE" and not any(part in entry["message"] for part in NO_COMPLAINTS)

    # ---- going about ----
    def open(self, path="/"):
        self.driver.get(self.live_server_url + path)
        # and what the page takes in by itself, which would be given up on the way to the next
        done = (
            "return document.readyState === 'complete' && !document.querySelector('[hx-trigger=\"load\"].htmx-request')"
        )
        self.wait(lambda: self.script(done))

    def size(self, width, height):
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
        self.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def dark(self, on):
        """In the dark or the light; nothing moves by itself, which would be painted again and again."""
        features = [
            {"name": "prefers-color-scheme", "value": "dark" if on else "light"},
            {"name": "prefers-reduced-motion", "value": "reduce"},
        ]
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": features})

    def script(self, code, *arguments):
        return self.driver.execute_script(code, *arguments)

    def wait(self, condition, because="", patience_s=PATIENCE_S):
        return WebDriverWait(
            self.driver, patience_s, poll_frequency=0.08, ignored_exceptions=[StaleElementReferenceException]
        ).until(lambda _: condition(), because)

    def one(self, selector):
        return self.driver.find_element(By.CSS_SELECTOR, selector)

    def all(self, selector):
        return self.driver.find_elements(By.CSS_SELECTOR, selector)

    def text(self, selector):
        return self.script("return document.querySelector(arguments[0])?.innerText ?? ''", selector).replace(
            "\u00a0", " "
        )

    def press(self, selector):
        """Bring something into view and press it; while the page still moves under the pointer, try again."""

        def pressed():
            thing = self.one(selector)
            if not self.script(IN_VIEW, thing):
                return False
            try:
                thing.click()
            except ElementClickInterceptedException:
                return False
            return True

        self.wait(pressed, f"{selector} cannot be pressed")

    def look(self):
        """Open what is behind Look on the Bench, where it is not open."""
        if not self.script("return document.querySelector('.look-menu').open"):
            self.press(".look-menu summary")

    def key(self, *keys):
        webdriver.ActionChains(self.driver).send_keys(*keys).perform()

    def type(self, selector, text, enter=True):
        field = self.one(selector)
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text, *([Keys.ENTER] if enter else []))

    def address(self):
        return self.driver.current_url.removeprefix(self.live_server_url)

    def changed(self, selector, action):
        """Do something and wait until a text on the page is another; the new text."""
        before = self.text(selector)
        action()
        self.wait(lambda: self.text(selector) not in ("", before), f"{selector} stays “{before}”")
        return self.text(selector)

    def picture(self, path):
        data = self.driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})["data"]
        Path(path).write_bytes(base64.b64decode(data))

    # ---- accessibility ----
    def assert_accessible_in_both(self, expected_incomplete=(), within=None):
        """As it stands, by all rules in the light and by colours in the dark."""
        self.assert_accessible(expected_incomplete, within=within)
        self.dark(True)
        self.assert_accessible(expected_incomplete, COLOURS, within)
        self.dark(False)

    def assert_accessible(self, expected_incomplete=(), only=(), within=None):
        """axe finds nothing; what it cannot decide is listed with its reason by the caller.

        Parameters
            only: these rules alone, where all others were asked of the same page before
            within: a part of the page alone, where the others were looked at before
        """
        found = self.driver.execute_async_script(LOOKED_BY_AXE, self.live_server_url + AXE_PATH, list(only), within)
        self.assertNotIn("error", found)
        self.assertEqual([says for _, says in found["violations"]], [])
        self.assertEqual([says for rule, says in found["incomplete"] if rule not in expected_incomplete], [])

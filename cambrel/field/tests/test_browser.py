"""A sheet in the browser: from the bench to the field, ticked where there is no network, and nothing lost."""

import base64
import re
import tempfile
from pathlib import Path
from urllib.request import urlopen

from cambrel.shelf.models import Kit
from cambrel.site.tests.browser import BrowserTestCase


class FieldBrowserTests(BrowserTestCase):
    def printed_mm(self):
        """The size of the paper that a page asks for, by the first page of what is printed."""
        options = {"preferCSSPageSize": True, "printBackground": True}
        pdf = base64.b64decode(self.driver.execute_cdp_cmd("Page.printToPDF", options)["data"])
        sides = re.search(rb"MediaBox\s*\[0 0 ([\d.]+) ([\d.]+)\]", pdf).groups()
        return tuple(round(float(side) / 72 * 25.4) for side in sides)

    def test_from_the_bench_to_a_tick_without_network_that_is_kept(self):
        self.open("/")
        self.press("#field-link")
        self.wait(lambda: self.all(".field-trials"))
        self.assert_accessible()
        self.press(".field-keep button")
        self.wait(lambda: self.all("[data-take]"))
        self.assertEqual(self.printed_mm(), (148, 210), "A5")
        self.size(390, 844)
        self.assert_accessible()
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.wait(lambda: self.script("return navigator.serviceWorker.controller !== null"))
        # opened once more, so that all it needs has gone through what keeps it
        self.driver.refresh()
        self.wait(lambda: self.all("[data-take]"))
        self.script("return navigator.serviceWorker.ready.then(() => true)")
        kept = self.driver.execute_async_script(
            "const done = arguments[0]; caches.open('field-1').then((kept) => kept.keys()).then((all) => done(all.map((one) => one.url)))"
        )
        self.assertTrue(
            {self.driver.current_url} <= set(kept) and any("field.js" in one or "/field." in one for one in kept), kept
        )
        self.expected = ["ERR_INTERNET_DISCONNECTED"]
        self.driver.execute_cdp_cmd("Network.enable", {})
        offline = {"offline": True, "latency": 0, "downloadThroughput": 0, "uploadThroughput": 0}
        self.driver.execute_cdp_cmd("Network.emulateNetworkConditions", offline)
        self.press(".field-tick")
        self.wait(lambda: "kept here until the server answers" in self.text("#field-says"))
        self.assertEqual(self.one(".field-tick").get_attribute("aria-pressed"), "true")
        self.driver.execute_cdp_cmd(
            "Network.emulateNetworkConditions",
            offline | {"offline": False, "downloadThroughput": -1, "uploadThroughput": -1},
        )
        self.script("window.dispatchEvent(new Event('online'))")
        self.wait(lambda: "kept here" not in self.text("#field-says"))
        self.driver.refresh()
        self.wait(lambda: self.text("#field-says").startswith("1 of"))
        self.dark(True)
        self.assert_accessible()

    def test_a_card_opens_from_the_disk_and_turns_red(self):
        kit = Kit.objects.get(name="Footplate bag")
        self.open(f"/field/card/{kit.pk}/")
        self.assert_accessible()
        self.assertEqual(self.printed_mm(), (105, 148), "A6")
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "card.html"
            with urlopen(f"{self.live_server_url}/field/card/{kit.pk}/?as=html") as answer:
                path.write_bytes(answer.read())
            self.size(390, 844)
            self.driver.get(path.as_uri())
            self.assertIn("Pipwren Tern", self.text("main"))
            self.assertEqual(self.script("return performance.getEntriesByType('resource').length"), 0)
            self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
            self.press("#night")
            self.assertEqual(self.script("return getComputedStyle(document.body).backgroundColor"), "rgb(0, 0, 0)")
            self.assert_accessible()

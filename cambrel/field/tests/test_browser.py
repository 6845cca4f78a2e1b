"""A sheet in the browser: from the bench to the field, ticked where there is no network, and nothing lost."""

import base64
import json
import re
import shutil
import tempfile
import zipfile
from pathlib import Path
from unittest.mock import patch
from urllib.request import urlopen

from django.conf import settings
from django.test import override_settings
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import WebDriverWait

from cambrel.bench.sample_benches import home_bench
from cambrel.field import standin
from cambrel.field.models import Logged, Sheet
from cambrel.field.scene_files import FIGURES
from cambrel.links.benches import encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.photographs.tests.test_heads import PLAIN, picture, tiff
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
        self.assertEqual(self.printed_mm(), (216, 279), "on the paper that there is")
        self.size(390, 844)
        self.assert_accessible(("color-contrast",))  # of a drawing’s text, judged with the drawings
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.wait(lambda: self.script("return navigator.serviceWorker.controller !== null"))
        # opened once more, so that all it needs has gone through what keeps it
        self.driver.refresh()
        self.wait(lambda: self.all("[data-take]"))
        self.script("return navigator.serviceWorker.ready.then(() => true)")
        kept = self.driver.execute_async_script(
            "const done = arguments[0]; caches.open('field-1').then((kept) => kept.keys()).then((all) =>"
            " done(all.map((one) => one.url)))"
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
        self.assert_accessible(("color-contrast",))

    def go(self, selector, *keys):
        """To a thing by keyboard: it must be one that the keyboard reaches."""
        self.assertGreaterEqual(
            self.script("const one = document.querySelector(arguments[0]); one.focus(); return one.tabIndex", selector),
            0,
        )
        self.key(*(keys or (Keys.ENTER,)))

    def test_from_a_sheet_to_its_verdicts_by_keyboard_with_the_simulated_camera(self):
        owner = User.objects.get(username=LOCAL_OWNER)
        self.addCleanup(shutil.rmtree, f"{settings.VAR}/own/{owner.pk}", True)
        sheet = Sheet.objects.create(owner=owner, name="Proof", token=encode(home_bench()), trials=["noise", "depth"])
        self.open(f"/field/{sheet.pk}/")
        self.go("#field-back")
        self.wait(lambda: self.all("[data-simulate-all]:not([hidden])"))
        self.assert_accessible()
        with (
            patch.multiple(standin, WIDE_PX=240, RINGS=1),
            patch.object(standin, "forgotten", lambda shots: "depth-0-0"),
        ):
            self.go("[data-simulate-all]")
            WebDriverWait(self.driver, 60).until(lambda _: len(self.all(".back-picture")) == 5)
        self.go(".bring form:nth-of-type(2) button")
        self.wait(lambda: "not as predicted" in self.text("[role=status]"))
        self.assertIn("T-number", self.text("#shot-noise-1-0"))
        self.assertIn("The camera reduced noise", self.text("#shot-noise-2-0"))
        self.assertIn("No picture yet", self.text("#shot-depth-0-0"))
        self.go("#seen-depth-0-0-near", "1.9", Keys.TAB, "2.1", Keys.ENTER)
        self.wait(lambda: "As predicted" in self.text("#shot-depth-0-0"))
        # a part is marked by its numbers, or dragged
        self.go("#shot-noise-0-0 .back-tools a")
        self.wait(lambda: self.all("#box-left"))
        self.assert_accessible()
        before = self.one("#box-left").get_attribute("value")
        self.go("#box-left", Keys.ARROW_UP)
        self.assertEqual(int(self.one("#box-left").get_attribute("value")), int(before) + 10)
        self.assertEqual(self.one(".look-box").get_attribute("x"), str(int(before) + 10))
        self.go(".look-form button")
        self.wait(lambda: "As predicted" in self.text(".look-both"), self.text(".look-both"))
        picture = self.one(".look-picture")
        webdriver.ActionChains(self.driver).move_to_element_with_offset(
            picture, -30, -20
        ).click_and_hold().move_by_offset(60, 40).release().perform()
        wide = int(self.one("#box-wide").get_attribute("value"))
        self.assertAlmostEqual(
            wide / int(self.one(".look-picture").get_attribute("data-wide")), 60 / picture.size["width"], delta=0.01
        )
        self.size(390, 844)
        self.dark(True)
        self.assert_accessible()
        self.open(f"/field/{sheet.pk}/back/")
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.assert_accessible()

    def test_files_from_the_disk_are_read_and_those_that_cannot_be_are_named(self):
        owner = User.objects.get(username=LOCAL_OWNER)
        self.addCleanup(shutil.rmtree, f"{settings.VAR}/own/{owner.pk}", True)
        sheet = Sheet.objects.create(owner=owner, name="Proof", token=encode(home_bench()), trials=["depth"])
        with tempfile.TemporaryDirectory() as folder:
            paths = []
            for name, content in (
                ("tail.tif", tiff(directory_at=300_000, size=310_000)),
                ("note.txt", b"hello"),
                ("a.jpg", picture()),
            ):
                paths.append(Path(folder) / name)
                paths[-1].write_bytes(content)
            self.open(f"/field/{sheet.pk}/back/")
            self.one("#bring-files").send_keys("\n".join(map(str, paths)))
            self.press(".bring form button")
            self.wait(lambda: "2 brought in" in self.text("[data-says]"))
            self.assertEqual(self.text("[data-unread]"), "note.txt: it is not a picture file that can be read here")
        sheet.refresh_from_db()
        self.assertEqual({row["iso"] for row in sheet.back.values()}, {400.0})
        self.assertNotIn("tail.tif", str(sheet.back))

    def test_from_a_logbook_of_three_thousand_to_a_decision(self):
        self.open("/field/habits/")
        self.assert_accessible()
        self.go(".bring form button[type=submit]")
        self.wait(lambda: "3,000 pictures in the logbook" in self.text(".list-head"))
        self.assert_accessible(("color-contrast",))  # of a drawing’s text, judged with the drawings
        self.assertIn("you need more reach", self.text(".habit-says"))
        bar = ".habit-chart:nth-of-type(1) a:nth-of-type(5)"
        says = self.one(bar).get_attribute("aria-label")
        self.go(bar)
        self.wait(lambda: "of 3,000 pictures" in self.text(".list-head"))
        self.assertIn(self.text(".list-head .note").split(" of ")[0].strip() + " pictures", says)
        self.size(390, 844)
        self.dark(True)
        self.assert_accessible(("color-contrast",))  # of a drawing’s text, judged with the drawings
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.size(1280, 800)
        self.go(".list-head .note a")
        self.wait(lambda: self.text(".list-head .note").startswith("3,000"))
        self.go(".habit-says a.btn")
        self.wait(lambda: self.driver.current_url.split("?")[0].endswith("/choose/"))
        self.assertIn("%", self.text("main"))

    def test_files_and_tables_are_read_shown_and_then_kept(self):
        with tempfile.TemporaryDirectory() as folder:
            paths = []
            for k in range(40):
                paths.append(Path(folder) / f"{k}.jpg")
                paths[-1].write_bytes(picture(settings=PLAIN | {0x8827: 100 + k}))
            (Path(folder) / "note.txt").write_bytes(b"hello")
            self.open("/field/habits/")
            self.one("#log-files").send_keys("\n".join(map(str, [*paths, Path(folder) / "note.txt"])))
            self.wait(lambda: "40 of 41 say how they were taken. Nothing is kept yet." in self.text("[data-says]"))
            self.assertIn("note.txt", self.text("[data-unread]"))
            self.assertFalse(Logged.objects.exists())
            self.go("[data-keep]")
            self.wait(lambda: "40 pictures in the logbook" in self.text(".list-head"))
            table = Path(folder) / "table.csv"
            table.write_text("camera;f-number;iso\nK 3;2,8;200\nK 3;;\n")
            # dropped, as from a window beside
            self.script(
                "const carried = new DataTransfer(); carried.items.add(new File([arguments[0]], 'table.csv'));"
                " document.querySelector('h1').dispatchEvent(new DragEvent('drop', {dataTransfer: carried, bubbles:"
                " true, cancelable: true}))",
                table.read_text(),
            )
            self.wait(lambda: "1 of 2 say" in self.text("[data-says]"))
            self.assertIn("line 3", self.text("[data-unread]"))
            self.go("[data-keep]")
            self.wait(lambda: "41 pictures in the logbook" in self.text(".list-head"))
            self.assertIn("Undo: Logged 1 picture", self.text(".list-head"))

    def test_scenes_are_brought_in_while_it_is_shown_how_far_it_is(self):
        owner = User.objects.get(username=LOCAL_OWNER)
        self.addCleanup(shutil.rmtree, f"{settings.VAR}/own/{owner.pk}", True)
        rows = [
            {"key": f"{k:012x}", "name": f"Place {k}", "background": "a"} | dict.fromkeys(FIGURES, 2.0)
            for k in range(3)
        ]
        with tempfile.TemporaryDirectory() as folder:
            packed = Path(folder) / "scenes.zip"
            with zipfile.ZipFile(packed, "w") as archive:
                archive.writestr("scenes.json", json.dumps({"cambrel_scenes": 1, "scenes": rows}))
                archive.writestr("a", picture())
            self.open("/field/scenes/")
            self.one("#places-file").send_keys(str(packed))
            self.go(".place-in button")
            self.wait(lambda: "3 scenes brought in" in self.text("body"))
            self.assertEqual(len(self.all(".place-list li")), 3)
            self.assert_accessible()

    def test_whoever_signs_out_leaves_no_sheet_in_the_browser(self):
        driver = User.objects.create_user("driver", password="a long word of steam")
        sheet = Sheet.objects.create(owner=driver, name="Mine", token=encode(home_bench()), trials=["noise"])
        with override_settings(HOSTED=True):
            self.open(f"/sign-in/?next=/field/{sheet.pk}/")
            self.one("#id_username").send_keys("driver")
            self.one("#id_password").send_keys("a long word of steam", Keys.ENTER)
            self.wait(lambda: "Mine" in self.text("main"))
            kept = "const done = arguments[0]; caches.keys().then((names) => done(names.length))"
            self.wait(lambda: self.driver.execute_async_script(kept) > 0 or self.driver.refresh())
            self.go("form[data-signs-out] button")
            self.wait(lambda: not self.all("form[data-signs-out]"))
            self.assertEqual(self.driver.execute_async_script(kept), 0)

    def test_every_camera_is_seen_in_one_s_own_place(self):
        self.addCleanup(shutil.rmtree, f"{settings.VAR}/own/{User.objects.get(username=LOCAL_OWNER).pk}", True)
        with tempfile.TemporaryDirectory() as folder:
            place = Path(folder) / "place.jpg"
            place.write_bytes(picture(size=(900, 600), settings=PLAIN | {0xA405: 48}))
            self.open("/field/scenes/new/")
            self.assert_accessible()
            self.go("#place-name", "My street")
            self.one("#place-background").send_keys(str(place))
            self.script("document.getElementById('place-background_height_m').value = ''")
            self.go(".place-form .btn-accent")
            self.wait(lambda: "My street" in self.text("main") and self.all(".place-list img"))
        self.assert_accessible()
        self.go(".place-tools button")
        self.wait(lambda: self.driver.find_elements(By.LINK_TEXT, "My street"))
        self.driver.find_element(By.LINK_TEXT, "My street").click()
        self.wait(
            lambda: self.script(
                "return [...document.querySelectorAll('.face img, figure img, .plate img')].some((one) =>"
                " one.naturalWidth > 100)"
            )
        )
        self.assertIn("My street", self.text("main"))

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

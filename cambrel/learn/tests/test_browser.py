"""As a photographer learns: a round by the keyboard alone, why opened in place, both sides of an argument, the strip to
print.
"""

import time

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from cambrel.learn.models import Answered
from cambrel.learn.put_questions import read
from cambrel.site.tests.browser import BrowserTestCase

OVER_PICTURES = {"color-contrast"}
"""What lies over a picture or a drawing is judged by other means."""


class LearnTests(BrowserTestCase):
    def active(self):
        return self.driver.switch_to.active_element

    def test_a_round_of_ten_by_the_keyboard_in_under_four_minutes(self):
        self.open("/learn/")
        self.assert_accessible(OVER_PICTURES)
        self.one("#start").send_keys(Keys.ENTER)
        begun = time.monotonic()
        for count in range(1, 11):
            self.wait(lambda count=count: f"{count} of 10" in self.text(".drill-count") and self.all("[name=token]"))
            put = read(self.one("[name=token]").get_attribute("value"))
            if put.level == "number":
                self.assertEqual(self.active().get_attribute("name"), "said")
                self.active().send_keys(f"{put.posed.right:.4f}", Keys.ENTER)
            else:
                wrong = next(i for i in range(len(put.choices())) if not put.judged(i)[0])
                self.key(str(wrong + 1 if count == 2 else next(i for i in range(4) if put.judged(i)[0]) + 1))
            self.wait(lambda: self.all("#next"))
            self.assertIn("The answer:" if count == 2 else "Right:", self.text(".drill-verdict"))
            if count == 2:
                self.assert_accessible(OVER_PICTURES)
            self.assertEqual(self.active().get_attribute("id"), "next")
            self.active().send_keys(Keys.ENTER)
        self.wait(lambda: "9 of 10 right" in self.text("main"))
        self.assertLess(time.monotonic() - begun, 240)
        self.assertEqual(Answered.objects.filter(is_right=False).count(), 1)
        self.press(".undo-last button")
        self.wait(lambda: "Undone" in self.text("body"))
        self.assertEqual(Answered.objects.count(), 0)

    def test_each_level_is_accessible_narrow_and_in_the_dark(self):
        self.size(390, 844)
        for dark, level in ((False, "estimate"), (True, "number"), (True, "judge")):
            self.dark(dark)
            self.open(f"/learn/round/?r=00000000000c&kind=view&level={level}")
            self.assert_accessible(OVER_PICTURES)
            self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.open("/learn/round/?r=00000000000d&kind=view&level=number")
        self.active().send_keys("abc", Keys.ENTER)
        self.wait(lambda: self.all(".field-error") and "abc" in self.text(".field-error"))
        self.assertEqual(self.one("[name=said]").get_attribute("value"), "abc")
        self.assert_accessible(OVER_PICTURES)

    def test_why_opens_in_place_by_the_keyboard_for_the_bench_as_it_stands(self):
        self.open("/")
        before = self.text("#figures-1 dd:nth-of-type(1)")
        self.type("#id_rigs-0-f_number", "5.6")
        self.wait(lambda: "f/5.6" in self.text("#figures-0 .settings-line"))
        depth = self.driver.find_elements(By.CSS_SELECTOR, "#figures-1 dd a.why")[1]
        shown = depth.text.partition(",")[0]
        depth.send_keys(Keys.ENTER)
        self.wait(lambda: self.one("#term-card").is_displayed() and "far − near" in self.text("#term-card"))
        self.assertIn(shown.replace("\u00a0", " "), self.text("#term-card").replace("\u00a0", " "))
        self.assertTrue(before)
        self.assert_accessible(OVER_PICTURES)
        self.dark(True)
        self.assert_accessible(OVER_PICTURES)
        self.dark(False)
        self.key(Keys.ESCAPE)
        self.wait(lambda: not self.one("#term-card").is_displayed())
        self.assertEqual(self.active().get_attribute("href"), depth.get_attribute("href"), "back where it was opened")
        self.one(".verdicts a.why").send_keys(Keys.ENTER)
        self.wait(lambda: "How they are compared" in self.text("#term-card"))

    def test_both_sides_of_an_argument_follow_what_is_chosen(self):
        self.open("/learn/argued/sensor-and-depth/")
        self.wait(lambda: len(self.all(".side image")) == 8)
        self.assert_accessible(OVER_PICTURES)
        before = [side.text for side in self.all(".side-says")]
        self.script(
            "const s = document.getElementById('id_n'); s.value = '5.6'; s.dispatchEvent(new Event('change', {bubbles:"
            " true}))"
        )
        self.wait(lambda: [side.text for side in self.all(".side-says")] != before)
        self.assertIn("n=5.6", self.address())
        self.dark(True)
        self.assert_accessible(OVER_PICTURES)

    def test_the_strip_alone_is_printed(self):
        self.open("/learn/head/")
        self.assert_accessible(OVER_PICTURES)
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
        shown = (
            "return [...document.querySelectorAll('main *')]"
            ".filter((e) => e.checkVisibility() && !e.children.length && !e.closest('.ladder-strip')).length"
        )
        self.assertEqual(self.script(shown), 0)
        self.assertTrue(self.one(".ladder-strip").is_displayed())
        self.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})

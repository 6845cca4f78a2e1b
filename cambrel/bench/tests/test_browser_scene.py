"""The Scene in the browser: geometry is read back from the pictures that were delivered, and what people do on them is
done.
"""

from dataclasses import replace

from selenium import webdriver
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from cambrel.bench.sample_benches import home_bench
from cambrel.bench.tests.test_browser import UNDECIDED
from cambrel.briefs.sample_briefs import with_brief
from cambrel.comparison.engine import compare
from cambrel.links.benches import decode, encode
from cambrel.optics.colour import to_srgb
from cambrel.optics.scene import disc_mm, place_mm, scale_mm_per_m
from cambrel.pictures.shots import camera_of
from cambrel.scenes import scenes
from cambrel.site.tests.browser import BrowserTestCase


class SceneTests(BrowserTestCase):
    """The pictures of the Scene, read back from what the browser was given."""

    ROW = """const [img, share] = arguments; const canvas = document.createElement('canvas');
        canvas.width = img.naturalWidth; canvas.height = img.naturalHeight;
        const pen = canvas.getContext('2d'); pen.drawImage(img, 0, 0);
        const y = Math.min(canvas.height - 1, Math.max(0, Math.round(share * canvas.height - 0.5)));
        return [...pen.getImageData(0, y, canvas.width, 1).data].filter((_, i) => i % 4 === 1)"""

    SHOTS = "return [...document.querySelectorAll('#views img')].map((img) => img.dataset.shot)"
    DRAG = """const field = document.querySelector('#id_brief-distance_m'); let n = 0;
        const timer = setInterval(() => { field.value = (2 + n / 100).toFixed(2); n += 1;
        htmx.trigger('#bench', 'drag'); if (n > 60) clearInterval(timer); }, 30)"""

    def pictures(self):
        """The pictures once each is the full one of its shot."""

        def settled():
            images = self.all("#views img[data-shot]")
            done = (
                "return [...document.querySelectorAll('#views img[data-shot]')].every((i) => i.complete &&"
                " i.src.includes(i.dataset.shot) && i.naturalHeight >= i.getBoundingClientRect().height - 1)"
            )
            return images if images and self.script(done) else None

        return self.wait(settled)

    def scene(self, slug, rigs=1, **brief):
        bench = with_brief(home_bench(), slug)
        bench = replace(bench, slots=bench.slots[:rigs], brief=replace(bench.brief, **brief))
        self.open("/?b=" + encode(bench))
        return compare(bench.brief, bench.rigs, bench.hold, bench.conventions), bench

    def test_a_layer_is_as_wide_in_the_delivered_picture_as_the_optics_say(self):
        compared, bench = self.scene("gauge-face", foreground_m=None)
        (picture,) = self.pictures()
        row = self.script(self.ROW, picture, 0.5)
        camera = camera_of(bench, compared, compared.of(0), scenes()[bench.scene])
        px_per_m = float(scale_mm_per_m(camera, 0.4)) * len(row) / camera.width_mm
        middle = [x for x in range(len(row)) if abs(x - len(row) / 2) < 0.045 * px_per_m]
        pale = [x for x in middle if row[x] > 150]  # the dial is pale, the plate behind it dark
        self.assertAlmostEqual(pale[-1] - pale[0] + 1, 0.06 * px_per_m, delta=2.5)

    def test_a_lamp_s_disc_in_the_delivered_picture_is_the_optics(self):
        compared, bench = self.scene("night-mail", focus_distance_m=0.6, foreground_m=None)
        (picture,) = self.pictures()
        lamp = next(la for la in scenes()["night"].lamps if la.name == "signal")
        camera = camera_of(bench, compared, compared.of(0), scenes()[bench.scene])
        away = camera.subject_distance_m + lamp.behind_m
        x_mm, y_mm = place_mm(camera, lamp.x_m, lamp.height_m, away)
        row = self.script(self.ROW, picture, 0.5 + float(y_mm) / camera.height_mm)
        k = len(row) / camera.width_mm
        at = round(len(row) / 2 + float(x_mm) * k)
        disc, own = float(disc_mm(camera, away)) * k, lamp.size_m * float(scale_mm_per_m(camera, away)) * k
        half = 255 * float(to_srgb(lamp.radiance * (own / disc) ** 2 / 2))
        left = next(x for x in range(at, 0, -1) if row[x] < half)
        right = next(x for x in range(at, len(row)) if row[x] < half)
        self.assertAlmostEqual(right - left - 1, disc, delta=2)

    def test_press_drag_mark_seam_loupe_strip_and_save(self):
        self.scene("footplate-portrait", rigs=2)
        self.pictures()
        figure = "#figures-0"
        before = self.text(figure)
        mat = self.one('[data-view="0"] .mat')
        box = mat.size
        mouse = webdriver.ActionChains(self.driver)
        mouse.move_to_element_with_offset(mat, int(-0.6 * box["height"]), int(-0.2 * box["height"])).click().perform()
        self.wait(lambda: self.text(figure) != before)
        self.assertEqual(self.one("#id_brief-focus_distance_m").get_attribute("value"), "7")
        self.pictures()
        shots = self.script(self.SHOTS)
        mouse = webdriver.ActionChains(self.driver)
        mouse.move_to_element_with_offset(
            mat := self.one('[data-view="0"] .mat'), 0, 0
        ).click_and_hold().move_by_offset(0, 40).release().perform()
        self.wait(lambda: self.script(self.SHOTS) != shots)
        self.look()
        self.press('[name="marks"]')
        self.wait(lambda: self.all(".depth-mark") and self.one(".depth-mark").is_displayed())
        Select(self.one('[name="frame"]')).select_by_value("1")
        self.wait(lambda: self.all('[data-view="0"] .other-1') and self.one('[data-view="0"] .other-1').is_displayed())
        self.press('[data-way][value="seam"]')
        self.wait(lambda: self.script("return document.querySelector('.seam-right').naturalWidth > 0"))
        self.script(
            "const s = document.getElementById('seam-at'); s.value = 30; s.dispatchEvent(new Event('input', {bubbles:"
            " true}))"
        )
        shots = self.script(self.SHOTS)
        cut = "return document.querySelector('.seam-left').style.clipPath"
        at = self.script(cut)
        self.seam_is_at(0.3)
        self.type("#id_brief-background_m", "6")
        self.wait(lambda: self.script(self.SHOTS) != shots)
        self.assertTrue(self.one("#stage").is_displayed(), "what is shown outlasts a change")
        self.assertEqual(self.script(cut), at)
        self.press('[data-way][value="side"]')
        self.pictures()
        self.look()
        self.press('[data-scene="loupe"]')
        self.wait(lambda: len(self.all(".loupes img")) == 2)
        loupe = "return document.querySelector('.loupes img').dataset.shot"
        there = self.script(loupe)
        self.script("document.getElementById('loupes').focus()")
        place = "return document.getElementById('loupe-at').value.split(',').map(Number)"
        before = self.script(place)
        self.key(Keys.ARROW_RIGHT)
        self.wait(lambda: self.script(loupe) != there)
        self.assertAlmostEqual(self.script(place)[0] - before[0], 0.05, places=3)
        self.key(Keys.ARROW_UP)
        self.wait(lambda: self.script(place)[1] != before[1])
        self.assertAlmostEqual(self.script(place)[1] - before[1], 0.05, places=3)
        self.assertEqual(self.script("return document.activeElement.id"), "loupes")
        self.look()
        Select(self.one('[name="strip"]')).select_by_value("0")
        self.wait(lambda: len(self.all(".strip img")) > 4)
        address = self.address()
        self.assertIn("loupe=", address)
        self.assert_accessible(UNDECIDED)
        self.dark(True)
        self.assert_accessible(UNDECIDED)
        save = self.one('[data-view="0"] a[download]').get_attribute("href")
        ask = (
            "const x = new XMLHttpRequest(); x.open('HEAD', arguments[0], false); x.send(); return"
            " x.getResponseHeader('Content-Type')"
        )
        head = self.script(ask, save)
        self.assertEqual(head, "image/png")

    def seam_is_at(self, share):
        """Left of the seam the first picture is seen, right of it the second, and nothing of either beyond."""
        left, right = self.script(
            """const box = document.getElementById('stage-box').getBoundingClientRect();
            return ['.seam-left', '.seam-right'].map((one) => {
              const img = document.querySelector(one), inset = img.style.clipPath.match(/-?[\\d.]+/g).map(Number);
              const [, right, , left] = inset.length === 4 ? inset : [inset[0], 0, 0, 0];
              const at = img.getBoundingClientRect(), scale = at.width / img.offsetWidth;
              return [at.left + left * scale - box.left, at.right - right * scale - box.left]
               .map((x) => x / box.width); })"""
        )
        self.assertAlmostEqual(left[1], share, places=2)
        self.assertLessEqual(left[0], 0.001)
        self.assertAlmostEqual(right[0], share, places=2)
        self.assertGreaterEqual(right[1], share + 0.1)

    def test_what_is_pressed_is_said_of_the_picture_and_the_place_that_was_pressed(self):
        self.scene("footplate-portrait", rigs=2)
        self.press('[data-way][value="side"]')  # a tab keeps the way in which it was looked before
        self.script(
            "window.acts = []; document.body.addEventListener('htmx:configRequest',"
            " (event) => window.acts.push(String(event.detail.parameters.action)))"
        )
        size = """const img = document.querySelectorAll('#views img[data-shot]')[arguments[0]],
                  mat = img.closest('.mat').getBoundingClientRect();
            const ratio = img.naturalWidth / img.naturalHeight, width = Math.min(mat.width, mat.height * ratio);
            return [width, width / ratio]"""
        for index, (across, down) in ((1, (0.3, 0.7)), (0, (0.8, 0.25))):
            self.pictures()
            wide, high = self.script(size, index)
            at = int((across - 0.5) * wide), int((down - 0.5) * high)
            mouse = webdriver.ActionChains(self.driver)
            mouse.move_to_element_with_offset(self.one(f'[data-view="{index}"] .mat'), *at).click().perform()
            said = self.wait(lambda: self.script("return window.acts.find((one) => one.startsWith('focus_at'))"))
            name, rig, x, y = said.split(":")
            self.assertEqual((name, rig), ("focus_at", str(index)))
            self.assertAlmostEqual(float(x), 0.5 + at[0] / wide, delta=0.02)
            self.assertAlmostEqual(float(y), 0.5 + at[1] / high, delta=0.02)
            self.script("window.acts = []")

    def test_two_pictures_are_laid_over_each_other_flipped_and_taken_from_each_other(self):
        self.scene("footplate-portrait", rigs=2)
        self.pictures()
        self.press('[data-way][value="flip"]')
        self.wait(lambda: self.script("return document.querySelector('.seam-right').naturalHeight > 300"))
        seen = "return [...document.querySelectorAll('#stage-box img')].map((i) => getComputedStyle(i).visibility)"
        self.assertEqual(self.script(seen), ["visible", "hidden"])
        self.key(Keys.SPACE)
        self.assertEqual(self.script(seen), ["hidden", "visible"])
        self.assertEqual(self.text("#flip-says"), "now B")
        # the subject's middle of either picture falls on the same place, and it is as high
        middles = self.script("""return [...document.querySelectorAll('#stage-box img')].map((img, i) => {
            const box = img.getBoundingClientRect(), ratio = img.naturalWidth / img.naturalHeight;
            const w = Math.min(box.width, box.height * ratio), h = w / ratio;
            const kept = document.querySelector(`#views img[data-keep="${i}"]`);
            const [x, y, high] = kept.dataset.subject.split(',').map(Number);
            return [box.left + (box.width - w) / 2 + x * w, box.top + (box.height - h) / 2 + y * h, high * h]; })""")
        for one, other in zip(*middles, strict=True):
            self.assertAlmostEqual(one, other, delta=1.0)
        self.press('[data-way][value="differ"]')
        blend = "return getComputedStyle(document.querySelector('.seam-right')).mixBlendMode"
        self.assertEqual(self.script(blend), "difference")
        self.press('[data-way][value="large"]')
        shot = "return document.querySelector('.seam-left').dataset.shot"
        first = self.script(shot)
        self.key("b")
        self.wait(lambda: self.script(shot) != first)
        self.key(Keys.ESCAPE)
        self.wait(lambda: not self.one("#stage").is_displayed())

    def test_can_you_tell_counts_hits_against_chance(self):
        self.scene("footplate-portrait", rigs=2)
        self.pictures()
        self.press('[data-way][value="tell"]')
        self.wait(lambda: self.script("return document.querySelector('.seam-right').naturalHeight > 0"))
        self.assertEqual(
            self.script("return [...document.querySelectorAll('#stage-box img')].map((i) => i.alt)"), ["", ""]
        )
        visible = (
            "return [...document.querySelectorAll('#stage-box img')].find((i) => i.style.visibility !=="
            " 'hidden').className"
        )
        self.assertIn("as large as", self.text("#tell-size"))
        for _ in range(10):
            seen = []
            for which in ("0", "1", "2"):
                self.script(f"document.querySelector('[data-tell-show=\"{which}\"]').click()")
                seen.append(self.script(visible))
            self.assertNotEqual(seen[0], seen[1])
            self.press(f'[data-tell-is="{seen.index(seen[2])}"]')  # a reader who sees every difference
        self.wait(lambda: "10 of 10" in self.text("#tell-says"))
        self.assertIn("you can tell these two pictures apart", self.text("#tell-says"))

    def test_a_drawing_is_kept_as_png(self):
        self.open("/?panel=depth")
        self.press("[data-png]")
        size = self.wait(lambda: self.one("[data-png]").get_attribute("data-size"))
        self.assertGreater(int(size), 5000)

    def test_a_dragged_slider_leaves_no_queue_behind(self):
        self.scene("footplate-portrait", rigs=3)
        self.pictures()
        self.script(self.DRAG)
        self.wait(lambda: self.script("return document.querySelector('#id_brief-distance_m').value") == "2.60")
        last = lambda: decode(self.script("return document.querySelector('#token').value")).brief.distance_m  # noqa: E731
        self.wait(lambda: last() == 2.6)  # the answer to the last of it is there
        self.pictures()
        asked = "return performance.getEntriesByType('resource').filter((e) => e.name.includes('/scene/')).length"
        rest = "setTimeout(arguments[0], 400)"
        self.driver.execute_async_script(rest)  # the browser counts a picture a little after it stands there
        first = self.script(asked)
        self.assertLess(first, 61 * 3, "far fewer pictures than changes are asked for")
        self.driver.execute_async_script(rest)
        self.assertEqual(self.script(asked), first)

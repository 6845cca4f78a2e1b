"""A photograph in the browser: dropped or chosen, asked about, seen beside the scene, and gone with one press."""

import base64
import tempfile
from pathlib import Path

from cambrel.bench.tests.test_browser import UNDECIDED
from cambrel.bench.tests.test_photographs import TARN
from cambrel.photographs.tests.test_heads import picture
from cambrel.site.tests.browser import BrowserTestCase

SILENT = {tag: value for tag, value in TARN.items() if tag != 0x9206}
"""It does not say how far away the subject was."""
DROP = """const [content, name] = arguments;
    const bytes = Uint8Array.from(atob(content), (letter) => letter.charCodeAt(0));
    const held = new DataTransfer(); held.items.add(new File([bytes], name, {type: 'image/jpeg'}));
    for (const kind of ['dragover', 'drop']) document.querySelector('main').dispatchEvent(
        new DragEvent(kind, {bubbles: true, cancelable: true, dataTransfer: held}));"""
SEEN = "const image = document.querySelector('.photograph img'); return image.complete && image.naturalWidth"


class PhotographTests(BrowserTestCase):
    def drop(self, content, name="harbour.jpg"):
        self.script(DROP, base64.b64encode(content).decode(), name)

    def test_dropped_on_the_bench_it_is_the_bench_and_is_seen_beside_the_scene(self):
        self.open("/")
        self.drop(picture(settings=TARN, model="Tarn Ridgeway", noisy=True, size=(900, 600)))
        self.wait(lambda: "photo=1" in self.address())
        self.wait(lambda: self.script(SEEN) == 900)
        self.assertIn("Photograph, 4 May 2026", self.text("#photograph"))
        self.assertRegex(self.text("#verdicts .headline"), "^B comes nearest to this photograph at 25.2 mm f/2.8")
        self.assertEqual(
            self.script("return document.querySelector('#brief-choice').selectedOptions[0].text")[:10], "Photograph"
        )
        self.assert_accessible_in_both(UNDECIDED)
        # it stays through a change and a press, and is in the first screen on a phone
        self.changed("#verdicts", lambda: self.type("#id_brief-distance_m", "4"))
        self.assertEqual(self.script(SEEN), 900)
        self.press("#add-rig")
        self.wait(lambda: self.all("#plate-2"))
        self.wait(lambda: self.one("#photograph").is_displayed())
        self.size(390, 844)
        top = "return document.querySelector(arguments[0]).getBoundingClientRect().top"
        self.assertLess(self.script(top, "#photograph"), 420)
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.size(1280, 800)
        self.press("[data-photograph-away]")
        self.wait(lambda: "photo" not in self.address() and not self.all("#photograph"))
        self.assertNotIn("this photograph", self.text("#verdicts"))

    def test_chosen_on_ask_it_is_asked_about_and_set_up_by_the_keyboard(self):
        self.open("/ask/")
        self.script("document.querySelector('#photograph-drop').hidden = false")
        with tempfile.TemporaryDirectory() as folder:
            place = Path(folder) / "quay.jpg"
            place.write_bytes(picture(settings=SILENT, model="Tarn Ridgeway"))
            self.one("#photograph-drop input[type='file']").send_keys(str(place))
            self.wait(lambda: self.address().startswith("/photograph/"))
        self.assertIn("does not say how far away the subject was", self.text("main"))
        self.wait(lambda: self.script(SEEN) == 640)
        self.assert_accessible_in_both(("color-contrast",))  # of the arrow of a list
        self.size(390, 844)
        self.assertLessEqual(self.script("return document.documentElement.scrollWidth"), 390)
        self.type("#photograph-distance_m", "3")
        self.wait(lambda: "photo=1" in self.address())
        self.wait(lambda: self.script(SEEN) == 640)
        self.assertEqual(self.one("#id_brief-distance_m").get_attribute("value"), "3")

    def test_what_is_no_photograph_says_so_and_one_that_cannot_be_shown_is_read(self):
        self.open("/")
        self.drop(b"words, and no picture", "notes.txt")
        self.wait(
            lambda: "notes.txt" in self.text("#photograph-says") and "Reading" not in self.text("#photograph-says")
        )
        raw = b"RAWHEAD" * 30 + picture(settings=TARN, model="Tarn Ridgeway") + b"\0" * 3000
        self.drop(raw, "harbour.raw")
        self.wait(lambda: "photo=1" in self.address())
        self.wait(lambda: "cannot show such a file" in self.text("#photograph"))

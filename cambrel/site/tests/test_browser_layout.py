"""The bench at thirteen widths and every page at four, from a phone to a wide screen: nothing lies on anything, is cut
off or scrolls sideways.
"""

from cambrel.bench.sample_benches import home_bench
from cambrel.bench.tests.test_browser import long_bench
from cambrel.links.benches import encode
from cambrel.shelf.models import Kit
from cambrel.site.tests.browser import BrowserTestCase
from cambrel.site.tests.layout import FAULTS, WIDTHS

PAGES = (
    "/formats/", "/match/", "/fit/", "/fit/matrix/", "/choose/?look=side",
    "/shelf/", "/shelf/bodies/", "/shelf/lenses/new/", "/shelf/import/",
    "/shelf/export/", "/advert/", "/conventions/", "/words/", "/saved/", "/ask/?q=25+f/1.4+mft+vs+50+f/1.8+ff",
    "/learn/", "/learn/round/?r=00000000000a&kind=depth&level=judge",
    "/learn/argued/f-number/", "/learn/head/", "/learn/care/", "/why/?of=total", "/photograph/?iso=400",
)  # fmt: skip


class LayoutTests(BrowserTestCase):
    def faults(self, width):
        metrics = {"width": width, "height": 800, "deviceScaleFactor": 1, "mobile": width < 500}
        self.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
        return self.script(FAULTS)

    def hold(self, path, widths=WIDTHS):
        self.open(path)
        for width in widths:
            with self.subTest(page=path[:40], width=width):
                self.assertEqual(self.faults(width), [])

    def test_the_bench_with_two_four_and_six_cameras(self):
        self.hold("/")
        for count, panel in ((2, "walk"), (3, "depth"), (4, "light"), (6, "numbers"), (6, "frames")):
            self.hold(f"/?b={encode(long_bench(count))}&panel={panel}", WIDTHS[count % 2 :: 2])

    def test_the_large_view_and_what_is_unfolded(self):
        self.open(f"/?b={encode(home_bench())}")
        self.press("#more-button")
        self.press("#more-to-say summary")
        self.press("[data-way][value='flip']")
        for width in WIDTHS:
            with self.subTest(width=width):
                self.assertEqual(self.faults(width), [])

    def test_every_other_page(self):
        for path in (*PAGES, f"/shelf/kits/{Kit.objects.first().pk}/"):
            self.hold(path, WIDTHS[::4])

    def test_faults_are_found(self):
        self.open("/words/")
        self.assertEqual(self.faults(1280), [])
        self.script(
            "const p = document.createElement('p'); p.textContent = 'a line that lies on the title of the"
            " page';p.style.position = 'absolute'; p.style.top ="
            " document.querySelector('h1').getBoundingClientRect().top + 'px';p.style.left ="
            " document.querySelector('h1').getBoundingClientRect().left + 'px';"
            " document.querySelector('main').append(p)"
        )
        self.assertIn("lies on", " ".join(self.faults(1280)))
        self.script(
            "const p = document.querySelector('main p:last-child'); p.style.left = '1200px'; p.style.whiteSpace ="
            " 'nowrap'"
        )
        self.assertIn("wide", " ".join(self.faults(1280)))

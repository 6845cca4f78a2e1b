from dataclasses import fields, replace

import numpy as np
from django.test import TestCase

from cambrel import wording
from cambrel.bench.sample_benches import home_bench
from cambrel.comparison.engine import compare
from cambrel.links.benches import encode
from cambrel.optics.formats import FORMATS, crop_factor
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Body, Lens


class HomeTests(TestCase):
    """The format in whose terms the reader thinks is kept in place, and holds on every page."""

    def setUp(self):
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(self.owner)

    def test_every_page_speaks_in_its_terms_with_full_frame_beside(self):
        zoom = Lens.objects.get(name="Pipwren 12-40 mm f/2.8")
        body = Body.objects.filter(mount="Pipwren").first()
        pages = {
            "/shelf/lenses/?q=pipwren+12-40": ("As full frame", "24–80"),
            f"/fit/?lens={zoom.pk}&body={body.pk}": ("full frame", "24–80"),
            "/ask/?q=25+f/1.4+mft": ("full frame", "50"),
            "/match/?g=&format=full-frame&focal_length_mm=50&f_number=2.8": ("As full frame", "50"),
            "/advert/?text=24+mm+equivalent+f/1.8,+1/1.3+type": ("As full frame", "24"),
        }
        for address, parts in pages.items():
            for part in parts:
                self.assertContains(self.client.get(address), part, msg_prefix=address)
        self.assertEqual(self.client.post("/conventions/home/", {"home": "nowhere"}).status_code, 422)
        kept = self.client.post("/conventions/home/", {"home": "micro-four-thirds"})
        self.assertEqual((kept.status_code, kept["HX-Trigger"]), (204, "home-kept"))
        crop = crop_factor(FORMATS["micro-four-thirds"])
        for address, part in (
            ("/shelf/lenses/?q=pipwren+12-40", "12–40\u00a0mm f/2.8 (full frame 24–80\u00a0mm f/5.6)"),
            ("/shelf/lenses/", "As Micro Four Thirds"),
            (f"/fit/?lens={zoom.pk}&body={body.pk}", "12–40\u00a0mm f/2.8 (full frame"),
            ("/ask/?q=50+f/2.8+ff", wording.focal(50 / crop)),
            ("/advert/?text=24+mm+equivalent+f/1.8,+1/1.3+type", f"{wording.focal(24 / crop)}, "),
            ("/match/?format=full-frame&focal_length_mm=50&f_number=2.8", "As Micro Four Thirds"),
        ):
            self.assertContains(self.client.get(address), part, msg_prefix=address)

    def test_it_changes_nothing_but_its_own_figures_and_travels_in_no_link(self):
        bench = home_bench()
        at_home = replace(bench, conventions=replace(bench.conventions, home="micro-four-thirds"))
        self.assertEqual(encode(at_home), encode(bench))
        plain, told = (compare(b.brief, b.rigs, b.hold, b.conventions) for b in (bench, at_home))
        for group in ("settings", "frames", "view", "depth", "blur", "light"):
            for field in fields(getattr(plain, group)):
                pair = [getattr(getattr(c, group), field.name) for c in (plain, told)]
                self.assertEqual(
                    np.array_equal(*pair, equal_nan=pair[0].dtype.kind == "f"),
                    not field.name.startswith("home_"),
                    field.name,
                )
        crop = crop_factor(FORMATS["micro-four-thirds"])
        self.assertAlmostEqual(told.of(1).view.home_focal_length_mm, told.of(1).settings.focal_length_mm, places=9)
        self.assertAlmostEqual(told.of(0).blur.home_f_number, 2.8 / crop, places=9)
        self.client.post("/conventions/home/", {"home": "micro-four-thirds"})
        self.assertContains(self.client.get("/", {"b": encode(bench)}), "as Micro Four Thirds")

from dataclasses import replace
from itertools import cycle
from unittest.mock import patch
from urllib.parse import parse_qs, urlsplit

from django.template.loader import get_template
from django.test import TestCase, tag

from cambrel.bench import faces, panels
from cambrel.bench.look import one_of
from cambrel.bench.panels import PANELS, panel_of, parts
from cambrel.bench.panels.light import DIM_EV
from cambrel.bench.panels.panel import Panel
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.moving_pictures import as_film
from cambrel.links.benches import decode, encode


class PanelTests(TestCase):
    def test_tabs_keys_help_and_addresses_follow_from_the_table(self):
        page = self.client.get("/").content.decode()
        for number, panel in enumerate(PANELS.values(), start=1):
            self.assertIn(f'value="{panel.key}"', page)
            self.assertEqual(list(PANELS)[number - 1], panel.key)
            get_template(panel.template)
        self.assertIn(f"<kbd>{len(PANELS)}</kbd>", page)
        self.assertIn(", ".join(panel.label for panel in PANELS.values()), page)
        keys = [part.key for panel in PANELS.values() for part in panel.look]
        self.assertEqual(len(keys), len(set(keys)), "a key of the address means one thing")
        self.assertEqual(set(parts()), {*keys, *(part.key for part in faces.PARTS)})

    def test_a_picture_that_calls_for_a_panel_has_it_shown_and_the_tabs_keep_their_order(self):
        brief = home_bench().brief
        for ev, first in ((DIM_EV, "light"), (DIM_EV + 0.1, "depth")):
            dim = replace(home_bench(), brief=replace(brief, light_ev=ev))
            page = self.client.get("/", {"b": encode(dim)}).context["page"]
            self.assertEqual((page.shown.key, [panel.key for panel in page.panels]), (first, list(PANELS)))
        night = replace(brief, light_ev=-2)
        self.assertEqual(panel_of("frames", night).key, "frames", "what is asked for is shown")

    def test_the_panel_chosen_last_is_remembered_until_a_picture_calls_for_another(self):
        self.client.get("/?panel=walk", headers={"HX-Request": "true"})
        self.assertEqual(self.client.get("/").context["page"].shown.key, "walk")
        self.assertEqual(
            self.client.get("/?panel=frames").context["page"].shown.key, "frames", "a link is shown as it is"
        )
        self.assertEqual(self.client.get("/").context["page"].shown.key, "walk")
        dim = replace(home_bench(), brief=replace(home_bench().brief, light_ev=DIM_EV))
        self.assertEqual(self.client.get("/", {"b": encode(dim)}).context["page"].shown.key, "light")

    def test_a_new_panel_is_one_entry(self):
        made = Panel(
            "new", "New", "bench/panels/new.html", lambda *_: {"text": "here"}, (one_of("shade", "light", "dark"),)
        )
        with patch.dict(panels.PANELS, {"new": made}):
            self.assertIn("shade", parts())
            page = self.client.get("/").content.decode()
            self.assertIn('value="new"', page)
            self.assertIn(f"<kbd>{len(panels.PANELS)}</kbd>", page)

    @tag("long")
    def test_every_panel_is_shown_in_feet_too_and_its_drawing_is_a_file(self):
        without = set(panels.PANELS)
        for key, slug in zip(panels.PANELS, cycle(sample_briefs()), strict=False):
            bench = encode(with_brief(home_bench(), slug))
            with self.subTest(picture=slug, panel=key):
                page = self.client.get("/", {"b": bench, "panel": key, "units": "ft"})
                self.assertEqual((page.status_code, page.context["page"].shown.key), (200, key))
                drawn = self.client.get("/drawing.svg", {"b": bench, "panel": key}).status_code
                has_drawing = "drawing" in page.context["page"].panel
                self.assertEqual(drawn, 200 if has_drawing else 404)
                without -= {key} if has_drawing else set()
        self.assertEqual(without & {"depth", "frames", "light", "walk", "numbers"}, {"numbers"})

    def test_the_stack_is_written_out_frame_by_frame(self):
        bench = with_brief(home_bench(), "gauge-face")
        bench = replace(bench, brief=replace(bench.brief, distance_m=0.5, sharp_front_m=0.02, sharp_behind_m=0.02))
        text = self.client.get("/stack.csv", {"b": encode(bench)}).content.decode()
        rows = [line.split(",") for line in text.splitlines()[1:]]
        first = [row for row in rows if row[0] == "A"]
        self.assertEqual([row[1] for row in first], [str(n) for n in range(1, len(first) + 1)])
        self.assertGreater(len(first), 2)
        self.assertTrue(all(0.48 < float(row[3]) < 0.53 < float(row[4]) < 0.62 for row in first), first)
        self.assertEqual(self.client.get("/stack.csv", {"b": "x"}).status_code, 400)


class FilmPanelTests(TestCase):
    """The switch between a still picture and a film, what is typed of it, and its panel."""

    def get(self, bench, **query):
        return self.client.get("/", {"b": encode(bench), **query}, headers={"HX-Request": "true"})

    def at(self, address):
        return decode(parse_qs(urlsplit(address).query)["b"][0])

    def test_the_switch_the_rate_and_the_angle(self):
        page = self.client.get("/", {"b": encode(home_bench()), "action": "film:film"})
        film = self.at(page["Location"])
        self.assertEqual((film.brief.frame_rate, film.rigs[0].shutter_s), (25, 1 / 50))
        shown = self.client.get(page["Location"])
        self.assertContains(shown, "frames a second")
        self.assertContains(shown, "On a film")
        for letter in "ABC":
            self.assertContains(shown, f'<b class="letter">{letter}</b> At ')
        changed = self.get(film, **{"brief-shutter_angle_deg": "90", "brief-mains_hz": "50"})
        film = self.at(changed["HX-Replace-Url"])
        self.assertEqual({round(1 / rig.shutter_s) for rig in film.rigs}, {100})
        film = self.at(self.get(film, **{"rigs-0-shutter_s": "1/50"})["HX-Replace-Url"])
        self.assertAlmostEqual(film.brief.shutter_angle_deg, 180)
        still = self.at(self.client.get("/", {"b": encode(film), "action": "film:still"})["Location"])
        self.assertEqual((still.brief.frame_rate, still.rigs[0].mode), (None, None))
        self.assertContains(self.client.get("/", {"b": encode(still), "panel": "film"}), "Make it a film")

    def test_nonsense_gets_a_message_and_no_lever_turns_the_fixed_shutter(self):
        film = as_film(home_bench())
        wrong = {"shutter_angle_deg": "400", "frame_rate": "0", "mains_hz": "nan", "delivery": "8mm"}
        for field, value in wrong.items():
            self.assertEqual(self.get(film, **{f"brief-{field}": value}).status_code, 422, field)
        for bench, turns in ((film, False), (home_bench(), True)):
            take = self.client.get("/take/", {"b": encode(bench), "of": "light", "rig": "0"}).content.decode()
            self.assertEqual("Expose for" in take, turns)

"""The Scene panel's pictures by their addresses, and what presses and drags on them do."""

import json
import random
import socket
from contextlib import ExitStack
from dataclasses import replace
from io import BytesIO
from math import sqrt
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch

import numpy as np
from django.conf import settings
from django.test import TestCase, tag
from jsonschema import Draft202012Validator
from PIL import Image

from cambrel.bench.actions import State, perform
from cambrel.bench.look import Look
from cambrel.bench.reading import PARTS
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.bench import LayerChange
from cambrel.comparison.engine import compare
from cambrel.comparison.rig import Body, Lens, Sensor
from cambrel.links.benches import decode, encode
from cambrel.links.codec import LinkError, decode_list, encode_list
from cambrel.optics.formats import FORMATS
from cambrel.pictures.shots import HEIGHTS, MOST_PIXELS, loupe_of, rig_shot, shot_of, size_of
from cambrel.pictures.views import pool
from cambrel.scenes import HOME, scenes
from cambrel.site.caches import FileCache


def compared(bench):
    return compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)


def shot(bench, index=0, **options):
    comparison = compared(bench)
    return rig_shot(bench, comparison, comparison.of(index), **options)


@tag("long")
class PictureTests(TestCase):
    def setUp(self):
        self.token = shot(home_bench()).token()

    def test_an_address_holds_all_and_comes_back(self):
        for slug in sample_briefs():
            bench = with_brief(home_bench(), slug)
            for index in range(3):
                made = shot(bench, index, as_set=True, grain=True)
                again = shot_of(made.token())
                self.assertEqual(again.token(), made.token())
                self.assertAlmostEqual(again.camera.f_number / made.camera.f_number, 1, places=5)
                self.assertLess(len(made.token()), 500)

    def test_grain_is_in_the_picture_that_is_served_as_strong_as_its_light_says(self):
        bench = home_bench()
        light, made = compared(bench).of(0).light, shot(bench, grain=True).view(140)
        pixels = made.width_px * made.height_px
        self.assertAlmostEqual(made.snr, light.snr_picture * sqrt(bench.conventions.output_pixels / pixels), places=3)
        self.assertEqual(shot(bench).view(140).snr, 0.0)
        dim = replace(bench, brief=replace(bench.brief, light_ev=-6.0))
        seen = []
        for grain in ("", "1"):
            page = self.client.get("/", {"b": encode(dim), "grain": grain}).context["page"]
            content = self.client.get(page.faces.pictures[0].source).content
            seen.append(np.asarray(Image.open(BytesIO(content)).convert("L"), float))
        plain, grainy = (float(np.abs(np.diff(one)).mean()) for one in seen)
        self.assertGreater(grainy, 1.2 * plain)

    def test_picture_is_served_for_good_and_not_twice(self):
        page = self.client.get(f"/scene/{self.token}/140.webp")
        self.assertEqual((page.status_code, page["Content-Type"]), (200, "image/webp"))
        self.assertIn("immutable", page["Cache-Control"])
        self.assertEqual(Image.open(BytesIO(page.content)).size, (210, 140))
        again = self.client.get(f"/scene/{self.token}/140.webp", headers={"If-None-Match": page["ETag"]})
        self.assertEqual((again.status_code, again.content), (304, b""))

    def test_png_with_its_caption(self):
        plain = self.client.get(f"/scene/{self.token}/140.png")
        told = self.client.get(f"/scene/{self.token}/140.png?caption=A+50+mm+f/2.8")
        heights = [Image.open(BytesIO(page.content)).height for page in (plain, told)]
        self.assertEqual(heights[0], 140)
        self.assertGreater(heights[1], heights[0])
        self.assertIn("attachment", told["Content-Disposition"])

    def test_nonsense_is_refused(self):
        for address, status in (
            (f"/scene/{self.token}/141.webp", 404),
            (f"/scene/{self.token}/140.gif", 404),
            (f"/scene/{self.token}/140.webp?caption=x", 404),
            (f"/scene/{self.token[:-4]}/140.webp", 400),
            ("/scene/AAAA/140.webp", 400),
            (f"/scene/{encode(home_bench())}/140.webp", 400),
        ):
            with self.subTest(address[:30]):
                self.assertEqual(self.client.get(address).status_code, status)
        with self.assertRaises(LinkError):
            shot_of(shot(home_bench()).token().swapcase())

    def test_frames_of_every_shape_are_drawn_in_every_height_and_in_their_own_shape(self):
        formats = [(f.width_mm, f.height_mm) for f in FORMATS.values()]
        wides = ((65, 24), (36, 10), (52.6, 23), (36, 4), (500, 0.6))
        for wide, high in [*formats, *wides, *((high, wide) for wide, high in wides)]:
            for height in HEIGHTS:
                with self.subTest(wide=wide, high=high, height=height):
                    across, down = size_of(height, wide / high)
                    self.assertLessEqual(across * down, MOST_PIXELS)
                    if min(across, down) > 40:
                        self.assertAlmostEqual(across / down / (wide / high), 1, delta=0.03)
        bench = home_bench()
        body = Body(Sensor(65, 24, 8000))
        bench = replace(bench, slots=(replace(bench.slots[0], rig=replace(bench.rigs[0], body=body, lens=Lens())),))
        for _ in range(3):  # on a busy machine the first may run out of its time, as nothing is baked yet
            page = self.client.get(f"/scene/{shot(bench).token()}/280.png?caption=Wide")
            if page.status_code == 200:
                break
        self.assertEqual(page.status_code, 200, page.content[:200])

    def test_windows_and_figures_that_no_bench_asks_for_are_refused(self):
        slug, sharp, numbers, changes = decode_list(self.token)
        wrong = (
            (19, 0), (20, 0), (19, -1), (17, 1.5), (19, 2), (4, 0), (4, 1e9), (5, 0), (0, 1e9), (8, 0), (8, 1e9),
            (12, -1), (11, 1e9),
            (13, 100), (14, -1), (15, -0.1), (16, 2e6),
            (10, 1e5), (14, 1e-9), (14, 2000), (15, 1e-6), (15, 1e7), (16, 1e-9), (16, 200),
        )  # fmt: skip
        for place, value in ((17, 0.5), *wrong):
            changed = list(numbers)
            changed[place] = value
            with self.subTest(place=place, value=value):
                status = self.client.get(f"/scene/{encode_list([slug, sharp, changed, changes])}/60.webp").status_code
                self.assertEqual(status, 200 if (place, value) == (17, 0.5) else 400)

    def test_who_waits_for_nothing_or_beside_too_many_is_not_drawn_for(self):
        address = (  # never drawn before
            f"/scene/{replace(shot(home_bench()), gain_stops=random.random()).token()}/60.webp"
        )
        here, there = socket.socketpair()
        with here, ExitStack() as held:
            for _ in range(pool().lane.at_once):
                held.enter_context(pool().turn())
            there.close()
            left = self.client.get(address, **{"gunicorn.socket": here})
            with patch.object(pool().lane, "door", replace(pool().lane.door, waiting=0)):
                late = self.client.get(address)
                bench = replace(home_bench(), brief=replace(home_bench().brief, distance_m=2 + random.random()))
                drawing = self.client.get("/drawing.svg", {"b": encode(bench), "panel": "frames"})
        self.assertContains(drawing, "Others wait for the same just now: drawing.", status_code=503)
        for page in (left, late):
            self.assertEqual((page.status_code, page["Retry-After"]), (503, "1"))
            self.assertNotIn("Cache-Control", page)
        here, there = socket.socketpair()
        with here, there:
            self.assertEqual(self.client.get(address, **{"gunicorn.socket": here}).status_code, 200)

    def test_the_pictures_that_are_kept_never_take_more_than_their_bound_and_the_longest_unused_go_first(self):
        folder = self.enterContext(TemporaryDirectory())
        options = settings.CACHES["pictures"]["OPTIONS"] | {"size_limit": 1_600_000}
        kept = FileCache(folder, {"OPTIONS": options, "SHARDS": 2, "TIMEOUT": None})
        for number in range(160):
            kept.set(f"picture {number}", bytes(20_000))
            self.assertIsNotNone(kept.get("picture 0"), "it is used all the time")
        self.assertLess(sum(one.stat().st_size for one in Path(folder).rglob("*.val")), 2_000_000)
        self.assertIsNone(kept.get("picture 1"))
        self.assertIsNotNone(kept.get("picture 159"))
        kept.close()

    def test_a_picture_that_is_damaged_where_it_is_kept_is_drawn_again(self):
        address = f"/scene/{self.token}/80.webp"
        whole = self.client.get(address).content
        for damage in (
            lambda file: file.write_bytes(file.read_bytes()[:-40]),
            lambda file: file.write_bytes(bytes(file.stat().st_size)),
        ):
            for file in Path(settings.CACHES["pictures"]["LOCATION"]).rglob("*.val"):
                damage(file)
            self.assertEqual(self.client.get(address).content, whole)


class SceneFileTests(TestCase):
    def test_every_scene_stands_up_to_its_schema(self):
        check = Draft202012Validator(json.loads((settings.ROOT / "docs" / "scene.schema.json").read_text()))
        for slug in scenes():
            data = json.loads((HOME / slug / "scene.json").read_text())
            with self.subTest(slug):
                self.assertEqual([error.message for error in check.iter_errors(data)], [])
                for layer in data["layers"]:
                    self.assertTrue((HOME / slug / layer["art"]).is_file())


class PanelTests(TestCase):
    def test_panel_shows_a_picture_a_ring_and_words_for_each_rig(self):
        page = self.client.get(
            "/", {"b": encode(home_bench()), "grain": "1", "bright": "set", "strip": "0", "loupe": "0,1.6"}
        )
        self.assertEqual(len(page.context["page"].faces.pictures), 3)
        for part in (
            'data-keep="2"',
            "A: sharp: the driver",
            "by 0.76% of the diagonal",
            "loupe-1",
            "stop:0:",
            "no lens character",
        ):
            self.assertContains(page, part)
        address = page.context["page"].address
        for part in ("grain=1", "bright=set", "strip=0", "loupe=0%2C1.6"):
            self.assertIn(part, address)

    def test_every_brief_has_its_scene(self):
        for slug, sample in sample_briefs().items():
            self.assertIn(sample.scene, scenes())
            page = self.client.get("/", {"b": encode(with_brief(home_bench(), slug))})
            self.assertContains(page, scenes()[sample.scene].name)

    def act(self, action, bench=None, status=200):
        query = {"b": encode(bench or home_bench()), "action": action}
        page = self.client.get("/", query, headers={"HX-Request": "true"})
        self.assertEqual(page.status_code, status, action)
        return page

    def after(self, action, bench=None, **query):
        """The bench that a press leads to."""
        query |= {"b": encode(bench or home_bench()), "action": action}
        return self.client.get("/", query, follow=True).context["page"].bench

    def test_arranging_goes_along_in_the_link(self):
        moved = self.after("arrange:1:2.5:-1:1.5")
        self.assertEqual(moved.changes, (LayerChange(1, 2.5, -1.0, 1.5),))
        again = decode(encode(moved))
        self.assertEqual(again, moved)
        self.assertEqual(encode(replace(moved, changes=())), encode(home_bench()))
        self.assertEqual(self.after("arrange_reset", moved).changes, ())
        for wrong in ("arrange:1:2.5:-1:99", "arrange:77:1:1:1", "arrange:1:nan:0:1", "arrange:1:1e9:0:1", "arrange:1"):
            self.assertContains(self.act(wrong, status=422), "field-error", status_code=422)

    @tag("long")
    def test_placing_a_thing_as_it_is_shown_moves_nothing_in_any_unit(self):
        for units in ("m", "ft"):
            query = {"b": encode(home_bench()), "units": units}
            for thing in self.client.get("/", query).context["page"].faces.placed:
                action = f"arrange:{thing.index}:{thing.behind}:{thing.across}:{thing.scale}"
                self.assertEqual(self.after(action, units=units).changes, (), (units, thing.name))
                farther = f"arrange:{thing.index}:3 m:{thing.across}:{thing.scale}"
                changes = self.after(farther, units=units).changes
                self.assertEqual(changes, (LayerChange(thing.index, 3.0, *thing.place[1:]),), (units, thing.name))

    @tag("long")
    def test_a_press_focuses_on_what_was_pressed_in_that_camera_s_picture(self):
        """Two cameras that walked: what stands behind the subject is so far behind it for either, and the focus is said
        of the first.
        """
        home = home_bench()
        longer = replace(
            home.slots[1], rig=replace(home.slots[1].rig, focal_length_mm=2 * home.slots[1].rig.focal_length_mm)
        )
        bench = replace(home, hold=replace(home.hold, lens="own", place="walk"), slots=(home.slots[0], longer))
        first, second = (compared(bench).of(index).settings for index in (0, 1))
        self.assertGreater(abs(second.subject_distance_m - first.subject_distance_m), 0.1)
        for index in (0, 1):
            camera = shot(bench, index).camera
            for x, y, behind_m in ((0.1, 0.3, bench.brief.background_m), (0.42, 0.4, None)):
                focused = perform(f"focus_at:{index}:{x}:{y}", State(bench, Look(PARTS))).bench.brief.focus_distance_m
                if behind_m is None:
                    self.assertIsNone(focused)
                else:
                    self.assertAlmostEqual(focused, first.subject_distance_m + behind_m, places=3)
            self.assertAlmostEqual(camera.subject_distance_m, (first, second)[index].subject_distance_m, places=4)

    def test_touches(self):
        bench, look = home_bench(), Look(PARTS)

        def after(press, bench=bench):
            return perform(press, State(bench, look))

        focused = after("focus_at:0:0.1:0.3").bench
        self.assertAlmostEqual(focused.brief.focus_distance_m, 7.0, places=4)
        back = after("focus_at:0:0.42:0.4", focused).bench
        self.assertIsNone(back.brief.focus_distance_m)
        nearer = after("drag_at:0:0.42:0.4:0.5").bench
        self.assertEqual(nearer.brief.distance_m, 1.0)
        farther = after("drag_at:0:0.1:0.3:2").bench
        self.assertEqual(farther.brief.background_m, 12.0)
        boiler = after("drag_at:0:0.8:0.5:1.5").bench
        self.assertEqual(len(boiler.changes), 1)
        seen = after("loupe_at:0:0.5:0.5").look
        scene = scenes()["footplate"]
        self.assertAlmostEqual(seen["loupe"][0], scene.aim_x_m)
        low = after("loupe_at:1:0.25:0.9").look["loupe"]
        camera = shot(bench, 1).camera
        wide, high = (
            camera.subject_distance_m * side / camera.image_distance_mm for side in (camera.width_mm, camera.height_mm)
        )
        self.assertAlmostEqual(low[0], scene.aim_x_m - 0.25 * wide, places=3)
        self.assertAlmostEqual(low[1], camera.aim_height_m - 0.4 * high, places=3)
        part = loupe_of(shot(bench, 1), bench.brief, compared(bench).of(1), *low)
        self.assertAlmostEqual(part.window[0] + part.window[2] / 2, 0.25, places=3)
        self.assertAlmostEqual(part.window[1] + part.window[3] / 2, min(0.9, 1 - part.window[3] / 2), places=3)
        for wrong in (
            "focus_at:9:0.5:0.5",
            "focus_at:0:2:0.5",
            "drag_at:0:0.4:0.4:1e9",
            "loupe_at:0",
            "focus_at:0:nan:0.5",
        ):
            self.assertContains(self.act(wrong, status=422), "field-error", status_code=422)

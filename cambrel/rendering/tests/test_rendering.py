"""The picture is what the optics say: discs of their true size, light conserved, flat fields flat, and near to a
picture built of many pinholes.
"""

import os
import tempfile
import threading
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from math import hypot, pi
from pathlib import Path
from unittest import TestCase, mock

import numpy as np

from cambrel.comparison.bench import LayerChange
from cambrel.comparison.brief import Brief
from cambrel.optics.colour import BYTE_TO_LINEAR, hex_to_linear, shoulder, to_bytes, to_linear, to_srgb
from cambrel.optics.quantities import DomainError
from cambrel.optics.scene import Camera, disc_mm, scale_mm_per_m
from cambrel.rendering.cutouts import EDGE_PX, FULL, CutoutSizes, Shop, baked
from cambrel.rendering.discs import blur, kernel, smear
from cambrel.rendering.pick import pick
from cambrel.rendering.render import disc_px, encode, finish, render
from cambrel.rendering.take import Take
from cambrel.scenes import Ground, Lamp, Layer, Scene, scenes

SMALL = 640
CAMERA = Camera(50, 1.8, 2.0, 2.0, 36, 24)


class PaperShop:
    """Cut-outs of one colour, made here: so wide and high in centimetres about their origin."""

    def __init__(self, **papers):
        self.papers = papers

    def sheet(self, slug, art, px_per_cm=0):
        wide, high, grey = self.papers[art]
        pixels = np.zeros((high + 4, wide + 4, 4), np.uint16)
        pixels[2:-2, 2:-2] = [*[round(grey * FULL)] * 3, FULL]
        return CutoutSizes(-wide / 2 - 2, -high - 2, wide, high, 1.0, (pixels,))


def scene_of(layers=(), lamps=(), backdrop="#000000"):
    return Scene("paper", "Paper", 1.5, 0.0, 0.0, 1.5, backdrop, 1.75, (), tuple(layers), None, tuple(lamps))


def wall(behind, name="wall", base=-15.0):
    return Layer(name, name, behind, 0.0, base)


class DiscTests(TestCase):
    def test_kernels_sum_to_one_and_have_their_area(self):
        for quarters in (2, 5, 9, 21, 44, 100):
            made = kernel(quarters)
            self.assertAlmostEqual(float(made.sum()), 1, places=5)
            self.assertAlmostEqual(
                1 / float(made.max()),
                max(1.0, pi * (quarters / 8) ** 2),
                delta=0.06 * max(1.0, pi * (quarters / 8) ** 2),
            )

    def test_a_lamp_s_disc_has_the_diameter_and_the_light_of_the_optics(self):
        lamp = Lamp("lamp", 8.0, 0.0, 1.5, 0.02, 9.0, "#ffffff")
        own = None
        for f_number in (1.2, 1.8, 2.8, 4.0):
            camera = replace(CAMERA, f_number=f_number)
            view = Take(scene_of(lamps=[lamp]), camera, 630, 420)
            picture = render(view, PaperShop(long_side_px=SMALL))[..., 1]
            row = picture[210]
            wide = np.count_nonzero(row > row.max() / 2)
            self.assertAlmostEqual(wide, float(disc_mm(camera, 10.0)) * view.px_per_mm, delta=1.2)
            own = own or float(picture.sum())
            self.assertAlmostEqual(float(picture.sum()) / own, 1, delta=0.02)
        size = 0.02 * float(scale_mm_per_m(CAMERA, 10.0)) * view.px_per_mm
        self.assertAlmostEqual(own / (9.0 * pi * size**2 / 4), 1, delta=0.03)

    def test_a_moving_lamp_leaves_a_streak_of_the_same_light(self):
        lamp = Lamp("lamp", 0.0, 0.0, 1.5, 0.02, 9.0, "#ffffff", moves=True)
        still = Take(scene_of(lamps=[lamp]), CAMERA, 630, 420)
        moved = replace(still, speed_m_per_s=4.0, shutter_s=1 / 60)
        pictures = [render(view, PaperShop())[..., 0] for view in (still, moved)]
        self.assertAlmostEqual(float(pictures[1].sum() / pictures[0].sum()), 1, delta=0.02)
        long = 4.0 / 60 * float(scale_mm_per_m(CAMERA, 2.0)) * still.px_per_mm
        lit = np.count_nonzero(pictures[1][210] > pictures[1].max() / 2)
        own = np.count_nonzero(pictures[0][210] > pictures[0].max() / 2)
        self.assertAlmostEqual(lit, long, delta=own + 2)

    def test_a_bright_point_does_not_leak_through_a_blurred_edge(self):
        lamp, card = Lamp("lamp", 20.0, 0.0, 1.5, 0.05, 20.0, "#ffffff"), Layer("card", "card", 0.0, 0.5, 0.5)
        shop = PaperShop(card=(100, 200, 0.0))
        free = render(Take(scene_of(lamps=[lamp]), CAMERA, 420, 280), shop).sum()
        # the sharp card covers the right half of what the lamp's disc falls on, and with it half of the pupil
        half = render(Take(scene_of([card], [lamp]), CAMERA, 420, 280), shop)
        self.assertAlmostEqual(float(half.sum() / free), 0.5, delta=0.03)
        self.assertLess(float(half[:, 213:].max()), 0.01)

    def test_blur_and_streak_conserve_the_light(self):
        picture = np.zeros((80, 80, 4), np.float32)
        picture[30:50, 35:45] = 1
        for made in (blur(picture, 9.3), smear(picture, 12.0)):
            self.assertAlmostEqual(float(made.sum() / picture.sum()), 1, places=4)
        self.assertAlmostEqual(np.count_nonzero(smear(picture, 12.0)[40, :, 0] > 0.01), 22, delta=1)


class PictureTests(TestCase):
    tags = frozenset({"long"})

    def test_a_flat_grey_scene_stays_flat_to_the_edge(self):
        for f_number, behind in ((1.2, 3.0), (1.2, -0.9), (16.0, 20.0)):
            view = Take(scene_of([wall(behind)]), replace(CAMERA, f_number=f_number), 210, 140)
            picture = render(view, PaperShop(wall=(3000, 3000, 0.25)))
            self.assertLess(float(np.abs(picture - 0.25).max()), 2e-3)

    def test_a_layer_is_as_wide_as_the_optics_say(self):
        for behind, reduced in ((0.0, 280), (0.0, 140), (6.0, 420)):
            view = Take(
                scene_of([Layer("card", "card", behind, 0.0, 1.0)]),
                replace(CAMERA, f_number=22),
                round(reduced * 1.5),
                reduced,
            )
            picture = render(view, PaperShop(card=(50, 100, 1.0)))[..., 0]
            wide = 0.5 * float(scale_mm_per_m(CAMERA, 2.0 + behind)) * view.px_per_mm
            self.assertAlmostEqual(float(picture[reduced // 2].sum()), wide, delta=0.3)

    def test_a_window_is_the_same_part_of_the_picture(self):
        scene, shop = scenes()["footplate"].arranged(Brief(foreground_m=0.8)), Shop(long_side_px=SMALL)
        camera = Camera(
            50, 2.8, 2.0, 2.0, 36, 24, scene.camera_x_m, scene.camera_height_m, scene.aim_x_m, scene.aim_height_m
        )
        whole = render(Take(scene, camera, 600, 400), shop)
        part = render(Take(scene, camera, 150, 100, (0.25, 0.25, 0.25, 0.25)), shop)
        self.assertLess(float(np.abs(whole[102:198, 152:298] - part[2:98, 2:148]).mean()), 0.012)

    def test_it_is_near_to_a_picture_built_of_pinholes(self):
        """The mean of pinhole pictures from all over the pupil, each aimed so that the plane of focus coincides."""
        scene, shop = (
            scenes()["footplate"].arranged(Brief(background_m=5.0, foreground_m=None)),
            Shop(long_side_px=SMALL),
        )
        camera = Camera(
            50, 1.2, 2.0, 2.0, 36, 27, scene.camera_x_m, scene.camera_height_m, scene.aim_x_m, scene.aim_height_m
        )
        view = Take(scene, camera, 64, 48)
        radius, total, count = 50 / 1.2 / 2000, np.zeros((48, 64, 3)), 0
        for x in np.linspace(-1, 1, 13):
            for y in np.linspace(-1, 1, 13):
                if hypot(x, y) > 1:
                    continue
                moved = replace(
                    camera,
                    camera_x_m=camera.camera_x_m + x * radius,
                    camera_height_m=camera.camera_height_m + y * radius,
                )
                total += render(replace(view, camera=moved, is_sharp=True), shop)
                count += 1
        wanted = to_srgb(shoulder(np.float32(total / count)))
        found = to_srgb(shoulder(render(view, shop)))
        self.assertGreater(-10 * np.log10(np.mean((wanted - found) ** 2)), 36)

    def test_every_scene_is_drawn_and_its_thing_found(self):
        with tempfile.TemporaryDirectory() as folder:
            shop = Shop(Path(folder), long_side_px=SMALL)
            for slug, scene in scenes().items():
                with self.subTest(slug):
                    subject = next(layer for layer in scene.layers if layer.anchor == "subject")
                    self.assertEqual(
                        {"subject", "background", "foreground"} - {la.anchor for la in scene.layers} - {"background"},
                        set(),
                    )
                    height, away = scene.subject_height_m, scene.subject_height_m * 4
                    camera = Camera(
                        35,
                        4,
                        away,
                        away,
                        36,
                        24,
                        scene.camera_x_m,
                        scene.camera_height_m,
                        scene.aim_x_m,
                        scene.aim_height_m,
                    )
                    arranged = scene.arranged(Brief(distance_m=away, subject_height_m=height, background_m=None))
                    view = Take(arranged, camera, 96, 64)
                    pixels = finish(render(view, shop), view)
                    self.assertGreater(float(pixels.std()), 8)
                    without = scene.arranged(
                        Brief(distance_m=away, subject_height_m=height),
                        (LayerChange(scene.layers.index(subject), 0, 0, 0),),
                    )
                    self.assertNotIn(subject.name, [layer.name for layer in without.layers])
            shop.sheet("night", "hills.svg")
            self.assertTrue(Shop(Path(folder), long_side_px=SMALL).is_ready("night", ["hills.svg"]))

    def test_a_parser_that_trips_once_is_asked_once_more(self):
        with tempfile.TemporaryDirectory() as name:
            shop, load, faults = Shop(Path(name), SMALL), np.load, [SystemError("depth mismatch")]

            def tripping(*given, **more):
                if faults:
                    raise faults.pop()
                return load(*given, **more)

            with mock.patch.object(np, "load", tripping):
                self.assertTrue(shop.sheet("footplate", "driver.svg").levels)
            self.assertEqual(faults, [])

    def test_what_is_baked_is_mapped_shared_and_swept(self):
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            plain, made = (
                Shop(None, SMALL).sheet("footplate", "driver.svg"),
                Shop(folder, SMALL).sheet("footplate", "driver.svg"),
            )
            (folder / "old-driver-0123").mkdir()
            (folder / "old.png").touch()
            shop = Shop(folder, SMALL)
            shop.sweep()
            (home,) = folder.iterdir()
            again = shop.sheet("footplate", "driver.svg")
            for levels in zip(plain.levels, made.levels, again.levels, strict=True):
                self.assertEqual(
                    [level.flags.writeable for level in levels], [True, False, False], "mapped from the files"
                )
                self.assertTrue((levels[0] == levels[1]).all() and (levels[1] == levels[2]).all())
            self.assertEqual(len(list(home.glob("*.npy"))), len(made.levels))

    def test_until_a_drawing_is_baked_a_small_picture_is_drawn_from_a_small_one(self):
        with tempfile.TemporaryDirectory() as name:
            shop, art = Shop(Path(name), 512), ("footplate", "driver.svg")
            small = shop.sheet(*art, 0.1)
            wanted = 1.01 * small.px_per_cm
            larger = shop.sheet(*art, wanted)
            self.assertAlmostEqual(max(small.levels[0].shape) - 2 * EDGE_PX, 128, delta=1)
            self.assertAlmostEqual(max(larger.levels[0].shape) - 2 * EDGE_PX, 256, delta=1)
            self.assertGreaterEqual(larger.px_per_cm, wanted)
            self.assertIs(shop.sheet(*art, 0.1), larger)
            whole = shop.sheet(*art, 1.01 * larger.px_per_cm)
            self.assertAlmostEqual(max(whole.levels[0].shape) - 2 * EDGE_PX, 512, delta=1)
            self.assertIs(shop.sheet(*art, 0.1), whole, "once it is baked, that one is used")

    def test_a_picture_from_small_drawings_is_the_one_from_whole_ones(self):
        scene = scenes()["footplate"].arranged(Brief(foreground_m=0.8))
        camera = Camera(
            50, 2.8, 2.0, 2.0, 36, 24, scene.camera_x_m, scene.camera_height_m, scene.aim_x_m, scene.aim_height_m
        )
        view = Take(scene, camera, 210, 140)
        with tempfile.TemporaryDirectory() as name:
            rough = finish(render(view, Shop(Path(name))), view).astype(float)
        whole = finish(render(view, Shop()), view).astype(float)
        self.assertLess(np.abs(rough - whole).mean(), 2.0, "of 255")

    def test_one_of_several_bakes_and_one_that_died_on_the_way_is_not_waited_for(self):
        with tempfile.TemporaryDirectory() as name:
            home, made, waiting = Path(name) / "home", [], threading.Event()

            def make():
                made.append(1)
                waiting.wait(10)  # until another waits for it
                return (np.zeros((4, 4, 4), np.uint16),)

            with ThreadPoolExecutor(4) as several, mock.patch("cambrel.rendering.cutouts.time.sleep") as sleep:
                sleep.side_effect = lambda seconds: waiting.set()
                found = list(several.map(lambda _: baked(home, make), range(4)))
            self.assertEqual((len(made), {len(levels) for levels in found}), (1, {1}))
            dead = home.with_name(".other")
            dead.mkdir()
            os.utime(dead, (1, 1))
            self.assertEqual(len(baked(home.with_name("other"), make)), 1)

    def test_one_that_looked_before_another_was_done_takes_what_that_one_put_there(self):
        with tempfile.TemporaryDirectory() as name:
            home, taken, begun = Path(name) / "home", Path.mkdir, []

            def after_the_other(part, **how):
                if not begun:
                    begun.append(part)
                    baked(home, lambda: (np.zeros((4, 4, 4), np.uint16),))
                taken(part, **how)

            with mock.patch.object(Path, "mkdir", after_the_other):
                levels = baked(home, lambda: self.fail("it is there"))
            self.assertEqual((len(levels), len(begun), [path.name for path in Path(name).iterdir()]), (1, 1, ["home"]))

    def test_pick_finds_the_nearest_thing(self):
        scene = scenes()["footplate"].arranged(Brief(foreground_m=0.8))
        camera = Camera(
            24, 4, 2.0, 2.0, 36, 24, scene.camera_x_m, scene.camera_height_m, scene.aim_x_m, scene.aim_height_m
        )
        layer, away = pick(Take(scene, camera, 420, 280), Shop(long_side_px=SMALL), 0.45, 0.45)
        self.assertEqual((layer.name, away), ("driver", 2.0))


class OverEachOtherTests(TestCase):
    """What lies over what, and what reaches into the picture from beside it."""

    def shot(self, layers, shop, lamps=(), camera=CAMERA, **more):
        view = Take(scene_of(layers, lamps), camera, 420, 280, **more)
        return view, render(view, shop)[..., 1]

    def test_what_is_beside_the_frame_blurs_into_it(self):
        """A white card that begins just outside the frame: at the frame's edge its disc covers a known part."""
        away, camera = 12.0, replace(CAMERA, focal_length_mm=85, f_number=1.2)
        view = Take(scene_of(), camera, 420, 280)
        radius = float(disc_mm(camera, away)) * view.px_per_mm / 2
        self.assertGreater(radius, 12)
        gap = radius * 0.5
        edge_m = (210 + gap) / (float(scale_mm_per_m(camera, away)) * view.px_per_mm)
        for side in (1, -1):
            card = Layer("card", "card", away - 2.0, side * (edge_m + 5.0), -5.0)
            _, picture = self.shot([card], PaperShop(card=(1000, 2000, 1.0)), camera=camera)
            column = picture[140, ::-1] if side == 1 else picture[140]
            # the share of a disc beyond a chord at its distance from the centre
            for at in (0.5, radius / 3):
                t = (at + gap) / radius
                share = (np.arccos(t) - t * np.sqrt(1 - t * t)) / pi
                self.assertAlmostEqual(float(column[int(at)]), float(share), delta=0.04)
                self.assertGreater(float(share), 0.01)

    def test_a_surface_that_ends_below_the_frame_blurs_into_it(self):
        camera = Camera(100, 1.2, 1e4, 100.0, 36, 24, camera_height_m=0.3, aim_height_m=0.3)
        ground = Ground(0.0, "#ffffff", "#ffffff", 1.0, -99.9, -97.6)
        scene = replace(scene_of(), surfaces=(ground,), camera_height_m=0.3, aim_height_m=0.3)
        view = Take(scene, camera, 420, 280)
        picture = render(view, PaperShop())[..., 1]
        far_edge = 140 + 100 * 0.3 / 2.4 * view.px_per_mm
        self.assertGreater(far_edge, 283, "it is beyond the frame itself")
        self.assertGreater(float(picture[279, 210]), 0.05)
        self.assertLess(float(picture[200, 210]), 0.001)

    def test_the_nearer_covers_the_farther_and_neither_softens_the_other(self):
        far, near = Layer("far", "far", 8.0, 0.0, -15.0), Layer("near", "near", 0.0, 1.0, 0.0)
        shop = PaperShop(far=(4000, 4000, 0.2), near=(200, 400, 0.8))
        _, picture = self.shot([near, far], shop)
        self.assertAlmostEqual(float(picture[140, 300]), 0.8, places=2)
        self.assertAlmostEqual(float(picture[140, 60]), 0.2, places=2)
        rise = np.count_nonzero((picture[140] > 0.26) & (picture[140] < 0.74))
        self.assertLessEqual(rise, 2, "the edge of what is in focus stays sharp before what is not")

    def test_things_of_one_disc_lie_over_each_other_as_well(self):
        far, near = Layer("far", "far", 0.05, 0.0, -15.0), Layer("near", "near", 0.0, 1.0, 0.0)
        _, picture = self.shot([near, far], PaperShop(far=(4000, 4000, 0.2), near=(200, 400, 0.8)))
        self.assertAlmostEqual(float(picture[140, 300]), 0.8, places=2)
        self.assertAlmostEqual(float(picture[140, 60]), 0.2, places=2)

    def test_each_keeps_the_disc_of_its_own_distance(self):
        """Two edges at unlike distances that are neighbours in depth: the width of each is its own disc."""
        for behind in (1.0, 4.0):
            pair = [Layer("a", "a", behind, -0.6, 0.0), Layer("b", "b", 12.0, 30.0, -15.0)]
            view, picture = self.shot(pair, PaperShop(a=(100, 400, 1.0), b=(10, 10, 0.1)))
            row = picture[140, :210]
            wide = np.count_nonzero((row > 0.02) & (row < 0.98)) / 2
            disc = float(disc_mm(CAMERA, 2.0 + behind)) * view.px_per_mm
            self.assertAlmostEqual(wide, disc * 0.93, delta=1.5)

    def test_a_lamp_is_cut_on_the_side_of_the_pupil_that_is_covered(self):
        """A card over the right half of what the lamp's rays pass: behind the focus it cuts the right of the disc, and
        before it too.
        """
        lamp = Lamp("lamp", 20.0, 0.0, 1.5, 0.05, 20.0, "#ffffff")
        for behind in (3.0, -0.8):
            card = Layer("card", "card", behind, 5.0, -5.0)
            _, picture = self.shot([card], PaperShop(card=(1000, 2000, 0.0)), [lamp])
            left, right = float(picture[:, :208].sum()), float(picture[:, 212:].sum())
            self.assertGreater(left, 0)
            self.assertLess(right, 0.06 * left, f"card {behind} m behind the subject")

    def test_what_moves_is_smeared_by_its_streak(self):
        card = Layer("card", "card", 0.0, 0.5, 0.0, moves=True)
        shop = PaperShop(card=(100, 400, 1.0))
        rises = []
        for speed in (0.0, 3.0):
            view, picture = self.shot([card], shop, speed_m_per_s=speed, shutter_s=1 / 60)
            rises.append(np.count_nonzero((picture[140, :260] > 0.02) & (picture[140, :260] < 0.98)))
        streak = 3.0 / 60 * float(scale_mm_per_m(CAMERA, 2.0)) * view.px_per_mm
        self.assertAlmostEqual(rises[1] - rises[0], streak, delta=2.5)


class ToneTests(TestCase):
    def test_there_and_back(self):
        levels = np.arange(256)
        self.assertTrue((to_bytes(BYTE_TO_LINEAR[levels][None, :, None].repeat(3, 2)) == levels[None, :, None]).all())
        self.assertAlmostEqual(float(to_srgb(to_linear(0.5))), 0.5, places=9)
        self.assertAlmostEqual(float(hex_to_linear("#ffffff")[0]), 1)

    def test_the_shoulder_is_straight_below_and_never_reaches_one(self):
        light = np.array([0.2, 0.75, 1.0, 30.0], np.float32)
        made = shoulder(light)
        self.assertTrue((made[:2] == light[:2]).all() and made[3] < 1 and (np.diff(made) > 0).all())

    def test_grain_is_as_strong_as_the_light_says_and_gain_is_in_stops(self):
        view = Take(scene_of([wall(0.0)]), CAMERA, 300, 200, snr=20.0)
        picture = np.full((200, 300, 3), 0.18, np.float32)
        linear = to_linear(finish(picture, view) / 255)
        self.assertAlmostEqual(float(linear.std() / 0.18), 1 / 20, delta=0.004)
        # photon noise goes with the root of the light: a fourth of the light has half the grain, twice as much
        # against itself
        dark = to_linear(finish(np.full((200, 300, 3), 0.045, np.float32), view) / 255)
        self.assertAlmostEqual(float(dark.std() / 0.045), 1 / 10, delta=0.006)
        brighter = to_linear(finish(picture, replace(view, snr=0.0, gain_stops=1.0)) / 255)
        self.assertAlmostEqual(float(brighter.mean()), 0.36, delta=0.01)

    def test_files_and_bounds(self):
        pixels = np.zeros((20, 30, 3), np.uint8)
        self.assertEqual(encode(pixels)[8:12], b"WEBP")
        self.assertEqual(encode(pixels, "png")[1:4], b"PNG")
        for wrong in (
            {"width_px": 5000, "height_px": 5000},
            {"width_px": 4},
            {"window": (0, 0, 0.001, 0.001)},
            {"snr": -1.0},
        ):
            with self.assertRaises(DomainError):
                Take(**({"scene": scene_of(), "camera": CAMERA, "width_px": 60, "height_px": 40} | wrong))
        self.assertEqual(disc_px(Take(scene_of(), CAMERA, 60, 40, is_sharp=True), 9.0), 0)

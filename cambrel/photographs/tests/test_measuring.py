"""Measured on pictures of known truth: within what is promised, refused where it must be, warned where it is
doubtful.
"""

from unittest import TestCase

import cv2
import numpy as np

from cambrel.photographs.edges import slanted_edge
from cambrel.photographs.light import MeasureError
from cambrel.photographs.noise import LEAST_BLOCKS, patch_noise
from cambrel.photographs.spots import disc_of_light
from cambrel.photographs.tests.synthetic import coded, disc, edge, patch
from cambrel.photographs.views import view_ratio

GREY_OF_THREE = 1 / np.sqrt(0.2126**2 + 0.7152**2 + 0.0722**2)
"""Three channels of independent noise are so much cleaner together than one."""
PIXELS = 24e6


class EdgeTests(TestCase):
    def test_random_edges_are_within_what_is_promised(self):
        random = np.random.default_rng(3)
        off = {0.03: [], 0.06: [], 0.15: []}
        for k in range(90):
            mtf50 = random.uniform(0.06, 0.35) if k < 70 else random.uniform(0.52, 0.6)
            dark = random.uniform(0.05, 0.1)
            light = edge(
                mtf50, random.uniform(2, 12), 100, int(random.integers(70, 200)), dark, dark * random.uniform(2.1, 9),
                random.uniform(25, 100), seed=k,
            )  # fmt: skip
            codes = coded(light, random.choice([None, 85, 95]))
            found = slanted_edge(codes.swapaxes(0, 1) if k % 2 else codes[:, ::-1] if k % 3 else codes)
            off[found.within].append(found.mtf50_per_px / mtf50 - 1)
            self.assertEqual(found.is_bound, found.mtf50_per_px > 0.5)
            self.assertFalse(found.is_sharpened or found.is_low or found.is_bent)
        for within, errors in off.items():
            with self.subTest(within=within):
                self.assertGreater(len(errors), 15)
                self.assertLess(np.quantile(np.abs(errors), 0.95), within)
                self.assertLess(abs(np.mean(errors)), within / 6)

    def test_an_edge_without_noise_is_read_without_bias(self):
        for angle in (4, 7, 11):
            for mtf50 in (0.2, 0.45, 0.57):
                found = slanted_edge(coded(edge(mtf50, angle, 100, 240, snr=1e5))).mtf50_per_px
                self.assertAlmostEqual(found / mtf50, 1, delta=0.02, msg=f"{mtf50} at {angle} degrees")

    def test_the_angle_and_the_spread_are_those_of_the_edge(self):
        found = slanted_edge(coded(edge(0.1, 7, snr=500)))
        self.assertAlmostEqual(found.angle_deg, 7, delta=0.1)
        # a Gaussian of this response has its 10 to 90 % over 2.563 sigma, the pixel's own area adds a little
        sigma = np.sqrt(np.log(2) / (2 * np.pi**2 * 0.1**2))
        self.assertAlmostEqual(found.rise_px / (2.563 * np.hypot(sigma, 0)), 1, delta=0.06)

    def test_what_cannot_be_measured_is_refused_with_its_reason(self):
        cases = (
            (edge(0.2, 0.4), "0.4° to the pixels"),
            (edge(0.2, 43, 200, 120), "to the pixels"),
            (edge(0.2, 5, dark=0.3, bright=0.42), "differ too little"),
            (edge(0.2, 5, snr=6), "too noisy|no edge"),
            (edge(0.2, 5, 38, 90), "40 pixels across"),
            (edge(0.2, 5, 90, 55), "60 along"),
            (edge(0.2, 5, dark=0.3, bright=1.1), "burnt out or black"),
            (edge(0.2, 5, dark=0.0, bright=0.5), "burnt out or black"),
            (edge(0.2, 5, bend=1.2), "bent"),
            (np.full((90, 90), 0.3), "no edge|differ"),
        )
        for light, says in cases:
            with self.subTest(says=says), self.assertRaisesRegex(MeasureError, says):
                slanted_edge(coded(light))

    def test_doubtful_edges_are_marked(self):
        self.assertTrue(slanted_edge(coded(edge(0.2, 5, dark=0.2, bright=0.36, snr=80))).is_low)
        self.assertFalse(slanted_edge(coded(edge(0.2, 5, dark=0.2, bright=0.44, snr=80))).is_low)
        self.assertTrue(slanted_edge(coded(edge(0.2, 5, bend=0.4, snr=80))).is_bent)
        self.assertTrue(slanted_edge(coded(edge(0.2, 14.04, 110, snr=80))).is_periodic)
        light = edge(0.2, 5, snr=200)
        sharpened = light + 0.8 * (light - cv2.GaussianBlur(light, (0, 0), 1.5))
        self.assertTrue(slanted_edge(coded(sharpened)).is_sharpened)


class NoiseTests(TestCase):
    def mean_of(self, snr, quality=None, **more):
        found = [patch_noise(coded_three(patch(snr, seed=k, **more), quality), PIXELS, quality) for k in range(10)]
        return np.mean([one.snr for one in found]), found[0]

    def test_noise_is_that_of_the_picture_at_one_size_whatever_the_light_or_the_compression(self):
        for snr, quality, mean, within in (
            (20, None, 0.18, 0.03), (20, 90, 0.18, 0.1), (10, 80, 0.18, 0.14), (50, None, 0.18, 0.03),
            (100, None, 0.18, 0.04),
            (20, None, 0.12, 0.03), (20, None, 0.28, 0.03),
        ):  # fmt: skip
            with self.subTest(snr=snr, quality=quality, mean=mean):
                at_grey = snr * np.sqrt(0.18 / mean) * GREY_OF_THREE * np.sqrt(PIXELS / 8e6)
                found, one = self.mean_of(snr, quality, mean=mean)
                self.assertAlmostEqual(found / at_grey, 1, delta=within)
                self.assertFalse(one.is_bound or one.is_reduced)
                self.assertAlmostEqual(one.within, 1 / np.sqrt(2 * (625 - 6)), places=9)

    def test_developing_from_colour_filters_hides_little_in_a_large_patch(self):
        masks = np.zeros((3, 240, 240), bool)
        masks[0, ::2, ::2] = masks[1, ::2, 1::2] = masks[1, 1::2, ::2] = masks[2, 1::2, 1::2] = True
        weights = np.array([[0.25, 0.5, 0.25], [0.5, 1.0, 0.5], [0.25, 0.5, 0.25]])
        ratios = []
        for seed in range(4):
            counted = patch(25, side=240, seed=seed)[..., 0]
            filled = [
                cv2.filter2D(counted * m, -1, weights) / cv2.filter2D(m.astype(float), -1, weights) for m in masks
            ]
            found = patch_noise(coded_three(np.stack(filled, axis=-1)), PIXELS)
            self.assertFalse(found.is_reduced)
            # over the whole picture a green pixel in two, a red and a blue in four make the luminance
            every = np.sqrt(2 * 0.7152**2 + 4 * 0.2126**2 + 4 * 0.0722**2)
            ratios.append(found.snr / (25 / every * np.sqrt(PIXELS / 8e6)))
        self.assertAlmostEqual(np.mean(ratios), 1, delta=0.1)

    def test_what_compression_hides_is_a_bound_and_what_is_smoothed_is_marked(self):
        self.assertTrue(self.mean_of(200, 95)[1].is_bound)
        self.assertFalse(self.mean_of(200)[1].is_bound)
        light = cv2.GaussianBlur(patch(15), (0, 0), 2.0)
        self.assertTrue(patch_noise(coded_three(light), PIXELS).is_reduced)
        self.assertTrue(patch_noise(coded_three(light), PIXELS, 95.0).is_reduced)

    def test_shading_costs_nothing_and_two_frames_are_free_of_texture(self):
        slope = 1 + 0.3 * np.linspace(-1, 1, 100)[:, None, None] * np.linspace(0.5, 1, 100)[None, :, None]
        texture = 1 + 0.03 * np.random.default_rng(9).standard_normal((25, 25, 1)).repeat(4, 0).repeat(4, 1)
        wanted = 50 * GREY_OF_THREE * np.sqrt(PIXELS / 8e6)
        shaded = np.mean([patch_noise(coded_three(patch(50, seed=k) * slope), PIXELS).snr for k in range(8)])
        self.assertAlmostEqual(shaded / wanted, 1, delta=0.04)
        one, other = (coded_three(patch(50, seed=k) * texture) for k in (1, 2))
        self.assertLess(patch_noise(one, PIXELS).snr / wanted, 0.5)
        self.assertAlmostEqual(patch_noise(one, PIXELS, other=other).snr / wanted, 1, delta=0.08)

    def test_patches_that_would_mislead_are_refused(self):
        side = 4 * int(np.sqrt(LEAST_BLOCKS))
        for light, says in (
            (patch(20, side=side), "too small"),
            (patch(20, mean=0.09), "1.0 stops darker than mid-grey.* with that much more light, or mark a brighter"),
            (patch(20, mean=0.31), "0.8 stops brighter than mid-grey.* with that much less light, or mark a darker"),
            (np.where(np.arange(100)[:, None, None] < 2, 1.0, patch(20)), "burnt out"),
        ):  # fmt: skip
            with self.subTest(says=says), self.assertRaisesRegex(MeasureError, says):
                patch_noise(coded_three(light), PIXELS)
        self.assertTrue(patch_noise(coded_three(patch(20, side=side + 4)), PIXELS))
        same = coded_three(patch(20))
        with self.assertRaisesRegex(MeasureError, "the same picture"):
            patch_noise(same, PIXELS, other=same)


def coded_three(light, quality=None):
    return (
        np.stack([coded(light[..., k])[..., 0] for k in range(3)], axis=-1)
        if quality is None
        else compressed(light, quality)
    )


def compressed(light, quality):
    ok, data = cv2.imencode(".jpg", coded_three(light)[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, quality])
    assert ok
    return cv2.imdecode(data, cv2.IMREAD_COLOR)[..., ::-1]


class DiscTests(TestCase):
    def test_discs_are_within_what_is_promised(self):
        random = np.random.default_rng(3)
        for low, high, within in ((5.6, 7.9, 0.05), (8.2, 14.8, 0.03), (15.2, 90, 0.01)):
            for k in range(25):
                wide = random.uniform(low, high)
                found = disc_of_light(
                    coded(
                        disc(wide, int(wide * 1.6 + 14), min(0.6, wide / 12), snr=random.choice([15, 30, 100]), seed=k)
                    )
                )
                with self.subTest(wide=wide):
                    self.assertLess(abs(found.diameter_px / wide - 1), found.within)
                    self.assertLessEqual(found.within, within)
                    self.assertFalse(found.is_at_most or found.is_cut)

    def test_a_cat_s_eye_is_marked_and_its_circle_found(self):
        for wide in (60, 90):
            found = disc_of_light(coded(disc(wide, wide + 40, cut=0.2)))
            self.assertTrue(found.is_cut)
            self.assertAlmostEqual(found.diameter_px / wide, 1, delta=found.within)
        with self.assertRaisesRegex(MeasureError, "cat’s eye"):
            disc_of_light(coded(disc(30, 70, cut=0.2)))

    def test_what_is_burnt_is_an_upper_bound_and_what_is_no_disc_is_refused(self):
        self.assertTrue(disc_of_light(coded(disc(40, 80, level=2.0))).is_at_most)
        for light, says in (
            (disc(4.2, 24, sigma=0.3), "under 5 pixels|no edge"), (disc(40, 60)[:, 14:], "cut by the edge"),
            (disc(20, 60, sigma=5.0), "no edge"),
            (np.full((40, 40), 0.2), "stands out"), (disc(5, 12), "too small"),
        ):  # fmt: skip
            with self.subTest(says=says), self.assertRaisesRegex(MeasureError, says):
                disc_of_light(coded(light))
        # brighter in its middle, and on one side a ground that is lit nearly as much as its rim: it has no end there
        y, x = np.mgrid[-40:40, -40:40]
        glow = np.where(np.hypot(x, y) < 20, 0.28, 0.0) + np.where(np.hypot(x, y) < 12, 0.22, 0.0)
        glow = np.where((x >= 18) & (np.abs(y) < 12) & (glow == 0), 0.2, glow)
        with self.assertRaisesRegex(MeasureError, "all around"):
            disc_of_light(coded(glow))


class ViewTests(TestCase):
    tags = frozenset({"long"})

    def scene(self, zoom, wide=900, high=600, blur=0.0, gain=1.0, seed=4):
        """A wall of bricks of all sizes as a lens of a zoom sees it: analytic, so that its truth is known."""
        random = np.random.default_rng(seed)
        large = cv2.GaussianBlur(random.random((1500, 2200)).astype(np.float32), (0, 0), 2.0) * 3
        for _ in range(500):
            x, y, w, h = random.integers([0, 0, 12, 8], [2100, 1400, 120, 80])
            large[y : y + h, x : x + w] = random.random()
        turn = np.array([[zoom, 0, wide / 2 - zoom * 1100], [0, zoom, high / 2 - zoom * 750]], float)
        seen = cv2.warpAffine(large, turn, (wide, high), flags=cv2.INTER_AREA if zoom >= 1 else cv2.INTER_LINEAR)
        seen = cv2.GaussianBlur(seen, (0, 0), blur) if blur else seen
        return coded(np.clip(seen * 0.4 * gain, 0, 1))

    def test_the_ratio_of_two_views_is_within_a_percent(self):
        first = self.scene(0.6)
        cases = (
            (0.6, 900, 600, 0, 1),
            (0.66, 900, 600, 1.5, 0.4),
            (0.9, 900, 600, 0, 1),
            (0.9, 800, 600, 0, 1),
            (1.1, 1350, 900, 0, 1),
        )
        for zoom, wide, high, blur, gain in cases:
            with self.subTest(zoom=zoom, wide=wide):
                found = view_ratio(first, self.scene(zoom, wide, high, blur, gain))
                there = np.hypot(wide, high) / zoom
                self.assertAlmostEqual(found.ratio / (np.hypot(900, 600) / 0.6 / there), 1, delta=found.within)

    def test_pictures_of_different_things_are_refused(self):
        with self.assertRaisesRegex(MeasureError, "The two pictures show too little in common"):
            view_ratio(self.scene(0.6), self.scene(0.6, seed=5))
        with self.assertRaisesRegex(MeasureError, "too little detail"):
            view_ratio(self.scene(0.6), np.full((600, 900, 3), 99, np.uint8))

"""Room that gear takes, against solids cut into small cubes and against packing by trial."""

import random
from dataclasses import replace
from itertools import permutations
from math import isnan, nan
from operator import le
from unittest import TestCase

import numpy as np

from cambrel.comparison.outer_sizes import (
    MOST_FILLED,
    Block,
    bag_fit,
    body_block,
    lens_block,
    rig_length_mm,
    rig_volume_l,
)
from cambrel.comparison.rig import Body, Lens
from cambrel.optics.formats import FULL_FRAME
from cambrel.optics.quantities import DomainError

BODY = Body(FULL_FRAME, outer_width_mm=130, outer_height_mm=90, outer_depth_mm=60)
LENS = Lens(50, 50, length_mm=52, diameter_mm=68, weight_g=200)


def counted_l(block):
    """The volume by counting points of a grid inside the solid."""
    long, wide, high = block.sides_mm
    y, z = np.meshgrid(*(np.linspace(-side / 2, side / 2, 400) for side in (wide, high)))
    inside = (2 * y / wide) ** 2 + (2 * z / high) ** 2 <= 1 if block.is_round else np.ones_like(y, bool)
    return float(inside.mean()) * wide * high * long / 1e6


class BlockTests(TestCase):
    def test_a_body_is_a_box_and_a_lens_a_cylinder(self):
        for block in (body_block(BODY), lens_block(LENS)):
            self.assertAlmostEqual(block.volume_l / counted_l(block), 1, delta=0.01)
        self.assertAlmostEqual(rig_volume_l(BODY, LENS), 0.702 + 52 * 68**2 * 0.785398163 / 1e6, 9)
        self.assertEqual(rig_length_mm(BODY, LENS), 112)

    def test_a_lens_that_is_a_part_of_its_camera_takes_no_room_of_its_own(self):
        part = Lens(7, 7, weight_g=0)
        self.assertIsNone(lens_block(part))
        self.assertEqual((rig_volume_l(BODY, part), rig_length_mm(BODY, part)), (0.702, 60))
        self.assertIsNotNone(lens_block(replace(part, length_mm=20)))
        self.assertIsNotNone(lens_block(replace(part, weight_g=None)))

    def test_what_is_not_known_is_not_known_of_both(self):
        for body, lens in ((replace(BODY, outer_depth_mm=None), LENS), (BODY, replace(LENS, length_mm=None))):
            self.assertTrue(isnan(rig_volume_l(body, lens)) and isnan(rig_length_mm(body, lens)))
        self.assertTrue(isnan(rig_volume_l(BODY, replace(LENS, diameter_mm=None))))
        self.assertTrue(isnan(body_block(replace(BODY, outer_width_mm=None)).longest_mm))
        self.assertEqual(body_block(BODY).longest_mm, 130)

    def test_nonsense_is_refused(self):
        for side in (0.0, -1.0, float("inf")):
            with self.assertRaises(DomainError):
                Block("", (side, 1.0, 1.0))
            with self.assertRaises(DomainError):
                replace(BODY, outer_width_mm=side)
            with self.assertRaises(DomainError):
                bag_fit([], (side, 1.0, 1.0))
        with self.assertRaisesRegex(DomainError, "longest_mm"):
            replace(LENS, longest_mm=51)


class BagTests(TestCase):
    def test_a_bag_holds_what_goes_in_some_way_round_and_fills_no_more_than_a_share(self):
        chance, seen = random.Random(5), set()
        for _ in range(1500):
            bag = tuple(chance.uniform(80, 400) for _ in range(3))
            blocks = [
                Block(str(n), tuple(chance.uniform(20, 220) for _ in range(3)), chance.random() < 0.5)
                for n in range(chance.randint(1, 5))
            ]
            if chance.random() < 0.2:
                blocks.append(Block("unknown", (nan, 60.0, 60.0)))
            fit = bag_fit(blocks, bag)
            known = [block for block in blocks if block.name != "unknown"]
            turned = {
                block.name: any(all(map(le, way, bag)) for way in permutations(block.sides_mm)) for block in known
            }
            self.assertEqual(fit.too_large, tuple(name for name, goes in turned.items() if not goes))
            filled = sum(block.volume_l for block in known) * 1e6 / (bag[0] * bag[1] * bag[2])
            self.assertAlmostEqual(fit.filled, filled, 12)
            fails = not all(turned.values()) or filled > MOST_FILLED
            self.assertEqual(fit.fits, False if fails else None if len(known) < len(blocks) else True)
            self.assertEqual(fit.unknown, len(blocks) - len(known))
            seen.add((fit.fits, bool(fit.too_large)))
        self.assertEqual(seen, {(True, False), (None, False), (False, True), (False, False)})

    def test_a_piece_as_large_as_the_bag_goes_in_and_its_share_decides(self):
        self.assertEqual(bag_fit([Block("a", (100.0, 60.0, 100.0))], (100.0, 100.0, 100.0)).fits, True)
        self.assertEqual(bag_fit([Block("a", (100.0, 60.1, 100.0))], (100.0, 100.0, 100.0)).fits, False)
        self.assertEqual(bag_fit([Block("a", (100.1, 10.0, 10.0))], (100.0, 100.0, 100.0)).too_large, ("a",))

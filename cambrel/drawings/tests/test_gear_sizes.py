"""Gear to one scale: sizes and pupils true, mounts on one line, everything on the sheet, what is unknown dashed."""

import random
from itertools import combinations
from math import nan
from unittest import TestCase

from cambrel.comparison.outer_sizes import Block
from cambrel.drawings.gear_sizes import (
    SMALL_HIGH,
    SMALL_WIDE,
    CameraShape,
    SheetPiece,
    cameras_drawing,
    kit_sheet,
    lens_drawing,
    small_scale,
)
from cambrel.drawings.shapes import Circle, Line, Rect, overlap
from cambrel.drawings.tests.tidy import Tidy


def a_block(chance, name="", is_round=False):
    if chance.random() < 0.15:
        return Block(name, (nan, nan, nan), is_round)
    long, wide, high = (chance.uniform(8, 320 if is_round else 170) for _ in range(3))
    return Block(name, (long, wide, wide) if is_round else (long, wide, high), is_round)


def a_camera(chance, index):
    lens = a_block(chance, is_round=True) if chance.random() < 0.85 else None
    long = lens.sides_mm[0] * chance.uniform(1, 1.8) if lens and lens.is_known and chance.random() < 0.4 else nan
    return CameraShape(index, a_block(chance), lens, long, chance.uniform(1, 60))


class GearSizeTests(Tidy, TestCase):
    def assert_on_sheet(self, drawing):
        self.assert_labels_apart(drawing)
        for shape in drawing.shapes:
            if isinstance(shape, Rect):
                self.assertTrue(shape.x >= -1 and shape.x + shape.width <= drawing.width + 1, shape)
                self.assertTrue(shape.y >= -1 and shape.y + shape.height <= drawing.height + 1, shape)

    def scale_of(self, drawing):
        """By the bar of ten centimetres."""
        bar = next(shape for shape in drawing.shapes if isinstance(shape, Line) and shape.role == "measure")
        return (bar.x2 - bar.x1) / 100

    def test_cameras_are_true_to_one_scale_with_their_mounts_on_one_line(self):
        chance = random.Random(3)
        for count in (1, 2, 3, 6) * 40:
            cameras = [a_camera(chance, index) for index in range(count)]
            drawing = cameras_drawing(cameras, chance.choice([350.0, 780.0, 1216.0]))
            self.assert_on_sheet(drawing)
            scale = self.scale_of(drawing)
            mount = next(shape.x1 for shape in drawing.shapes if isinstance(shape, Line) and shape.role == "present")
            for camera in cameras:
                letter = f"rig-{'abcdef'[camera.index]}"
                own = [shape for shape in drawing.shapes if letter in getattr(shape, "role", "")]
                pupil = next(shape for shape in own if isinstance(shape, Line))
                self.assertAlmostEqual((pupil.y2 - pupil.y1) / scale, camera.pupil_mm, 6)
                disc = next(shape for shape in own if isinstance(shape, Circle) and "disc" in shape.role)
                self.assertAlmostEqual(2 * disc.radius / scale, camera.pupil_mm, 6)
                side, *more = [shape for shape in own if isinstance(shape, Rect)]
                self.assertAlmostEqual(side.x + side.width, mount, 6)
                if camera.body.is_known:
                    self.assertAlmostEqual(side.width / scale, camera.body.sides_mm[2], 6)
                    self.assertAlmostEqual(side.height / scale, camera.body.sides_mm[1], 6)
                self.assertEqual("gear-unknown" in side.role, not camera.body.is_known)
                self.assertEqual(len(more), 1 if camera.lens is None else 2)
                if camera.lens is not None:
                    self.assertAlmostEqual(more[0].x, mount, 6)
                    self.assertEqual("gear-unknown" in more[0].role, not camera.lens.is_known)
                    if camera.lens.is_known:
                        self.assertAlmostEqual(more[0].width / scale, camera.lens.sides_mm[0], 6)
                        self.assertAlmostEqual(more[0].height / scale, camera.lens.sides_mm[1], 6)
                self.assertEqual("not known" in drawing.description.split("; ")[camera.index], not camera.is_known)

    def test_all_pieces_of_a_kit_lie_side_by_side_on_the_sheet(self):
        chance = random.Random(4)
        for count in (1, 2, 5, 12, 30) * 8:
            pieces = []
            for n in range(count):
                is_lens = chance.random() < 0.7
                pieces.append(SheetPiece(a_block(chance, f"Piece number {n}", is_lens), 20.0 if is_lens else nan))
            bag = chance.choice([None, (300.0, 400.0, 150.0), (3000.0, 400.0, 150.0)])
            drawing = kit_sheet(pieces, bag)
            self.assert_on_sheet(drawing)
            blocks = [shape for shape in drawing.shapes if isinstance(shape, Rect)]
            self.assertEqual(len(blocks), count + (bag is not None))
            for one, other in combinations(blocks, 2):
                self.assertFalse(overlap(one, other), (one, other))
            scale = self.scale_of(drawing)
            for piece in pieces:
                block = next(shape for shape in blocks if shape.tip == piece.block.name)
                if piece.block.is_known:
                    self.assertAlmostEqual(block.width / scale, piece.block.sides_mm[0], 6)
                    self.assertAlmostEqual(block.height / scale, piece.block.sides_mm[1], 6)
                self.assertEqual(block.role, "gear-block" if piece.block.is_known else "gear-unknown")
                self.assertIn(piece.block.name, drawing.description)

    def test_small_lenses_share_a_scale_and_stay_in_their_box(self):
        chance = random.Random(6)
        lenses = [Block(str(n), (chance.uniform(20, 400), 70.0 + n, 70.0 + n), True) for n in range(20)]
        scale = small_scale(lenses)
        for lens in lenses:
            drawing = lens_drawing(lens, 25.0, scale)
            rect, pupil = drawing.shapes
            self.assertAlmostEqual(rect.width / scale, lens.sides_mm[0], 6)
            self.assertAlmostEqual((pupil.y2 - pupil.y1) / scale, 25, 6)
            self.assertTrue(rect.x + rect.width <= SMALL_WIDE and rect.y >= 0 and rect.y + rect.height <= SMALL_HIGH)
        self.assertEqual(len(lens_drawing(lenses[0], nan, scale).shapes), 1)
        self.assertGreater(small_scale([]), 0)

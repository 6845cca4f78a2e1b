"""How much more one picture takes in than another of the same: the ratio of their views, by features that both show."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot

import cv2
import numpy as np

from cambrel.optics.quantities import Array
from cambrel.photographs.light import Codes, MeasureError

LONG_SIDE_PX = 1200
FEATURES = 4000
RATIO = 0.8
RANSAC_PX = 2.5
LEAST_INLIERS, LEAST_CELLS, CELLS = 25, 3, 4
WITHIN = 0.01


@dataclass(frozen=True)
class ViewRatio:
    """ratio: of the diagonals of what the two take in, first to second; within: what is promised; inliers: the features
    that agree.
    """

    ratio: float
    within: float
    inliers: int


def _grey(codes: Codes) -> tuple[Codes, float]:
    """Grey at a bounded size, and how much of the original one of its pixels is."""
    times = max(1.0, max(codes.shape[:2]) / LONG_SIDE_PX)
    size = (max(1, round(codes.shape[1] / times)), max(1, round(codes.shape[0] / times)))
    small = cv2.resize(codes, size, interpolation=cv2.INTER_AREA)
    grey: Codes = np.asarray(cv2.cvtColor(small, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
    return grey, codes.shape[1] / size[0]


def view_ratio(one: Codes, other: Codes) -> ViewRatio:
    """The view of one picture against that of another of the same subject.

    Parameters
        one, other: whole pictures, height x width x 3; may differ in size, shape, exposure and focus
    Returns
        View; above 1 where the first takes in more
    Raises
        MeasureError where too little is common to both
    Assumptions
        taken from one place: stepping closer looks like a longer lens; distortion that differs by 3 % costs 1 %
    References
        scale-invariant features matched one to one, a similarity by random sampling, and once more by least squares
        over what agrees
    """
    (small_one, times_one), (small_other, times_other) = _grey(one), _grey(other)
    finder = cv2.SIFT_create(FEATURES)  # type: ignore[attr-defined]
    points_one, marks_one = finder.detectAndCompute(small_one, None)
    points_other, marks_other = finder.detectAndCompute(small_other, None)
    if marks_one is None or marks_other is None or min(len(marks_one), len(marks_other)) < LEAST_INLIERS:
        raise MeasureError("There is too little detail in the pictures to compare their views.")
    pairs = _one_to_one(marks_one, marks_other)
    if len(pairs) < LEAST_INLIERS:
        raise MeasureError("The two pictures show too little in common to compare their views.")
    at_one = np.array([points_one[a].pt for a, _ in pairs])
    at_other = np.array([points_other[b].pt for _, b in pairs])
    found, inside = cv2.estimateAffinePartial2D(
        at_one, at_other, method=cv2.RANSAC, ransacReprojThreshold=RANSAC_PX, maxIters=5000
    )
    agreeing = np.zeros(len(pairs), bool) if found is None else inside.ravel().astype(bool)
    if agreeing.sum() < LEAST_INLIERS or _cells(at_one[agreeing], small_one.shape) < LEAST_CELLS:
        raise MeasureError("The two pictures show too little in common to compare their views.")
    scale = _scale(at_one[agreeing], at_other[agreeing])
    in_originals = scale * times_other / times_one
    diagonal_one, diagonal_other = hypot(*one.shape[:2]), hypot(*other.shape[:2])
    return ViewRatio(in_originals * diagonal_one / diagonal_other, WITHIN, int(agreeing.sum()))


def _one_to_one(one: Codes, other: Codes) -> list[tuple[int, int]]:
    """Pairs of features that are each other's nearest, and clearly nearer than the next."""
    matcher = cv2.BFMatcher(cv2.NORM_L2)

    def best(first: Codes, second: Codes) -> dict[int, int]:
        return {
            near.queryIdx: near.trainIdx
            for near, *rest in matcher.knnMatch(first, second, k=2)
            if not rest or near.distance < RATIO * rest[0].distance
        }

    there, back = best(one, other), best(other, one)
    return [(a, b) for a, b in there.items() if back.get(b) == a]


def _cells(points: Array, shape: tuple[int, ...]) -> int:
    """In how many of the cells of a grid over the picture features agree."""
    cells = (points / np.array([shape[1], shape[0]]) * CELLS).astype(int).clip(0, CELLS - 1)
    return len({(int(x), int(y)) for x, y in cells})


def _scale(one: Array, other: Array) -> float:
    """The scale of the similarity from points to points that is nearest, by least squares."""
    a, b = one - one.mean(axis=0), other - other.mean(axis=0)
    turned = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    return float(np.hypot((a * b).sum(), turned.sum()) / (a**2).sum())

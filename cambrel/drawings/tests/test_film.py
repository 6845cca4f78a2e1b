"""The drawing of a film: time, light, ISO and leaning lines at their true places."""

import random
from dataclasses import replace
from math import atan2, degrees, isfinite, log, pi, sin
from unittest import TestCase

from cambrel.comparison.engine import Brief, Hold, compare
from cambrel.comparison.moving_pictures import film_of, film_shutter_s, with_time_fixed
from cambrel.comparison.rig import Mode
from cambrel.comparison.tests.given import prime, rig
from cambrel.drawings.film import film_drawing
from cambrel.drawings.shapes import Line, Path, Rect
from cambrel.drawings.tests.tidy import Tidy
from cambrel.optics.formats import FORMATS
from cambrel.wording import LETTERS


def a_film(chance, count):
    rate, angle = chance.choice([24, 25, 50, 120]), chance.choice([90, 180, 360])
    brief = Brief(
        frame_rate=rate, shutter_angle_deg=angle, mains_hz=chance.choice([None, 50.0, 60.0]),
        subject_speed_m_per_s=chance.choice([0.0, 3.0, 40.0]), light_ev=chance.uniform(0, 16),
    )  # fmt: skip
    rigs = []
    for _ in range(count):
        taken = rig(chance.choice(list(FORMATS)), 35, 2.8, lens=prime(35, 1.8))
        mode = Mode(taken.body.sensor, "a mode", rate, rolling_s=chance.choice([None, 0.02]))
        body = replace(
            taken.body, base_iso=chance.choice([None, 100, 800]), ceiling_iso=chance.choice([None, 3200, 51200]),
            modes=(mode,),
        )  # fmt: skip
        rigs.append(with_time_fixed(replace(taken, body=body, mode=0), film_shutter_s(rate, angle)))
    return compare(brief, rigs, Hold("own"))


class FilmDrawingTests(Tidy, TestCase):
    def test_every_mark_stands_where_its_figure_is_and_no_label_on_another(self):
        chance = random.Random(5)
        leaning = filtered = short = 0
        for round_ in range(60):
            comparison = a_film(chance, count := 1 + round_ % 6)
            films = {index: film_of(comparison, comparison.of(index)) for index in range(count)}
            drawing = film_drawing(comparison, films, width=chance.choice([350.0, 780.0, 1216.0]))
            self.assert_labels_apart(drawing)
            self.assert_time(drawing, comparison.brief)
            ticks = [shape for shape in drawing.shapes if isinstance(shape, Line) and shape.role == "grid"]
            marks = {label.x: label.text for label in drawing.texts() if label.anchor == "middle"}
            first, last = ticks[0].x1, ticks[-1].x1
            low, high = (float(marks[x].replace("\u00a0", "").replace(",", "")) for x in (first, last))

            def place(iso, first=first, last=last, low=low, high=high):
                return first + (last - first) * log(iso / low) / log(high / low)

            for index, film in films.items():
                own = [s for s in drawing.shapes if f"rig-{LETTERS[index].lower()}" in getattr(s, "role", "")]
                mark, *tilted = [shape for shape in own if isinstance(shape, Line)]
                self.assertAlmostEqual(mark.x1, place(film.needed_iso), 6)
                body = comparison.of(index).rig.body
                bars = [shape for shape in own if isinstance(shape, Rect)]
                self.assertEqual(len(bars), int(body.base_iso is not None or body.ceiling_iso is not None))
                if body.base_iso is not None:
                    self.assertAlmostEqual(bars[0].x, place(body.base_iso), 6)
                if body.ceiling_iso is not None:
                    self.assertAlmostEqual(bars[0].x + bars[0].width, place(body.ceiling_iso), 6)
                said = drawing.description.split("; ")[index]
                filtered += (is_filtered := film.filter_stops > 1 / 6)
                short += (is_short := film.short_stops > 1 / 6)
                self.assertEqual(
                    ("below its base ISO" in said, "beyond its highest ISO" in said), (is_filtered, is_short)
                )
                is_leaning = isfinite(film.lean_deg) and film.lean_deg > 0
                self.assertEqual(("lean" in said, len(tilted)), (is_leaning, int(is_leaning)))
                if is_leaning:
                    leaning += 1
                    (line,) = tilted
                    self.assertAlmostEqual(degrees(atan2(line.x2 - line.x1, line.y1 - line.y2)), film.lean_deg, 6)
        self.assertTrue(min(leaning, filtered, short) > 10, (leaning, filtered, short))

    def assert_time(self, drawing, brief):
        """The shutter is open for its share of each frame, and lamps are as bright as they are then."""
        frames = [shape for shape in drawing.shapes if isinstance(shape, Path) and shape.role == "axis"]
        opened = [shape for shape in drawing.shapes if isinstance(shape, Rect) and shape.role == "format-kept"]
        for frame, shutter in zip(frames, opened, strict=True):
            (left, top), (right, _), (_, bottom), _ = frame.points
            self.assertAlmostEqual(shutter.width / (right - left), brief.shutter_angle_deg / 360)
            self.assertEqual(shutter.x, left)
        curves = [shape for shape in drawing.shapes if isinstance(shape, Path) and shape.role == "measure"]
        self.assertEqual(len(curves), int(brief.mains_hz is not None))
        start, end = frames[0].points[0][0], frames[1].points[1][0]
        for curve in curves:
            for x, y in curve.points[:: max(1, len(curve.points) // 15)]:
                seconds = (x - start) / (end - start) * 2 / brief.frame_rate
                self.assertAlmostEqual((bottom - y) / (bottom - top), sin(2 * pi * brief.mains_hz * seconds) ** 2, 6)

    def test_where_nothing_is_seen_it_says_so(self):
        comparison = a_film(random.Random(1), 2)
        self.assertIn("None of them", film_drawing(comparison, {0: None, 1: None}).description)

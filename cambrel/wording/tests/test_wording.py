from math import inf, nan
from unittest import TestCase

from cambrel import wording as w
from cambrel.optics.workings import KINDS, Figure
from cambrel.wording.sentences import Sentence

N = w.NBSP


class WordingTests(TestCase):
    def test_figures_read_as_cameras_and_photographers_write_them(self):
        cases = (
            (w.distance(2.05), f"2.05{N}m"), (w.distance(0.1519), f"15.2{N}cm"), (w.distance(400), f"400{N}m"),
            (w.distance(2.05, w.FEET), f"6.73{N}ft"), (w.distance(0.15, w.FEET), f"5.91{N}in"),
            (w.distance(12345), f"12.3{N}km"),
            (w.distance(inf), "∞"), (w.distance(nan), "–"),
            (w.span(1.9, 2.11), f"1.90–2.11{N}m"), (w.span(1.9951, 2.0049), f"1.9951–2.0049{N}m"),
            (w.span(5.2, inf), f"5.2{N}m–∞"),
            (w.span(20.1, 55.3), f"20–55{N}m"), (w.span(nan, nan), "–"),
            (w.focal(25.324), f"25.3{N}mm"), (w.focal(6.9), f"6.9{N}mm"), (w.focal(400), f"400{N}mm"),
            (w.f_number(0.95), "f/0.95"), (w.f_number(1), "f/1"), (w.f_number(5.6), "f/5.6"),
            (w.f_number(11.2), "f/11"), (w.f_number(nan), "–"),
            (w.shutter(1 / 250), "1/250"), (w.shutter(0.5), f"0.5{N}s"), (w.shutter(30), f"30{N}s"),
            (w.shutter(nan), "–"),
            (w.iso(402.7), f"ISO{N}403"), (w.iso(12800), f"ISO{N}12800"),
            (w.stops(1.0), f"1{N}stop"), (w.stops(-1.91), f"1.9{N}stops"), (w.stops(12.3), f"12.3{N}stops"),
            (w.signed_stops(-1.91), f"−1.9{N}stops"), (w.signed_stops(0.02), "same"), (w.signed_stops(nan), "–"),
            (w.times(2), "twice"), (w.times(0.506), f"about{N}half"), (w.times(0.5), "half"),
            (w.times(2.011), f"about{N}twice"), (w.times_in_figures(2), f"2.0{N}times"),
            (w.times_in_figures(0.506), f"0.51{N}times"),
            (w.times(2.09), f"2.1{N}times"), (w.times(0.47), f"0.47{N}times"),
            (w.times(1.02), f"1.02{N}times"), (w.share(0.0076), "0.76%"),
            (w.share(1.2), "120%"),
            (w.mass(684.6), f"685{N}g"), (w.mass(1423), f"1.42{N}kg"), (w.mass(nan), "–"), (w.degrees(39.6), "39.6°"),
            (w.money(1990, "EUR"), f"1,990{N}EUR"), (w.money(12.5, "EUR"), f"12.50{N}EUR"),
            (w.money(99.99, ""), "99.99"), (w.money(99.999, "EUR"), f"100{N}EUR"), (w.money(100.5, ""), "100"),
            (w.money(12, "EUR"), f"12{N}EUR"), (w.big(2.43e7), f"24.3{N}million"),
            (w.big(15000), f"15{N}thousand"),
            (w.significant(0), "0"), (w.significant(-inf), "−∞"), (w.significant(1234.5), "1230"),
            (w.significant(99.96), "100"),
        )  # fmt: skip
        for found, expected in cases:
            with self.subTest(expected=expected):
                self.assertEqual(found, expected)

    def test_every_kind_of_figure_can_be_shown(self):
        for kind in KINDS:
            value = "more" if kind == "word" else 2.0
            self.assertTrue(w.figure(Figure(value, kind)), kind)

    def test_a_sentence_takes_its_figures_and_units(self):
        said = Sentence(
            "{b} at {d} has {t}", {"b": Figure(1, "rig"), "d": Figure(3.048, "m"), "t": Figure(2.0, "times")}
        )
        self.assertEqual(w.sentence(said, w.FEET), f"B at 10{N}ft has twice")

    def test_exact_values_read_back(self):
        self.assertEqual(float(w.exact(25.324198951869615)), 25.324198951869615)
        self.assertEqual((w.exact(inf), w.exact(nan)), ("∞", "unknown"))

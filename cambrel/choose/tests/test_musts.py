"""What a kit must have: at its limits, and where nobody knows."""

from math import nan
from unittest import TestCase

from cambrel.choose.musts import Musts
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.optics.formats import Sensor


class MustsTests(TestCase):
    def test_a_camera_of_unknown_weight_is_within_no_limit(self):
        for body_g, lens_g, limit, holds in (
            (400.0, 300.0, 700.0, True), (400.0, 300.0, 699.0, False), (400.0, None, 9000.0, False),
            (None, 300.0, 9000.0, False),
            (None, None, None, True),
        ):  # fmt: skip
            rig = Rig(Body(Sensor(36, 24), weight_g=body_g), Lens(50, 50, weight_g=lens_g))
            self.assertEqual(Musts(carries_g=limit).rig(rig), holds, (body_g, lens_g, limit))

    def test_a_kit_is_out_beyond_its_limits_and_where_its_weight_or_price_is_unknown(self):
        for grams, price, currency, why in (
            (1000.0, 800.0, "EUR", ""), (1000.5, 500.0, "EUR", "weighs more"), (nan, 500.0, "EUR", "not known"),
            (900.0, nan, "EUR", "not known"), (900.0, 500.0, "GBP", "not known"), (900.0, 801.0, "EUR", "costs more"),
        ):  # fmt: skip
            said = Musts(most_g=1000.0, most_price=800.0, currency="EUR").kit(grams, price, currency)
            self.assertTrue(why in said if why else not said, (grams, price, currency, said))

    def test_a_mount_and_stabilisation_are_had_or_not(self):
        rig = Rig(Body(Sensor(36, 24), mount="Tarn", stabilisation_stops=5.0), Lens(50, 50))
        for must, holds in (
            (Musts(mount="Tarn"), True),
            (Musts(mount="Fell"), False),
            (Musts(is_stabilised=True), True),
        ):
            self.assertEqual(must.rig(rig), holds)
        shaky = Rig(Body(Sensor(36, 24)), Lens(50, 50))
        self.assertFalse(Musts(is_stabilised=True).rig(shaky))

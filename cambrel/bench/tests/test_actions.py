from dataclasses import replace
from unittest.mock import patch

from django.test import SimpleTestCase

from cambrel.bench.actions import ACTIONS, ActionError, State, perform
from cambrel.bench.look import Look
from cambrel.bench.reading import PARTS, read
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.comparison.bench import Gear
from cambrel.comparison.engine import Body, Hold, Lens, compare
from cambrel.links.benches import encode, encode_gear
from cambrel.optics.formats import Sensor
from cambrel.optics.stops import ISOS, SHUTTERS


def compared(bench):
    return compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)


class ActionTests(SimpleTestCase):
    def setUp(self):
        self.bench = home_bench()

    def after(self, *actions, bench=None):
        bench = bench or self.bench
        for action in actions:
            bench = perform(action, State(bench, Look(PARTS))).bench
        return bench

    def names(self, bench):
        return [slot.body_name for slot in bench.slots]

    def test_each_at_its_best_chooses_gives_back_and_leaves_all_else_alone(self):
        bench = home_bench()
        best = self.after("best")
        self.assertTrue(best.hold.is_best)
        self.assertEqual(replace(best, hold=bench.hold), bench, "the four answers and what is set wait")
        self.assertEqual(self.after("best", bench=best), bench, "there and back")
        chosen = compared(best)
        held = self.after("by_hand:best:1:n", bench=best)
        self.assertEqual((held.rigs[1].by_hand, held.hold.is_best), ("n", True))
        self.assertAlmostEqual(held.rigs[1].f_number, chosen.of(1).settings.f_number)
        held = self.after("by_hand:best:1:f", bench=held)
        self.assertEqual(held.rigs[1].by_hand, "fn")
        self.assertEqual(self.after("choose:1:f", bench=held).rigs[1].by_hand, "n")
        again = compared(held)
        self.assertAlmostEqual(again.of(1).settings.focal_length_mm, chosen.of(1).settings.focal_length_mm)
        for wrong in ("by_hand:best:9:n", "by_hand:best:1:x", "choose:9:f"):
            with self.assertRaises(ActionError):
                self.after(wrong, bench=best)
        # another point of view keeps the picture, and an answer to one of the four questions ends it
        other = self.after("reference:1", bench=best)
        self.assertTrue(other.hold.is_best and other.reference == 1)
        answered = read({"b": encode(best), "hold-aperture": "wide_open"}).bench
        self.assertEqual((answered.hold.is_best, answered.hold.aperture), (False, "wide_open"))
        self.assertTrue(read({"b": encode(best), "hold-aperture": best.hold.aperture}).bench.hold.is_best)

    def test_a_camera_with_a_lens_of_its_own_is_put_as_it_is_and_a_lens_on_a_body_of_its_mount(self):
        phone = Gear(Body(Sensor(9.6, 7.2)), "Phone", Lens(6.9, 6.9, ((6.9, 1.7),)), "its lens")
        put = self.after(f"put:{encode_gear(phone)}").slots[-1]
        self.assertEqual((put.body_name, put.rig.body.sensor.width_mm, put.lens_name), ("Phone", 9.6, "its lens"))
        lens = Gear(lens=Lens(25, 25, ((25, 1.4),), mount=self.bench.rigs[1].body.mount), lens_name="Other")
        put = self.after(f"put:{encode_gear(lens)}").slots[-1]
        self.assertEqual((put.body_name, put.lens_name), (self.bench.slots[1].body_name, "Other"))

    def test_a_lens_that_is_picked_is_on_the_camera_it_was_picked_for(self):
        lens = encode_gear(Gear(lens=Lens(25, 25, ((25, 1.4),), mount="Pipwren"), lens_name="Other"))
        shared = replace(self.bench, hold=Hold("same"))
        picked = self.after(f"gear:1:{lens}", bench=shared)
        self.assertEqual((picked.hold, picked.slots[1].lens_name), (Hold("own"), "Other"))
        of_all = self.after(f"gear:0:{lens}", bench=shared)
        self.assertEqual((of_all.hold, of_all.slots[0].lens_name), (Hold("same"), "Other"), "another lens for all")
        donor = replace(self.bench, hold=Hold("same", lens_of=1))
        self.assertEqual(self.after(f"gear:1:{lens}", bench=donor).hold, donor.hold)
        self.assertEqual(self.after(f"gear:0:{lens}", bench=donor).hold, Hold("own"))
        phone = Gear(Body(Sensor(9.6, 7.2)), "Phone", Lens(6.9, 6.9, ((6.9, 1.7),)), "its lens")
        self.assertEqual(self.after(f"gear:0:{encode_gear(phone)}", bench=shared).hold, Hold("own"))
        body = encode_gear(Gear(Body(Sensor(23.5, 15.6), mount="Larkmoor"), "Other"))
        self.assertEqual(self.after(f"gear:1:{body}", bench=shared).hold, Hold("same"), "another body takes it too")

    def test_another_picture_is_set_as_cameras_mark_it_and_right_for_its_light(self):
        for slug, sample in sample_briefs().items():
            bench = self.after(f"brief:{slug}")
            rig, light = bench.rigs[0], compared(bench).first.light
            with self.subTest(slug):
                self.assertIn(rig.shutter_s, [stop.typed for stop in SHUTTERS])
                self.assertIn(rig.iso, [stop.typed for stop in ISOS])
                self.assertLessEqual(rig.shutter_s, (sample.task.brief.slowest_shutter_s or 30) * 1.0001)
                self.assertLess(abs(light.error_stops), 0.18)

    def test_add_takes_a_format_that_is_not_there_and_makes_the_same_picture(self):
        bench = self.after("add")
        self.assertEqual(bench.slots[3].body_name, "APS-C")
        self.assertAlmostEqual(bench.rigs[3].focal_length_mm, 32.6, places=1)
        six = self.after("add", "add", "add")
        self.assertEqual(len(six.slots), 6)
        with self.assertRaisesRegex(ActionError, "holds 6"):
            self.after("add", bench=six)
        with self.assertRaisesRegex(ActionError, "holds 6"):
            self.after("duplicate:0", bench=six)

    def test_an_error_of_ours_is_not_taken_for_a_bad_request(self):
        for press in ("left", "left:0:1", "left:x", "stop:0:wide", "gear:0", "gear:0:damaged", "arrange:0:2:3"):
            with self.subTest(press), self.assertRaisesRegex(ActionError, "too little"):
                self.after(press)
        for fault in (ValueError, TypeError):

            def run(state, fault=fault):
                raise fault("a slip in what it runs")

            with (
                patch.dict(ACTIONS, {"add": replace(ACTIONS["add"], run=run)}),
                self.assertRaisesRegex(fault, "a slip"),
            ):
                self.after("add")

    def test_reordering_takes_the_reference_along(self):
        a, b, c = self.names(self.bench)
        self.assertEqual(self.names(self.after("right:0")), [b, a, c])
        self.assertEqual(self.after("right:0").reference, 1)
        self.assertEqual(self.names(self.after("left:0")), [a, b, c])
        self.assertEqual(self.names(self.after("duplicate:1")), [a, b, b, c])
        shared = replace(self.bench, hold=Hold("same", lens_of=1))
        self.assertEqual(self.after("right:1", bench=shared).hold.lens_of, 2)

    def test_removing_the_reference_passes_it_on_without_changing_the_others(self):
        before = compared(self.bench).of(1).settings
        bench = self.after("remove:0")
        self.assertEqual((bench.reference, len(bench.slots)), (0, 2))
        self.assertAlmostEqual(compared(bench).of(0).settings.focal_length_mm, before.focal_length_mm)
        with self.assertRaisesRegex(ActionError, "last camera"):
            self.after("remove:0", "remove:0", "remove:0")

    def test_making_a_reference_changes_no_figure(self):
        bench = self.after("reference:1")
        self.assertEqual(bench.reference, 1)
        for index in range(2):
            old, new = compared(self.bench).of(index), compared(bench).of(index)
            self.assertAlmostEqual(old.depth.total_m, new.depth.total_m, places=12)
        ceiling = compared(self.bench).of(2).light.ceiling_iso
        self.assertAlmostEqual(compared(bench).of(2).light.ceiling_iso / ceiling, 1, places=9)

    def test_by_hand_keeps_what_is_on_the_screen(self):
        for question in ("lens", "place", "aperture", "exposure"):
            with self.subTest(question=question):
                bench = self.after(f"by_hand:{question}")
                self.assertEqual(getattr(bench.hold, question), "own")
                for index in range(2):
                    for name in ("focal_length_mm", "f_number", "shutter_s", "iso", "subject_distance_m"):
                        old, new = (getattr(compared(b).of(index).settings, name) for b in (self.bench, bench))
                        self.assertAlmostEqual(old, new, places=9)

    def test_rest_and_stop_and_brief(self):
        self.assertTrue(self.after("rest:1").rigs[1].take_rest)
        self.assertFalse(self.after("rest:1", "rest:1").rigs[1].take_rest)
        walked = self.after("stop:1:5.6")
        self.assertEqual((walked.reference, walked.rigs[1].f_number), (1, 5.6))
        self.assertEqual(self.after("brief:viaduct").brief.distance_m, 400)

    def test_gear_is_put_on_by_value_and_settings_move_into_its_range(self):
        tele = Gear(lens=Lens(70, 300, ((70, 4.5), (300, 5.6)), 29), lens_name="long")
        bench = self.after(f"gear:0:{encode_gear(tele)}")
        self.assertEqual((bench.rigs[0].focal_length_mm, bench.rigs[0].f_number), (70, 4.5))
        body = Gear(body=Body(Sensor(23.5, 15.6)), body_name="Fell")
        self.assertEqual(self.after(f"gear:2:{encode_gear(body)}").slots[2].body_name, "Fell")
        converted = self.after("convert:0:1.4:190").rigs[0]
        self.assertEqual((converted.converter, converted.converter_weight_g), (1.4, 190))
        self.assertIsNone(self.after("convert:0:1.4").rigs[0].converter_weight_g, "not known is not nothing")
        self.assertEqual(self.after("convert:0:1:190").rigs[0].converter_weight_g, 0)
        more = self.after(f"put:{encode_gear(tele)}")
        self.assertEqual(
            (len(more.slots), more.slots[-1].lens_name, more.slots[-1].body_name), (4, "long", bench.slots[0].body_name)
        )

    def test_what_cannot_be_done_is_said(self):
        wrong = (
            "explode", "remove:9", "remove", "remove:x", "by_hand:weather", "brief:moon", "gear:0:!!", "stop:0:0",
            "stop:0:nan",
            "reference:-1", "add:1:2", "put:!!", "convert:0:9", "convert:0:nan",
        )  # fmt: skip
        for action in wrong:
            with self.subTest(action=action), self.assertRaises(ActionError):
                self.after(action)

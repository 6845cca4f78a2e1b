"""The pages of arguments and of the sums in the head, and the case of a question on the bench."""

from dataclasses import replace

from django.test import TestCase, tag
from django.urls import reverse

from cambrel.comparison.brief import Conventions, Hold
from cambrel.comparison.engine import Body, Lens, Rig, compare
from cambrel.drawings.shapes import Image
from cambrel.drills.all_drills import KINDS
from cambrel.learn.argued import PORTRAIT, Chosen, yes_exposure
from cambrel.learn.cases import bench_of
from cambrel.learn.disputes import DISPUTES, OUTSIDE
from cambrel.learn.gear_pool import pool_of
from cambrel.learn.put_questions import put
from cambrel.optics.formats import Sensor
from cambrel.optics.geometry import magnification
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.models import Body as Kept

FULL, FOUR_THIRDS = Sensor(36, 24, 6000), Sensor(17.3, 13, 5184)


def images(drawing):
    return [shape for shape in drawing.shapes if isinstance(shape, Image)]


@tag("long")
class DisputePageTests(TestCase):
    def test_every_argument_has_a_page_with_pictures_and_what_lies_outside(self):
        home = self.client.get(reverse("learn:home"))
        for key, dispute in DISPUTES.items():
            address = reverse("learn:dispute", args=[key])
            self.assertContains(home, address)
            page = self.client.get(address)
            self.assertContains(page, dispute.settled)
            for line in OUTSIDE:
                self.assertContains(page, line)
            for side in page.context["sides"]:
                pictures = images(side.drawing)
                self.assertEqual(len(pictures), 2)
                self.assertEqual(self.client.get(side.bench).status_code, 200)
                for picture in pictures:
                    self.assertEqual(self.client.get(picture.href).status_code, 200)
        self.assertEqual(self.client.get(reverse("learn:dispute", args=["nothing"])).status_code, 404)

    def test_pictures_on_the_sensor_stand_to_its_scale_and_those_in_the_print_to_one_size(self):
        page = self.client.get(
            reverse("learn:dispute", args=["sensor-and-depth"]), {"small": "micro-four-thirds", "n": "2.8"}
        )
        sensor, in_print, *_ = (images(side.drawing) for side in page.context["sides"])
        self.assertAlmostEqual(sensor[1].width / sensor[0].width, 17.3 / 36, 2)
        self.assertAlmostEqual(sensor[1].height / sensor[0].height, 13 / 24, 2)
        self.assertEqual(in_print[0].height, in_print[1].height)

    def test_what_cannot_be_chosen_leaves_the_usual(self):
        for given in ({"small": "nothing"}, {"n": "0"}, {"n": "nan"}, {"small": "full-frame"}):
            page = self.client.get(reverse("learn:dispute", args=["f-number"]), given)
            self.assertIn("For depth, blur and noise f/2.8 on B", page.context["sides"][1].says)

    def test_brightness_turns_at_a_sixth_of_a_stop_either_way(self):
        chosen = Chosen(Body(FULL), "A", Body(FOUR_THIRDS), "B")
        for iso, expected in (
            (400, "as bright as"),
            (440, "as bright as"),
            (460, "brighter than"),
            (350, "darker than"),
            (365, "as bright as"),
        ):
            rigs = (Rig(Body(FULL), Lens(), 50, 2.8, iso=400), Rig(Body(FOUR_THIRDS), Lens(), 25, 2.8, iso=iso))
            far = replace(PORTRAIT, distance_m=50)
            self.assertIn(
                expected,
                yes_exposure(compare(far, rigs, Hold("own", "spot", "own", "own"), Conventions()), chosen),
                iso,
            )


class MentalTests(TestCase):
    def test_the_smaller_frame_stands_first_whichever_is_named_first(self):
        for given in (
            {"small": "micro-four-thirds", "large": "full-frame"},
            {"small": "full-frame", "large": "micro-four-thirds"},
        ):
            page = self.client.get(reverse("learn:mental"), given)
            self.assertEqual((page.context["small"], page.context["large"]), ("Micro Four Thirds", "Full frame"))
            self.assertContains(page, "Times two, and two stops.")
            focals, numbers, isos = (rungs for _, rungs in page.context["strips"])
            self.assertIn(("25", "50"), focals)
            self.assertIn(("2.8", "5.6"), numbers)
            self.assertIn(("400", "1600"), isos)

    def test_one_size_and_one_size_again_is_no_sum(self):
        page = self.client.get(reverse("learn:mental"), {"small": "full-frame", "large": "full-frame"})
        self.assertContains(page, "take them as one")

    def test_it_is_for_the_two_systems_of_the_shelf_and_their_drill_too(self):
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        page = self.client.get(reverse("learn:mental"))
        self.assertContains(page, "kind=ladder")
        Kept.objects.create(owner=owner, name="Lone", width_mm=36, height_mm=24)
        made = put("0" * 12, 0, "ladder", "number", pool_of(owner), Conventions())
        self.assertEqual({made.case.one, made.case.other}, {"full frame", "Micro Four Thirds"})


class CaseTests(TestCase):
    def test_the_bench_shows_the_very_case(self):
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        shelf = pool_of(owner)
        for key in KINDS:
            made = put("0" * 12, 1, key, "number", shelf, Conventions())
            given, (a, b) = made.case.given, bench_of(made).rigs
            with self.subTest(kind=key):
                self.assertEqual((a.focal_length_mm, a.f_number), (given.focal_mm, given.f_number))
                self.assertEqual(a.body.sensor, given.one)
                self.assertEqual(b.body.sensor, given.one if key == "walk" else given.other)
        made = put("0" * 12, 1, "exposure", "number", shelf, Conventions())
        given, b = made.case.given, bench_of(made).rigs[1]
        self.assertEqual(
            (b.f_number, b.shutter_s, b.iso), (given.second_f_number, given.second_shutter_s, given.second_iso)
        )
        made = put("0" * 12, 1, "walk", "number", shelf, Conventions())
        self.assertEqual(bench_of(made).rigs[1].focal_length_mm, made.case.given.second_focal_mm)
        made = put("0" * 12, 1, "closeup", "number", shelf, Conventions())
        bench = bench_of(made)
        self.assertAlmostEqual(
            float(magnification(made.case.given.focal_mm, bench.brief.distance_m)), made.case.given.magnification, 9
        )
        made = put("0" * 12, 1, "circle", "number", shelf, Conventions())
        self.assertEqual({rig.lens.image_circle_mm for rig in bench_of(made).rigs}, {made.case.given.circle_mm})

"""Examples worked by hand: a film, a photograph on another camera, three cameras ranked, a bag, a meter, each with the
sentences as they are read.
"""

from dataclasses import replace
from unittest import TestCase

from cambrel.comparison.bench import Bench, Slot
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import compare
from cambrel.comparison.moving_pictures import as_film, film_of
from cambrel.comparison.outer_sizes import Block, bag_fit
from cambrel.comparison.photographed import Photograph, bench_of
from cambrel.comparison.rig import Body, Lens, Mode, Rig
from cambrel.comparison.tests.given import body
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.verdicts.among_all import among_all, of_pair
from cambrel.verdicts.another_camera import on_others
from cambrel.verdicts.film_says import film_says, says_flicker
from cambrel.verdicts.kit_sizes import against_says, bag_says
from cambrel.verdicts.meter_reading import meter_shifts, says_meter
from cambrel.wording import sentence

FIFTY = Lens(50, 50, ((50, 1.8),))


def read(said):
    return sentence(said).replace("\u00a0", " ")


class WorkedTests(TestCase):
    def test_a_film_in_the_sun(self):
        # 100 · 4² · 50 / 2^15 = ISO 2.44, and 1.69 % more f-number from focusing at 3 m: 2.52, 5.3 stops below 100.
        # While 20 ms are read 8 m/s go 0.16 m, of a frame 1.195 m high: 7.6°. The frame is 39.0° wide, in 7 s 5.57°.
        mode = Mode(Sensor(36, 20.25, 3840, 2160), "4K", 60, 1, 0.02)
        camera = Body(Sensor(36, 24, 6000, 4000), 100, 51200, modes=(mode,))
        film = as_film(Bench(Brief(distance_m=3, light_ev=15), (Slot(Rig(camera, FIFTY, 50, 4, 1 / 125, 400)),)))
        brief = replace(film.brief, subject_speed_m_per_s=8, mains_hz=60)
        compared = compare(brief, film.rigs, film.hold, film.conventions)
        figures = film_of(compared, compared.of(0))
        said = [read(one) for one in film_says(compared, compared.of(0), figures)]
        self.assertEqual(said, [
            "At f/4 and 1/50 it takes ISO 2.52, below its base ISO: put a 5.3-stop neutral filter on, or stop down.",
            "Its mode does 25 frames a second, with pixels enough for 4K.",
            "Vertical lines of the subject lean by 7.63°, as the sensor is read from top to bottom.",
            "Pan no faster than 5.57° a second, seven seconds across the frame. Each frame then smears by 0.29%. "
            "For sharp frames no faster than 1.55° a second.",
        ])  # fmt: skip
        # a lamp on 60 Hz flashes 120 times a second: 1/50 holds 2.4 flashes, 150° or 1/60 holds 2
        flicker = read(says_flicker(brief, figures))
        self.assertEqual(flicker, "Lamps on 60 Hz may flicker at 1/50. Take 150°, which is 1/60.")

    def test_a_photograph_on_a_smaller_camera(self):
        # half the diagonal would be f/2, but its lens ends at f/2.8: more depth, and 400 · (2.8 / 4)² = ISO 196
        full = Rig(body("full-frame", base_iso=100), FIFTY, 50, 4, 1 / 500, 400)
        small = Rig(body("micro-four-thirds", 5184, base_iso=200), Lens(12, 40, ((12, 2.8),)), 25, 2.8, 1 / 125, 200)
        standing = Bench(Brief(), (Slot(full), Slot(small)))
        bench = bench_of(Photograph(standing.slots[0], 5.0), standing, standing.slots[1:])
        said = on_others(compare(bench.brief, bench.rigs, bench.hold, bench.conventions))
        nearest = "B comes nearest to this photograph at 25.1 mm f/2.8, 1/500, ISO 200: "
        self.assertEqual([read(one) for one in said], [nearest + "its depth of field is 3.54 m instead of 2.41 m."])

    def test_three_cameras_of_one_view(self):
        # of one f-number and shutter light goes with area: 864 to 368.9 mm² is 1.2 stops, to 224.9 mm² 1.9 stops
        rigs = []
        for slug, across, grams in (("micro-four-thirds", 100, 400), ("aps-c", 120, 500), ("full-frame", 140, 800)):
            lens = Lens(25, 75, ((25, 2.8),), weight_g=grams / 2, length_mm=80, diameter_mm=70)
            sides = {"outer_width_mm": across, "outer_height_mm": 100, "outer_depth_mm": 50}
            focal = 50 * FORMATS[slug].diagonal_mm / FORMATS["full-frame"].diagonal_mm
            rigs.append(Rig(body(slug, weight_g=grams, **sides), lens, focal, 4, 1 / 500, 400))
        compared = compare(Brief(background_m=10, light_ev=12), rigs)
        said = {one.key: read(one) for one in among_all(compared)}
        for key, text in {
            "rank_view": "All see the same.",
            "rank_depth": "Depth of field, most to least: A 75.4 cm, B 57.3 cm, C 37.2 cm.",
            "rank_light": "Light in the whole picture, most to least: C, then B 1.2 stops behind, then A 1.9 stops "
            "behind.",
            "rank_weight": "Weight, lightest first: A 600 g, B 750 g, C 1.2 kg.",
            "rank_volume": "Room that they take, least first: A 0.808 l, B 0.908 l, C 1.01 l.",
        }.items():  # fmt: skip
            self.assertEqual(said[key], text)
        pair = " ".join(read(one) for one in of_pair(compared, 0, 2))
        self.assertIn("A", pair)
        self.assertNotIn("B ", pair)

    def test_a_bag(self):
        # 200 · 150 · 100 mm are 3 l, of which 60 % pack well
        camera, tele = Block("Camera", (130, 100, 60)), Block("Tele", (210, 90, 90), is_round=True)
        for pieces, text in (
            ([camera], "Yes: each piece goes in, and together they fill 26% of it. Up to 60% packs well."),
            ([camera, tele], "No: Tele goes in no way round."),
            ([camera] * 3, "No: each piece goes in, but together they fill 78% of it. Up to 60% packs well."),
            ([camera, Block("New", (float("nan"),) * 3)], "Perhaps: what is known fills 26% of it, but one piece is of "
             "unknown size."),
        ):  # fmt: skip
            self.assertEqual(read(bag_says(bag_fit(pieces, (200, 150, 100)))), text)
        self.assertEqual(read(against_says("Light", 1.25, 0.8)), "This kit is 25% heavier and 20% smaller than Light.")
        self.assertIsNone(against_says("Light", float("nan"), float("nan")))

    def test_a_meter(self):
        bright = meter_shifts(43.27, 50, 0, ((0, 0.9), (5, 0.9), (20, 0.2), (60, 0.1)))
        self.assertEqual(bright[0], 0)
        self.assertTrue(all(shift < 0 for shift in bright[1:]), bright)
        self.assertIn("3:2 portrait", read(says_meter(bright)))
        alike = "An averaging meter reads this sky the same in 3:2 and 4:3, landscape and portrait."
        self.assertEqual(read(says_meter((0, 0.1, -0.1, 0.05))), alike)

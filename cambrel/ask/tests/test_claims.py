"""What an answer claims beyond its figures, each in both directions and close to its threshold, by own arithmetic."""

from math import log2
from unittest import TestCase

from cambrel.ask.asking import asked
from cambrel.ask.question_kind import Terms
from cambrel.ask.tests.by_hand import airy, area, crop, diagonal
from cambrel.comparison.brief import Conventions


def says(text, **conventions):
    return asked(text, Terms(Conventions(**conventions))).answer.says.replace("\u00a0", " ")


class ClaimTests(TestCase):
    def begins(self, word, text):
        self.assertTrue(says(text).startswith(f"{word}"), f"{text}: {says(text)}")

    def test_whether_diffraction_shows(self):
        for key, name in (("mft", "mft"), ("ff", "full frame")):
            limit = 1000 * diagonal(key) / 1500 / airy(1)
            self.begins("Yes, ", f"does f/{limit * 1.01:.4f} show diffraction on {name}")
            self.begins("No, ", f"does f/{limit * 0.99:.4f} show diffraction on {name}")
        self.assertIn("100 percent", says("diffraction limit 20 mp mft"))
        self.assertNotIn("at 100 percent from", says("diffraction limit mft"))

    def test_diffraction_is_of_the_light_that_is_chosen(self):
        self.assertIn(
            f"f/{1000 * diagonal('mft') / 1500 / airy(1) * 550 / 450:.0f}",
            says("diffraction limit mft", wavelength_nm=450.0),
        )
        self.assertIn("in light of 450 nm", says("airy disc at f/8", wavelength_nm=450.0))

    def test_whether_a_hand_holds_it(self):
        slowest = 1 / (85 * crop("ff"))
        for factor, word in ((1.0, "Yes"), (2 ** (1 / 6) * 0.995, "Yes"), (2 ** (1 / 6) * 1.005, "No"), (2, "No")):
            self.begins(word, f"can i hand hold 85 mm at 1/{1 / (slowest * factor):.4f} on full frame")
        self.begins("About", "handheld 85 mm ff")
        self.assertIn("No hand is steady", says("handheld 24 mm ff 8 stops ibis"))
        self.assertNotIn("No hand is steady", says("handheld 24 mm ff 4 stops ibis"))
        self.assertIn("1/160", says("handheld 85 mm ff", hand="careful"))

    def test_stops_that_are_claimed(self):
        for text, exact in (("is f/{} one stop faster than f/4", 1.0), ("is f/{} two stops faster than f/4", 2.0)):
            for off, word in ((0.0, "Yes. "), (0.16, "Yes. "), (-0.16, "Yes. "), (0.18, "No. "), (-0.18, "No. ")):
                self.begins(word, text.format(f"{4 / 2 ** ((exact + off) / 2):.4f}"))
        ahead = log2(area("ff") / area("mft"))
        for claimed, word in ((ahead + 0.16, "Yes"), (ahead - 0.16, "Yes"), (ahead + 0.18, "No"), (1, "No")):
            self.begins(word, f"is full frame {claimed:.4f} stops better than mft")

    def test_whether_a_bag_holds_it(self):
        bag = "bag of 300 x 200 x 150 mm"
        for side, word in ((299, "Yes"), (300, "Yes"), (301, "No: ")):
            self.begins(word, f"does {side} x 100 x 50 mm fit a {bag}")
        self.assertIn("goes in no way round", says(f"does 50 x 301 x 100 mm fit a {bag}"))
        self.begins("Yes", f"does 50 x 150 x 200 mm fit a {bag}")
        # 60 % of 9 litres is 5.4
        for high, word in ((134, "Yes: it fills"), (136, "No: it would fill")):
            self.begins(word, f"does 290 x 138 x {high} mm fit a {bag}")
        large, small = "400 x 300 x 200 mm", "300 x 200 x 150 mm"
        for text in (
            f"does {large} fit a bag of {small}", f"does {large} fit in a {small} bag", f"bag {small} for {large}",
            f"{small} bag for {large}", f"does {large} fit in {small}",
        ):  # fmt: skip
            self.begins("No: ", text)
            self.begins("Yes", text.replace(large, "90 x 90 x 140 mm"))
        lens = "90 x 90 x 140 mm"
        self.begins("Yes", f"do {lens} and {lens} and {lens} fit a {bag}")
        self.begins("No: it would fill", f"do {lens} and {lens} and {lens} and {lens} and {lens} fit a {bag}")

    def test_what_renting_and_selling_come_to(self):
        for price, days in ((1199, 30), (1200, 30), (1201, 31)):
            self.assertIn(f"pays from {days} days on", says(f"rent at 40 EUR a day or buy for {price} EUR"))
        for sold, end in ((600, "it costs 900 EUR."), (1500, "it costs 0 EUR."), (1501, "it leaves 1 EUR over.")):
            for text in (f"buy for 1500 EUR and sell mine for {sold} EUR", f"sell for {sold} EUR and buy for 1500 EUR"):
                self.assertTrue(says(text).endswith(end), says(text))
        for text in ("rent at 12.50 EUR a day or buy for 600 EUR", "rent at 12,50 EUR a day or buy for 600 EUR"):
            self.assertIn("Renting it is 12.50 EUR a day: buying it new pays from 48 days on", says(text))
        for text in ("rent at 40 EUR a day or buy for 1200 GBP", "buy for 1500 EUR and sell mine for 600 GBP"):
            self.assertIn("two currencies", says(text))
        for text in ("50 mm f/1.8 on mft for 900 euros", "rent at 40 EUR", "EUR 900"):
            self.assertIsNone(asked(text, Terms()).answer, text)

    def test_which_format_is_the_larger(self):
        self.begins("Yes", "is aps-c bigger than mft")
        self.begins("No", "is mft bigger than aps-c")
        self.begins("Yes", "is mft smaller than aps-c")
        self.begins("No", "is aps-c smaller than mft")
        for text in ("ff vs mft", "mft vs ff"):
            self.begins("Full frame gathers 1.9 stops more light than Micro Four Thirds", text)
        self.begins("Full frame and full frame are the same size", "36x24 vs ff")

    def test_whether_a_circle_covers(self):
        self.begins("Yes", "does a full frame lens cover aps-c")
        self.begins("Not by its size alone", "does an aps-c lens cover full frame")

    def test_whether_two_lenses_take_the_same_picture(self):
        k = crop("mft")
        for f, n, word in (
            (50, 1.4 * k, "Yes"),
            (50 * 1.009, 1.4 * k, "Yes"),
            (50 * 1.02, 1.4 * k, "Nearly"),
            (50 * 1.049, 1.4 * k, "Nearly"),
            (50 * 1.051, 1.4 * k, "No"),
            (50, 1.4 * k * 1.05, "Yes"),
            (50, 1.4 * k * 1.07, "No"),
        ):
            self.begins(word, f"is 25 mm f/1.4 on mft the same as {f:.3f} mm f/{n:.4f} on full frame")
        self.begins("Yes", "does a 25mm f/1.4 on mft equal 50 on full frame")
        self.begins("No", "does a 25mm f/1.4 on mft equal 60 on full frame")
        self.assertFalse(says("is 25 f/1.4 on mft faster than 50 f/1.8 on ff").startswith(("Yes", "No")))

    def test_which_of_two_views_has_less_depth(self):
        """f-number times crop factor where both frame alike and near, over the focal length squared from one place."""
        sixth, k = 2 ** (1 / 12), crop("mft")
        asked = "which has less depth of field: 25 mm f/1.4 on mft or {:.4f} mm f/{:.4f} on ff"
        both, place = "{} has less depth of field, framed alike or from the same place. A frames", "From the same place"
        near = "Framed alike and near, {} has less depth of field. A frames"
        for focal, ratio, head in (
            (85, 0.99 / sixth, both.format("B")),
            (85, 1.01 / sixth, f"{place} B has less depth of field. A frames"),
            (85, 0.99 * sixth, f"{place} B has less depth of field. A frames"),
            (85, 1.01 * sixth, f"{place} B has less depth of field. {near.format('A')}"),
            (24, 1.01 * sixth, both.format("A")),
            (24, 0.99 / sixth, f"{place} A has less depth of field. {near.format('B')}"),
            (50 * 1.030, 1, f"{place} B has less depth of field. A frames"),
            (50 * 1.028, 1, "Both have about the same depth of field, framed alike or from the same place."),
        ):
            self.begins(head, asked.format(focal, 1.4 * k * ratio))
        self.begins("A frames", "25 mm f/1.4 on mft or 85 mm f/1.8 on ff")
        for ratio, head in (
            (0.99 / sixth, "Framed alike and near, B has less"),
            (1.01 / sixth, "Framed alike and near, both have about the same"),
            (0.99 * sixth, "Framed alike and near, both have about the same"),
            (1.01 * sixth, "Framed alike and near, A has less"),
        ):
            self.begins(head, f"which has less depth of field: f/1.4 on mft or f/{1.4 * k * ratio:.5f} on full frame")
        self.assertNotIn("depth", says("which has less depth of field: 24-70 f/2.8 ff or 12-40 f/2.8 mft"))

    def test_depth_of_two_formats(self):
        self.begins("Yes", "does mft have more depth of field than full frame")
        self.begins("No", "does full frame have more depth of field than mft")
        self.begins("Yes", "does full frame have less depth of field than mft")
        self.begins("No", "does mft have less depth of field than full frame")
        smaller, larger = says("depth of field mft against full frame"), says("depth of field full frame against aps-c")
        self.assertIn("has twice the depth of field of full frame: what stopping down by 2 stops", smaller)
        self.assertIn("With one lens from one place it has half the depth.", smaller)
        k = crop("apsc")
        self.assertIn(
            f"has {1 / k:.2f} times the depth of field of APS-C: what opening up by {2 * log2(k):.1f}", larger
        )
        self.assertIn(f"it has {k:.1f} times the depth.", larger)
        for factor, is_level in ((1.049, True), (1.051, False), (1 / 1.049, True), (1 / 1.053, False)):
            size = f"{36 / factor:.4f} x {24 / factor:.4f}"
            said = says(f"depth of field {size} mm against full frame")
            self.assertEqual("about the same depth of field" in said, is_level, said)
            self.begins("Yes" if factor > 1 and not is_level else "No", f"does {size} mm have more dof than full frame")

    def test_which_circle_is_first_and_what_needs_the_pixels(self):
        self.begins("0.0144 mm on Micro Four Thirds, 1/1500", "circle of confusion mft")
        self.assertNotIn("two pixels", says("coc ff"))
        self.assertIn("0.012 mm (two pixels)", says("coc 24 mp ff"))
        needed = "pixel count is needed"
        self.assertIn(needed, says("coc ff", criterion="two_pixels"))
        self.assertIn("0.012 mm on full frame, two pixels", says("coc 24 mp ff", criterion="two_pixels"))
        self.assertIn(needed, says("depth of field mft against full frame", criterion="two_pixels"))

    def test_whether_pixels_are_enough_for_a_print(self):
        for dots, words in ((300, "enough for a print"), (299.6, "enough for a print"), (299, "softer than 300")):
            self.assertIn(words, says(f"{(dots * 20) ** 2 / 1.5 / 1e6:.5f} mp printed at 50.8 x 33.86667 cm"))

    def test_what_light_an_exposure_value_is(self):
        for ev, level in ((12, "Overcast"), (15, "Noon"), (15.9, "Noon"), (-3, "Moonlight")):
            self.assertIn(level, says(f"ev {ev}"))
        for ev in (6.5, 16.5):
            self.assertNotIn("about “", says(f"ev {ev}"))

    def test_a_lens_that_cannot_be_is_said(self):
        k = crop("mft")
        self.assertIn("No lens can be that fast", says(f"50 mm f/{0.499 * k:.4f} ff on mft"))
        self.assertNotIn("No lens can be", says(f"50 mm f/{0.501 * k:.4f} ff on mft"))

    def test_three_lenses_are_ranked_by_light(self):
        said = says("35 f/1.4 ff vs 23 f/1.4 aps-c vs 17 f/1.4 mft")
        first, second = (log2(area("ff") / area(key)) for key in ("apsc", "mft"))
        self.assertIn(
            f"A gathers the most light in the whole picture, {first:.1f} stops more than B and {second:.1f}"
            " stops more than C",
            said,
        )
        turned = says("17 f/1.4 mft vs 23 f/1.4 aps-c vs 35 f/1.4 ff")
        self.assertIn("C gathers the most light", turned)
        level = says(
            "25 f/1.4 mft vs 50"
            f" f/{1.4 * crop('mft') * (area('ff') / area('mft')) ** 0.5 / crop('mft'):.4f} ff vs 25 f/1.4 mft"
        )
        self.assertIn("All frame alike", level)
        self.assertIn("All gather the same light", level)

    def test_how_many_pixels_stand_on_a_subject(self):
        far, near = "400 mm 45 mp ff vs 400 mm 20 mp mft", "400 mm 20 mp mft vs 400 mm 45 mp ff"
        self.assertIn("B puts about 1.3 times as many pixels".replace("about ", ""), says(far))
        self.assertIn("A puts 1.3 times as many pixels", says(near))
        same = 20 * area("ff") / area("mft")
        self.assertIn("the same pixels on the subject", says(f"400 mm {same:.4f} mp ff vs 400 mm 20 mp mft").lower())
        self.assertNotIn("pixels", says("400 mm ff vs 400 mm mft"))

    def test_two_times_are_two_amounts_of_light(self):
        self.assertIn("A gathers 2 stops more light", says("50 f/2 ff 1/125 vs 50 f/2 ff 1/500"))
        self.assertIn("B gathers 2 stops more light", says("50 f/2 ff 1/500 vs 50 f/2 ff 1/125"))
        self.assertIn("the same picture", says("50 f/2 ff 1/125 vs 50 f/2 ff 1/125"))

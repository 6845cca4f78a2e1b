"""Answers judged by arithmetic of their own: crop by diagonals, the f-number with it, ISO with its square."""

from math import hypot, log2
from urllib.parse import parse_qs, urlsplit

from django.test import TestCase, tag

from cambrel.ask.answering import ADD_THE_SIZE
from cambrel.ask.asking import asked
from cambrel.ask.question_kind import Terms
from cambrel.ask.tests.table import TABLE
from cambrel.comparison.brief import Conventions
from cambrel.links.benches import decode
from cambrel.owners.models import User
from cambrel.shelf.demo import load_demo

SIZES = {
    "ff": (36, 24), "mft": (17.3, 13), "aps-c": (23.5, 15.6), "aps-c 1.6": (22.3, 14.9), "1 inch": (13.2, 8.8),
    "44x33": (43.8, 32.9),
}  # fmt: skip
WRITTEN = {
    "ff": ("ff", "full frame", "fullframe", "35mm film"), "mft": ("mft", "m43", "micro four thirds", "m4/3"),
    "aps-c": ("aps-c", "apsc"),
    "aps-c 1.6": ("aps-c 1.6",), "1 inch": ("1 inch", "1-inch"), "44x33": ("44x33",),
}  # fmt: skip


def crop(key):
    return hypot(36, 24) / hypot(*SIZES[key])


def said(text, **conventions):
    return asked(text, Terms(Conventions(**conventions))).answer


def figure(text):
    """A figure as it is shown, as a number."""
    return float(text.replace("\u00a0", " ").removeprefix("f/").removeprefix("ISO ").split(" ")[0].replace(",", ""))


class AnswerTests(TestCase):
    def near(self, shown, exact, why):
        self.assertAlmostEqual(figure(shown) / exact, 1, delta=0.03, msg=why)

    def test_a_lens_on_every_format_in_several_ways_of_writing(self):
        for key, ways in WRITTEN.items():
            for way in ways:
                for lens in ("{f}mm f/{n} {x}", "{f} {n} {x}", "{f}/{n} {x}", "{f} mm f{n} on {x}"):
                    text = lens.format(f=40, n=2.8, x=way)
                    with self.subTest(text):
                        (side,) = said(text).sides
                        there = {one.slug: one for one in (side.on, *side.others)}
                        self.near(there["full-frame"].view, 40 * crop(key), text) if "full-frame" in there else None
                        if "micro-four-thirds" in there:
                            k = crop(key) / crop("mft")
                            self.near(there["micro-four-thirds"].view, 40 * k, text)
                            self.near(there["micro-four-thirds"].depth_and_light, 2.8 * k, text)
                            self.assertEqual(there["micro-four-thirds"].exposure, "f/2.8")

    def test_questions_turned_round(self):
        for text, view, number in (
            ("what is 50 f/2 ff on mft", 50 / crop("mft"), 2 / crop("mft")),
            ("mft for 85 1.4", 85 / crop("mft"), 1.4 / crop("mft")),
            ("f/11 ff on m43", None, 11 / crop("mft")),
        ):
            (side,) = said(text).sides
            self.near(side.on.depth_and_light, number, text)
            if view:
                self.near(side.on.view, view, text)
        same = said("50 f/2 ff").says
        self.assertIn(
            f"on Micro Four Thirds {50 / crop('mft'):.0f}\u00a0mm f/1", same, "on its own format the others are told"
        )
        (side,) = said("iso 3200 ff on aps-c").sides
        self.near(side.on.iso, 3200 * 23.5 * 15.6 / (36 * 24), "noise goes by the area")
        by_pixel = said("iso 3200 ff on aps-c", noise="pixel")
        self.assertNotIn("noisy", by_pixel.says, "of pixels nothing was said")

    def test_two_against_each_other(self):
        found = said("25 f/1.4 mft vs 50 f/1.8 ff")
        # light goes by the area, not by the diagonal
        stops = 2 * log2(1.4 / 1.8) + log2(36 * 24 / (17.3 * 13))
        self.assertIn(f"B gathers {stops:.1f}\u00a0stops more", found.says)
        self.assertIn("frame alike", found.says)
        both = said("25 f/1.4 mft vs 50 f/1.8 ff iso 800 at 2 m").sides
        self.assertEqual(
            [(side.distance_m, side.iso) for side in both], [(2, 800)] * 2, "said once, it is meant of both"
        )
        apart = said("25 f/1.4 mft iso 200 vs 50 f/1.8 ff iso 800").sides
        self.assertEqual([side.iso for side in apart], [200, 800])
        level = said("25 f/1.4 mft vs 50 f/2.8 ff")
        self.assertIn("A and B take the same picture", level.says)
        self.assertIn("A gathers", said("50 f/1.8 ff vs 25 f/1.4 mft").says)
        self.assertIn("B like", said("25 f/1.4 mft vs 85 f/1.8 ff").says)

    def test_weights_are_compared_only_where_that_is_fair(self):
        found = said("35-100 f2.8 m43 / 70-200 f2.8 ff 360 g 1400 g")
        self.assertIn("A weighs less", found.more[0])
        self.assertIn("70–200\u00a0mm f/5.6", found.more[0])
        self.assertIn("compare fairly", said("35-100 f2.8 m43 / 70-200 f5.6 ff 360 g 900 g").more[0])
        self.assertEqual(said("35-100 f2.8 m43 / 70-200 f2.8 ff 360 g 365 g").more, ())
        self.assertEqual(said("25 f/1.4 mft vs 50 f/1.8 ff").more, ())

    def test_what_was_assumed_is_said_and_what_cannot_be_known_too(self):
        self.assertIn("No format named", said("85 f/1.4").sides[0].assumed[0])
        self.assertIn(ADD_THE_SIZE, said("25 mm equiv f/1.74 phone").says)
        (phone,) = said("25 mm equiv f/1.74 1/1.3").sides
        self.assertIn("the lens itself has", " ".join(phone.assumed))
        self.near(phone.on.view, 25, "an equivalent is what it says")
        self.near(phone.on.depth_and_light, 1.74 * hypot(36, 24) / hypot(9.6, 7.2), "its depth")

    def test_close_up_the_exact_pair_is_said_and_at_a_distance_not(self):
        f, u, k = 60, 300, crop("mft")
        v = f * u / (u - f) * k
        near = said("60 mm f/2.8 mft at 0.3 m")
        self.assertIn("This is exact at 30\u00a0cm. The crop factor alone would say 120\u00a0mm", near.says)
        self.assertIn(f"frames like {1 / (1 / u + 1 / v):.0f}\u00a0mm", near.says)
        self.near(near.sides[0].on.exposure, 2.8 * u / (u - f), "what is left of the light that near")
        self.assertNotIn("exact", said("60 mm f/2.8 mft at 20 m").says)


class PageTests(TestCase):
    def test_it_answers_as_a_part_and_as_a_page_and_never_fails(self):
        for text in (
            "",
            "21 f/2.2 aps-c 1.6",
            "hello",
            "f/0 0mm",
            "9" * 5000,
            "<b>50 f/2</b>",
            "50 f/2 ff vs",
            "à ½ 📷",
            "1e400 mm f/2",
        ):
            for headers in ({}, {"HX-Request": "true"}):
                page = self.client.get("/ask/", {"q": text}, headers=headers)
                self.assertEqual(page.status_code, 200, text)
                self.assertNotContains(page, "<b>50 f/2</b>")
                self.assertEqual("<!DOCTYPE" in page.content.decode(), not headers)
        page = self.client.get("/ask/", {"q": "21 f/2.2 aps-c 1.6"}, headers={"HX-Request": "true"})
        self.assertContains(page, "33.6\u00a0mm")
        self.assertContains(page, "Focal length")

    def test_enter_on_a_question_of_two_sides_opens_the_bench_with_both(self):
        page = self.client.get("/ask/", {"q": "25 f/1.4 mft vs 50 f/1.8 ff iso 800 at 3 m", "go": "1"})
        bench = decode(parse_qs(urlsplit(page["Location"]).query)["b"][0])
        self.assertEqual([(rig.focal_length_mm, rig.f_number) for rig in bench.rigs], [(25, 1.4), (50, 1.8)])
        self.assertEqual(bench.brief.distance_m, 3)
        self.assertEqual(self.client.get(page["Location"]).status_code, 200)
        self.assertEqual(self.client.get("/ask/", {"q": "25 f/1.4 mft", "go": "1"}).status_code, 200)

    def test_presses_and_what_is_on_the_shelf(self):
        self.client.get("/")
        load_demo(User.objects.get(username="local"))
        page = self.client.get("/ask/", {"q": "tarn 50"}, headers={"HX-Request": "true"})
        self.assertContains(page, "Tarn 50 mm f/1.8")
        page = self.client.get("/ask/", {"q": "25 f/1.4 mft"})
        for _, address, _ in page.context["sides"][0][2]:
            self.assertEqual(self.client.get(address, follow=True).status_code, 200)


class LineTests(TestCase):
    def card(self, text):
        return self.client.get("/ask/", {"q": text}, headers={"HX-Request": "true"})

    def test_what_was_understood_stands_as_pieces_that_say_where_they_are(self):
        text = "dof 85 mm f/1.8 ff at 2 m"
        chips = {chip.label: chip for chip in self.card(text).context["chips"]}
        self.assertEqual(list(chips), ["Focal length", "F-number", "Format", "Distance"])
        for chip in chips.values():
            self.assertEqual(text[chip.start : chip.end], chip.value)
        self.assertIn(("mft", "Micro Four Thirds"), chips["Format"].choices)
        for alike in ("airy disc at f/8", "magnification of a 25 mm tube on 50 mm", "entrance pupil of 85 mm f/1.4"):
            labels = [chip.label for chip in self.card(alike).context["chips"]]
            self.assertNotIn("Format", labels, "no format changes it")
        assumed = self.card("dof 85 mm f/1.8 at 2 m").context["chips"][-1]
        self.assertEqual((assumed.label, assumed.value, assumed.before), ("Format", "full frame", " on "))
        self.assertEqual(
            [(chip.label, chip.value, chip.before) for chip in self.card("50 mm f/2 ff").context["chips"]][-1],
            ("Distance", "", " at "),
        )
        held = self.card("50 f/2 on ff on mft").context["chips"][-1]
        self.assertEqual(
            (held.label, [typed for typed, _ in held.choices]), ("Kept the same", ["same picture", "same lens"])
        )
        self.assertIn("100\u00a0mm", self.card("50 f/2 on ff on mft, same lens").context["answer"].says)

    def test_an_equivalent_is_turned_by_one_press(self):
        text = "24 mm f/1.8 1/1.3 type"
        (turn,) = (chip for chip in self.card(text).context["chips"] if chip.label == "Read as")
        self.assertEqual([typed for typed, _ in turn.choices], ["", "true"])
        turned = f"{text[: turn.start]} true{text[turn.end :]}"
        self.assertIn(f"{24 * hypot(36, 24) / 12:.1f}", self.card(turned).context["answer"].says)
        (back,) = (chip for chip in self.card(turned).context["chips"] if chip.label == "Read as")
        self.assertEqual((back.value, back.choices[1][0]), ("true", "equivalent"))

    def test_offers_refusals_and_words(self):
        self.assertContains(self.card("dof 85 1.8"), 'data-ask="dof 85 1.8 at 2 m"')
        self.assertContains(self.card("50 mm at 5500 K"), "is kelvin")
        self.assertContains(self.card("dx 50 1.8"), "Not understood: “dx”")
        self.assertContains(self.card("hyperfcal 24 mm f/8"), "is read as “hyperfocal”")
        self.assertContains(self.card("what is bokeh"), "For example:")
        self.assertNotContains(self.card("bokeh 37 purple"), "For example:")
        self.assertContains(self.card("size of the sun with 400 mm ff"), "Never point a long lens")
        self.assertContains(self.card("Is f/2.8 here f/2.8 there?"), "no for")
        feet = self.card("purple")
        self.assertContains(feet, "That is not understood as a question.")

    def test_a_pasted_link_of_cambrel_opens_here_and_no_other_does(self):
        there = "https://elsewhere.example/formats/?of=1"
        self.assertContains(self.card(there), 'href="/formats/?of=1"')
        opened = self.client.get("/ask/", {"q": there, "go": "1"})
        self.assertEqual(opened["Location"], "/formats/?of=1")
        for odd in (
            "https://elsewhere.example/nowhere/",
            "https://a.example//b.example/",
            "javascript:alert(1)",
            "http://[",
            "https://x/formats/ 50",
        ):
            with self.subTest(odd):
                self.assertFalse(self.card(odd).context["link"])

    @tag("long")
    def test_every_answer_opens_where_it_leads(self):
        seen = set()
        for key, _, written in TABLE:
            text = written.partition("|")[0].split(";")[0].strip()
            answer = self.card(text).context["answer"]
            for label, address in answer.opens:
                there = urlsplit(address)
                place = there.path, parse_qs(there.query).get("panel", [""])[0]
                if place in seen:
                    continue
                seen.add(place)
                with self.subTest(key, label=label):
                    self.assertEqual(self.client.get(address).status_code, 200)
        self.assertGreaterEqual(len(seen), 8)


class PressTests(TestCase):
    def test_a_lens_that_was_asked_about_goes_on_the_bench_to_match_and_on_the_shelf(self):
        owner, _ = User.objects.get_or_create(username="local")
        load_demo(owner)
        page = self.client.get("/ask/", {"q": "21 f/2.2 aps-c"})
        ((_, _, presses, _),) = page.context["sides"]
        addresses = {label: address for label, address, _ in presses}
        for index, letter in enumerate("AB"):
            there = self.client.get(addresses[f"Put on the bench as {letter}"], follow=True).context["page"].bench
            slot = there.slots[index]
            self.assertEqual((slot.rig.focal_length_mm, slot.rig.f_number, slot.rig.sensor.width_mm), (21, 2.2, 23.5))
            self.assertEqual(len(there.slots), 2, "in place of the one that stood there")
        self.assertEqual(len(self.client.get(addresses["as one more"], follow=True).context["page"].bench.slots), 3)
        self.assertEqual(self.client.get(addresses["Find lenses"]).status_code, 200)
        form = self.client.get(addresses["Keep on the shelf"])
        self.assertContains(form, 'value="21 mm f/2.2')

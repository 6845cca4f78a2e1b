"""What is looked at closer: what would help, side by side, zooms or primes, what stays later."""

import json
from dataclasses import replace
from unittest import mock

from django.core.cache import cache
from django.test import tag
from django.urls import reverse

from cambrel.choose import helping
from cambrel.choose.tests.deciding import DecisionTestCase
from cambrel.comparison.opponents import answer
from cambrel.comparison.rig import Body as OpticsBody
from cambrel.comparison.rig import Lens as OpticsLens
from cambrel.comparison.rig import Rig
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.shelf.models import Adapter as AdapterRecord
from cambrel.shelf.models import Body, Kit, Lens
from cambrel.shelf.tests.test_shelf import NEW_LENS


@tag("long")
class HelpingTests(DecisionTestCase):
    def lines(self, **sent):
        answer = self.client.get(reverse("choose:helping"), sent)
        return [json.loads(line) for line in b"".join(answer.streaming_content).decode().splitlines()]

    def test_the_search_tells_how_far_it_is_and_ends_with_the_part_of_the_page(self):
        cache.clear()
        told = self.lines(kit=self.kit("Footplate bag").pk)
        done = [one["done"] for one in told]
        self.assertEqual(done, sorted(done))
        self.assertEqual(done[-1], 1)
        self.assertGreater(len(told), 5)
        self.assertIn("Staying as it is", told[-1]["html"])
        self.assertEqual(len(self.lines(kit=self.kit("Footplate bag").pk)), 1, "kept until the shelf changes")
        self.client.post("/shelf/lenses/new/", NEW_LENS)
        self.assertGreater(len(self.lines(kit=self.kit("Footplate bag").pk)), 5)

    def test_what_helps_a_kit_is_tried_on_the_kit_it_was_found_for(self):
        page = self.page(kit=self.kit("Footplate bag").pk, look="help")
        by_link = self.client.get(page.context["link"] + "&look=help")
        for one, key in ((page, str(self.kit("Footplate bag").pk)), (by_link, "v0")):
            (found,) = one.context["looked"]
            self.assertEqual({change.token.partition(":")[0] for change in found.turning}, {key})
        (found,) = by_link.context["looked"]
        tried = self.client.get(page.context["link"], {"c": page.context["token"], "what": found.turning[0].token})
        self.assertEqual(len(tried.context["heads"]), 2)

    def test_whoever_leaves_stops_it(self):
        cache.clear()
        steps = []
        with mock.patch(
            "cambrel.choose.helping.search", lambda *a: (steps.append(n) or (n / 9, None) for n in range(9))
        ):
            told = self.client.get(reverse("choose:helping"), {"kit": self.kit("Footplate bag").pk})
            next(iter(told.streaming_content))
            told.close()
        self.assertLess(len(steps), 3)

    def test_whoever_leaves_before_the_first_line_gives_the_turn_back(self):
        cache.clear()
        told = self.client.get(reverse("choose:helping"), {"kit": self.kit("Footplate bag").pk})
        self.assertEqual(helping.LANE._free, 0)
        told.close()
        self.assertEqual(helping.LANE._free, 1)

    def test_a_line_that_does_not_move_is_left_after_a_while(self):
        cache.clear()
        with mock.patch.object(helping.LANE, "door", replace(helping.LANE.door, seconds=0.2)), helping.LANE.turn():
            page = self.client.get(reverse("choose:helping"), {"kit": self.kit("Footplate bag").pk})
        self.assertContains(page, "Others wait for the same", status_code=503)

    def test_staying_wins_where_nothing_turns_and_nothing_is_lighter(self):
        # how sure that is is judged with the sentences of changes, and takes long
        for lifted, sure in (([], "Sure: nothing wins more than 5%"), (["light"], "Could go either way: ")):
            cache.clear()
            with mock.patch.object(helping, "lifted_by", return_value=iter(lifted)):
                (found,) = self.page(kit=self.kit("Day off bag").pk, look="help").context["looked"]
            self.assertEqual((found.turning, found.lighter), ([], []))
            self.assertEqual(found.says, "Stay: no single change from the shelf wins more than 5% of these pictures.")
            self.assertIn(sure, found.sure)

    def test_where_nothing_turns_the_lighter_is_said(self):
        (found,) = self.page(kit=self.kit("Lineside bag").pk, look="help").context["looked"]
        self.assertEqual(found.turning, [])
        self.assertRegex(
            found.says, r"^(Swap .* for .*|Leave out .*): nothing is lost, and Lineside bag is [\d.]+\sk?g lighter\.$"
        )
        self.assertIn("without Tarn 50 mm f/1.8", [one.name for one in found.lighter])


class SideTests(DecisionTestCase):
    def test_the_lens_that_answers_another_covers_its_range_and_is_nearest_in_light(self):
        full, mft = (
            OpticsBody(Sensor(FORMATS[slug].width_mm, FORMATS[slug].height_mm))
            for slug in ("full-frame", "micro-four-thirds")
        )

        def lens(low, high, n):
            return OpticsLens(low, high, ((low, n),) if low == high else ((low, n), (high, n)))

        one = Rig(mft, lens(12, 40, 2.8))
        others = [Rig(full, lens(24, 70, 2.8)), Rig(full, lens(24, 105, 5.6)), Rig(full, lens(50, 50, 1.4))]
        found = answer(one, others)
        self.assertEqual(found.number, 1)
        self.assertAlmostEqual(found.share, 1.0, places=1)
        self.assertAlmostEqual(found.stops, 0.0, delta=0.1)
        self.assertEqual(
            answer(Rig(mft, lens(25, 25, 1.4)), others).number, 0, "of as much of its range the nearest in light"
        )
        self.assertIsNone(answer(Rig(mft, lens(300, 300, 4)), others))
        brighter, darker = Rig(full, lens(24, 80, 1.4)), Rig(full, lens(24, 80, 5.6))
        self.assertAlmostEqual(answer(Rig(mft, lens(25, 25, 1.4)), [brighter]).stops, 2, delta=0.05)
        self.assertAlmostEqual(answer(Rig(mft, lens(25, 25, 1.4)), [darker]).stops, -2, delta=0.05)
        near = Rig(full, lens(24, 80, 2.5))
        self.assertEqual(answer(Rig(mft, lens(25, 25, 1.4)), [brighter, near, darker]).number, 1)

    def test_bars_ranges_both_and_opponents_say_what_the_table_says(self):
        page = self.page(look="side")
        side, heads = page.context["looked"], self.kits(page)
        for name, head in heads.items():
            self.assertIn(f"{name}: makes {head['made']}", side.bars.description)
        self.assertEqual(
            [name for name, _ in side.opponents],
            ["Larkmoor 15-45 mm f/3.5-5.6", "Larkmoor 23 mm f/1.4", "Larkmoor 55-200 mm f/3.5-4.8"],
        )
        self.assertEqual(side.both, ["No two together can take more than one alone."])
        both = self.page(look="side", kit=[self.kit(name).pk for name in ("Footplate bag", "Day off bag")])
        self.assertEqual(both.context["looked"].both, side.both)
        self.kit("Footplate bag").lenses.remove(
            *Lens.objects.filter(name__in=["Pipwren 9 mm f/1.7", "Pipwren 12-40 mm f/2.8"])
        )
        self.kit("Day off bag").lenses.remove(Lens.objects.get(name="Larkmoor 55-200 mm f/3.5-4.8"))
        page = self.page(look="side", kit=[self.kit(name).pk for name in ("Footplate bag", "Day off bag")])
        made = [float(head["made"].rstrip("%")) for head in page.context["heads"]]
        (said,) = page.context["looked"].both
        together = float(said.partition("together can take ")[2].partition("%")[0])
        self.assertGreater(together, max(made))
        self.assertIn("Footplate bag for “Viaduct crossing”", said)

    def test_zooms_and_primes_alone_are_kits_of_their_own(self):
        page = self.page(look="swap", kit=self.kit("Footplate bag").pk)
        ways = {way.name: way for way in page.context["looked"]["ways"]}
        record = self.kit("Footplate bag")
        for kind, is_zoom in (("zooms", True), ("primes", False)):
            alone = Kit.objects.create(owner=self.owner, name=kind)
            alone.bodies.set(record.bodies.all())
            alone.lenses.set(
                [lens for lens in record.lenses.all() if (lens.focal_min_mm < lens.focal_max_mm) == is_zoom]
            )
            head = self.kits(self.page(kit=alone.pk))[kind]
            self.assertEqual(ways[f"Footplate bag, its {kind}"].made, head["made"])
            self.assertEqual(ways[f"Footplate bag, its {kind}"].covers, head["covers"])

    def test_what_stays_later_goes_on_and_is_counted(self):
        body = Body.objects.get(name="Tarn Cairn")
        looked = self.page(look="later", body=f"body-{body.pk}").context["looked"]
        for row in looked.rows:
            mount = Lens.objects.get(name=row.lens).mount
            self.assertEqual(row.stays, mount == "Tarn", row)
        (said,) = [say for say in looked.says if say.startswith("Day off bag")]
        self.assertRegex(said, r"Day off bag: no lens can be kept with Tarn Cairn\. \d do not fit\.")
        (said,) = [one for one in looked.says if one.startswith("Lineside bag")]
        self.assertIn("3 of 3 lenses can be kept with Tarn Cairn", said)
        self.assertIn("1.65 kg".replace(" ", "\u00a0"), said)
        body = Body.objects.get(name="Larkmoor Beck")
        there = self.page(look="later", body=f"body-{body.pk}").context["looked"]
        tarn = {row.lens: row for row in there.rows}["Tarn 50 mm f/1.8"]
        self.assertEqual((tarn.stays, tarn.mount), (False, "with an adapter, none on the shelf"))
        (said,) = [one for one in there.says if one.startswith("Lineside bag")]
        self.assertEqual(
            said,
            "Lineside bag: no lens can be kept with Larkmoor Beck. 3 would fit with an adapter that is not on the"
            " shelf.",
        )
        AdapterRecord.objects.create(owner=self.owner, name="Ring", lens_mount="Tarn", mount=body.mount)
        rows = {row.lens: row for row in self.page(look="later", body=f"body-{body.pk}").context["looked"].rows}
        tarn = rows["Tarn 50 mm f/1.8"]
        self.assertEqual((tarn.stays, tarn.mount, tarn.cover), (True, "with an adapter", "covers"))
        self.assertEqual(tarn.becomes.replace("\u00a0", " "), "76.7 mm f/2.8")
        self.assertRegex(rows["Pipwren 25 mm f/1.4"].cover, r"covers \d\d%, [\d.]+\sMP left")
        looked = self.page(look="later", body=f"body-{body.pk}").context["looked"]
        kit = rows["Pipwren 25 mm f/1.4"].kit
        (said,) = [one for one in looked.says if one.startswith(kit)]
        self.assertRegex(said, rf"{kit}: no lens can be kept with Larkmoor Beck\. \d would fit with an adapter")
        AdapterRecord.objects.create(
            owner=self.owner,
            name="Ring 2",
            lens_mount=Lens.objects.get(name="Pipwren 25 mm f/1.4").mount,
            mount=body.mount,
        )
        looked = self.page(look="later", body=f"body-{body.pk}").context["looked"]
        (said,) = [one for one in looked.says if one.startswith(kit)]
        self.assertRegex(said, r"\d cover only a part of its sensor\.")

"""From the table to a decision: changes that are tried, what must be had, kits by value, what stays, and decisions that are kept."""

import json
from dataclasses import replace
from html import unescape
from pathlib import Path
from unittest import mock

import jsonschema
from django.conf import settings
from django.core.cache import cache
from django.urls import reverse

from cambrel.choose.models import KeptDecision
from cambrel.choose.packing import Packed, Shelf
from cambrel.links.choices import Adapter, KitBag, Piece, decode_choice, encode_choice
from cambrel.links.choices import Support as CarriedSupport
from cambrel.links.tokens import LinkError
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.optics.opponents import answer
from cambrel.optics.rig import Body as OpticsBody
from cambrel.optics.rig import Lens as OpticsLens
from cambrel.optics.rig import Rig
from cambrel.owners.models import ChangeSet, User
from cambrel.owners.sections import SECTIONS
from cambrel.shelf.intake import read_file
from cambrel.shelf.models import Adapter as AdapterRecord
from cambrel.shelf.models import Body, Kit, Lens, Support
from cambrel.shelf.previews import apply, look_at, store
from cambrel.shelf.tests.test_shelf import NEW_LENS, ShelfTestCase


class DecisionTestCase(ShelfTestCase):
    def page(self, **sent):
        return self.client.get(reverse("choose:choose"), sent)

    def text(self, page):
        return unescape(page.content.decode())

    def kit(self, name):
        return Kit.objects.get(name=name)

    def kits(self, page):
        return {head["kit"].name: head for head in page.context["heads"]}


class TryingTests(DecisionTestCase):
    def test_a_change_is_found_by_name_or_by_figures_and_stands_as_a_column(self):
        kit = self.kit("Day off bag")
        old = Lens.objects.get(name="Larkmoor 23 mm f/1.4")
        for typed, name in (
            ("larkmoor 33 mm f/1.2", "Larkmoor 33 mm f/1.2"),
            ("Scree", "Larkmoor Scree"),
            ("27 mm f/2", "27 mm f/2"),
        ):
            with self.subTest(typed=typed):
                page = self.page(kit=kit.pk, try_place=f"{kit.pk}:", try_with=typed)
                self.assertIn(f"Day off bag + {name}", self.kits(page))
                ((token, bag),) = page.context["tried"]
                # it stays in the address, and comes out the same
                again = self.page(kit=kit.pk, what=token)
                self.assertEqual([one for _, one in again.context["tried"]], [bag])
        page = self.page(kit=kit.pk, try_place=f"{kit.pk}:lens-{old.pk}", try_with="27 mm f/2")
        (_, bag) = page.context["tried"][0]
        self.assertNotIn(old.name, [one.name for one in bag.pieces])
        self.assertEqual([one.what.mount for one in bag.pieces if one.name == "27 mm f/2"], ["Larkmoor"])
        # what was tried stands among the kits, and is not tried once more by what is left in the field
        self.assertNotContains(page, 'value="27 mm f/2"')
        (token, _) = page.context["tried"][0]
        again = self.page(kit=kit.pk, what=token, try_place=f"{kit.pk}:lens-{old.pk}", try_with="27 mm f/2")
        self.assertEqual(len(again.context["tried"]), 1)
        page = self.page(kit=kit.pk, try_place=f"{kit.pk}:lens-{old.pk}")
        self.assertIn("Day off bag − Larkmoor 23 mm f/1.4", self.kits(page))

    def test_what_is_on_no_shelf_and_states_nothing_is_said_beside_its_field(self):
        kit = self.kit("Day off bag")
        page = self.page(kit=kit.pk, try_place=f"{kit.pk}:", try_with="lamp hut")
        self.assertContains(page, "Nothing on the shelf is called “lamp hut”", status_code=422)
        self.assertContains(page, 'value="lamp hut"', status_code=422)
        self.assertEqual(self.page(kit=kit.pk, try_place="9:9:9", try_with="x" * 200).status_code, 422)

    def test_nobody_tries_anothers_gear(self):
        other = User.objects.create(username="somebody")
        theirs = Lens.objects.create(owner=other, name="Theirs", mount="Larkmoor", focal_min_mm=20, focal_max_mm=20)
        kit = self.kit("Day off bag")
        self.assertEqual(self.page(kit=kit.pk, what=f"{kit.pk}::lens-{theirs.pk}").context["tried"], [])


class MustsTests(DecisionTestCase):
    def test_each_must_takes_out_what_has_it_not_and_says_what_that_costs(self):
        def rigs(**sent):
            return {name: head["kit"].rigs for name, head in self.kits(self.page(**sent)).items()}

        free = rigs()
        stabilised = rigs(must_stabilised="on")
        wanted = [rig for rig in free["Day off bag"] if rig.lens.stabilisation_stops]
        self.assertEqual(stabilised["Day off bag"], wanted, "its camera is not stabilised")
        self.assertEqual(len(stabilised["Lineside bag"]), len(free["Lineside bag"]))
        mount = rigs(must_mount="Tarn")
        self.assertEqual({rig.body.mount for rig in mount["Two systems"]}, {"Tarn"})
        self.assertFalse(mount["Footplate bag"])
        tracker = Support.objects.get(kind="tracker")
        tracker.payload_g = 900
        tracker.save()
        light = rigs(must_track=tracker.pk)
        for name, kept in light.items():
            wanted = [rig for rig in free[name] if rig.body.weight_g + rig.lens.weight_g <= 900]
            self.assertEqual(kept, wanted)
        page = self.page(must_stabilised="on")
        before, after = (self.kits(one)["Day off bag"]["made"] for one in (self.page(), page))
        self.assertIn(f"Day off bag makes {after} instead of {before}, for what must be had.", self.text(page))

    def test_a_kit_beyond_weight_or_price_is_out(self):
        heads = self.kits(self.page())
        grams = {name: head["kit"].weighs({"tripod", "monopod"}) for name, head in heads.items()}
        most = sorted(grams.values())[1]
        said = self.text(self.page(must_weigh=str(most)))
        for name, weight in grams.items():
            self.assertEqual(f"{name} is out: heavier" in said, weight > most)
        prices = {name: head["kit"].cost for name, head in heads.items()}
        said = self.text(self.page(must_cost="4000", must_currency="EUR"))
        for name, price in prices.items():
            self.assertEqual(f"{name} is out: dearer" in said, not price <= 4000)
        Lens.objects.filter(kits__name="Day off bag").update(weight_g=None)
        self.assertIn("Day off bag is out: what it weighs is not known.", self.text(self.page(must_weigh="9000")))

    def test_a_kit_that_is_out_is_no_longer_spoken_of(self):
        page = self.page(must_cost="5500", must_currency="EUR")
        said = " ".join([page.context["headline"], *page.context["sentences"]])
        self.assertNotIn("Lineside bag", said)
        self.assertNotIn("Two systems", said)
        self.assertIn("Day off bag", said)
        self.assertNotIn(
            "Carry Lineside bag", self.text(self.page(must_cost="5500", must_currency="EUR", out="dusk-pass"))
        )

    def test_what_would_help_goes_by_the_musts(self):
        kit = self.kit("Two systems")
        (free,) = self.page(kit=kit.pk, look="help").context["looked"]
        (bound,) = self.page(kit=kit.pk, look="help", must_mount="Larkmoor").context["looked"]
        self.assertTrue(any("Tarn" in one.name for one in free.turning))
        for one in (*bound.turning, *bound.lighter):
            self.assertNotIn("Tarn", one.name.partition(" in place of ")[0].replace("without Tarn", ""))


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

    def test_staying_wins_where_nothing_turns_and_nothing_is_lighter(self):
        (found,) = self.page(kit=self.kit("Day off bag").pk, look="help").context["looked"]
        self.assertEqual((found.turning, found.lighter), ([], []))
        self.assertIn("Stay:", found.says)
        (found,) = self.page(kit=self.kit("Lineside bag").pk, look="help").context["looked"]
        self.assertIn("Staying is beaten", found.says)
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
        self.assertEqual(side.both, ["No two of them together make more than one of them."])
        both = self.page(look="side", kit=[self.kit(name).pk for name in ("Footplate bag", "Day off bag")])
        self.assertEqual(both.context["looked"].both, side.both)
        self.kit("Footplate bag").lenses.remove(
            *Lens.objects.filter(name__in=["Pipwren 9 mm f/1.7", "Pipwren 12-40 mm f/2.8"])
        )
        self.kit("Day off bag").lenses.remove(Lens.objects.get(name="Larkmoor 55-200 mm f/3.5-4.8"))
        page = self.page(look="side", kit=[self.kit(name).pk for name in ("Footplate bag", "Day off bag")])
        made = [float(head["made"].rstrip("%")) for head in page.context["heads"]]
        (said,) = page.context["looked"].both
        together = float(said.partition("together make ")[2].partition("%")[0])
        self.assertGreater(together, max(made))
        self.assertIn("Footplate bag for “Viaduct crossing”", said)

    def test_zooms_and_primes_alone_are_kits_of_their_own(self):
        page = self.page(look="swap", kit=self.kit("Footplate bag").pk)
        ways = {way.name: way for way in page.context["looked"]["ways"]}
        record = self.kit("Footplate bag")
        for kind, is_zoom in (("zooms", True), ("primes", False)):
            alone = Kit.objects.create(owner=self.owner, name=kind)
            alone.bodies.set(record.bodies.all())
            alone.lenses.set([one for one in record.lenses.all() if (one.focal_min_mm < one.focal_max_mm) == is_zoom])
            head = self.kits(self.page(kit=alone.pk))[kind]
            self.assertEqual(ways[f"Footplate bag, its {kind}"].made, head["made"])
            self.assertEqual(ways[f"Footplate bag, its {kind}"].covers, head["covers"])

    def test_what_stays_later_goes_on_and_is_counted(self):
        body = Body.objects.get(name="Tarn Cairn")
        looked = self.page(look="later", body=f"body-{body.pk}").context["looked"]
        for row in looked.rows:
            mount = Lens.objects.get(name=row.lens).mount
            self.assertEqual(row.stays, mount == "Tarn", row)
        (said,) = [one for one in looked.says if one.startswith("Day off bag")]
        self.assertRegex(said, r"Day off bag: no lens stays with Tarn Cairn\. \d do not go on\.")
        (said,) = [one for one in looked.says if one.startswith("Lineside bag")]
        self.assertIn("3 of 3 lenses stay with Tarn Cairn", said)
        self.assertIn("1.74 kg".replace(" ", "\u00a0"), said)
        body = Body.objects.get(name="Larkmoor Beck")
        there = self.page(look="later", body=f"body-{body.pk}").context["looked"]
        tarn = {row.lens: row for row in there.rows}["Tarn 50 mm f/1.8"]
        self.assertEqual((tarn.stays, tarn.mount), (False, "with an adapter, none on the shelf"))
        (said,) = [one for one in there.says if one.startswith("Lineside bag")]
        self.assertEqual(
            said,
            "Lineside bag: no lens stays with Larkmoor Beck. 3 would go on with an adapter that is not on the shelf.",
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
        self.assertRegex(said, rf"{kit}: no lens stays with Larkmoor Beck\. \d would go on with an adapter")
        AdapterRecord.objects.create(
            owner=self.owner,
            name="Ring 2",
            lens_mount=Lens.objects.get(name="Pipwren 25 mm f/1.4").mount,
            mount=body.mount,
        )
        looked = self.page(look="later", body=f"body-{body.pk}").context["looked"]
        (said,) = [one for one in looked.says if one.startswith(kit)]
        self.assertRegex(said, r"\d cover only a part of its sensor\.")


class ByValueTests(DecisionTestCase):
    def test_a_link_shows_the_same_to_whoever_opens_it(self):
        page = self.page(**{"dusk-pass": "3"})
        link = page.context["link"]
        before = [
            [cell and (cell.status, cell.gear, cell.settings, cell.says) for cell in cells]
            for _, _, cells, _ in page.context["rows"]
        ]
        said = page.context["headline"]
        Kit.objects.all().delete()
        Lens.objects.all().delete()
        page = self.client.get(link)
        after = [
            [cell and (cell.status, cell.gear, cell.settings, cell.says) for cell in cells]
            for _, _, cells, _ in page.context["rows"]
        ]
        self.assertEqual(after, before)
        self.assertEqual(page.context["headline"], said)
        self.assertEqual(self.client.get(page.context["link"]).context["headline"], said)

    def test_every_kit_comes_back_by_value_as_it_was(self):
        choice = self.page().context["decision"].choice
        back = decode_choice(encode_choice(choice))
        self.assertEqual(back, choice)
        for one, other in zip(choice.kits, back.kits, strict=True):
            self.assertEqual(Packed(one).rigs, Packed(other).rigs)
        # a camera that takes other mounts, one with a lens of its own, a ring and a stand
        lens = Piece("Part of it", OpticsLens(24, 24, ((24, 1.8),), mount="Fen"))
        body = OpticsBody(Sensor(17.3, 13, 5200), mount="Fen")
        odd = KitBag(
            "Odd",
            (
                Piece("Takes", body, ("Old Fen", "Older Fen")),
                Piece("Fixed", OpticsBody(Sensor(8, 6)), (), (lens,)),
                lens,
                Piece("Ring", Adapter("Reflex", "Fen", 80.0, None, "")),
                Piece("Stand", CarriedSupport("tracker", 900.0, 300.0, "EUR", 2500.0)),
            ),
            "a note",
        )
        self.assertEqual(decode_choice(encode_choice(replace(choice, kits=(odd,)))).kits, (odd,))

    def test_nonsense_is_refused_with_its_reason(self):
        whole = encode_choice(self.page().context["decision"].choice)
        for token in ("x", whole[:-9], whole + "A" * 4000, "eJyLjgUAARUAuQ"):
            with self.subTest(token=token[:12]):
                self.assertRaises(LinkError, decode_choice, token)
                answer = self.page(c=token)
                self.assertEqual(answer.status_code, 400)
                self.assertContains(answer, "This link", status_code=400)

    def test_the_document_holds_what_the_page_says(self):
        answer = self.page(**{"as": "json"})
        found = json.loads(answer.content)
        schema = json.loads((Path(settings.ROOT) / "docs" / "choice.schema.json").read_text())
        jsonschema.Draft202012Validator(schema).validate(found)
        page = self.page()
        self.assertEqual([kit["name"] for kit in found["kits"]], list(self.kits(page)))
        self.assertEqual(found["says"], page.context["sentences"])
        self.assertEqual(len(found["cells"]), len(found["kits"]) * len(found["pictures"]))
        self.assertEqual(self.client.get("/choose/", {"c": found["link"]}).context["sentences"], found["says"])


class BroughtInTests(DecisionTestCase):
    def bring(self, **files):
        parts = [(f"{name}.csv", read_file(f"{name}.csv", text.encode())) for name, text in files.items()]
        preview = store(self.owner, "mine", parts)
        while look_at(preview):
            pass
        apply(preview)

    def test_kits_from_tables_are_chosen_between(self):
        self.bring(
            gear=(
                "type;name;mount;format;megapixels;focal length;max aperture;weight;price\n"
                "camera;Fen One;Fen;aps-c;24;;;400 g;700 EUR\n"
                "lens;Fen 16-50;Fen;;;16-50;f/2.8;500 g;600 EUR\n"
                "lens;Fen 35;Fen;;;35;f/1.4;200 g;400 EUR\n"
            ),
        )
        self.bring(
            kits='name,bodies,lenses,supports\nFen bag,Fen One,Fen 16-50;Fen 35,"Fell tripod, light"\nFen prime,Fen One,Fen 35,\n'
        )
        pks = [self.kit(name).pk for name in ("Fen bag", "Fen prime")]
        heads = self.kits(self.page(kit=pks, look="help"))
        self.assertEqual(list(heads), ["Fen bag", "Fen prime"])
        self.assertEqual(heads["Fen bag"]["kit"].weighs({"tripod"}), 400 + 500 + 200 + 980)
        self.assertTrue(heads["Fen bag"]["kit"].rigs)
        made = [float(head["made"].rstrip("%")) for head in heads.values()]
        self.assertGreater(made[0], made[1])


class KeepingTests(DecisionTestCase):
    def keep(self, **more):
        token = self.page(kit=[self.kit("Lineside bag").pk, self.kit("Day off bag").pk]).context["token"]
        sent = {
            "name": "Which bag for Sundays?",
            "took": "Day off bag",
            "reasons": "Lighter.\nThe dials.",
            "choice": token,
        }
        return self.client.post(reverse("choose:keep"), sent | more, follow=True)

    def test_a_decision_is_kept_opened_later_thrown_away_and_brought_back(self):
        page = self.keep()
        self.assertContains(page, "Which bag for Sundays?")
        self.assertContains(page, "Nothing of it has changed since.")
        self.assertContains(page, "The dials.")
        (record,) = KeptDecision.objects.all()
        self.assertContains(self.page(), record.name)
        for kind in ("csv", "json"):
            file = self.client.get(reverse("choose:kept", args=[record.pk]), {"as": kind})
            self.assertIn(f"cambrel-choose.{kind}", file["Content-Disposition"])
        self.client.post(reverse("choose:forget", args=[record.pk]))
        self.assertFalse(KeptDecision.objects.exists())
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/choose/"})
        self.assertEqual(KeptDecision.objects.get().token, record.token)

    def test_what_has_changed_since_is_said_and_the_kits_stay_as_they_were(self):
        self.keep()
        (record,) = KeptDecision.objects.all()
        before = self.client.get(reverse("choose:kept", args=[record.pk])).context["sentences"]
        Lens.objects.filter(name="Tarn 24-70 mm f/2.8").update(price=1490, weight_g=600)
        Lens.objects.filter(name="Tarn 50 mm f/1.8").update(widest=[[50, 2.0]])
        self.kit("Day off bag").lenses.remove(Lens.objects.get(name="Larkmoor 55-200 mm f/3.5-4.8"))
        self.kit("Day off bag").lenses.add(Lens.objects.get(name="Larkmoor 12 mm f/2"))
        page = self.client.get(reverse("choose:kept", args=[record.pk]))
        said = " ".join(page.context["since"]).replace("\u00a0", " ")
        for wanted in (
            "Day off bag now has Larkmoor 12 mm f/2 too.",
            "Day off bag is without Larkmoor 55-200 mm f/3.5-4.8 now.",
            "Tarn 24-70 mm f/2.8 costs 1,490 EUR, then 1,990 EUR.",
            "Tarn 24-70 mm f/2.8 weighs 600 g, then 695 g.",
            "Tarn 50 mm f/1.8: widest put down otherwise since.",
            "“Viaduct crossing” with Day off bag: cannot, then does it.",
        ):
            self.assertIn(wanted, said)
        self.assertEqual(page.context["sentences"], before)
        self.kit("Lineside bag").delete()
        self.assertContains(
            self.client.get(reverse("choose:kept", args=[record.pk])), "There is no kit “Lineside bag” on the shelf."
        )

    def test_what_cannot_be_kept_is_said_and_nothing_is_lost(self):
        page = self.keep(name=" ")
        self.assertContains(page, "Give it a name.", status_code=422)
        self.assertContains(page, "The dials.", status_code=422)
        self.assertContains(self.keep(choice="nonsense"), "This link is damaged")
        self.assertEqual(self.keep(reasons="a\u202eb").status_code, 422)
        self.assertFalse(KeptDecision.objects.exists())

    def test_nobody_opens_anothers_decision(self):
        self.keep()
        (record,) = KeptDecision.objects.all()
        KeptDecision.objects.update(owner=User.objects.create(username="somebody"))
        for refused in (
            self.client.get(reverse("choose:kept", args=[record.pk])),
            self.client.post(reverse("choose:forget", args=[record.pk])),
        ):
            self.assertEqual(refused.status_code, 404)

    def test_decisions_travel_in_the_document(self):
        self.keep()
        ((_, row),) = SECTIONS["decisions"].rows(self.owner)
        self.assertEqual((row["took"], row["name"]), ("Day off bag", "Which bag for Sundays?"))
        self.assertEqual(SECTIONS["decisions"].check(row)["choice"], row["choice"])
        with self.assertRaises(LinkError):
            SECTIONS["decisions"].check(row | {"choice": "x"})

    def test_things_of_a_shelf_are_the_same_by_value(self):
        shelf = Shelf(self.owner)
        self.assertEqual(shelf.thing("lens-99999999"), None)
        self.assertEqual(shelf.thing("gear-x"), None)
        lens = Lens.objects.get(name="Tarn 50 mm f/1.8")
        self.assertEqual(shelf.thing(f"lens-{lens.pk}").what, lens.to_optics())

"""From the table to a decision: changes that are tried, what must be had, kits by value, what stays, and decisions that
are kept.
"""

import json
from dataclasses import replace
from pathlib import Path

import jsonschema
from django.conf import settings
from django.test import tag
from django.urls import reverse

from cambrel.choose.models import KeptDecision
from cambrel.choose.packing import GearShelf, Packed
from cambrel.choose.tests.deciding import DecisionTestCase
from cambrel.comparison.rig import Body as OpticsBody
from cambrel.comparison.rig import Lens as OpticsLens
from cambrel.decisions.choice import Adapter, KitBag, Piece
from cambrel.decisions.choice import Support as CarriedSupport
from cambrel.links.choices import decode_choice, encode_choice
from cambrel.links.codec import LinkError
from cambrel.optics.formats import Sensor
from cambrel.owners.models import ChangeSet, User
from cambrel.owners.sections import SECTIONS
from cambrel.shelf.intake import read_file
from cambrel.shelf.models import Body, Kit, Lens, Support
from cambrel.shelf.previews import apply, look_at, store


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
        _, bag = page.context["tried"][0]
        self.assertNotIn(old.name, [piece.name for piece in bag.pieces])
        self.assertEqual([one.what.mount for one in bag.pieces if one.name == "27 mm f/2"], ["Larkmoor"])
        # what was tried stands among the kits, and is not tried once more by what is left in the field
        self.assertNotContains(page, 'value="27 mm f/2"')
        token, _ = page.context["tried"][0]
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


@tag("long")
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
        self.assertIn(f"Day off bag can take {after} instead of {before}, because of the must-haves.", self.text(page))

    def test_what_gear_has_and_how_it_is_used_can_be_asked_for(self):
        def rigs(**sent):
            return {name: head["kit"].rigs for name, head in self.kits(self.page(**sent)).items()}

        has = {
            "autofocus": lambda rig: rig.lens.autofocus is True,
            "locked": lambda rig: rig.lens.focal_min_mm == rig.lens.focal_max_mm or rig.lens.zoom_lock is True,
            "sealed": lambda rig: rig.body.weather_sealed is True and rig.lens.weather_sealed is True,
        }
        Lens.objects.filter(kits__name="Day off bag", name__contains="23").update(autofocus=False)
        free, taken_out = rigs(), 0
        for key, met in has.items():
            kept = rigs(**{f"must_{key}": "on"})
            taken_out += sum(map(len, free.values())) - sum(map(len, kept.values()))
            for name, made in kept.items():
                self.assertEqual(made, [rig for rig in free[name] if met(rig)], (key, name))
        self.assertGreater(taken_out, 5)
        for words, noted in (("deep  GRIP", "deep grip"), ("stiff", "stiff"), ("no such thing", None)):
            for name, made in rigs(must_handling=words).items():
                wanted = [rig for rig in free[name] if noted and noted in f"{rig.body.handling} {rig.lens.handling}"]
                self.assertEqual(made, wanted, (words, name))

    def test_what_would_help_has_what_must_be_had_and_says_what_it_costs(self):
        kit = self.kit("Day off bag")
        (bound,) = self.page(kit=kit.pk, look="help", must_sealed="on").context["looked"]
        for change in bound.turning:
            comes = change.name.partition(" in place of ")[0]
            record = Lens.objects.filter(name=comes).first() or Body.objects.get(name=comes)
            self.assertTrue(record.weather_sealed, comes)
        (bound,) = self.page(kit=kit.pk, look="help", must_handling="stiff").context["looked"]
        for change in bound.turning:
            self.assertIn("stiff", Lens.objects.get(name=change.name.partition(" in place of ")[0]).handling)
        page = self.page(kit=self.kit("Two systems").pk, look="help")
        (free,) = page.context["looked"]
        swap = next(change for change in (*free.turning, *free.lighter) if " in place of " in change.name)
        comes, goes = (
            Lens.objects.filter(name=name).first() or Body.objects.get(name=name)
            for name in swap.name.split(" in place of ")
        )
        said = " ".join(swap.costs)
        self.assertGreater(len(swap.costs), 1)
        self.assertContains(page, said)
        said = said.replace("\u00a0", " ").replace(",", "")
        self.assertIn(f"After selling {goes.name} for {goes.resale_price:g} EUR", said)
        left = comes.price - goes.resale_price
        self.assertIn(f"{'costs' if left >= 0 else 'leaves'} {abs(left):g} EUR", said)

    def test_a_kit_beyond_weight_or_price_is_out(self):
        heads = self.kits(self.page())
        grams = {name: head["kit"].weighs({"tripod", "monopod"}) for name, head in heads.items()}
        most = sorted(grams.values())[1]
        said = self.text(self.page(must_weigh=str(most)))
        for name, weight in grams.items():
            self.assertEqual(f"{name} is out: weighs more" in said, weight > most)
        prices = {name: head["kit"].cost for name, head in heads.items()}
        said = self.text(self.page(must_cost="4000", must_currency="EUR"))
        for name, price in prices.items():
            self.assertEqual(f"{name} is out: costs more" in said, not price <= 4000)
        Lens.objects.filter(kits__name="Day off bag").update(weight_g=None)
        self.assertIn("Day off bag is out: what it weighs is not known.", self.text(self.page(must_weigh="9000")))

    def test_a_kit_that_is_out_is_no_longer_spoken_of(self):
        page = self.page(must_cost="5500", must_currency="EUR")
        said = " ".join([page.context["headline"], *page.context["sentences"]])
        self.assertNotIn("Lineside bag", said)
        self.assertNotIn("Two systems", said)
        self.assertIn("Day off bag", said)
        self.assertNotIn(
            "Take Lineside bag", self.text(self.page(must_cost="5500", must_currency="EUR", out="dusk-pass"))
        )

    def test_what_would_help_goes_by_the_musts(self):
        kit = self.kit("Two systems")
        (free,) = self.page(kit=kit.pk, look="help").context["looked"]
        (bound,) = self.page(kit=kit.pk, look="help", must_mount="Larkmoor").context["looked"]
        self.assertTrue(any("Tarn" in change.name for change in free.turning))
        for one in (*bound.turning, *bound.lighter):
            self.assertNotIn("Tarn", one.name.partition(" in place of ")[0].replace("without Tarn", ""))


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
            kits=(
                'name,bodies,lenses,supports\nFen bag,Fen One,Fen 16-50;Fen 35,"Fell tripod, light"\nFen prime,Fen'
                " One,Fen 35,\n"
            )
        )
        pks = [self.kit(name).pk for name in ("Fen bag", "Fen prime")]
        heads = self.kits(self.page(kit=pks, look="help"))
        self.assertEqual(list(heads), ["Fen bag", "Fen prime"])
        self.assertEqual(heads["Fen bag"]["kit"].weighs({"tripod"}), 400 + 500 + 200 + 980)
        self.assertTrue(heads["Fen bag"]["kit"].rigs)
        made = [float(head["made"].rstrip("%")) for head in heads.values()]
        self.assertGreater(made[0], made[1])


@tag("long")
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
        self.assertContains(page, "Nothing has changed since.")
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
            "Tarn 24-70 mm f/2.8 costs 1,490 EUR now, 1,990 EUR then.",
            "Tarn 24-70 mm f/2.8 weighs 600 g now, 626 g then.",
            "Tarn 50 mm f/1.8: widest recorded differently since.",
            "“Viaduct crossing” with Day off bag: does not work now, works then.",
        ):
            self.assertIn(wanted, said)
        self.assertEqual(page.context["sentences"], before)
        self.kit("Lineside bag").delete()
        self.assertContains(
            self.client.get(reverse("choose:kept", args=[record.pk])),
            "The kit “Lineside bag” is no longer on the shelf.",
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
        shelf = GearShelf(self.owner)
        self.assertEqual(shelf.thing("lens-99999999"), None)
        self.assertEqual(shelf.thing("gear-x"), None)
        lens = Lens.objects.get(name="Tarn 50 mm f/1.8")
        self.assertEqual(shelf.thing(f"lens-{lens.pk}").what, lens.to_optics())

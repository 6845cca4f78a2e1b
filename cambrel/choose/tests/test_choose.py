"""The Choose page: every cell as the Bench computes it, shares, outings, what would help, and what a reader may
send.
"""

import csv
import io
import re
from dataclasses import replace
from html import unescape
from math import log2

from django.test import tag
from django.urls import reverse

from cambrel.bench.reading import read
from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.models import SavedBrief
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.comparison.bench import Task
from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import compare
from cambrel.comparison.fulfilment import fulfilment
from cambrel.comparison.status import Status
from cambrel.links.benches import decode, encode, encode_brief
from cambrel.optics.stops import ISOS
from cambrel.owners.models import User
from cambrel.phrases.typed_figures import length
from cambrel.shelf.models import Adapter, Body, Kit, Lens
from cambrel.shelf.tests.test_shelf import ShelfTestCase


@tag("long")
class ChooseTests(ShelfTestCase):
    def page(self, **sent):
        return self.client.get(reverse("choose:choose"), sent)

    def said(self, status):
        return str(status)

    def test_every_cell_opens_on_the_bench_exactly_as_it_is_shown(self):
        page = self.page()
        rows, heads = page.context["rows"], page.context["heads"]
        self.assertEqual((len(rows), len(heads)), (len(sample_briefs()), 4))
        for wanted, _, cells, _ in rows:
            for cell in cells:
                with self.subTest(picture=wanted.key, gear=cell.gear):
                    token = re.search(r"[?&]b=([^&]+)", cell.bench)[1]
                    bench = decode(token)
                    self.assertTrue(bench.hold.is_best)
                    comparison = read({"b": token}).work_out()
                    self.assertEqual(self.said(fulfilment(comparison)[0].status), cell.status)
                    # what is advised is a mark, the nearest to what was computed
                    iso = int(re.search(r"ISO\s(\d+)", cell.settings)[1])
                    self.assertIn(iso, {stop.typed for stop in ISOS})
                    self.assertLess(abs(log2(comparison.first.settings.iso / iso)), 0.2)
                    self.assertEqual(self.client.get(cell.bench).status_code, 200)

    def test_what_just_falls_short_leads_to_what_it_would_take(self):
        cells = [cell for _, _, row, _ in self.page().context["rows"] for cell in row]
        leads = [cell for cell in cells if cell.take]
        self.assertTrue(leads)
        self.assertFalse([cell for cell in leads if cell.status == Status.DOES])
        for cell in leads[:4]:
            page = self.client.get(cell.take)
            self.assertEqual(page.status_code, 200, cell.says)
            self.assertTrue(page.context["shown"] or page.context["stuck"], cell.says)

    def test_a_cell_says_how_clean_and_how_sharp_against_what_is_asked(self):
        page = self.page()
        decision = page.context["decision"]
        met = set()
        for (_, _, cells, _), computed in zip(page.context["rows"], decision.cells, strict=True):
            for cell, one in zip(cells, computed, strict=True):
                figures = one.figures
                stops = log2(figures.light.ceiling_iso / figures.settings.iso)
                word = "cleaner" if stops > 1 / 6 else "noisier" if stops < -1 / 6 else "as clean as you need"
                self.assertIn(word, cell.clean)
                met.add(word)
                if word != "as clean as you need":
                    self.assertAlmostEqual(float(cell.clean.split()[0].split("\u00a0")[0]), abs(stops), delta=0.06)
                largest = figures.sharpness.largest_print_mm / 1000
                self.assertAlmostEqual(
                    length(cell.sharp.removeprefix("sharp up to ").removesuffix(" long")) / largest,
                    1,
                    delta=0.01,
                )
        self.assertGreaterEqual(met, {"cleaner", "noisier"})

    def test_only_what_goes_on_a_body_is_put_on_it_and_no_fisheye(self):
        kit = Kit.objects.create(owner=self.owner, name="Odd bag")
        kit.bodies.add(Body.objects.get(name="Larkmoor Fell"))
        kit.lenses.add(Lens.objects.get(name="Tarn 50 mm f/1.8"), Lens.objects.get(name="Tarn 15 mm f/2.8 Fisheye"))
        page = self.page(kit=kit.pk)
        self.assertContains(page, "no camera with a lens that goes on it")
        kit.bodies.add(Body.objects.get(name="Sorrel Nine phone"))
        cells = {cell.gear for _, _, cells, _ in self.page(kit=kit.pk).context["rows"] for cell in cells}
        self.assertEqual(cells, {"Sorrel Nine phone"}, "a camera with its own lens is a rig by itself")

    def test_a_lens_goes_on_by_an_adapter_that_is_in_the_kit(self):
        kit = Kit.objects.create(owner=self.owner, name="Odd bag")
        kit.bodies.add(Body.objects.get(name="Tarn Ridgeway"))
        kit.lenses.add(Lens.objects.get(name="Tarn Reflex 135 mm f/2"))
        self.assertContains(self.page(kit=kit.pk), "no camera with a lens that goes on it")
        ring = Adapter.objects.get(name="Reflex ring for Tarn")
        self.client.post(reverse("shelf:pack", args=[kit.pk]), {"kind": "adapter", "record": ring.pk})
        (head,) = self.page(kit=kit.pk).context["heads"]
        self.assertEqual(len(head["kit"].rigs), 1)
        pieces = (*kit.bodies.all(), *kit.lenses.all(), ring)
        self.assertEqual(head["kit"].weighs(()), sum(piece.weight_g for piece in pieces))
        self.assertContains(self.client.get(reverse("shelf:kit", args=[kit.pk])), "Reflex ring for Tarn")
        kit.adapters.set([Adapter.objects.get(name="Reflex ring for Pipwren")])
        self.assertContains(self.page(kit=kit.pk), "no camera with a lens that goes on it")
        Adapter.objects.exclude(pk=ring.pk).filter(mount="Pipwren").update(mount="Tarn", lens_mount="Fen")
        kit.adapters.set(Adapter.objects.filter(lens_mount="Fen"))
        self.assertContains(self.page(kit=kit.pk), "no camera with a lens that goes on it")

    def test_what_a_kit_covers_has_its_gaps_and_single_focal_lengths(self):
        kit = Kit.objects.create(owner=self.owner, name="Odd bag")
        kit.bodies.add(Body.objects.get(name="Tarn Ridgeway"))
        names = ("Tarn 24-70 mm f/2.8", "Tarn 50 mm f/1.8", "Tarn 85 mm f/1.8", "Tarn 200-600 mm f/5.6-6.3")
        kit.lenses.set(Lens.objects.filter(name__in=names))
        (head,) = self.page(kit=kit.pk).context["heads"]
        self.assertEqual(head["covers"].replace("\u00a0", " "), "24–70 mm, 85 mm, 200–600 mm")

    def test_the_lenses_of_the_shelf_that_fit_a_kit_are_counted(self):
        heads = {head["kit"].name: dict(head["sums"])["lenses for it"] for head in self.page().context["heads"]}
        ridgeway = Body.objects.get(name="Tarn Ridgeway")
        on = Lens.objects.filter(mount="Tarn", rectilinear=True, fixed_to=None)
        small = [one for one in on if one.circle_mm and one.circle_mm < 0.999 * ridgeway.sensor().diagonal_mm]
        fast = [one for one in on if one.widest and max(n for _, n in one.widest) <= 2.8]
        self.assertEqual(
            heads["Lineside bag"],
            f"{len(on) - len(small)} on the shelf, {len(small)} more cropped, {len(fast)} of f/2.8 or faster",
        )
        self.assertTrue(small)
        # what one of two cameras is covered by is not cropped
        kit = Kit.objects.create(owner=self.owner, name="Odd bag")
        crop = Body.objects.create(owner=self.owner, name="Small", mount="Tarn", width_mm=23.5, height_mm=15.6)
        kit.bodies.add(ridgeway, crop)
        head = self.page(kit=kit.pk).context["heads"][0]
        self.assertTrue(dict(head["sums"])["lenses for it"].startswith(f"{len(on)} on the shelf, {len(fast)} of"))

    def test_only_what_was_ticked_counts_as_not_to_be_told_apart(self):
        for ticked in ([], ["dusk-pass", "no-such-picture"]):
            page = self.client.get(reverse("choose:choose"), {"level": ticked})
            self.assertEqual(set(page.context["level"]), set(ticked) & {"dusk-pass"})
            boxes = re.findall(r'name="level"\s+value="([^"]+)"\s+(checked)?', page.content.decode())
            self.assertEqual({key for key, is_ticked in boxes if is_ticked}, set(ticked) & {"dusk-pass"})
            self.assertGreater(len(boxes), 5)

    def test_shares_weigh_and_nonsense_is_said_beside_its_field(self):
        alone = dict.fromkeys(sample_briefs(), "0") | {"dusk-pass": "3"}
        heads = {head["kit"].name: head for head in self.page(**alone).context["heads"]}
        made = {cell.status for _, _, cells, _ in self.page().context["rows"][6:7] for cell in cells}
        self.assertTrue(made)
        self.assertEqual({head["made"] for head in heads.values()} <= {"0%", "100%"}, True)
        page = self.page(**{"dusk-pass": "often"})
        self.assertEqual(page.status_code, 422)
        self.assertContains(page, "“often” is not a", status_code=422)
        self.assertContains(page, 'value="often"', status_code=422)
        for sent in (
            {"kit": "x"},
            {"kit": "9" * 30},
            {"what": "1-lens-2-3"},
            {"what": "a" * 500},
            {"out": "nothing"},
            {"look": "2"},
        ):
            with self.subTest(sent=sent):
                self.assertEqual(self.page(**sent).status_code, 200)

    def test_the_lightest_kit_for_an_outing(self):
        page = self.page(out=["dusk-pass", "platform-party"])
        making = {
            head["kit"].name: head["kit"].weighs({"hand", "tripod"})
            for index, head in enumerate(page.context["heads"])
            if all(
                cells[index].status == "works"
                for one, _, cells, _ in page.context["rows"]
                if one.key in ("dusk-pass", "platform-party")
            )
        }
        said = unescape(page.content.decode())
        if making:
            self.assertIn(f"Take {min(making, key=making.get)}", said)
        else:
            self.assertIn("No kit here makes both pictures ticked.", said)

    def test_a_support_weighs_where_a_picture_needs_it_and_is_missed_where_it_is_not_packed(self):
        kit = Kit.objects.get(name="Day off bag")
        alone = dict.fromkeys(sample_briefs(), "0")
        for picture, grams, lacks in (
            ("footplate-portrait", 1402, ""),
            ("viaduct", 1402 + 520, "no monopod in this kit"),
            ("night-mail", 1402 + 980, "no tripod in this kit"),
        ):
            with self.subTest(picture=picture):
                page = self.page(kit=kit.pk, **alone | {picture: "1"})
                decision = page.context["decision"]
                self.assertEqual(decision.kits[0].weighs(decision.needed), grams)
                self.assertNotContains(page, "in this kit<")
                supports = list(kit.supports.all())
                kit.supports.clear()
                rows = self.page(kit=kit.pk).context["rows"]
                self.assertEqual([cells[0].lacks for one, _, cells, _ in rows if one.key == picture], [lacks])
                kit.supports.set(supports)

    def test_what_is_not_known_is_neither_lighter_nor_cheaper(self):
        bag = Kit.objects.get(name="Lineside bag")
        self.assertRegex(unescape(self.page().content.decode()), "Lineside bag is [^.;]*(lighter|cheaper)")
        bag.lenses.update(weight_g=None, price=None)
        said = unescape(self.page(out=["footplate-portrait"]).content.decode())
        self.assertIn("Lineside bag", said)
        self.assertNotRegex(said, "Lineside bag is [^.;]*(lighter|cheaper|better)")
        self.assertNotIn("Take Lineside bag.", said)
        self.assertIn("Of the kits of known weight that can take the picture ticked", said)

    def test_a_kit_of_bodies_alone_is_not_said_to_be_limited_by_nothing(self):
        Kit.objects.get(name="Lineside bag").lenses.clear()
        heads = {head["kit"].name: head["limits"] for head in self.page().context["heads"]}
        self.assertEqual(heads["Lineside bag"], "no camera with a lens that goes on it")

    def test_what_would_help_is_tried_as_a_column_and_helps_as_much_as_was_said(self):
        kit = Kit.objects.get(name="Footplate bag")
        (found,) = self.page(kit=kit.pk, look="help").context["looked"]
        helps = found.turning
        self.assertEqual(found.kit, "Footplate bag")
        self.assertTrue(helps)
        tried = self.page(kit=kit.pk, what=helps[0].token)
        names = [head["kit"].name for head in tried.context["heads"]]
        self.assertEqual(names[0], "Footplate bag")
        self.assertTrue(names[1].startswith(f"Footplate bag + {helps[0].name.partition(' in place of ')[0]}"), names)
        score = {"works": 1.0, "just falls short": 0.5}
        rows = tried.context["rows"]
        gain = sum(score.get(b.status, 0) - score.get(a.status, 0) for _, _, (a, b), _ in rows) / len(rows)
        self.assertAlmostEqual(float(helps[0].gain.rstrip("%")) / 100, gain, delta=0.001)
        self.assertGreater(gain, 0.05)

    def test_own_pictures_stand_beside_the_samples_and_nobody_elses(self):
        token = encode_brief(Task(Brief(distance_m=3, width_shown_m=2), "Lamp hut"))
        SavedBrief.objects.create(owner=self.owner, name="Lamp hut", token=token)
        other = User.objects.create(username="somebody")
        SavedBrief.objects.create(owner=other, name="Theirs", token=token)
        theirs = Kit.objects.create(owner=other, name="Their bag")
        page = self.page(kit=theirs.pk)
        self.assertContains(page, "Lamp hut")
        self.assertNotContains(page, "Theirs")
        self.assertNotContains(page, "Their bag")

    def test_a_picture_that_asks_for_no_framing_is_chosen_for_as_it_was_seen(self):
        bench = home_bench()
        bench = replace(bench, brief=replace(bench.brief, width_shown_m=None, framing_deg=None))
        first = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference).first
        self.client.post(reverse("bench:save", args=["pictures"]), {"b": encode(bench), "name": "Mine"})
        self.client.post(reverse("bench:duplicate", args=["pictures", SavedBrief.objects.get().pk]))
        for record in SavedBrief.objects.all():
            self.assertAlmostEqual(record.framed_m, first.view.field_wide_m)
        rows = {one.task.name: one.task.brief for one, *_ in self.page().context["rows"]}
        self.assertAlmostEqual(rows["Mine"].width_shown_m, first.view.field_wide_m)
        SavedBrief.objects.update(framed_m=None)
        cells = {one.task.name: cells for one, _, cells, _ in self.page().context["rows"]}
        self.assertEqual({cell.status for cell in cells["Mine"]}, {"unknown"})

    def test_the_table_as_a_file(self):
        text = b"".join(self.page(**{"as": "csv"}).streaming_content).decode("utf-8-sig")
        rows = list(csv.DictReader(io.StringIO(text)))
        self.assertEqual(len(rows), 4 * len(sample_briefs()))
        shown = {}
        first = self.page().context
        for one, _, cells, _ in first["rows"]:
            for head, cell in zip(first["heads"], cells, strict=True):
                shown[one.task.name, head["kit"].name] = cell
        for row in rows:
            cell = shown[row["picture"], row["kit"]]
            self.assertEqual(self.said(row["status"]), cell.status)
            self.assertIn(row["body"], cell.gear)
            self.assertEqual(row["decides"] if cell.status != "works" else "", cell.says)

    def test_depth_against_cleanliness_for_one_picture(self):
        page = self.page(race="platform-party")
        self.assertContains(page, "as clean as you need")
        self.assertIn("B: Pipwren", unescape(page.content.decode()))
        self.assertIsNone(self.page(race="nothing").context["race"])

    def test_how_sure_it_is_is_said_of_each_two_kits(self):
        page = self.page(look="sure")
        sure = page.context["looked"]
        self.assertEqual(len(sure), 6)
        # the kit that is named first is what is asked about, and the least sure of it stands on top
        top = page.context["headline"].removeprefix("Take ").partition(":")[0]
        self.assertEqual([top in said for said in sure], [True] * 3 + [False] * 3)
        words = [["Could", "Likely", "Sure"].index(said.split(":")[0].split()[0]) for said in sure]
        self.assertEqual(words, sorted(words[:3]) + sorted(words[3:]))
        for said in sure:
            self.assertRegex(said, r"^(Sure|Likely|Could go either way): .*\.$")
            self.assertNotIn("picture ", said, "a picture is called by its name")

    def test_without_a_kit_it_says_where_to_pack_one(self):
        Kit.objects.all().delete()
        self.assertContains(self.page(), "No kit yet")

"""Field sheets: planned from a bench, predictions that are those of the core, ticked, kept, and what a reader may
send.
"""

from dataclasses import replace
from datetime import timedelta
from urllib.parse import parse_qs, urlsplit

from django.test import TestCase
from django.urls import reverse
from django.utils import timezone

from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.engine import compare
from cambrel.comparison.rig import Lens
from cambrel.field.models import Sheet
from cambrel.field.planning import NIGHT, SUN, TRACK, SheetPlan
from cambrel.links.benches import decode, encode
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.owners.sections import SECTIONS
from cambrel.trials.all_trials import TRIALS
from cambrel.trials.all_trials import TRIALS as SHOTS


class SheetTests(TestCase):
    def setUp(self):
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        self.token = encode(home_bench())

    def keep(self, **more):
        sent = {"b": self.token, "name": "On the footplate", "t": ["framing", "noise"]}
        return self.client.post(reverse("field:keep"), sent | more)

    def test_every_trial_has_its_words_and_every_sample_a_sheet(self):
        self.assertEqual(list(TRIALS), list(SHOTS))
        for slug in sample_briefs():
            with self.subTest(slug=slug):
                page = self.client.get(reverse("field:plan"), {"b": encode(with_brief(home_bench(), slug))})
                self.assertContains(page, "Look at:")
                self.assertContains(page, "Setting up")
                for caution in filter(None, [sample_briefs()[slug].caution]):
                    self.assertContains(page, caution)

    def test_only_the_trials_that_are_ticked_are_planned_and_what_has_no_shot_is_said(self):
        page = self.client.get(reverse("field:plan"), {"b": self.token, "t": ["noise", "stars", "nonsense"]})
        self.assertEqual({shot.trial for shot in page.context["plan"].shots}, {"noise"})
        self.assertContains(page, "No camera here has a shot for: Stars.")

    def test_cautions_stand_where_they_belong(self):
        bench = home_bench()

        def said(**more):
            return SheetPlan(replace(bench, brief=replace(bench.brief, **more), brief_name=""), ()).cautions()

        self.assertNotIn(NIGHT, said(light_ev=2.1))
        self.assertIn(NIGHT, said(light_ev=2.0))
        self.assertNotIn(TRACK, said(subject_speed_m_per_s=2.9))
        self.assertIn(TRACK, said(subject_speed_m_per_s=3.0))
        self.assertNotIn(SUN, said(light_ev=15))
        far = with_brief(bench, "viaduct")
        long = replace(
            far,
            brief_name="",
            slots=tuple(replace(slot, rig=replace(slot.rig, lens=Lens(), focal_length_mm=200)) for slot in far.slots),
        )
        self.assertIn(SUN, SheetPlan(long, ()).cautions())
        told = SheetPlan(replace(long, brief_name=far.brief_name), ()).cautions()
        self.assertEqual(sum("sun" in one for one in told), 1)

    def test_a_sheet_is_kept_ticked_thrown_away_and_brought_back(self):
        answer = self.keep()
        (sheet,) = Sheet.objects.all()
        self.assertEqual(answer["Location"], reverse("field:sheet", args=[sheet.pk]))
        page = self.client.get(answer["Location"])
        self.assertContains(page, "0 of 6 taken")
        self.assertIn("worker-src 'self'", page["Content-Security-Policy"])
        self.assertNotIn("worker-src", self.client.get("/field/")["Content-Security-Policy"])
        take = reverse("field:take", args=[sheet.pk])
        self.client.post(take, {"shot": "noise-0-0", "done": "1"})
        self.assertContains(self.client.get(answer["Location"]), "1 of 6 taken")
        self.assertContains(self.client.get(reverse("field:sheets")), "1 of 6 taken")
        self.client.post(take, {"shot": "noise-0-0", "done": "0"})
        self.assertContains(self.client.get(answer["Location"]), "0 of 6 taken")
        self.client.post(reverse("field:forget", args=[sheet.pk]))
        self.assertFalse(Sheet.objects.exists())
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/field/"})
        self.assertEqual(Sheet.objects.get().trials, ["framing", "noise"])

    def test_a_tick_keeps_the_time_at_which_it_was_pressed(self):
        self.keep()
        (sheet,) = Sheet.objects.all()
        take = reverse("field:take", args=[sheet.pk])
        before = timezone.now() - timedelta(hours=3)
        for sent, kept in (
            (before.isoformat(), before),
            ((timezone.now() + timedelta(days=1)).isoformat(), None),
            ("2026-13-45T99:00", None),
            ("yesterday", None),
            ("2026-01-01T10:00:00", None),
        ):
            with self.subTest(sent=sent):
                answer = self.client.post(
                    take, {"shot": "noise-1-0", "at": sent}, headers={"X-Requested-With": "fetch"}
                )
                self.assertEqual(answer.status_code, 204)
                sheet.refresh_from_db()
                when = timezone.datetime.fromisoformat(sheet.taken["noise-1-0"])
                self.assertLess(abs((when - (kept or timezone.now())).total_seconds()), 5)
        self.assertEqual(self.client.post(take, {"shot": "noise-9-9"}).status_code, 400)

    def test_a_time_that_is_none_is_left_out_and_the_shot_stays_taken(self):
        self.keep()
        for when in ("2026-13-45T99:00:00+00:00", "never", ""):
            Sheet.objects.update(taken={"noise-0-0": when})
            page = self.client.get(reverse("field:sheet", args=[Sheet.objects.get().pk]))
            self.assertContains(page, "1 of 6 taken")
            self.assertContains(page, 'aria-pressed="true"', count=1)

    def test_a_shot_opens_on_the_bench_as_it_is_set_behind_its_converter_too(self):
        home = home_bench()
        slots = tuple(
            replace(slot, rig=replace(slot.rig, converter=times))
            for slot, times in zip(home.slots, (1.4, 1.0, 2.0), strict=False)
        )
        plan = SheetPlan(replace(home, slots=slots, hold=replace(home.hold, lens="own")), tuple(SHOTS))
        self.assertGreater(len({shot.rig for shot in plan.shots}), 1)
        for shot in plan.shots:
            bench = decode(parse_qs(urlsplit(plan.line(shot).bench).query)["b"][0])
            rig = bench.slots[shot.rig].rig
            times = slots[shot.rig].rig.converter
            with self.subTest(shot=shot.key):
                self.assertEqual(rig.converter, times)
                set_ = (
                    compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
                    .of(shot.rig)
                    .settings
                )
                self.assertAlmostEqual(set_.f_number, shot.f_number, places=9)
                self.assertAlmostEqual(set_.focal_length_mm, plan.made.of(shot.rig).settings.focal_length_mm, places=6)
                self.assertAlmostEqual(set_.shutter_s / shot.shutter_s, 1.0, places=9)
                self.assertAlmostEqual(set_.iso / shot.iso, 1.0, places=9)

    def test_what_cannot_be_planned_or_kept_is_said(self):
        self.assertContains(self.client.get(reverse("field:plan"), {"b": "nonsense"}), "This link", status_code=400)
        self.assertContains(self.client.post(reverse("field:keep"), {"b": "x", "name": "A"}, follow=True), "This link")
        self.assertContains(
            self.client.post(reverse("field:keep"), {"b": self.token, "name": " "}, follow=True), "Give it a name"
        )
        self.assertFalse(Sheet.objects.exists())

    def test_sheets_travel_in_the_document(self):
        self.keep()
        ((_, row),) = SECTIONS["sheets"].rows(self.owner)
        self.assertEqual(row["trials"], ["framing", "noise"])
        self.assertEqual(SECTIONS["sheets"].check(row)["bench"], self.token)

    def test_a_shift_of_two_tripods_is_said_for_two_cameras_only(self):
        bench = home_bench()
        self.assertIn("two of them 30 cm apart", " ".join(SheetPlan(bench, ()).setting_up()).replace("\u00a0", " "))
        self.assertNotIn(
            "apart", " ".join(SheetPlan(replace(bench, slots=bench.slots[:1], reference=0), ()).setting_up())
        )

"""The care page: every caution in one place, each the very words that stand where it applies."""

from django.test import TestCase
from django.urls import reverse

from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.sample_briefs import with_brief
from cambrel.field.planning import SheetPlan
from cambrel.links.benches import encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.owners.undo import raise_version
from cambrel.shelf.models import Body, Lens
from cambrel.wording.cautions import CAUTIONS


class CareTests(TestCase):
    def test_every_caution_stands_with_what_else_is_to_be_known(self):
        page = self.client.get(reverse("learn:care"))
        for caution in CAUTIONS.values():
            for said in (caution.title, caution.short, *caution.more, caution.applies):
                self.assertContains(page, said.replace("'", "&#x27;"))
        self.assertContains(page, "Local rules")

    def test_the_words_are_those_that_are_said_where_they_apply(self):
        shorts = {caution.short for caution in CAUTIONS.values()}
        for slug in ("viaduct", "night-mail", "dusk-pass"):
            said = SheetPlan(with_brief(home_bench(), slug), ()).cautions()
            self.assertTrue(set(said[1:]) <= shorts, said)
        stars = self.client.get("/", {"b": encode(with_brief(home_bench(), "night-mail")), "panel": "stars"})
        self.assertContains(stars, CAUTIONS["night"].short)
        self.assertContains(stars, CAUTIONS["sun"].short)

    def test_dust_is_spoken_of_with_small_apertures_and_weight_with_heavy_lenses(self):
        for trial in ("diffraction", "noise"):
            said = SheetPlan(home_bench(), (trial,)).cautions()
            self.assertEqual(CAUTIONS["sensor"].short in said, trial == "diffraction")
        owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        body = Body.objects.create(owner=owner, name="B", mount="M", width_mm=36, height_mm=24)
        for grams, is_said in ((None, False), (1499, False), (1500, True)):
            lens = Lens.objects.create(
                owner=owner, name=f"L{grams}", mount="M", focal_min_mm=400, focal_max_mm=400, weight_g=grams
            )
            raise_version(owner)
            page = self.client.get(reverse("match:fit"), {"lens": lens.pk, "body": body.pk})
            self.assertEqual(CAUTIONS["weight"].short in page.content.decode(), is_said, grams)

    def test_it_is_reached_from_where_cautions_stand(self):
        plan = self.client.get(reverse("field:plan"), {"b": encode(home_bench())})
        self.assertContains(plan, reverse("learn:care"))
        self.assertContains(self.client.get("/"), reverse("learn:care"))

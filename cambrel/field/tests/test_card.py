"""A card to carry: what a kit's card says, as a page and as a file by itself."""

import re

from django.urls import reverse

from cambrel.owners.models import User
from cambrel.shelf.models import Adapter, Body, Kit, Lens
from cambrel.shelf.tests.test_shelf import ShelfTestCase


class CardTests(ShelfTestCase):
    def card(self, name, **sent):
        return self.client.get(reverse("field:card", args=[Kit.objects.get(name=name).pk]), sent)

    def test_every_lens_that_goes_on_stands_on_the_card_of_its_body(self):
        for kit in Kit.objects.all():
            page = self.card(kit.name)
            said = {body.name: {name for name, _ in body.lenses} for body in page.context["bodies"]}
            for body in kit.bodies.all():
                on = {lens.name for lens in kit.lenses.all() if lens.mount == body.mount}
                self.assertEqual(said.get(body.name, set()), on)

    def test_times_are_marks_at_or_below_and_what_is_adapted_counts(self):
        kit = Kit.objects.create(owner=self.owner, name="Odd bag")
        kit.bodies.add(Body.objects.get(name="Tarn Ridgeway"))
        kit.lenses.add(Lens.objects.get(name="Tarn Reflex 135 mm f/2"))
        self.assertContains(self.card("Odd bag"), "no camera with a lens that goes on it")
        kit.adapters.add(Adapter.objects.get(name="Reflex ring for Tarn"))
        ((_, (line,)),) = self.card("Odd bag").context["bodies"][0].lenses
        # 2^5 / 135 s is 0.237 s: 1/5 is the mark below
        self.assertEqual(line.held.replace("\u00a0", " "), "1/5")
        self.assertEqual(line.counts_as.replace("\u00a0", " "), "135 mm f/2")

    def test_the_file_stands_by_itself(self):
        answer = self.card("Footplate bag", **{"as": "html"})
        self.assertIn("attachment", answer["Content-Disposition"])
        text = answer.content.decode()
        self.assertEqual(re.findall(r"(?:src|href|url\()\s*=?", text), [], "nothing is loaded")
        self.assertNotIn("<script", text)
        self.assertIn("red, for the night", text)
        for body in ("Pipwren Tern", "Pipwren Dot"):
            self.assertIn(body, text)

    def test_nobody_reads_anothers_card(self):
        theirs = Kit.objects.create(owner=User.objects.create(username="somebody"), name="Theirs")
        self.assertEqual(self.client.get(reverse("field:card", args=[theirs.pk])).status_code, 404)

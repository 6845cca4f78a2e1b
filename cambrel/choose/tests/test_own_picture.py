"""A picture of one's own is put beside the samples, and can stand there alone."""

from django.urls import reverse

from cambrel.briefs.models import SavedBrief
from cambrel.choose.deciding import MOST_SAVED
from cambrel.choose.tests.deciding import DecisionTestCase
from cambrel.owners.models import ChangeSet

FINCH = {
    "name": "A finch at the feeder", "distance_m": "6", "width_shown_m": "0.4", "background_m": "inf",
    "light_ev": "12", "subject_speed_m_per_s": "0", "shown_long_side_mm": "300",
}  # fmt: skip


class OwnPictureTests(DecisionTestCase):
    def add(self, asked="", **other):
        return self.client.post(reverse("choose:picture"), {**FINCH, **other, "asked": asked})

    def test_it_stands_among_the_pictures_as_it_was_typed(self):
        before = len(self.page().context["rows"])
        self.assertNotContains(self.page(), "Show only my pictures")
        kit = self.kit("Lineside bag").pk
        answer = self.add(f"kit={kit}&dusk-pass=40")
        self.assertRedirects(answer, f"{reverse('choose:choose')}?kit={kit}&dusk-pass=40")
        page = self.client.get(answer.url)
        self.assertEqual((len(page.context["rows"]), set(self.kits(page))), (before + 1, {"Lineside bag"}))
        brief = SavedBrief.objects.get().task().brief
        self.assertEqual((brief.distance_m, brief.width_shown_m, brief.background_m), (6.0, 0.4, float("inf")))
        self.assertEqual((brief.light_ev, brief.shown_long_side_mm), (12.0, 300.0))
        self.client.post(reverse("owners:undo", args=[ChangeSet.objects.first().pk]), {"next": "/choose/"})
        self.assertEqual(len(self.page().context["rows"]), before)

    def test_it_can_stand_alone(self):
        self.add()
        alone = self.page(mine="1")
        self.assertEqual([task.task.name for task, *_ in alone.context["rows"]], [FINCH["name"]])
        self.assertContains(alone, "Show all pictures")
        self.assertContains(alone, '<input type="hidden" name="mine" value="1">', html=True)
        SavedBrief.objects.all().delete()
        self.assertGreater(len(self.page(mine="1").context["rows"]), 1, "with none of one's own all are shown")

    def test_a_mistake_is_said_at_its_field_and_the_rest_stays(self):
        page = self.add(distance_m="far", asked=f"kit={self.kit('Day off bag').pk}")
        self.assertEqual((page.status_code, set(self.kits(page))), (422, {"Day off bag"}))
        self.assertContains(page, "“far” is not a distance", status_code=422)
        self.assertContains(page, f'value="{FINCH["name"]}"', status_code=422)
        self.assertContains(self.add(name=" "), "Give it a name", status_code=422)
        self.assertEqual(self.add(asked="c=broken", name="").status_code, 400)
        SavedBrief.objects.bulk_create(
            SavedBrief(owner=self.owner, name=f"Picture {number}", token="") for number in range(MOST_SAVED)
        )
        self.assertContains(self.add(), "Choose shows no more pictures of your own", status_code=422)
        self.assertEqual(SavedBrief.objects.count(), MOST_SAVED)

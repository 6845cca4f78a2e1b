from dataclasses import replace
from urllib.parse import parse_qs, urlsplit

from django.test import TestCase

from cambrel.bench.sample_benches import home_bench
from cambrel.briefs.models import SavedBrief
from cambrel.briefs.sample_briefs import sample_briefs
from cambrel.comparison.bench import LayerChange
from cambrel.links.benches import decode, decode_brief, encode, encode_brief
from cambrel.owners.models import ChangeSet
from cambrel.owners.undo import undo


class SavedBriefTests(TestCase):
    def save(self, bench, name="My driver"):
        self.client.post("/saved/pictures/new/", {"b": encode(bench), "name": name, "stay": "1"})
        return SavedBrief.objects.get(name=name)

    def test_a_picture_goes_by_value_and_leaves_the_cameras(self):
        bench = home_bench()
        task = replace(
            bench.task, brief=replace(bench.brief, distance_m=3.25), changes=(LayerChange(1, 4.0, 0.5, 1.0),)
        )
        self.assertEqual(decode_brief(encode_brief(task)), task)
        self.assertEqual(bench.with_task(task).slots, bench.slots)

    def test_the_picture_of_a_bench_is_kept_offered_and_put_before_other_cameras(self):
        bench = home_bench()
        mine = self.save(replace(bench, brief=replace(bench.brief, distance_m=3.25)))
        self.assertEqual((mine.task().name, mine.task().brief.distance_m), ("My driver", 3.25))
        other = replace(bench, slots=bench.slots[1:])
        page = self.client.get("/", {"b": encode(other)})
        self.assertContains(page, f'<option value="{mine.token}"')
        after = self.client.get("/", {"b": encode(other), "action": f"brief:{mine.token}"})
        made = decode(parse_qs(urlsplit(after["Location"]).query)["b"][0])
        self.assertEqual((made.brief.distance_m, made.brief_name, len(made.slots)), (3.25, "My driver", 2))
        self.assertContains(
            self.client.get("/", {"action": "brief:nothing"}), "no longer in the list. Choose another", status_code=422
        )

    def test_it_is_renamed_duplicated_deleted_and_undone(self):
        mine = self.save(home_bench())
        self.client.post(f"/saved/pictures/{mine.pk}/rename/", {"name": "Other", "version": mine.version})
        mine.refresh_from_db()
        self.assertEqual((mine.name, mine.task().name), ("Other", "Other"))
        self.client.post(f"/saved/pictures/{mine.pk}/duplicate/")
        copy = SavedBrief.objects.get(name="Other (copy)")
        self.assertEqual(copy.task().name, "Other (copy)")
        self.client.post(f"/saved/pictures/{copy.pk}/delete/")
        self.assertEqual(SavedBrief.objects.count(), 1)
        undo(ChangeSet.objects.first())
        self.assertEqual(SavedBrief.objects.count(), 2)
        self.assertEqual(self.client.post("/saved/moons/1/delete/").status_code, 404)

    def test_the_samples_are_pictures_too(self):
        for sample in sample_briefs().values():
            self.assertEqual(decode_brief(encode_brief(sample.task)), sample.task)

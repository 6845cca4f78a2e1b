from django.test import TestCase

from cambrel.owners.models import ChangeSet, User
from cambrel.owners.undo import UndoError, recorded, undo
from cambrel.shelf.models import Body, Lens


class UndoTests(TestCase):
    def setUp(self):
        self.owner = User.objects.create(username="owner")
        self.body = Body.objects.create(owner=self.owner, name="Fell", width_mm=23.5, height_mm=15.6, weight_g=None)
        self.lens = Lens.objects.create(
            owner=self.owner, name="35", focal_min_mm=35, focal_max_mm=35, widest=[[35, 1.8]]
        )

    def test_a_set_of_changes_is_undone_as_one(self):
        before = Body.objects.values().get(pk=self.body.pk)
        with recorded(self.owner, "Tidied the shelf") as change:
            change.touch(self.body)
            change.touch(self.lens)
            self.body.name = "Fell II"
            self.body.save()
            self.lens.delete()
            change.created(Body.objects.create(owner=self.owner, name="New", width_mm=1, height_mm=1))
        undo(ChangeSet.objects.get())
        self.assertEqual(Body.objects.values().get(pk=self.body.pk), before)
        self.assertEqual([body.name for body in Body.objects.all()], ["Fell"])
        self.assertEqual(Lens.objects.get().widest, [[35, 1.8]])

    def test_an_action_that_fails_leaves_nothing_behind(self):
        with self.assertRaises(RuntimeError), recorded(self.owner, "Half done") as change:
            change.touch(self.body)
            self.body.delete()
            raise RuntimeError
        self.assertTrue(Body.objects.filter(name="Fell").exists())
        self.assertFalse(ChangeSet.objects.exists())

    def test_undo_is_all_or_nothing(self):
        with recorded(self.owner, "Renamed both") as change:
            for record in (self.body, self.lens):
                change.touch(record)
                record.name += "!"
                record.save()
        Body.objects.filter(pk=self.body.pk).update(name="Changed since")
        with self.assertRaises(UndoError):
            undo(ChangeSet.objects.get())
        self.assertEqual(Lens.objects.get().name, "35!")

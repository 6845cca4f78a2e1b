from django.test import TestCase

from cambrel.owners.models import ChangeSet, User
from cambrel.owners.undo import Recorder, StaleError, UndoError, recorded, undo
from cambrel.shelf.bulk import add_to_kit, delete_all
from cambrel.shelf.models import Body, Kit, Lens


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
        after = Body.objects.values().get(pk=self.body.pk)
        self.assertEqual(after | {"version": 0}, before | {"version": 0})
        self.assertGreater(after["version"], 1, "what is put back is a new version")
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
        self.body.name = "Changed since"
        self.body.save()
        with self.assertRaises(UndoError):
            undo(ChangeSet.objects.get())
        self.assertEqual(Lens.objects.get().name, "35!")

    def test_nobody_saves_over_a_version_that_was_put_back_and_changed(self):
        with recorded(self.owner, "One") as change:
            change.touch(self.body)
            self.body.note = "one"
            self.body.save()
        seen = self.body.version
        undo(ChangeSet.objects.get())
        again = Body.objects.get()
        again.note = "two"
        again.save()
        self.assertGreater(again.version, seen)

    def test_what_was_prepared_is_done_only_if_nothing_changed_meanwhile(self):
        prepared = Recorder()
        prepared.touch(self.body, self.lens)
        Lens.objects.get().save()
        with self.assertRaises(StaleError) as caught, recorded(self.owner, "Late", prepared):
            self.fail("it is not begun")
        self.assertEqual(caught.exception.records, {Lens: [self.lens.pk]})
        self.assertFalse(ChangeSet.objects.exists())

    def test_a_kit_holds_again_what_it_held(self):
        kit = Kit.objects.create(owner=self.owner, name="Bag")
        kit.lenses.add(self.lens)
        with recorded(self.owner, "Deleted") as change:
            delete_all([self.lens], change)
        self.assertEqual(kit.lenses.count(), 0)
        undo(ChangeSet.objects.get())
        self.assertEqual([lens.name for lens in kit.lenses.all()], ["35"])

    def test_undo_is_refused_where_what_a_kit_holds_is_gone_since(self):
        kit = Kit.objects.create(owner=self.owner, name="Bag")
        with recorded(self.owner, "Packed") as change:
            add_to_kit(kit, [self.lens], change)
        with recorded(self.owner, "Deleted") as change:
            delete_all([self.lens], change)
        with self.assertRaises(UndoError):
            undo(ChangeSet.objects.order_by("pk").first())

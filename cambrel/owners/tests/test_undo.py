from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from cambrel.owners.models import ChangeSet, User
from cambrel.owners.undo import ChangePlan, StaleError, UndoError, carry_out, last_change, recorded, shelf_version, undo
from cambrel.owners.writing import give_keys
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
        self.assertEqual(after, before)
        self.assertEqual([body.name for body in Body.objects.all()], ["Fell"])
        self.assertEqual(Lens.objects.get().widest, [[35, 1.8]])

    def test_what_goes_on_is_one_change_while_nothing_comes_between(self):
        def add(name, label):
            with recorded(self.owner, label, goes_on=True) as change:
                change.created(Body.objects.create(owner=self.owner, name=name, width_mm=1, height_mm=1))

        for name, label in (("a", "One"), ("b", "One"), ("c", "Two"), ("d", "One")):
            add(name, label)
        self.assertEqual(
            [(change.label, change.size) for change in ChangeSet.objects.order_by("pk")],
            [("One", 2), ("Two", 1), ("One", 1)],
        )
        for change in ChangeSet.objects.order_by("-pk"):
            undo(change)
        self.assertEqual([body.name for body in Body.objects.all()], ["Fell"])
        add("e", "One")
        self.assertEqual(ChangeSet.objects.count(), 4, "what was undone is not gone on with")

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
        self.assertNotIn(
            again.version, (0, seen), "what is made of a state that was put back is no state that anybody has seen"
        )

    def test_changes_of_one_record_are_undone_one_after_the_other(self):
        states = [Lens.objects.values().get()]
        for note in ("one", "two", "three"):
            with recorded(self.owner, note) as change:
                change.touch(self.lens)
                self.lens.note = note
                self.lens.save()
            states.append(Lens.objects.values().get())
        self.planned("Deleted", delete_all, [self.lens])
        for state in reversed(states):
            undo(last_change(self.owner))
            self.assertEqual(Lens.objects.values().get(), state)

    def test_what_was_planned_is_done_only_if_nothing_changed_meanwhile(self):
        seen, plan = shelf_version(self.owner), ChangePlan(self.owner)
        delete_all([self.lens], plan)
        with recorded(self.owner, "Between") as change:
            change.touch(self.lens)
            self.lens.save()
        with self.assertRaises(StaleError):
            carry_out(plan, "Late", seen)
        self.assertEqual([Lens.objects.count(), ChangeSet.objects.count()], [1, 1])

    def planned(self, label, act, *about):
        seen, plan = shelf_version(self.owner), ChangePlan(self.owner)
        act(*about, plan)
        carry_out(plan, label, seen)

    def test_thousands_of_records_take_a_handful_of_statements_while_others_wait(self):
        seen, plan = shelf_version(self.owner), ChangePlan(self.owner)
        plan.add(Lens, [Lens(owner=self.owner, name=str(n), focal_min_mm=n, focal_max_mm=n) for n in range(1, 2001)])
        with CaptureQueriesContext(connection) as said:
            carry_out(plan, "Many", seen)
        self.assertLess(len(said), 15)
        seen, plan = shelf_version(self.owner), ChangePlan(self.owner)
        plan.change(
            Lens,
            dict.fromkeys(Lens.objects.values_list("pk", flat=True), "x"),
            lambda lens, x: setattr(lens, "note", x),
        )
        with CaptureQueriesContext(connection) as said:
            carry_out(plan, "All", seen)
            undo(last_change(self.owner))
        self.assertLess(len(said), 30)
        self.assertEqual(Lens.objects.filter(note="").count(), 2001)

    def test_keys_that_were_given_out_are_never_given_again(self):
        lenses = [Lens(owner=self.owner, name=str(n), focal_min_mm=n, focal_max_mm=n) for n in (1, 2, 3)]
        give_keys(Lens, lenses)  # and never used
        again = Lens.objects.create(owner=self.owner, name="4", focal_min_mm=4, focal_max_mm=4)
        self.assertEqual([lens.pk - self.lens.pk for lens in lenses] + [again.pk - self.lens.pk], [1, 2, 3, 4])

    def test_a_kit_holds_again_what_it_held(self):
        kit = Kit.objects.create(owner=self.owner, name="Bag")
        kit.lenses.add(self.lens)
        self.planned("Deleted", delete_all, [self.lens])
        self.assertEqual(kit.lenses.count(), 0)
        undo(ChangeSet.objects.get())
        self.assertEqual([lens.name for lens in kit.lenses.all()], ["35"])

    def test_undo_is_refused_where_what_a_kit_holds_is_gone_since(self):
        kit = Kit.objects.create(owner=self.owner, name="Bag")
        self.planned("Packed", add_to_kit, kit, [self.lens])
        self.planned("Deleted", delete_all, [self.lens])
        with self.assertRaises(UndoError):
            undo(ChangeSet.objects.order_by("pk").first())

"""Pictures of an owner: bounded over all kinds together, whole or not there, with a row each, and gone with their
owner.
"""

import os
import subprocess
import sys
import time
from datetime import timedelta
from unittest.mock import patch

from django.db import transaction
from django.test import TestCase
from django.utils import timezone

from cambrel.owners.models import User
from cambrel.pictures import own
from cambrel.pictures.models import OwnFile
from cambrel.pictures.storage import whole
from cambrel.pictures.tests.folder import own_folder


def keep(owner, content, ending=own.KEPT, spoken_of=()):
    """Keep a picture as a view does."""
    with own.bringing(owner) as pictures, transaction.atomic():
        token = pictures.keep(content, ending)
        pictures.record(spoken_of)
    return token


class OwnFilesTests(TestCase):
    def setUp(self):
        self.folder = own_folder(self)
        self.mine, self.theirs = (User.objects.create(username=name) for name in ("driver", "stoker"))

    def files(self, owner):
        folder = self.folder / str(owner.pk)
        return sorted(one.name for one in folder.iterdir()) if folder.exists() else []

    def test_all_kinds_of_kept_pictures_count_to_the_byte(self):
        held = set()
        with patch.object(own, "MOST_KEPT_BYTES", 100):
            for content, ending in ((b"a", own.KEPT), (b"b", own.BACKGROUND), (b"c", own.SUBJECT)):
                held.add(keep(self.mine, content * 30, ending, held))
            self.assertEqual(own.kept_bytes(self.mine, held), 90)
            before = self.files(self.mine)
            with self.assertRaises(own.FullError):
                keep(self.mine, b"d" * 11, spoken_of=held)
            self.assertEqual(self.files(self.mine), before, "nothing is left of what was not kept")
            held |= {keep(self.mine, b"a" * 30, spoken_of=held), keep(self.mine, b"e" * 10, spoken_of=held)}
            self.assertEqual(own.kept_bytes(self.mine, held), 100)
            keep(self.theirs, b"f" * 100)
            keep(self.mine, b"g" * 30, spoken_of=held - {own._token_of(self.mine, b"a" * 30)})

    def test_the_bound_is_the_one_that_is_said(self):
        self.assertEqual(own.MOST_KEPT_BYTES, 200 * 2**20)

    def test_the_same_picture_of_two_owners_has_two_tokens(self):
        self.assertNotEqual(keep(self.mine, b"same"), keep(self.theirs, b"same"))

    def test_all_owners_together_are_bounded(self):
        with self.settings(MOST_OWN_BYTES=150):
            keep(self.mine, b"a" * 100)
            with self.assertRaisesRegex(own.FullError, "on this service"):
                keep(self.theirs, b"b" * 51)
            keep(self.theirs, b"b" * 50)

    def test_a_damaged_file_counts_as_none_and_is_put_right_when_it_comes_again(self):
        token = keep(self.mine, b"whole" * 100)
        place = self.folder / str(self.mine.pk) / f"{token}.webp"
        for damaged in (b"whole", b"x" * 500):
            place.write_bytes(damaged)
            self.assertIsNone(own.kept(self.mine, token))
            self.assertEqual(keep(self.mine, b"whole" * 100), token)
            self.assertEqual(own.kept(self.mine, token), b"whole" * 100)
        self.assertEqual(place.stat().st_mode & 0o777, 0o600)

    def test_a_file_that_cannot_be_written_to_its_end_is_not_there(self):
        place = self.folder / "part"
        self.folder.mkdir(exist_ok=True)
        with self.assertRaises(OSError), whole(place) as file:
            file.write(b"half")
            raise OSError(28, "No space left on device")
        self.assertEqual(list(self.folder.iterdir()), [])

    def test_what_a_killed_process_leaves_goes_at_the_next_start(self):
        token = keep(self.mine, b"recorded")
        pictures = own.Bringing(self.mine)
        lost = pictures.keep(b"never recorded")
        again = own.Bringing(self.mine)
        again.keep(b"at work just now")
        part = self.folder / str(self.mine.pk) / f".{lost}.webp.abcd.part"
        part.write_bytes(b"half")
        ended = subprocess.run(
            [sys.executable, "-c", "import os; print(os.getpid())"], capture_output=True, text=True, check=True
        )
        for number, (_, _, _, note) in enumerate((*pictures.new, *again.new)):
            note.rename(note.with_name(f"{ended.stdout.strip() if number == 0 else os.getppid()}-x{number}"))
        upload = own.scratch("uploads", ended.stdout.strip()) / "upload.jpg"
        upload.write_bytes(b"a picture with all it says")
        gone = self.folder / "999999"
        gone.mkdir()
        (gone / f"{token}.webp").write_bytes(b"of somebody who has left")
        own.settle()
        self.assertEqual(len(self.files(self.mine)), 2)
        self.assertIn(f"{token}.webp", self.files(self.mine))
        self.assertNotIn(f"{lost}.webp", self.files(self.mine))
        self.assertFalse(upload.exists() or gone.exists())
        self.assertTrue(own.uploads().exists())

    def test_whoever_leaves_leaves_nothing(self):
        keep(self.mine, b"a")
        token = keep(self.theirs, b"a")
        made = own.scratch("own", str(self.mine.pk)) / f"{token}-1.svg"
        made.write_text("drawn")
        pk = self.mine.pk
        self.mine.delete()
        own.leave(pk)
        self.assertFalse((self.folder / str(pk)).exists() or made.exists() or OwnFile.objects.filter(owner=pk).exists())
        self.assertEqual(own.kept(self.theirs, token), b"a")

    def work(self):
        file = self.folder.parent / "copy.npy"
        file.write_bytes(b"pixels")
        with own.bringing(self.mine) as pictures, transaction.atomic():
            token = pictures.work(file)
            pictures.record()
        return token

    def test_working_copies_go_after_a_day_and_where_they_are_too_many(self):
        tokens = [self.work(), self.work()]
        own.sweep(self.mine)
        self.assertEqual(self.files(self.mine), sorted(f"{token}.npy" for token in tokens))
        with patch.object(own, "MOST_WORKING_BYTES", 11):
            own.sweep(self.mine)
        self.assertEqual(self.files(self.mine), [f"{tokens[1]}.npy"], "the oldest goes first")
        OwnFile.objects.update(made_at=timezone.now() - own.WORKING_FOR - timedelta(seconds=1))
        own.sweep(self.mine)
        self.assertEqual(self.files(self.mine), [])

    def test_what_no_record_speaks_of_goes_when_no_undo_brings_it_back(self):
        working, held, undoable = self.work(), keep(self.mine, b"held"), keep(self.mine, b"undoable")
        self.work()
        keep(self.mine, b"gone")
        own.forget(self.mine, lambda: ({working, held}, {undoable}))
        self.assertEqual(self.files(self.mine), sorted([f"{working}.npy", f"{held}.webp", f"{undoable}.webp"]))
        with patch.object(own, "MOST_LEFT_BYTES", 5):
            own.forget(self.mine, lambda: ({working, held}, {undoable}))
        self.assertEqual(self.files(self.mine), sorted([f"{working}.npy", f"{held}.webp"]))

    def test_a_picture_that_is_kept_again_counts_again_and_is_told_where_it_was_tidied_away_just_then(self):
        token = keep(self.mine, b"a" * 60)
        other = keep(self.mine, b"b" * 60)
        with patch.object(own, "MOST_KEPT_BYTES", 100), self.assertRaisesRegex(own.FullError, "Let go"):
            keep(self.mine, b"a" * 60, spoken_of={other})
        with (
            self.assertRaisesRegex(own.FullError, "It was tidied away at this very moment."),
            own.bringing(self.mine) as pictures,
        ):
            self.assertEqual(pictures.keep(b"a" * 60), token)
            own.forget(self.mine, lambda: ({other}, set()))
            pictures.record({other})
        self.assertEqual(self.files(self.mine), [f"{other}.webp"])

    def test_files_and_rows_agree_again_after_a_restore(self):
        lost, stray, young = keep(self.mine, b"lost"), keep(self.mine, b"stray"), keep(self.mine, b"young")
        place = self.folder / str(self.mine.pk)
        (place / f"{lost}.webp").unlink()
        OwnFile.objects.filter(token__in=(stray, young)).delete()
        old = time.time() - own.STRAY_AFTER.total_seconds() - 10
        os.utime(place / f"{stray}.webp", (old, old))
        own.reconcile()
        self.assertEqual((self.files(self.mine), OwnFile.objects.count()), ([f"{young}.webp"], 0))

    def test_what_was_made_of_files_is_swept_when_it_is_old(self):
        made = own.scratch("own", str(self.mine.pk)) / "old.svg"
        made.write_text("drawn")
        own.sweep_scratch()
        self.assertTrue(made.exists())
        old = time.time() - own.SCRATCH_FOR_S - 1
        os.utime(made, (old, old))
        own.sweep_scratch()
        self.assertFalse(made.exists())

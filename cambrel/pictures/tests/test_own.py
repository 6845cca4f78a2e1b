"""Pictures of an owner: what is kept is bounded over all kinds together, for each owner alone, and once for what is the same."""

from unittest.mock import patch

from django.test import TestCase

from cambrel.owners.models import User
from cambrel.pictures import own
from cambrel.pictures.tests.folder import own_folder


class QuotaTests(TestCase):
    def setUp(self):
        own_folder(self)
        self.mine, self.theirs = (User.objects.create(username=name) for name in ("driver", "stoker"))

    def test_all_kinds_of_kept_pictures_count_to_the_byte(self):
        with patch.object(own, "MOST_KEPT_BYTES", 100):
            own.keep(self.mine, b"a" * 30, own.KEPT)
            own.keep(self.mine, b"b" * 30, own.BACKGROUND)
            own.keep(self.mine, b"c" * 30, own.SUBJECT)
            self.assertEqual(own.kept_bytes(self.mine), 90)
            with self.assertRaises(own.FullError):
                own.keep(self.mine, b"d" * 11)
            self.assertEqual(
                own.keep(self.mine, b"a" * 30), own.keep(self.mine, b"a" * 30), "what is there costs nothing"
            )
            own.keep(self.mine, b"e" * 10)
            self.assertEqual(own.kept_bytes(self.mine), 100)
            own.keep(self.theirs, b"f" * 100)

    def test_the_bound_is_the_one_that_is_said(self):
        self.assertEqual(own.MOST_KEPT_BYTES, 200 * 2**20)

    def test_the_same_picture_of_two_owners_has_two_tokens(self):
        self.assertNotEqual(own.keep(self.mine, b"same"), own.keep(self.theirs, b"same"))

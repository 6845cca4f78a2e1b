"""Uploads: refused by their size before they are read, a visitor's at once, and what is wrong is said of the file that
it is wrong with.
"""

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import TestCase, override_settings

from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.shelf.models import ImportPreview

LATIN = "lens\nHöhe\n".encode("latin-1")


class Unread:
    """A body that must not be read."""

    def read(self, *size):
        raise AssertionError("it was read")

    readline = read

    def __len__(self):
        return 10


class UploadTests(TestCase):
    def setUp(self):
        self.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)

    def send(self, *files):
        return self.client.post("/shelf/import/", {"files": [SimpleUploadedFile(name, data) for name, data in files]})

    def test_what_is_too_large_is_refused_by_its_length(self):
        big = {
            "wsgi.input": Unread(),
            "CONTENT_LENGTH": str(200 * 2**20),
            "CONTENT_TYPE": "multipart/form-data; boundary=x",
        }
        page = self.client.generic("POST", "/shelf/import/", b"", **big)
        self.assertContains(page, "At most 20 MB", status_code=413)
        page = self.send(("large.csv", b"x" * (41 * 2**20)))
        self.assertContains(page, "Send it in parts", status_code=413)
        page = self.client.post(
            "/conventions/", {"crop_by": "x" * (2 * 2**20)}, content_type="application/x-www-form-urlencoded"
        )
        self.assertEqual(page.status_code, 413)
        for length in ("-1", "nonsense", "9" * 40):
            page = self.client.generic("POST", "/shelf/import/", b"", **(big | {"CONTENT_LENGTH": length}))
            self.assertEqual(page.status_code, 413, length)
        self.assertFalse(ImportPreview.objects.exists())

    @override_settings(HOSTED=True)
    def test_a_visitor_s_upload_is_refused_at_once(self):
        page = self.client.generic(
            "POST",
            "/shelf/import/",
            b"",
            **{"wsgi.input": Unread(), "CONTENT_LENGTH": "1000000", "CONTENT_TYPE": "multipart/form-data; boundary=x"},
        )
        self.assertRedirects(page, "/sign-in/?next=/shelf/import/", fetch_redirect_response=False)

    def test_more_files_than_are_read_get_a_plain_message(self):
        page = self.send(*((f"{index}.csv", b"lens\n20 mm\n") for index in range(101)))
        self.assertContains(page, "At most 100 files", status_code=400)
        self.assertContains(page, "Cambrel", status_code=400)

    def test_the_file_that_is_wrong_is_named(self):
        good = ("good.csv", b"lens\n20 mm f/2\n")
        for name, data, word in (
            ("bad.json", b"{", "“bad.json”: This is not JSON"),
            ("latin.csv", LATIN, "“latin.csv”: The file is not in UTF-8"),
            ("none.csv", b"colour\nred\n", "“none.csv”: The first line names no known columns"),
        ):  # fmt: skip
            self.assertContains(self.send(good, (name, data)), word, status_code=422)

    def test_a_picture_is_told_that_it_is_one(self):
        for data in (
            b"\xff\xd8\xff\xe0JFIF",
            b"\x89PNG\r\n",
            b"RIFF\x00\x00\x00\x00WEBP",
            b"\x00\x00\x00\x18ftypheic",
            b"II*\x00\x08\x00\x00\x00",
        ):
            self.assertContains(self.send(("shot.dat", data)), "is a picture", status_code=422)

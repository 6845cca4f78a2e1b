"""Single cells of an answer, and the ways from one page of it to the next, at their edges."""

from types import SimpleNamespace
from unittest import TestCase

from django.test import RequestFactory

from cambrel.match.rows import view_words
from cambrel.match.views import _page_links


class RowTests(TestCase):
    def test_a_view_in_words(self):
        def said(*, is_range, covered=1.0, off=0.0):
            found = SimpleNamespace(covered=[covered], view_off=[off])
            return view_words(SimpleNamespace(picture=SimpleNamespace(is_range=is_range)), found, 0)

        for covered, words in ((1.0, "the whole range"), (0.991, "the whole range"), (0.98, "98% of the range")):
            self.assertEqual(said(is_range=True, covered=covered), words)
        for off, words in ((0.009, "same"), (-0.009, "same"), (0.03, "3% tighter"), (-0.03, "3% wider")):
            self.assertEqual(said(is_range=False, off=off), words)

    def test_the_pages_beside_one_page(self):
        request = RequestFactory().get("/match/?f_number=2&page=2")

        def pages(page, pages):
            return _page_links(request, SimpleNamespace(page=page, pages=pages))

        self.assertEqual(pages(2, 3), {"before": "?f_number=2&page=1", "after": "?f_number=2&page=3"})
        self.assertEqual((list(pages(1, 3)), list(pages(3, 3)), pages(1, 1)), (["after"], ["before"], None))

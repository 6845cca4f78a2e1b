"""A table of records against records, a page of rows and of columns at a time, both found by a part of their name."""

from collections.abc import Iterator
from typing import Any

from django import forms
from django.core.paginator import Paginator
from django.db.models import QuerySet
from django.http import QueryDict

from cambrel.inputs.fields import SearchField
from cambrel.owners.requests import Request

ROWS = 50


def named(records: QuerySet[Any], query: str) -> QuerySet[Any]:
    """Those of the records whose name has every word."""
    for word in query.split()[:8]:
        records = records.filter(name__icontains=word)
    return records


class GridForm(forms.Form):
    """What is looked for in such a table."""

    messages_at = ""

    q = SearchField("Lenses", "Lenses named …")
    on = SearchField("Bodies", "Bodies named …")


class Grid:
    """The page of such a table that a request asks for.

    rows, columns: records in their order, as queries
    wide: how many columns are shown at a time
    """

    def __init__(self, request: Request, rows: QuerySet[Any], columns: QuerySet[Any], wide: int) -> None:
        self.form = GridForm(request.GET)
        self.form.is_valid()
        self.query, self.across_query = self.form.cleaned_data["q"], self.form.cleaned_data["on"]
        self.found_rows, self.found_columns = named(rows, self.query), named(columns, self.across_query)
        self.rows = Paginator(self.found_rows, ROWS).get_page(request.GET.get("page"))
        self.columns = Paginator(self.found_columns, wide).get_page(request.GET.get("across"))

    @property
    def is_narrowed(self) -> bool:
        return bool(self.query or self.across_query)

    @property
    def is_paged(self) -> bool:
        return self.rows.has_other_pages() or self.columns.has_other_pages()

    @property
    def query_string(self) -> QueryDict:
        """What stands in the address of the table, a page aside."""
        made = QueryDict(mutable=True)
        now = {"q": self.query, "on": self.across_query, "page": self.rows.number, "across": self.columns.number}
        made.update({name: value for name, value in now.items() if value not in ("", 1)})
        return made

    def steps(self) -> Iterator[tuple[str, bool, int | None, int | None]]:
        """What leads to the pages around this one: where it stands, and the numbers of the pages before and after."""
        for label, page in (("lenses", self.rows), ("bodies", self.columns)):
            before = page.previous_page_number() if page.has_previous() else None
            after = page.next_page_number() if page.has_next() else None
            stands = f"{label} {page.start_index():,} to {page.end_index():,} of {page.paginator.count:,}"
            if page.has_other_pages():
                yield stands, label == "lenses", before, after

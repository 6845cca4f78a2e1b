"""A table of records against records, a page of rows and of columns at a time, both found by a part of their name."""

from urllib.parse import urlencode

from django.core.paginator import Paginator

ROWS = 50
LONGEST_QUERY = 60


def named(records, query):
    """Those of the records whose name has every word."""
    for word in query.split()[:8]:
        records = records.filter(name__icontains=word)
    return records


class Grid:
    """The page of such a table that a request asks for.

    rows, columns: records in their order, as queries
    wide: how many columns are shown at a time
    """

    def __init__(self, request, rows, columns, wide):
        self.query, self.across_query = (
            " ".join(request.GET.get(name, "").split())[:LONGEST_QUERY] for name in ("q", "on")
        )
        self.found_rows, self.found_columns = named(rows, self.query), named(columns, self.across_query)
        self.rows = Paginator(self.found_rows, ROWS).get_page(request.GET.get("page"))
        self.columns = Paginator(self.found_columns, wide).get_page(request.GET.get("across"))

    @property
    def is_narrowed(self):
        return bool(self.query or self.across_query)

    @property
    def is_paged(self):
        return self.rows.has_other_pages() or self.columns.has_other_pages()

    def address(self, **changes):
        """The query of another page, or of another way to look."""
        now = {"q": self.query, "on": self.across_query, "page": self.rows.number, "across": self.columns.number}
        return "?" + urlencode({name: value for name, value in (now | changes).items() if value not in ("", 1)})

    def steps(self):
        """What leads to the pages around this one: label, where it stands, and the addresses before and after."""
        for label, name, page in (("lenses", "page", self.rows), ("bodies", "across", self.columns)):
            if page.has_other_pages():
                before = self.address(**{name: page.number - 1}) if page.has_previous() else ""
                after = self.address(**{name: page.number + 1}) if page.has_next() else ""
                stands = f"{label} {page.start_index():,} to {page.end_index():,} of {page.paginator.count:,}"
                yield stands, before, after

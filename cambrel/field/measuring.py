"""Readings of a picture as they are kept on a sheet."""

from __future__ import annotations

from cambrel.owners.sections import Row
from cambrel.trials.outcomes import PictureReading


def as_row(reading: PictureReading, **more: object) -> dict[str, object]:
    """A reading as it is kept on the sheet."""
    row = {"value": reading.value, "within": reading.within}
    return (
        row
        | ({"bound": reading.bound} if reading.bound else {})
        | ({"doubts": list(reading.doubts)} if reading.doubts else {})
        | ({} if reading.noted is None else {"noted": reading.noted})
        | more
    )


def as_reading(row: Row) -> PictureReading:
    return PictureReading(
        row["value"], row.get("within", 0.0), row.get("bound", ""), tuple(row.get("doubts", ())), row.get("noted")
    )

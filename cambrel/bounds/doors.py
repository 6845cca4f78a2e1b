"""The doors by which files and costly questions come in, each with its bounds: one table, which all that read or work
go by.

What is sent is refused by its size before it is read (`site.doors`), work waits in a lane of its own (`bounds.lanes`),
and what a file holds is counted before it is kept.
"""

from __future__ import annotations

from dataclasses import dataclass

MB = 1024 * 1024


@dataclass(frozen=True)
class Door:
    """One way in.

    says: what it does, for whoever has to wait
    most_bytes: of what is sent at once; most_rows: of records in it; most_values: of all values in it; most_pixels: of
        a picture
    at_once, waiting: so many are worked at and may wait beside each process that answers; at_once of 0 does not wait at
        all
    seconds: after which the work is given up; memory: that a process of its own may take for it
    per_minute: so often one client of a hosted service may ask; 0 for as often as they like
    """

    says: str
    most_bytes: int = 1 * MB
    most_rows: int = 0
    most_values: int = 0
    most_pixels: int = 0
    at_once: int = 0
    waiting: int = 0
    seconds: float = 0.0
    memory: int = 0
    per_minute: int = 0


DOORS = {
    "page": Door("a page", most_values=500),
    "drawing": Door("drawing", most_pixels=1_600_000, at_once=2, waiting=4, seconds=15, memory=700 * MB,
        per_minute=6000),
    "decoding": Door(
        "reading a picture", most_bytes=40 * MB, most_pixels=120_000_000, at_once=2, waiting=6, seconds=20,
        memory=420 * MB, per_minute=240
    ),
    "heads": Door("reading heads of files", most_bytes=40 * MB, most_rows=32, most_values=2000, per_minute=1200),
    "scenes": Door(
        "bringing in scenes", most_bytes=40 * MB, most_rows=60, most_values=2000, at_once=1, waiting=2, seconds=120,
        per_minute=12
    ),
    "gear": Door(
        "reading a file", most_bytes=20 * MB, most_rows=60_000, most_values=2_000_000, at_once=1, waiting=4, seconds=20,
        per_minute=30
    ),
    "logbook": Door(
        "reading a table", most_bytes=20 * MB, most_rows=60_000, most_values=2_000_000, at_once=1, waiting=4,
        seconds=20, per_minute=30
    ),
    "helping": Door("looking through the shelf", at_once=1, waiting=3, seconds=60, per_minute=30),
    "simulating": Door("the simulated camera", at_once=1, waiting=3, seconds=30, memory=900 * MB, per_minute=120),
    "work": Door("costly work", at_once=2, seconds=120, memory=900 * MB),
    "leaving": Door("leaving", at_once=1, waiting=2, seconds=120, per_minute=10),
    "export": Door("writing a file", at_once=2, waiting=4, seconds=60, per_minute=30),
}  # fmt: skip

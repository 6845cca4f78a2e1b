"""Sheets of shots that would prove a comparison: the bench by value, the trials that were picked, which shots are
taken, and what came back.
"""

import re
from itertools import chain
from typing import Any

from django.db import models
from django.db.models import QuerySet
from django.db.models.functions import Cast

from cambrel.comparison.bench import Bench
from cambrel.field import sheet_shapes
from cambrel.links.benches import decode
from cambrel.owners.models import ChangeSet, Owned, Saved, User
from cambrel.owners.sound import SoundField, texts
from cambrel.pictures.models import OwnScene


class Sheet(Saved):
    trials = SoundField(default=list, sound=texts)
    """The keys of the trials."""
    taken = SoundField(default=dict, sound=sheet_shapes.taken)
    """By the keys of the shots, when each was taken."""

    back = SoundField(default=dict, sound=sheet_shapes.back)
    """By tokens, the settings of the pictures that came back and to which shot each belongs; no position, serial number
    or name of a person.
    """
    found = SoundField(default=dict, sound=sheet_shapes.found)
    """By the keys of the shots, what was read off their pictures."""

    def bench(self) -> Bench:
        return decode(self.token)


_TOKENS = re.compile(r"[0-9a-f]{32}")


def _told(records: QuerySet[Any], column: str) -> QuerySet[Any, str]:
    """A column of plain values of records, as the text that it is kept as."""
    told: QuerySet[Any, str] = records.annotate(told=Cast(column, models.TextField())).values_list("told", flat=True)
    return told


def spoken_of(owner: User) -> set[str]:
    """The files that an owner's records hold: of pictures that came back, those that are kept of them, and those of
    scenes.
    """
    scenes = OwnScene.objects.for_owner(owner).values_list("background", "subject")
    sheets = _told(Sheet.objects.for_owner(owner), "back")
    return {token for text in (*sheets, *chain.from_iterable(scenes)) for token in _TOKENS.findall(text)}


def undoable(owner: User) -> set[str]:
    """The files that they would hold again where a change was undone."""
    found = set[str]()
    changes = ChangeSet.objects.for_owner(owner).filter(undone_at=None)
    for model in (Sheet, OwnScene):
        told = _told(changes, "changes").filter(told__contains=model._meta.label_lower)
        found |= {token for text in told.iterator(20) for token in _TOKENS.findall(text)}
    return found


class Logged(Owned):
    """A picture of one's own in the logbook, by its settings only: no file, position, serial number or name of a
    person.
    """

    counts = False  # there are tens of thousands; the logbook has a bound of its own
    taken_at = models.CharField(max_length=19, blank=True)
    """By the camera's clock, such as 2026-05-04 10:20:30; empty where the file does not say."""
    body = models.CharField(max_length=60, blank=True)
    lens = models.CharField(max_length=60, blank=True)
    focal_length_mm = models.FloatField(null=True)
    focal_35_mm = models.FloatField(null=True)
    f_number = models.FloatField(null=True)
    shutter_s = models.FloatField(null=True)
    iso = models.FloatField(null=True)
    wide_px = models.PositiveIntegerField(null=True)
    high_px = models.PositiveIntegerField(null=True)

    class Meta:
        ordering = ["taken_at", "pk"]
        indexes = [models.Index(fields=["owner", "taken_at"], name="logged_by_time")]

    def __str__(self) -> str:
        return self.taken_at or "undated"

"""Sheets of shots that would prove a comparison: the bench by value, the trials that were picked, which shots are taken, and what came back."""

from typing import Any

from django.db import models

from cambrel.links import decode
from cambrel.owners.models import Owned, Saved


class Sheet(Saved):
    trials = models.JSONField(default=list)
    """The keys of the trials."""
    taken = models.JSONField(default=dict)
    """By the keys of the shots, when each was taken."""

    back = models.JSONField(default=dict)
    """By tokens, the settings of the pictures that came back and to which shot each belongs; no position, serial number or name of a person."""
    found = models.JSONField(default=dict)
    """By the keys of the shots, what was read off their pictures."""

    def bench(self) -> Any:
        return decode(self.token)


class Logged(Owned):
    """A picture of one's own in the logbook, by its settings only: no file, position, serial number or name of a person."""

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

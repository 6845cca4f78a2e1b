"""Sheets of shots that would prove a comparison: the bench by value, the trials that were picked, which shots are taken, and what came back."""

from typing import Any

from django.db import models

from cambrel.links import decode
from cambrel.owners.models import Saved


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

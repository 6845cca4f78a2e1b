"""Sheets of shots that would prove a comparison: the bench by value, the trials that were picked, and which shots are taken."""

from typing import Any

from django.db import models

from cambrel.links import decode
from cambrel.owners.models import Saved


class Sheet(Saved):
    trials = models.JSONField(default=list)
    """The keys of the trials."""
    taken = models.JSONField(default=dict)
    """By the keys of the shots, when each was taken."""

    def bench(self) -> Any:
        return decode(self.token)

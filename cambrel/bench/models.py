"""Saved comparisons: a bench by value, under a name."""

from django.db import models

from cambrel.links import decode
from cambrel.owners.models import Owned


class SavedComparison(Owned):
    name = models.CharField(max_length=60)
    token = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-changed_at", "-pk"]

    def __str__(self):
        return self.name

    def bench(self):
        return decode(self.token)

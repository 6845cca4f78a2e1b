"""Questions that an owner kept: a page of Match or Fit by its address."""

from django.db import models

from cambrel.owners.models import Owned


class KeptQuestion(Owned):
    name = models.CharField(max_length=60)
    path = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return self.name

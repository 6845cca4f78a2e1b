"""Whose a record is, and what was changed: users, owned records, and change sets that can be undone."""

from django.contrib.auth.models import AbstractUser
from django.db import models

LOCAL_OWNER = "local"


class User(AbstractUser):
    """Someone who keeps gear and comparisons. In local mode there is one, signed in by itself."""

    demo_loaded_at = models.DateTimeField(null=True, blank=True)


class OwnedQuerySet(models.QuerySet):
    def for_owner(self, user):
        """The records of one owner; nobody's for a visitor. Every query of a view starts here."""
        return self.filter(owner=user) if user.is_authenticated else self.none()


class Owned(models.Model):
    """A record that belongs to somebody."""

    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+", editable=False)
    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True


class ChangeSet(Owned):
    """What one action changed, record by record, with each before and after; None where the record was not there."""

    label = models.CharField(max_length=200)
    changes = models.JSONField()
    made_at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self):
        return self.label

"""Whose a record is, and what was changed: users, owned records, and change sets that can be undone."""

from secrets import randbelow
from typing import Any

from django.contrib.auth.models import AbstractUser, AnonymousUser
from django.core.serializers.json import DjangoJSONEncoder
from django.db import models

from cambrel.bounds.names import is_storable
from cambrel.owners.sound import SoundField, mapping

LOCAL_OWNER = "local"
SAMPLES_OWNER = "samples"
"""Where the application is hosted, the owner whose gear visitors may pick from; nobody signs in as this one."""


class User(AbstractUser):
    """Someone who keeps gear and comparisons. In local mode there is one, signed in by itself."""

    shelf_version = models.PositiveBigIntegerField(default=0)
    """Raised in the same transaction as any recorded change, so that what was worked out from the records is known to
    be stale.
    """
    demo_loaded_at = models.DateTimeField(null=True, blank=True)
    samples = models.JSONField(default=dict, blank=True)
    """By model, the keys of the made-up records that were loaded."""


def fresh_version() -> int:
    """A version that stands for one state of a record: a state that is put back has its old version, and no later state
    gets it again.
    """
    return randbelow(2**31 - 1) + 1


def within(name: str, **bounds: tuple[float, float]) -> models.CheckConstraint:
    """That figures of a record lie between bounds, whatever writes them; NaN, which some databases keep, lies
    nowhere.
    """
    asked = models.Q()
    for field, (low, high) in bounds.items():
        asked &= models.Q(**{f"{field}__gte": low, f"{field}__lte": high})
    return models.CheckConstraint(condition=asked, name=name)


class UnstorableError(ValueError):
    """What no database takes, or not each: half of a pair or nothing as a character, a number that is none."""


def check_storable(record: models.Model) -> None:
    """Refuse a record that one database would take and another not.

    Raises
        UnstorableError
    """
    for field in record._meta.concrete_fields:
        value = getattr(record, field.attname)
        if not is_storable(value):
            raise UnstorableError(
                f"{str(field.verbose_name).capitalize()}: it has characters or a number that cannot be kept."
            )


class OwnedQuerySet(models.QuerySet):  # type: ignore[type-arg]
    def for_owner(self, user: User | AnonymousUser) -> Any:
        """The records of one owner; nobody's for a visitor. Every query of a view starts here."""
        return self.filter(owner=user) if user.is_authenticated else self.none()


class Owned(models.Model):
    """A record that belongs to somebody. `version` is another after every change, so that nobody saves over what they
    have not seen.
    """

    owner = models.ForeignKey(User, on_delete=models.CASCADE, related_name="+", editable=False)
    version = models.PositiveIntegerField(default=0, editable=False)
    counts = True
    """Whether it is one of the records that an owner's quota is about."""
    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True

    def save(self, *args: object, update_fields: Any = None, **options: Any) -> None:
        check_storable(self)
        if not self._state.adding:
            self.version = fresh_version()
            update_fields = update_fields and {*update_fields, "version"}
        super().save(*args, update_fields=update_fields, **options)


class Saved(Owned):
    """Something by value, as it stands in a link, under a name."""

    name = models.CharField(max_length=60)
    token = models.TextField()
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        abstract = True
        ordering = ["-changed_at", "-pk"]

    def __str__(self) -> str:
        return self.name

    def called(self, name: str) -> None:
        """Give it another name."""
        self.name = name


class ChangeSet(Owned):
    """What one action changed, model by model: key, fields before (None where it was not there), version after (None
    where it is gone).
    """

    label = models.CharField(max_length=200)
    changes = models.JSONField(encoder=DjangoJSONEncoder)
    size = models.PositiveIntegerField(default=0)
    """How many records it changed."""
    made_at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-pk"]

    def __str__(self) -> str:
        return self.label


class Attempt(models.Model):
    """Something that a client tried and that is not taken too often: signing in that failed, an account registered."""

    kind = models.CharField(max_length=20)
    client = models.CharField(max_length=45)
    made_at = models.DateTimeField(auto_now_add=True, db_index=True)

    class Meta:
        indexes = [models.Index(fields=["client", "kind", "made_at"])]

    def __str__(self) -> str:
        return f"{self.kind} from {self.client}"


def gear_owner(user: User | AnonymousUser) -> Any:
    """Whose gear somebody picks from: their own, or for a visitor the built-in samples."""
    if user.is_authenticated:
        return user
    return User.objects.filter(username=SAMPLES_OWNER).first() or user


class Preferences(Owned):
    """The conventions and units that an owner reads by. A link's own conventions rule its page and never change
    these.
    """

    answers = SoundField(default=dict, sound=mapping)
    """By the keys of the questions of cambrel.conventions, which judges them: a new question needs no migration."""

    class Meta:
        constraints = [models.UniqueConstraint(fields=["owner"], name="one_set_of_preferences_each")]

    def __str__(self) -> str:
        return f"Preferences of {self.owner}"

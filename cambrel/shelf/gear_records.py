"""What records of gear have in common: a name, what carrying and buying cost, where they belong. Empty fields mean
unknown.
"""

from typing import Any

from django.core.validators import MaxValueValidator, MinValueValidator, RegexValidator
from django.db import models

from cambrel.owners.models import Owned
from cambrel.owners.sound import SoundField, texts
from cambrel.owners.sound import measured as measured_fields

ABOVE_ZERO = [MinValueValidator(1e-6), MaxValueValidator(1e9)]
NOT_NEGATIVE = [MinValueValidator(0), MaxValueValidator(1e9)]


DATE = r"^(\d{4}(-(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?)?)?$"
"""A year, a month or a day; or nothing."""


def known(validators: Any = ABOVE_ZERO, **more: Any) -> Any:
    """A figure that may be unknown."""
    return models.FloatField(null=True, blank=True, validators=validators, **more)


SIDE = (1e-9, 1e9)
"""Beyond all sense: what is typed is judged by `limits`, this by whatever else writes."""


class NamedRecord(Owned):
    """A record with a name."""

    name = models.CharField(max_length=60)

    class Meta:
        abstract = True
        ordering = ["name", "pk"]
        indexes = [models.Index(fields=["owner", "name"], name="%(class)s_by_name")]

    def __str__(self) -> str:
        return self.name


class Carried(NamedRecord):
    """What is carried: a weight and a price. `inferred` names the fields that were worked out, not stated; `measured`
    those that were read off a picture, each with the day: "mtf50 2026-11-26".
    """

    weight_g = known(NOT_NEGATIVE)
    price = known(NOT_NEGATIVE)
    currency = models.CharField(max_length=3, blank=True)
    price_for = models.CharField(max_length=4, blank=True, choices=[("", "not said"), ("new", "new"), ("used", "used")])
    used_price = known(NOT_NEGATIVE)
    resale_price = known(NOT_NEGATIVE)
    rent_a_day = known(NOT_NEGATIVE)
    priced_on = models.CharField(max_length=10, blank=True, validators=[RegexValidator(DATE)])
    note = models.CharField(max_length=300, blank=True)
    inferred = SoundField(default=list, blank=True, editable=False, sound=texts)
    measured = SoundField(default=list, blank=True, editable=False, sound=measured_fields)

    class Meta(NamedRecord.Meta):
        abstract = True


class Priced(Carried):
    """What belongs to a system: it has a mount too."""

    system = models.CharField(max_length=60, blank=True)
    mount = models.CharField(max_length=40, blank=True)

    class Meta:
        abstract = True
        ordering = ["system", "name", "pk"]
        indexes = [
            models.Index(fields=["owner", "name"], name="%(class)s_by_name"),
            models.Index(fields=["owner", "system", "name"], name="%(class)s_by_system"),
            models.Index(fields=["owner", "mount"], name="%(class)s_by_mount"),
        ]

"""Decisions that are kept: the question, the kits and pictures as they were, what was taken and why."""

from datetime import date

from django.core.validators import RegexValidator
from django.db import models

from cambrel.decisions.choice import Choice
from cambrel.links.choices import LONGEST_KEPT, decode_choice
from cambrel.owners.models import Saved

DAY = r"^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$"
LONGEST_REASONS = 2000


def today() -> str:
    return date.today().isoformat()


class KeptDecision(Saved):
    """The name is the question."""

    took = models.CharField(max_length=60, blank=True)
    reasons = models.TextField(blank=True, max_length=LONGEST_REASONS)
    decided_on = models.CharField(max_length=10, default=today, validators=[RegexValidator(DAY)])

    def choice(self) -> Choice:
        """The kits and pictures as they were."""
        return decode_choice(self.token, LONGEST_KEPT)

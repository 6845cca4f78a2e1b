"""What was answered in the drills. What is known, and when it is asked again, is worked out from these alone."""

from django.db import models

from cambrel.owners.models import Owned


class Answered(Owned):
    """One question that was answered."""

    counts = False  # there are many and they are small; the drills have a bound of their own
    round = models.CharField(max_length=12)
    """Of ten questions, by the letters of its address."""
    ordinal = models.PositiveSmallIntegerField()
    kind = models.CharField(max_length=20)
    level = models.CharField(max_length=10)
    is_right = models.BooleanField()
    slip = models.CharField(max_length=30, blank=True)
    """The mistake that gives what was answered, where one does."""
    seconds = models.FloatField(null=True)
    answered_at = models.DateTimeField()

    class Meta:
        ordering = ["answered_at", "pk"]
        constraints = [models.UniqueConstraint(fields=["owner", "round", "ordinal"], name="one_answer_each")]
        indexes = [models.Index(fields=["owner", "kind", "answered_at"], name="answered_by_kind")]

    def __str__(self) -> str:
        return f"{self.kind}, {self.level}"

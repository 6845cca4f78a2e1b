"""Pictures that an owner has to make, kept under a name, beside the samples."""

from dataclasses import replace

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from cambrel.comparison.bench import Task
from cambrel.links.benches import decode_brief, encode_brief
from cambrel.links.codec import LinkError
from cambrel.owners.models import Saved


class SavedBrief(Saved):
    framed_m = models.FloatField(null=True, blank=True, validators=[MinValueValidator(1e-6), MaxValueValidator(1e9)])
    """How wide the reference saw it at the subject when it was kept: for choosing, which needs a framing."""

    class Meta(Saved.Meta):
        ordering = ["name", "pk"]

    def called(self, name: str) -> None:
        """Its name goes along in the value, so that a bench says which picture it is about."""
        super().called(name)
        task = self.sound_task()
        if task is not None:
            self.token = encode_brief(replace(task, name=name))

    def sound_task(self) -> Task | None:
        """What is to be made; None where the record is damaged."""
        try:
            return self.task()
        except LinkError:
            return None

    def task(self) -> Task:
        """What is to be made."""
        return decode_brief(self.token)

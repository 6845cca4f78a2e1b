"""Scenes of an owner's own: a picture of a place as the background, a cut-out as the subject, with distances and heights."""

from __future__ import annotations

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from cambrel.owners.models import Owned

LENGTH = [MinValueValidator(0.001), MaxValueValidator(10_000)]
HEIGHT = [MinValueValidator(-1000), MaxValueValidator(1000)]
OWN = "own-"
"""How the slug of such a scene begins."""


class OwnScene(Owned):
    name = models.CharField(max_length=60)
    background = models.CharField(max_length=32)
    """Token of the picture of the place."""
    subject = models.CharField(max_length=32, blank=True)
    """Token of the cut-out; empty for the usual figure."""
    distance_m = models.FloatField(default=2.0, validators=LENGTH)
    """From the camera to the subject."""
    subject_height_m = models.FloatField(default=1.75, validators=LENGTH)
    background_m = models.FloatField(default=5.0, validators=LENGTH)
    """How far behind the subject the place is."""
    background_height_m = models.FloatField(default=4.0, validators=LENGTH)
    """How high what its picture shows is there."""
    background_foot_m = models.FloatField(default=0.0, validators=HEIGHT)
    """How high the lower edge of its picture is above the ground there."""
    camera_height_m = models.FloatField(default=1.5, validators=HEIGHT)

    class Meta:
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return self.name

    @property
    def slug(self) -> str:
        return f"{OWN}{self.pk}"

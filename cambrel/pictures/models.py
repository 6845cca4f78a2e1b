"""Scenes of an owner's own: a picture of a place as the background, a cut-out as the subject, with distances and
heights.
"""

from __future__ import annotations

from secrets import token_hex

from django.core.validators import MaxValueValidator, MinValueValidator, RegexValidator
from django.db import models

from cambrel.owners.models import Owned, within

LENGTH = [MinValueValidator(0.001), MaxValueValidator(10_000)]
HEIGHT = [MinValueValidator(-1000), MaxValueValidator(1000)]
OWN = "own-"
"""How the slug of such a scene begins."""


KEY = RegexValidator(r"^[0-9a-f]{12}$")


def new_key() -> str:
    return token_hex(6)


class OwnFile(Owned):
    """A file of an owner's own that the storage holds: written before its row, and swept where the row was never
    written.
    """

    counts = False  # files have a bound of their own
    token = models.CharField(max_length=32)
    ending = models.CharField(max_length=5)
    size = models.BigIntegerField()
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["owner", "token", "ending"], name="one_row_a_file")]

    def __str__(self) -> str:
        return f"{self.token}{self.ending}"


class OwnScene(Owned):
    key = models.CharField(max_length=12, default=new_key, editable=False, validators=[KEY])
    """By which pictures to be made name it; it goes along in a file, so that they find it again on another machine."""
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
        constraints = [
            models.UniqueConstraint(fields=["owner", "key"], name="one_scene_of_a_key_each"),
            within(
                "figures_of_own_scenes",
                distance_m=(0.001, 10_000),
                subject_height_m=(0.001, 10_000),
                background_m=(0.001, 10_000),
                background_height_m=(0.001, 10_000),
                background_foot_m=(-10_000, 10_000),
                camera_height_m=(-10_000, 10_000),
            ),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def slug(self) -> str:
        return f"{OWN}{self.key}"

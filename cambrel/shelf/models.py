"""Bodies and lenses that an owner keeps. Empty fields mean unknown; the core gets them as None, never as zero."""

from django.core.validators import MinValueValidator
from django.db import models

from cambrel.optics.comparison import Body as OpticsBody
from cambrel.optics.comparison import Lens as OpticsLens
from cambrel.optics.formats import Sensor
from cambrel.owners.models import Owned

ABOVE_ZERO = [MinValueValidator(1e-6)]


def known(**more):
    """A figure that may be unknown."""
    return models.FloatField(null=True, blank=True, validators=ABOVE_ZERO, **more)


class Gear(Owned):
    """What bodies and lenses have in common."""

    name = models.CharField(max_length=60)
    system = models.CharField(max_length=60, blank=True)
    mount = models.CharField(max_length=40, blank=True)
    weight_g = known()
    price = known()
    currency = models.CharField(max_length=3, blank=True)

    class Meta:
        abstract = True
        ordering = ["system", "name"]

    def __str__(self):
        return self.name


class Body(Gear):
    width_mm = models.FloatField(validators=ABOVE_ZERO)
    height_mm = models.FloatField(validators=ABOVE_ZERO)
    pixels_wide = models.PositiveIntegerField(null=True, blank=True)
    pixels_high = models.PositiveIntegerField(null=True, blank=True)
    base_iso = known()
    ceiling_iso = known()
    fastest_shutter_s = known()
    slowest_shutter_s = known()
    stabilisation_stops = models.FloatField(null=True, blank=True)
    offset_stops = models.FloatField(default=0)

    class Meta(Gear.Meta):
        verbose_name_plural = "bodies"

    def to_optics(self):
        return OpticsBody(
            sensor=Sensor(self.width_mm, self.height_mm, self.pixels_wide, self.pixels_high),
            base_iso=self.base_iso,
            ceiling_iso=self.ceiling_iso,
            fastest_shutter_s=self.fastest_shutter_s,
            slowest_shutter_s=self.slowest_shutter_s,
            stabilisation_stops=self.stabilisation_stops,
            offset_stops=self.offset_stops,
            weight_g=self.weight_g,
            price=self.price,
            currency=self.currency,
            mount=self.mount,
        )


class Lens(Gear):
    focal_min_mm = models.FloatField(validators=ABOVE_ZERO)
    focal_max_mm = models.FloatField(validators=ABOVE_ZERO)
    widest = models.JSONField(
        default=list, blank=True, help_text="f-numbers along the range: [[focal length, f-number], ...]"
    )
    smallest_f_number = known()
    max_magnification = known()
    close_focus_m = known()
    image_circle_mm = known()
    rectilinear = models.BooleanField(default=True)
    fixed_to = models.ForeignKey(Body, null=True, blank=True, on_delete=models.CASCADE, related_name="fixed_lenses")

    class Meta(Gear.Meta):
        verbose_name_plural = "lenses"

    def to_optics(self):
        return OpticsLens(
            focal_min_mm=self.focal_min_mm,
            focal_max_mm=self.focal_max_mm,
            widest=tuple((float(focal), float(number)) for focal, number in self.widest),
            smallest_f_number=self.smallest_f_number,
            max_magnification=self.max_magnification,
            close_focus_m=self.close_focus_m,
            image_circle_mm=self.image_circle_mm,
            weight_g=self.weight_g,
            price=self.price,
            currency=self.currency,
            mount=self.mount,
            rectilinear=self.rectilinear,
        )

"""Gear that an owner keeps. Empty fields mean unknown; the core gets them as None, never as zero."""

from collections.abc import Iterable
from typing import Any

from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.rig import Mode as OpticsMode
from cambrel.optics.formats import FORMATS, Sensor
from cambrel.owners.models import Owned, within
from cambrel.owners.sound import SoundField, points, texts
from cambrel.shelf.gear_records import ABOVE_ZERO, NOT_NEGATIVE, SIDE, Carried, NamedRecord, Priced, known


def _points(kept: Iterable[Iterable[float]]) -> Any:
    """Points as the core has them, from a list of lists."""
    return tuple(tuple(float(number) for number in point) for point in kept)


class Mount(NamedRecord):
    """A lens mount. `register_mm` is the distance from flange to sensor; `accepts` names mounts whose lenses fit as
    they are, never chained.
    """

    register_mm = known()
    accepts = SoundField(default=list, blank=True, sound=texts)
    note = models.CharField(max_length=300, blank=True)


class Body(Priced):
    width_mm = models.FloatField(validators=ABOVE_ZERO)
    height_mm = models.FloatField(validators=ABOVE_ZERO)
    pixels_wide = models.PositiveIntegerField(null=True, blank=True)
    pixels_high = models.PositiveIntegerField(null=True, blank=True)
    base_iso = known()
    ceiling_iso = known()
    fastest_shutter_s = known()
    slowest_shutter_s = known()
    stabilisation_stops = known(NOT_NEGATIVE)
    stabilisation_with_lens_stops = known(NOT_NEGATIVE)
    raw_megabytes = known()
    range_stops = known()
    range_iso = known()
    outer_width_mm = known()
    outer_height_mm = known()
    outer_depth_mm = known()
    weather_sealed = models.BooleanField(null=True, blank=True)
    handling = models.CharField(max_length=60, blank=True)
    offset_stops = models.FloatField(default=0, validators=[MinValueValidator(-10), MaxValueValidator(10)])

    class Meta(Priced.Meta):
        verbose_name_plural = "bodies"
        constraints = [within("sides_of_bodies", width_mm=SIDE, height_mm=SIDE)]

    def sensor(self) -> Sensor:
        return Sensor(self.width_mm, self.height_mm, self.pixels_wide, self.pixels_high)

    def to_optics(self) -> OpticsBody:
        return OpticsBody(
            sensor=self.sensor(),
            base_iso=self.base_iso,
            ceiling_iso=self.ceiling_iso,
            fastest_shutter_s=self.fastest_shutter_s,
            slowest_shutter_s=self.slowest_shutter_s,
            stabilisation_stops=self.stabilisation_stops,
            stabilisation_with_lens_stops=self.stabilisation_with_lens_stops,
            raw_megabytes=self.raw_megabytes,
            range_stops=self.range_stops,
            range_iso=self.range_iso,
            outer_width_mm=self.outer_width_mm,
            outer_height_mm=self.outer_height_mm,
            outer_depth_mm=self.outer_depth_mm,
            weather_sealed=self.weather_sealed,
            handling=self.handling,
            offset_stops=self.offset_stops,
            weight_g=self.weight_g,
            price=self.price,
            currency=self.currency,
            mount=self.mount,
        )


class CropMode(Owned):
    """A named part of a body's sensor, with its pixels: for smaller lenses, for video, or for several frames made
    one.
    """

    VIDEO, STILLS, COMBINED = "video", "stills", "combined"
    body = models.ForeignKey(Body, on_delete=models.CASCADE, related_name="crop_modes")
    name = models.CharField(max_length=60)
    use = models.CharField(
        max_length=8, choices=[(STILLS, "stills"), (VIDEO, "video"), (COMBINED, "high resolution")], default=STILLS
    )
    width_mm = models.FloatField(validators=ABOVE_ZERO)
    height_mm = models.FloatField(validators=ABOVE_ZERO)
    pixels_wide = models.PositiveIntegerField(null=True, blank=True)
    pixels_high = models.PositiveIntegerField(null=True, blank=True)
    frame_rate = known()
    rolling_s = known()
    frames = models.PositiveIntegerField(
        null=True, blank=True, validators=[MinValueValidator(1), MaxValueValidator(64)]
    )

    class Meta:
        ordering = ["body", "-width_mm", "pk"]
        constraints = [within("sides_of_crop_modes", width_mm=SIDE, height_mm=SIDE)]

    def __str__(self) -> str:
        return f"{self.body}: {self.name}"

    def sensor(self) -> Sensor:
        return Sensor(self.width_mm, self.height_mm, self.pixels_wide, self.pixels_high)

    def to_optics(self) -> OpticsMode:
        rate = self.frame_rate if self.use == self.VIDEO else None
        frames = (self.frames or 1) if self.use == self.COMBINED else 1
        return OpticsMode(self.sensor(), self.name, rate, frames, self.rolling_s)


class Lens(Priced):
    focal_min_mm = models.FloatField(validators=ABOVE_ZERO)
    focal_max_mm = models.FloatField(validators=ABOVE_ZERO)
    widest = SoundField(
        default=list,
        blank=True,
        sound=points(2, 0.2),
        help_text="f-numbers along the range: [[focal length, f-number], ...]",
    )
    smallest_f_number = known()
    mtf50 = SoundField(
        default=list,
        blank=True,
        sound=points(2, 0.01),
        help_text="line pairs per mm at half contrast: [[f-number, lp/mm], ...]",
    )
    mtf50_away = SoundField(
        default=list,
        blank=True,
        sound=points(3),
        help_text="the same away from the middle: [[image height, f-number, lp/mm], ...]",
    )
    fall_off = SoundField(
        default=list, blank=True, sound=points(2), help_text="light lost wide open: [[image height, stops], ...]"
    )
    distortion_percent = models.FloatField(
        null=True, blank=True, validators=[MinValueValidator(-100), MaxValueValidator(100)]
    )
    max_magnification = known()
    close_focus_m = known()
    focusing = models.CharField(
        max_length=8, blank=True, choices=[("", "not said"), ("inside", "inside the lens"), ("extends", "it extends")]
    )
    image_circle_mm = known()
    designed_for = models.CharField(max_length=20, blank=True)
    rectilinear = models.BooleanField(default=True)
    stabilised = models.BooleanField(null=True, blank=True)
    stabilisation_stops = known(NOT_NEGATIVE)
    autofocus = models.BooleanField(null=True, blank=True)
    zoom_lock = models.BooleanField(null=True, blank=True)
    weather_sealed = models.BooleanField(null=True, blank=True)
    handling = models.CharField(max_length=60, blank=True)
    length_mm = known()
    longest_mm = known()
    diameter_mm = known()
    filter_mm = known()
    fixed_to = models.ForeignKey(Body, null=True, blank=True, on_delete=models.CASCADE, related_name="fixed_lenses")

    class Meta(Priced.Meta):
        verbose_name_plural = "lenses"
        constraints = [within("focal_lengths_of_lenses", focal_min_mm=SIDE, focal_max_mm=SIDE)]

    @property
    def circle_mm(self) -> float | None:
        """The image circle: as given, else the diagonal of the format that the lens is designed for; None where neither
        is known.
        """
        if self.image_circle_mm is not None:
            return float(self.image_circle_mm)
        return FORMATS[self.designed_for].diagonal_mm if self.designed_for in FORMATS else None

    @property
    def circle_is_assumed(self) -> bool:
        return self.image_circle_mm is None and self.circle_mm is not None

    def to_optics(self) -> OpticsLens:
        return OpticsLens(
            focal_min_mm=self.focal_min_mm,
            focal_max_mm=self.focal_max_mm,
            widest=_points(self.widest),
            smallest_f_number=self.smallest_f_number,
            max_magnification=self.max_magnification,
            close_focus_m=self.close_focus_m,
            image_circle_mm=self.circle_mm,
            weight_g=self.weight_g,
            price=self.price,
            currency=self.currency,
            mount=self.mount,
            rectilinear=self.rectilinear,
            mtf50=_points(self.mtf50),
            mtf50_away=_points(self.mtf50_away),
            fall_off=_points(self.fall_off),
            stabilisation_stops=self.stabilisation_stops,
            length_mm=self.length_mm,
            diameter_mm=self.diameter_mm,
            longest_mm=self.longest_mm,
            autofocus=self.autofocus,
            zoom_lock=self.zoom_lock,
            weather_sealed=self.weather_sealed,
            handling=self.handling,
            focuses_inside=self.focusing == "inside",
        )


class Converter(Priced):
    """A teleconverter or reducer between lens and body."""

    factor = models.FloatField(validators=[MinValueValidator(0.2), MaxValueValidator(5)])


class Adapter(Priced):
    """From a lens's mount to a body's. `mount` is the body's side; what is lost is said, never guessed."""

    PLAIN, OPTICS = "plain", "optics"
    lens_mount = models.CharField(max_length=40)
    kind = models.CharField(max_length=6, choices=[(PLAIN, "plain"), (OPTICS, "with optics")], default=PLAIN)
    loses = models.CharField(max_length=200, blank=True)


class Support(Priced):
    """What carries a camera, or turns it with the sky. What it steadies is said in stops, what it may carry in
    grams.
    """

    kind = models.CharField(
        max_length=8,
        choices=[("tripod", "tripod"), ("monopod", "monopod"), ("gimbal", "gimbal"), ("tracker", "star tracker")],
        default="tripod",
    )
    payload_g = known()
    steadies_stops = known(NOT_NEGATIVE)
    error_arc_s_per_min = known()


class CloseUpAid(Priced):
    """What brings a lens nearer: a tube between it and the body, or a close-up lens before it."""

    TUBE, LENS = "tube", "lens"
    kind = models.CharField(max_length=4, choices=[(TUBE, "tube"), (LENS, "close-up lens")], default=TUBE)
    length_mm = known()
    dioptres = known()
    filter_mm = known()

    class Meta(Priced.Meta):
        verbose_name = "close-up aid"


class Bag(Carried):
    """What gear is carried in, by its inner sides."""

    inner_width_mm = models.FloatField(validators=ABOVE_ZERO)
    inner_height_mm = models.FloatField(validators=ABOVE_ZERO)
    inner_depth_mm = models.FloatField(validators=ABOVE_ZERO)

    class Meta(Carried.Meta):
        constraints = [within("sides_of_bags", inner_width_mm=SIDE, inner_height_mm=SIDE, inner_depth_mm=SIDE)]

    @property
    def sides_mm(self) -> tuple[float, float, float]:
        return self.inner_width_mm, self.inner_height_mm, self.inner_depth_mm


MOST_IN_KIT = 200


class Kit(NamedRecord):
    """A bag: bodies, lenses, adapters and supports carried together."""

    note = models.CharField(max_length=300, blank=True)
    bodies = models.ManyToManyField(Body, blank=True, related_name="kits")
    lenses = models.ManyToManyField(Lens, blank=True, related_name="kits")
    adapters = models.ManyToManyField(Adapter, blank=True, related_name="kits")
    supports = models.ManyToManyField(Support, blank=True, related_name="kits")

    def held(self) -> int:
        """How much is in the bag."""
        return sum(getattr(self, field).count() for field in HELD.values())


HELD: dict[Any, str] = {Body: "bodies", Lens: "lenses", Adapter: "adapters", Support: "supports"}
"""What a kit holds, and as what."""


class OwnFormat(NamedRecord):
    """A sensor size that the owner added to the named formats."""

    designation = models.CharField(max_length=40, blank=True)
    width_mm = models.FloatField(validators=ABOVE_ZERO)
    height_mm = models.FloatField(validators=ABOVE_ZERO)

    class Meta(NamedRecord.Meta):
        verbose_name_plural = "own formats"
        constraints = [within("sides_of_own_formats", width_mm=SIDE, height_mm=SIDE)]

    def sensor(self) -> Sensor:
        return Sensor(self.width_mm, self.height_mm)


class LetterCode(NamedRecord):
    """Letters in lens names and what they stand for by the owner's own table: a format by its slug, or a mount."""

    stands_for = models.CharField(max_length=20, blank=True)
    mount = models.CharField(max_length=40, blank=True)

    class Meta(NamedRecord.Meta):
        verbose_name = "letter code"


class ImportPreview(Owned):
    """A file that was read and what it would change, kept for a while: until it is applied or thrown away, and to show
    what it brought.
    """

    counts = False

    name = models.CharField(max_length=120)
    made_at = models.DateTimeField(auto_now_add=True)
    applied_at = models.DateTimeField(null=True)
    shelf_version = models.PositiveBigIntegerField(null=True)
    """Of the shelf that the records were looked at against."""
    headings = models.JSONField(default=list)
    """For each table what its headings were taken for, and which were not understood: {source, understood: [[text,
    meaning]], unread: [text]}.
    """

    class Meta:
        ordering = ["-pk"]


class PreviewRow(models.Model):
    """One record of the file: where it stood, what it says, and what would become of it ("" until it was looked at)."""

    preview = models.ForeignKey(ImportPreview, on_delete=models.CASCADE, related_name="rows")
    source = models.CharField(max_length=80)
    section = models.CharField(max_length=20)
    line = models.PositiveIntegerField()
    row = models.JSONField()
    status = models.CharField(max_length=8, blank=True, db_index=True)
    reason = models.CharField(max_length=300, blank=True)
    target = models.PositiveBigIntegerField(null=True)
    taken = models.BooleanField(default=False)
    ordinal = models.PositiveIntegerField(default=0)
    """Which of several records of one identity it is."""
    changed_since = models.BooleanField(default=False)
    """Whether the shelf has changed under it since it was looked at first."""

    class Meta:
        ordering = ["pk"]

    def __str__(self) -> str:
        return f"{self.section}, line {self.line}"

    @property
    def name(self) -> str:
        """The name of the record as the file has it, "" where it has none."""
        return str(self.row.get("name") or "")

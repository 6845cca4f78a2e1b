"""What the shelf keeps of each kind of gear, as one table: forms, lists, tables in files, the document's schema,
previews and the arrays of Match all follow from it. The columns of the database stand in models.py; a test holds the
two together.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from django import forms

from cambrel.shelf.gear_records import DATE
from cambrel.shelf.sorts import (
    AMOUNT,
    COUNT,
    DIOPTRES,
    DRIFT,
    F_NUMBER,
    FACTOR,
    FALL_OFF,
    FOCAL,
    FORMAT,
    GRAMS,
    ISO,
    MEGABYTES,
    MEGAPIXELS,
    METRES,
    MILLIMETRES,
    MONEY,
    NAME,
    NAMES,
    PERCENT,
    PITCH,
    PIXELS,
    PROJECTION,
    RANGE_STOPS,
    RATE,
    RESOLUTION,
    RESOLUTION_AWAY,
    SHUTTER,
    SIDE,
    STOPS,
    TIMES,
    WIDEST,
    YES_OR_NO,
    Sort,
    one_of,
    words,
)


@dataclass(frozen=True)
class GearField:
    """A figure or word of a record: its key, its sort, its label with hint or unit, and under which heading it stands
    in the form.

    needed: whether every record has it; stated: whether it must be said, as nothing else says it;
    asked_only: whether it serves the form and is not kept;
    first: whether its form begins with it, ahead of what is folded away under headings
    in_list: its heading in the list; narrows: whether the list can be narrowed by it; in_match: whether Match reckons
        with it
    """

    key: str
    sort: Sort
    label: str
    hint: str = ""
    group: str = ""
    needed: bool = False
    stated: bool = False
    asked_only: bool = False
    first: bool = False
    in_list: str = ""
    narrows: bool = False
    in_match: bool = False
    bounds: dict[str, object] = field(default_factory=dict)

    def typed(self, **options: object) -> forms.Field:
        """Its field in a form; a form may let what follows from others be left open."""
        assert self.sort.typed is not None
        return self.sort.typed(self.key, **{**options, "required": self.needed})

    @property
    def schema(self) -> dict[str, object]:
        """Its place in the document: null where it may be unknown."""
        made = {**self.sort.schema, **self.bounds}
        if made.get("type") in ("number", "integer", "boolean") and not self.needed:
            made["type"] = [made["type"], "null"]
        return made


IS, SENSOR, LIGHT, RANGE, CLOSE, CIRCLE, CARRIED = (
    "System and note", "Sensor", "Light", "Range", "Close", "Circle", "Carried and paid",
)  # fmt: skip
THE_NAME = GearField(
    "name", NAME, "Name", group=IS, needed=True, stated=True, first=True, in_list="Name", in_match=True
)
SYSTEM = GearField(
    "system", words(60), "System", "such as Micro Four Thirds", IS, in_list="System", narrows=True, in_match=True
)
MOUNT = GearField(
    "mount",
    words(40),
    "Mount",
    "empty where the lens is fixed",
    IS,
    first=True,
    in_list="Mount",
    narrows=True,
    in_match=True,
)
NOTE = GearField("note", words(300), "Note", group=IS)
PRICED = (
    GearField("weight_g", GRAMS, "Weight", "g", CARRIED, in_list="Weight", in_match=True),
    GearField("price", MONEY, "Price", group=CARRIED, in_list="Price", in_match=True),
    GearField("currency", words(3), "Currency", "three letters", CARRIED, in_match=True),
    GearField("price_for", one_of(**{"": "not said", "new": "new", "used": "used"}), "Price for it", group=CARRIED),
    GearField("used_price", AMOUNT, "Price of a used one", "in the same currency", CARRIED),
    GearField("resale_price", AMOUNT, "What it sells for", "in the same currency", CARRIED),
    GearField("rent_a_day", AMOUNT, "Rent a day", "in the same currency", CARRIED),
    GearField("priced_on", words(10, pattern=DATE), "Price of", "2026, 2026-05 or 2026-05-31", CARRIED),
)
USED = (
    GearField("weather_sealed", YES_OR_NO, "Sealed against the weather", group=CARRIED),
    GearField("handling", words(60), "Handling", "in your words: deep grip, stiff ring, with gloves", CARRIED),
)
WIDTH = GearField("width_mm", SIDE, "Width", "mm", SENSOR, needed=True, stated=True)
HEIGHT = GearField("height_mm", SIDE, "Height", "mm", SENSOR, needed=True, stated=True)
PIXELS_ACROSS = (
    GearField("pixels_wide", PIXELS, "Pixels across", group=SENSOR),
    GearField("pixels_high", PIXELS, "Pixels down", group=SENSOR),
)

BODIES = (
    THE_NAME, SYSTEM, MOUNT, NOTE,
    GearField("format", FORMAT, "Format", "or its width and height, below", SENSOR, asked_only=True, first=True),
    WIDTH, HEIGHT,
    GearField("megapixels", MEGAPIXELS, "Megapixels", "or its pixels across and down, below", SENSOR, asked_only=True,
        first=True),
    *PIXELS_ACROSS,
    GearField("base_iso", ISO, "Base ISO", group=LIGHT),
    GearField("ceiling_iso", ISO, "Highest ISO", group=LIGHT),
    GearField("fastest_shutter_s", SHUTTER, "Fastest shutter", "s", LIGHT),
    GearField("slowest_shutter_s", SHUTTER, "Slowest shutter", "s", LIGHT),
    GearField("stabilisation_stops", STOPS, "Stabilisation", "stops", LIGHT),
    GearField("stabilisation_with_lens_stops", STOPS, "With a stabilised lens", "stops, both together", LIGHT),
    GearField("range_stops", RANGE_STOPS, "Tonal range, as stated", "stops", LIGHT),
    GearField("range_iso", ISO, "Stated at ISO", "empty for base ISO", LIGHT),
    GearField("raw_megabytes", MEGABYTES, "A raw file", "megabytes", LIGHT),
    GearField(
        "offset_stops", STOPS, "Ahead of its generation", "stops of light, 0 is usual", LIGHT, needed=True,
        bounds={"minimum": -10, "maximum": 10},
    ),
    GearField("outer_width_mm", MILLIMETRES, "Width of the camera", "mm, without its lens", CARRIED),
    GearField("outer_height_mm", MILLIMETRES, "Height of the camera", "mm", CARRIED),
    GearField("outer_depth_mm", MILLIMETRES, "Depth of the camera", "mm, to the mount", CARRIED),
    *USED,
    *PRICED,
)  # fmt: skip
LENSES = (
    THE_NAME, SYSTEM, MOUNT, NOTE,
    GearField(
        "focal_min_mm", FOCAL, "Shortest focal length", "mm, unless the name says it", RANGE, needed=True,
        stated=True, first=True, in_match=True,
    ),
    GearField("focal_max_mm", FOCAL, "Longest", "mm, empty for a prime", RANGE, needed=True, first=True,
        in_match=True),
    GearField("widest", WIDEST, "Widest f-number", "f/2.8, f/3.5-5.6, or f/3.5 at 15; f/4.2 at 23", RANGE,
        first=True, in_match=True),
    GearField("smallest_f_number", F_NUMBER, "Smallest aperture", "f/22 and so on", RANGE, in_match=True),
    GearField("mtf50", RESOLUTION, "Resolution of the lens alone", "lp/mm at half contrast: 60 at f/2.8; 75 at f/5.6",
        RANGE),
    GearField("mtf50_pitch_um", PITCH, "Measured in pictures of pixels of", "µm, which are then taken out", RANGE,
        asked_only=True),
    GearField("mtf50_away", RESOLUTION_AWAY, "Away from the middle",
        "at 10 mm: 50 at f/2.8, 60 at f/5.6; at 21 mm: 40 at f/2.8", RANGE),
    GearField("fall_off", FALL_OFF, "Light falls off by", "wide open: 0.5 at 10 mm; 1.5 at 21 mm", RANGE),
    GearField("distortion_percent", PERCENT, "Distortion", "percent, barrel below 0", RANGE),
    GearField("rectilinear", PROJECTION, "Projection", "a fisheye is kept out of equivalents", RANGE, needed=True,
        in_match=True),
    GearField("close_focus_m", METRES, "Closest distance", "m from the sensor mark", CLOSE, in_match=True),
    GearField("max_magnification", TIMES, "Largest magnification", "times, 1 is life size", CLOSE, in_match=True),
    GearField("focusing", one_of(**{"": "not said", "inside": "inside the lens", "extends": "it extends"}), "Focuses",
        group=CLOSE),
    GearField("autofocus", YES_OR_NO, "Autofocus", group=CLOSE),
    GearField("image_circle_mm", MILLIMETRES, "Image circle", "mm across, if it is known", CIRCLE, in_match=True),
    GearField("designed_for", FORMAT, "Designed for", "gives the circle where it is not known", CIRCLE, in_match=True),
    GearField("stabilised", YES_OR_NO, "Stabilised", group=CIRCLE, in_match=True),
    GearField("stabilisation_stops", STOPS, "Stabilisation", "stops", CIRCLE),
    GearField("length_mm", MILLIMETRES, "Length", "mm", CARRIED, in_match=True),
    GearField("longest_mm", MILLIMETRES, "Zoomed to its longest", "mm, of a zoom that grows", CARRIED),
    GearField("diameter_mm", MILLIMETRES, "Diameter", "mm", CARRIED, in_match=True),
    GearField("filter_mm", MILLIMETRES, "Filter thread", "mm", CARRIED),
    GearField("zoom_lock", YES_OR_NO, "Zoom can be locked", group=CARRIED),
    *USED,
    *PRICED,
)  # fmt: skip
CROP_MODES = (
    GearField("name", NAME, "Name", needed=True, stated=True),
    GearField("use", one_of(stills="stills", video="video", combined="high resolution"), "Used for"),
    WIDTH, HEIGHT, *PIXELS_ACROSS,
    GearField("frame_rate", RATE, "Frames a second", "at most, in video"),
    GearField("rolling_s", SHUTTER, "Read in", "s, one frame from top to bottom: 1/60, 0.016"),
    GearField("frames", COUNT, "Frames made one", "in high resolution"),
)  # fmt: skip
MOUNTS = (
    THE_NAME,
    GearField("register_mm", MILLIMETRES, "Register distance", "mm from flange to sensor", in_list="Register distance"),
    GearField("accepts", NAMES, "Takes as they are", "lenses of these mounts, separated by commas"),
    NOTE,
)
CONVERTERS = (
    THE_NAME, SYSTEM, MOUNT,
    GearField("factor", FACTOR, "Factor", "1.4 lengthens, 0.71 shortens", needed=True, stated=True, in_list="Factor"),
    *PRICED, NOTE,
)  # fmt: skip
ADAPTERS = (
    THE_NAME, SYSTEM,
    GearField("lens_mount", words(40), "Lens side", "mount", needed=True, stated=True, in_list="Lens side",
        narrows=True),
    GearField("mount", words(40), "Body side", "mount", needed=True, stated=True, in_list="Body side", narrows=True),
    GearField("kind", one_of(plain="plain", optics="with optics"), "Kind", in_list="Kind"),
    GearField("loses", words(200), "What is lost", "autofocus, for example. Empty if unknown"),
    *PRICED, NOTE,
)  # fmt: skip
SUPPORTS = (
    THE_NAME,
    GearField("kind", one_of(tripod="tripod", monopod="monopod", gimbal="gimbal", tracker="star tracker"), "Kind",
        in_list="Kind", narrows=True),
    SYSTEM, MOUNT,
    GearField("payload_g", GRAMS, "Carries", "g at most", in_list="Carries"),
    GearField("steadies_stops", STOPS, "Steadies by", "stops, a monopod or a gimbal"),
    GearField("error_arc_s_per_min", DRIFT, "Drifts by", "arc seconds a minute, a tracker"),
    *PRICED, NOTE,
)  # fmt: skip
CLOSE_UP_AIDS = (
    THE_NAME,
    GearField("kind", one_of(tube="tube", lens="close-up lens"), "Kind", in_list="Kind", narrows=True),
    SYSTEM, MOUNT,
    GearField("length_mm", MILLIMETRES, "Length", "mm, of a tube", in_list="Length"),
    GearField("dioptres", DIOPTRES, "Dioptres", "of a close-up lens", in_list="Dioptres"),
    GearField("filter_mm", MILLIMETRES, "Filter thread", "mm"),
    *PRICED, NOTE,
)  # fmt: skip
BAGS = (
    THE_NAME,
    GearField("inner_width_mm", MILLIMETRES, "Inner width", "mm", needed=True, stated=True, in_list="Inner width"),
    GearField("inner_height_mm", MILLIMETRES, "Inner height", "mm", needed=True, stated=True, in_list="Inner height"),
    GearField("inner_depth_mm", MILLIMETRES, "Inner depth", "mm", needed=True, stated=True, in_list="Inner depth"),
    *PRICED, NOTE,
)  # fmt: skip
KITS = (THE_NAME, NOTE)
FORMATS_OF_OWN = (
    THE_NAME,
    GearField("designation", words(40), "Designation", in_list="Designation"),
    WIDTH, HEIGHT,
)  # fmt: skip
CODES = (
    GearField("name", words(8, minLength=1, pattern="\\S"), "Name", needed=True, stated=True, in_list="Name"),
    GearField("stands_for", FORMAT, "Stands for the format", "or, below, for a mount"),
    GearField("mount", words(40), "Mount"),
)
TABLE: dict[str, tuple[GearField, ...]] = {
    "mounts": MOUNTS, "bodies": BODIES, "crop_modes": CROP_MODES, "lenses": LENSES, "converters": CONVERTERS,
    "adapters": ADAPTERS,
    "supports": SUPPORTS, "close_up_aids": CLOSE_UP_AIDS, "bags": BAGS, "kits": KITS,
    "formats": FORMATS_OF_OWN, "codes": CODES,
}  # fmt: skip
"""By the sections of the document."""
BY_KEY: dict[str, GearField] = {gear_field.key: gear_field for kind in reversed(TABLE.values()) for gear_field in kind}
"""Any field of a key: what its label and its sort are is the same wherever it stands."""


def kept(section: str) -> tuple[GearField, ...]:
    """The fields of a kind that a record has."""
    return tuple(gear_field for gear_field in TABLE[section] if not gear_field.asked_only)

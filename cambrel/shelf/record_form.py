"""What every form of the shelf has in common: labels, exact values where a text is untouched, and the core's own judgement."""

from django import forms

from cambrel import names
from cambrel.fields import QuantityField
from cambrel.optics.quantities import DomainError
from cambrel.widgets import SMALL, SMALL_LIST

LABELS = {
    "name": ("Name", ""),
    "system": ("System", "such as Micro Four Thirds"),
    "mount": ("Mount", "empty where the lens is fixed"),
    "format": ("Format", "gives width and height where they are empty"),
    "megapixels": ("Megapixels", "gives the pixels where they are empty"),
    "width_mm": ("Width", "mm"),
    "height_mm": ("Height", "mm"),
    "pixels_wide": ("Pixels across", ""),
    "pixels_high": ("Pixels down", ""),
    "base_iso": ("Base ISO", ""),
    "ceiling_iso": ("Highest ISO", ""),
    "fastest_shutter_s": ("Fastest shutter", "s"),
    "slowest_shutter_s": ("Slowest shutter", "s"),
    "stabilisation_stops": ("Stabilisation", "stops"),
    "offset_stops": ("Ahead of its generation", "stops of light; 0 is usual"),
    "weight_g": ("Weight", "g"),
    "price": ("Price", ""),
    "currency": ("Currency", "three letters"),
    "note": ("Note", ""),
    "focal_min_mm": ("Shortest focal length", "mm; empty where the name says it"),
    "focal_max_mm": ("Longest", "mm; empty for a prime"),
    "widest": ("Widest f-number", "f/2.8, f/3.5-5.6, or f/3.5 at 15; f/4.2 at 23"),
    "smallest_f_number": ("Smallest aperture", "f/22 and so on"),
    "max_magnification": ("Largest magnification", "times, 1 is life size"),
    "close_focus_m": ("Closest distance", "m from the sensor mark"),
    "image_circle_mm": ("Image circle", "mm across, if it is known"),
    "designed_for": ("Designed for", "gives the circle where it is not known"),
    "rectilinear": ("Projection", "a fisheye is kept out of equivalents"),
    "stabilised": ("Stabilised", ""),
    "length_mm": ("Length", "mm"),
    "diameter_mm": ("Diameter", "mm"),
    "register_mm": ("Register distance", "mm from flange to sensor"),
    "accepts": ("Takes as they are", "lenses of these mounts, separated by commas"),
    "factor": ("Factor", "1.4 lengthens, 0.71 shortens"),
    "lens_mount": ("Lens side", "mount"),
    "kind": ("Kind", ""),
    "loses": ("What is lost", "autofocus, for example; empty where nobody has said"),
    "designation": ("Designation", ""),
    "use": ("Used for", ""),
    "stands_for": ("Stands for the format", "or, below, for a mount"),
}
"""Label and hint (or unit) of every field, by name."""


class GearForm(forms.ModelForm):
    """A record of the owner's; exact values stay where their text is untouched."""

    required_css_class = ""
    groups = ()

    def __init__(self, *args, owner=None, **options):
        super().__init__(*args, **options)
        self.owner = owner
        self.worked_out = set()  # fields that follow from others or from the name
        for name, field in self.fields.items():
            field.label, field.help_text = LABELS.get(name, (field.label, field.help_text))
            field.template_name = "fields/record.html"
            if "class" not in field.widget.attrs:
                field.widget.attrs["class"] = SMALL_LIST if isinstance(field, forms.ChoiceField) else SMALL
            if isinstance(field, QuantityField):
                field.base = getattr(self.instance, name, None)
        if "name" in self.fields:
            self.fields["name"].error_messages["required"] = "Give it a name."

    def clean_name(self):
        try:
            return names.clean(self.cleaned_data["name"])
        except ValueError as error:
            raise forms.ValidationError(str(error)) from None

    def grouped(self):
        """The fields as they stand on the page: heading and bound fields."""
        groups = self.groups or (("", tuple(self.fields)),)
        return [(heading, [self[name] for name in names if name in self.fields]) for heading, names in groups]

    def _post_clean(self):
        super()._post_clean()
        if hasattr(self.instance, "inferred"):
            kept = set(self.instance.inferred) - set(self.changed_data)
            self.instance.inferred = sorted(kept | self.worked_out)
        if self.errors or not hasattr(self.instance, "to_optics"):
            return
        try:
            self.instance.to_optics()
        except DomainError as error:
            field = error.parameter if error.parameter in self.fields else None
            self.add_error(field, f"This must be {error.wanted}.")

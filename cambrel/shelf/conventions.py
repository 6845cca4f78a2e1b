"""The conventions and units by which an owner reads: each school with its reason and what it changes."""

from dataclasses import dataclass

from django import forms
from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods

from cambrel import wording
from cambrel.fields import ChoiceField, IsoField, NumberField, QuantityField
from cambrel.optics.brief import NOISE_SCHOOLS
from cambrel.optics.depth import CIRCLE_OF_CONFUSION_SCHOOLS, circle_of_confusion_mm
from cambrel.optics.formats import CROP_MEASURES, FORMATS, FULL_FRAME, Sensor, crop_factor
from cambrel.owners.models import Preferences, preferences_of
from cambrel.owners.undo import last_change, recorded

SHOWN_LONG_SIDE_MM, VIEWING_DISTANCE_MM = 420.0, 500.0
SAMPLE = FORMATS["micro-four-thirds"]
SAMPLE_PIXELS = Sensor(SAMPLE.width_mm, SAMPLE.height_mm, 5184, 3888)


@dataclass(frozen=True)
class School:
    """One answer to a question of convention, as it is shown."""

    key: str
    label: str
    reason: str
    example: str


@dataclass(frozen=True)
class Question:
    """What practitioners disagree on, and what the answer changes."""

    name: str
    title: str
    changes: str
    schools: tuple[School, ...]
    chosen: str


class PreferencesForm(forms.ModelForm):
    crop_by = ChoiceField(choices=[(key, key) for key in CROP_MEASURES])
    criterion = ChoiceField(choices=[(key, key) for key in CIRCLE_OF_CONFUSION_SCHOOLS])
    noise = ChoiceField(choices=[(key, key) for key in NOISE_SCHOOLS])
    units = ChoiceField(choices=[(key, key) for key in wording.UNITS])
    lines_per_mm = NumberField(limits="lines_per_mm")
    iso_ceiling = IsoField()

    class Meta:
        model = Preferences
        fields = ("crop_by", "criterion", "noise", "units", "lines_per_mm", "iso_ceiling")

    def __init__(self, *args, **options):
        super().__init__(*args, **options)
        for name, field in self.fields.items():
            if isinstance(field, QuantityField):
                field.base = getattr(self.instance, name)


def _circle(key):
    sizes = []
    for sensor in (FULL_FRAME, SAMPLE_PIXELS):
        if key == "two_pixels" and sensor.pixels_wide is None:
            sensor = Sensor(36.0, 24.0, 6000)
        size = circle_of_confusion_mm(
            sensor,
            key,
            viewing_distance_mm=VIEWING_DISTANCE_MM,
            shown_long_side_mm=SHOWN_LONG_SIDE_MM,
            lines_per_mm=5.0,
        )
        sizes.append(f"{size:.4f}")
    return f"{sizes[0]} mm on full frame, {sizes[1]} on Micro Four Thirds"


def questions(preferences):
    """Every question with its schools, their reasons, and what each comes to on a sample sensor."""
    return (
        Question(
            "crop_by",
            "Crop factor by",
            "Changes equivalent focal lengths and f-numbers; total light always follows the area.",
            tuple(
                School(key, m.label, m.reason, f"Micro Four Thirds: {crop_factor(SAMPLE, by=key):.3f}")
                for key, m in CROP_MEASURES.items()
            ),
            preferences.crop_by,
        ),
        Question(
            "criterion",
            "Sharp means a blur disc of at most",
            "Changes depth of field, hyperfocal distance and where diffraction is flagged; never the blur of the background.",
            tuple(School(key, c.label, c.reason, _circle(key)) for key, c in CIRCLE_OF_CONFUSION_SCHOOLS.items()),
            preferences.criterion,
        ),
        Question(
            "noise",
            "Noise is judged",
            "Changes which noise figure leads, and what an ISO looks like on another body.",
            tuple(School(key, n.label, n.says, "") for key, n in NOISE_SCHOOLS.items()),
            preferences.noise,
        ),
        Question(
            "units",
            "Distances in",
            "Changes distances in the scene only; the camera’s millimetres stay.",
            (School("m", "metres", "", ""), School("ft", "feet and inches", "", "")),
            preferences.units,
        ),
    )


def _version(preferences):
    """The version that a form carries; empty before the first choice."""
    return str(preferences.version) if preferences.pk else ""


def _apart(form):
    """Where what was chosen here differs from what is kept now."""
    return ", ".join(
        f"{name.replace('_', ' ')} is {form.initial[name]} there, {form.cleaned_data[name]} here"
        for name in form.changed_data
    )


@require_http_methods(["GET", "HEAD", "POST"])
def conventions(request):
    """See and choose the schools. A visitor sees them and cannot keep a choice."""
    preferences = preferences_of(request.user)
    form = PreferencesForm(instance=preferences)
    status = 200
    if request.method == "POST" and request.user.is_authenticated:
        preferences.owner = request.user
        version = _version(preferences)
        form = PreferencesForm(request.POST, instance=preferences)
        if form.is_valid() and request.POST.get("version", "") != version:
            messages.error(
                request,
                f"They have been changed meanwhile: {_apart(form)}. Yours stand below; press Keep to put them over those.",
            )
            status = 409
        elif form.is_valid():
            with recorded(request.user, "Changed the conventions") as change:
                if preferences.pk:
                    change.touch(preferences)
                change.created(form.save())
            messages.success(request, "Kept. It holds everywhere from now on; links keep their own.")
            return redirect("shelf:conventions")
        status = 422 if form.errors else status
    context = {
        "form": form,
        "version": _version(preferences_of(request.user)),
        "questions": questions(preferences if status == 409 else preferences_of(request.user)),
        "last_change": last_change(request.user),
    }
    return render(request, "shelf/conventions.html", context, status=status)

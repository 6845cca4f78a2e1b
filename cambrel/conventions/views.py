"""The page of the conventions and units: each school with its reason and what it changes."""

from collections.abc import Callable, Mapping
from typing import Any

from django import forms
from django.contrib import messages
from django.contrib.auth.decorators import login_required
from django.http.response import HttpResponse, HttpResponseBase
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST

from cambrel.conventions.preferred import Preferred
from cambrel.conventions.questions import QUESTIONS
from cambrel.conventions.questions import question as question_of
from cambrel.inputs.fields import QuantityField, write_as
from cambrel.inputs.widgets import Explained
from cambrel.owners.models import Preferences, User
from cambrel.owners.requests import Request
from cambrel.owners.undo import Recorder, StaleError, last_change, recorded


class PreferencesForm(forms.Form):
    """An answer to every question. `kept` is what stands now: what is not sent, or sent as it was shown, stays exactly
    as it is.
    """

    use_required_attribute = False

    def __init__(
        self, sent: Mapping[str, Any] | None, kept: Preferred, offered: Mapping[str, str] | None = None
    ) -> None:
        stands = {question.key: kept[question.key] for question in QUESTIONS}
        self.offered = {key: value for key, value in (offered or {}).items() if key in stands}
        given = self.offered if sent is None else dict(sent.items())
        super().__init__({**stands, **given} if given else None, initial=stands)
        for question in QUESTIONS:
            field = self.fields[question.key] = question.field()
            field.label = question.title
            write_as(field, "fields/record.html")
            if isinstance(field, QuantityField):
                field.base = kept[question.key]
            if question.schools and not question.is_long:
                notes = {key: f"{school.reason} {school.example}".strip() for key, school in question.schools.items()}
                field.widget = Explained(notes, [(key, school.label) for key, school in question.schools.items()])

    def schools(self) -> list[Any]:
        """The questions that are answered by a school, each with its field."""
        return [(question, self[question.key]) for question in QUESTIONS if question.schools and not question.is_long]

    def figures(self) -> list[Any]:
        """The questions that are answered by a figure or from a list."""
        return [self[question.key] for question in QUESTIONS if question.figure or question.is_long]

    def apart(self) -> str:
        """Where what was chosen here differs from what is kept now."""
        return ", ".join(
            f"{name.replace('_', ' ')} is {self.initial[name]} there, {self.cleaned_data[name]} here"
            for name in self.fields
            if self.initial[name] != self.cleaned_data[name]
        )


@require_POST
@login_required
def home(request: Request) -> HttpResponse:
    """Keep the format in whose terms the reader thinks, chosen in place beside the figures."""
    chosen = request.POST.get("home", "")
    if chosen not in (question_of("home").schools or {}):
        return HttpResponse(
            "That format is not in the list. Choose one from it.", status=422, content_type="text/plain; charset=utf-8"
        )
    with recorded(request.user, "Changed the format of equivalents") as change:
        _answer(request.user, change, lambda answers: {**answers, "home": chosen})
    return HttpResponse(status=204, headers={"HX-Trigger": "home-kept"})


def _answer(
    owner: User, change: Recorder, answered: Callable[[dict[str, Any]], dict[str, Any]], seen: str | None = None
) -> None:
    """Put other answers into the preferences as they are now.

    Raises
        StaleError where they are not those that were seen
    """
    record = Preferences.objects.for_owner(owner).first()
    if seen is not None and seen != (str(record.version) if record else ""):
        raise StaleError
    if record is None:
        change.created(Preferences.objects.create(owner=owner, answers=answered({})))
    else:
        change.touch(record)
        record.answers = answered(record.answers)
        change.save(record)


@require_http_methods(["GET", "HEAD", "POST"])
def conventions(request: Request) -> HttpResponseBase:
    """See and choose the schools. A visitor sees them and cannot keep a choice."""
    record = Preferences.objects.for_owner(request.user).first() or Preferences()
    version = str(record.version) if record.pk else ""
    kept = Preferred(record.answers)
    sent = request.POST if request.method == "POST" and request.user.is_authenticated else None
    form = PreferencesForm(sent, kept, request.GET.dict())
    status = 200
    if sent is not None and not form.is_valid():
        status = 422
    elif sent is not None:
        try:
            with recorded(request.user, "Changed the conventions") as change:
                _answer(request.user, change, lambda _: form.cleaned_data, sent.get("version", ""))
        except StaleError:
            told = f"They were changed in another window: {form.apart()}. Yours are below. Press Keep to use yours."
            messages.error(request, told)
            status = 409
        else:
            messages.success(request, "Kept. It applies everywhere from now on. Links keep their own.")
            return redirect("conventions:page")
    context = {"form": form, "version": version, "last_change": last_change(request.user)}
    return render(request, "conventions/page.html", context, status=status)

"""Accounts where the application is hosted: registering, signing in, another password, and leaving with what one has
kept.
"""

from collections.abc import Callable
from functools import wraps
from typing import Any

from django import forms
from django.conf import settings
from django.contrib import messages
from django.contrib.auth import get_user_model, login, logout, update_session_auth_hash
from django.contrib.auth.decorators import login_required
from django.contrib.auth.forms import PasswordChangeForm, UserCreationForm
from django.contrib.auth.models import AnonymousUser
from django.contrib.auth.views import LoginView, LogoutView
from django.http import Http404, HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_http_methods, require_safe

from cambrel.owners.keeping import CHANGES_KEPT_FOR, records_of
from cambrel.owners.models import User
from cambrel.owners.requests import Request
from cambrel.owners.work import work_at
from cambrel.pictures import own
from cambrel.shelf.previews import PREVIEWS_KEPT_FOR
from cambrel.site.clients import count, is_too_often

PASSWORD_BACKEND = "django.contrib.auth.backends.ModelBackend"


class RegisterForm(UserCreationForm):  # type: ignore[type-arg]
    class Meta(UserCreationForm.Meta):
        model = get_user_model()
        fields = ("username",)

    def clean_username(self) -> str:
        name = str(self.cleaned_data["username"])
        if get_user_model().objects.filter(username__iexact=name).exists():
            raise forms.ValidationError("This name is taken.")
        return name


class LeaveForm(forms.Form):
    password = forms.CharField(widget=forms.PasswordInput(attrs={"autocomplete": "current-password"}))

    def __init__(self, user: User | AnonymousUser, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.user = user

    def clean_password(self) -> None:
        if not self.user.check_password(self.cleaned_data["password"]):
            raise forms.ValidationError("This is not your password.")


LEAVING = work_at("leaving")


def _removed(pk: int) -> None:
    """Delete an owner with all that is kept; of what is left where this is killed the files go at the next start."""
    get_user_model().objects.filter(pk=pk).delete()
    own.leave(pk)


def emptied(answer: HttpResponseBase) -> HttpResponseBase:
    """An answer after which the browser keeps nothing of whoever was signed in: no page, no sheet for where there is no
    network.
    """
    answer["Clear-Site-Data"] = '"cache", "storage"'
    return answer


class SignOut(LogoutView):
    """Signing out; what the browser has kept is emptied."""

    def post(self, request: HttpRequest, *arguments: Any, **named: Any) -> HttpResponse:
        response = super().post(request, *arguments, **named)
        emptied(response)
        return response


def where_hosted(view: Callable[..., HttpResponseBase]) -> Callable[..., HttpResponseBase]:
    """An address that is there only where people sign in."""

    @wraps(view)
    def checked(request: Request, *arguments: object, **named: object) -> HttpResponseBase:
        if not settings.HOSTED:
            raise Http404
        return view(request, *arguments, **named)

    return checked


def _too_often(request: HttpRequest, says: str) -> HttpResponse:
    context = {"title": "Too many attempts", "says": says}
    return render(request, "site/refused.html", context, status=429)


class SignIn(LoginView):
    """Signing in; whoever fails too often, under whatever names, waits. Accounts are never closed to others by that."""

    template_name = "site/sign_in.html"

    def post(self, request: HttpRequest, *arguments: Any, **named: Any) -> HttpResponse:
        if is_too_often(request, "sign-in"):
            return _too_often(request, "Signing in has failed too often from here. Wait an hour. The Bench stays open.")
        return super().post(request, *arguments, **named)

    def form_invalid(self, form: Any) -> HttpResponse:
        count(self.request, "sign-in")
        return super().form_invalid(form)


@where_hosted
@sensitive_post_parameters()
@require_http_methods(["GET", "HEAD", "POST"])
def register(request: Request) -> HttpResponseBase:
    """A new account."""
    form = RegisterForm(request.POST or None)
    if request.method == "POST":
        if is_too_often(request, "register"):
            return _too_often(request, "Many accounts have just been registered from here. Try again in an hour.")
        if form.is_valid():
            count(request, "register")
            login(request, form.save(), backend=PASSWORD_BACKEND)
            return redirect(settings.LOGIN_REDIRECT_URL)
    return render(request, "site/register.html", {"form": form}, status=422 if form.errors else 200)


@where_hosted
@login_required
@require_safe
def account(request: Request) -> HttpResponseBase:
    """What is kept of an owner, and what can be done with all of it."""
    context = {
        "records": records_of(request.user),
        "most": settings.MOST_RECORDS,
        "changes_days": CHANGES_KEPT_FOR.days,
        "previews_days": PREVIEWS_KEPT_FOR.days,
    }
    return render(request, "site/account.html", context)


@where_hosted
@login_required
@sensitive_post_parameters()
@require_http_methods(["GET", "HEAD", "POST"])
def password(request: Request) -> HttpResponseBase:
    """Another password; who is signed in elsewhere is signed out there."""
    form = PasswordChangeForm(request.user, request.POST or None)
    if request.method == "POST":
        if is_too_often(request, "sign-in"):
            return _too_often(request, "A wrong password was typed too often from here. Wait an hour.")
        if form.is_valid():
            update_session_auth_hash(request, form.save())
            messages.success(request, "Your password has been changed.")
            return redirect("account")
        count(request, "sign-in")
    return render(request, "site/password.html", {"form": form}, status=422 if form.errors else 200)


@where_hosted
@login_required
@sensitive_post_parameters()
@require_http_methods(["GET", "HEAD", "POST"])
def leave(request: Request) -> HttpResponseBase:
    """Delete an account with all that it keeps, after its password; what is kept can be taken along first."""
    form = LeaveForm(request.user, request.POST or None)
    if request.method == "POST":
        if is_too_often(request, "sign-in"):
            return _too_often(request, "A wrong password was typed too often from here. Wait an hour.")
        if form.is_valid():
            pk = request.user.pk
            logout(request)
            LEAVING.run(_removed, pk)
            messages.success(request, "Your account is deleted, with all that it kept.")
            return emptied(redirect("bench:bench"))
        count(request, "sign-in")
    context = {"form": form, "records": records_of(request.user)}
    return render(request, "site/leave.html", context, status=422 if form.errors else 200)

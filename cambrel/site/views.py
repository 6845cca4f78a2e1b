"""Registering, and the pages for an address that is not there and for a fault of ours."""

from django.conf import settings
from django.contrib.auth import get_user_model, login
from django.contrib.auth.forms import UserCreationForm
from django.http import Http404
from django.shortcuts import redirect, render
from django.views.decorators.debug import sensitive_post_parameters
from django.views.decorators.http import require_http_methods

PASSWORD_BACKEND = "django.contrib.auth.backends.ModelBackend"


class RegisterForm(UserCreationForm):
    class Meta(UserCreationForm.Meta):
        model = get_user_model()
        fields = ("username",)

    def clean_username(self):
        name = super().clean_username()
        if name and get_user_model().objects.filter(username__iexact=name).exists():
            self.add_error("username", "This name is taken.")
        return name


@sensitive_post_parameters()
@require_http_methods(["GET", "HEAD", "POST"])
def register(request):
    """A new account; only where the application is hosted."""
    if not settings.HOSTED:
        raise Http404
    form = RegisterForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        login(request, form.save(), backend=PASSWORD_BACKEND)
        return redirect(settings.LOGIN_REDIRECT_URL)
    return render(request, "site/register.html", {"form": form}, status=422 if form.errors else 200)


def not_found(request, exception):
    return render(request, "site/not_found.html", status=404)


def broken(request):
    return render(request, "site/broken.html", status=500)

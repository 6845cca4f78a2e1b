"""In local mode the one owner is signed in by itself; when hosted this does nothing."""

from collections.abc import Callable

from django.conf import settings
from django.http import HttpRequest
from django.http.response import HttpResponseBase

from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.owners.requests import Request


class LocalOwnerMiddleware:
    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> HttpResponseBase:
        if not settings.HOSTED and not request.user.is_authenticated:
            request.user, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        return self.get_response(request)

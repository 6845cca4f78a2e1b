"""A request as our middleware leaves it."""

from typing import Any

from django.http import HttpRequest
from django_htmx.middleware import HtmxDetails

from cambrel.owners.models import User


class Request(HttpRequest):
    """With what django-htmx says of it, and with whoever asks: an owner, or a visitor who owns nothing."""

    htmx: HtmxDetails
    environ: dict[str, Any]
    user: User

"""What every template knows."""

from typing import Any

from django.conf import settings

from cambrel.owners.requests import Request


def hosted(request: Request) -> dict[Any, object]:
    """Whether people sign in here."""
    return {"hosted": settings.HOSTED}

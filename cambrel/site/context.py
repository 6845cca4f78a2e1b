"""What every template knows."""

from django.conf import settings

from cambrel.owners.requests import Request


def hosted(request: Request) -> dict[str, object]:
    """Whether people sign in here."""
    return {"hosted": settings.HOSTED}

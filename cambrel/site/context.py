"""What every template knows."""

from django.conf import settings


def hosted(request):
    """Whether people sign in here."""
    return {"hosted": settings.HOSTED}

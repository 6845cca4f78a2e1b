"""The sensor sizes of a shelf, for the Formats page: an owner's own formats, and bodies with their own pixels."""

from django.contrib.auth.models import AnonymousUser

from cambrel.formats.named import SOURCES, FrameSource, NamedFrame
from cambrel.owners.models import User
from cambrel.shelf.models import Body, OwnFormat

MOST_BODIES = 200


def own_formats(user: User | AnonymousUser) -> list[NamedFrame]:
    own = OwnFormat.objects.for_owner(user)
    return [
        NamedFrame(f"own-{own_format.pk}", own_format.name, own_format.designation or "own", own_format.sensor())
        for own_format in own
    ]


def bodies(user: User | AnonymousUser) -> list[NamedFrame]:
    cameras = Body.objects.for_owner(user)[:MOST_BODIES]
    return [NamedFrame(f"body-{body.pk}", body.name, body.system, body.sensor()) for body in cameras]


def register_sizes() -> None:
    SOURCES.extend((FrameSource("", own_formats), FrameSource("Your bodies", bodies)))

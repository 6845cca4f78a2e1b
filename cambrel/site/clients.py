"""Who a request comes from, behind proxies that are declared, and how often one client has tried something of late."""

import ipaddress
from datetime import timedelta

from django.conf import settings
from django.http import HttpRequest
from django.utils import timezone

from cambrel.owners.models import Attempt

FORGOTTEN_AFTER = timedelta(hours=1)
MOST = {"sign-in": 20, "register": 5}
"""So many in that time: signing in that failed, under whatever names, and accounts registered.

django-axes counts what one client tries under one name; a client that tries many names, and accounts that are opened,
it has no limit for.
"""


def client_of(request: HttpRequest) -> str | None:
    """The address of the client: as the outermost of our own proxies saw it, for what stands before that is hearsay.

    An IPv6 client has a whole /64 to choose from, so that stands for it.
    """
    here = request.META.get("REMOTE_ADDR", "")
    said = [part.strip() for part in request.META.get("HTTP_X_FORWARDED_FOR", "").split(",") if part.strip()]
    hops = [*said, here]
    for hop in (hops[max(0, len(hops) - 1 - settings.PROXIES)], here):
        try:
            address = ipaddress.ip_address(hop)
        except ValueError:
            continue
        if address.version == 6:
            address = address.ipv4_mapped or ipaddress.ip_network((address, 64), strict=False).network_address
        return str(address)
    return None


def count(request: HttpRequest, kind: str) -> None:
    """Note that a client has tried something; what is long ago is forgotten."""
    Attempt.objects.filter(made_at__lt=timezone.now() - FORGOTTEN_AFTER).delete()
    Attempt.objects.create(kind=kind, client=client_of(request) or "")


def is_too_often(request: HttpRequest, kind: str) -> bool:
    """Whether a client has tried something as often as is taken."""
    since = timezone.now() - FORGOTTEN_AFTER
    return Attempt.objects.filter(kind=kind, client=client_of(request) or "", made_at__gte=since).count() >= MOST[kind]

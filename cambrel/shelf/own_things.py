"""What of a reader's own shelf may serve a picture: looked up when it is asked for."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from django.contrib.auth.models import AnonymousUser

from cambrel.comparison.framing import Aid
from cambrel.owners.models import User, gear_owner
from cambrel.shelf.models import Adapter, CloseUpAid, Support

MOST_OFFERED = 200


@dataclass
class OwnThings:
    """Of the shelf of whoever reads; of nobody's, nothing."""

    reader: User | AnonymousUser | None = None

    @cached_property
    def aids(self) -> list[Aid]:
        """Tubes and close-up lenses whose figures are known."""
        if self.reader is None:
            return []
        own_aids = CloseUpAid.objects.for_owner(gear_owner(self.reader))[:MOST_OFFERED]
        made = [
            Aid(own_aid.name, own_aid.mount, own_aid.length_mm, None)
            if own_aid.kind == CloseUpAid.TUBE
            else Aid(own_aid.name, "", None, own_aid.dioptres)
            for own_aid in own_aids
        ]
        return [aid for aid in made if aid.length_mm or aid.dioptres]

    def adapter(self, lens_mount: str, body_mount: str) -> str:
        """The adapter that brings a lens onto a body, by its name; empty where there is none."""
        if self.reader is None:
            return ""
        own_adapters = Adapter.objects.for_owner(gear_owner(self.reader))
        found = own_adapters.filter(lens_mount=lens_mount, mount=body_mount).first()
        return "" if found is None else found.name

    @cached_property
    def trackers(self) -> list[Support]:
        """Trackers whose payload and drift are known."""
        if self.reader is None:
            return []
        known = Support.objects.for_owner(gear_owner(self.reader)).filter(
            kind="tracker", payload_g__gte=100, error_arc_s_per_min__gte=0.01
        )
        return list(known[:MOST_OFFERED])

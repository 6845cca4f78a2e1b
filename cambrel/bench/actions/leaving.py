"""Presses that lead to another page, with a rig by value."""

from __future__ import annotations

from dataclasses import replace
from urllib.parse import urlencode

from django.urls import reverse

from cambrel.bench.actions.action import State, action, camera, each
from cambrel.comparison.bench import Gear
from cambrel.links.benches import encode_gear


@action(each(camera))
def match(state: State, which: int) -> State:
    """To the page that finds what makes a rig's picture elsewhere."""
    slot, settings = state.bench.slots[which], state.comparison.of(which).settings
    query = {"g": encode_gear(Gear(slot.rig.body, slot.body_name, slot.rig.lens, slot.lens_name))}
    if settings.focusable:
        values = (settings.focal_length_mm, settings.f_number, settings.iso, settings.object_distance_m)
        names = ("focal_length_mm", "f_number", "iso", "distance_m")
        query |= dict(zip(names, map("{:.6g}".format, values), strict=True))
    return replace(state, goes_to=f"{reverse('match:match')}?{urlencode(query)}")

"""Saved pictures as a section of the exported document."""

from cambrel.briefs.models import SavedBrief
from cambrel.links.benches import decode_brief
from cambrel.owners.sections import register, saved_section


def register_briefs() -> None:
    says = "A picture to be made, as a link parameter whose cameras are left aside."
    framed = {"framed_m": {"type": ["number", "null"], "exclusiveMinimum": 0, "maximum": 1e6}}
    register(saved_section("briefs", "Pictures to make", SavedBrief, "brief", says, decode_brief, texts=framed))

"""Addresses of the bench: of one as it stands, of gear put on it, and of one camera by itself. Pure."""

from __future__ import annotations

from urllib.parse import urlencode

from cambrel.comparison.bench import Bench, Gear, Slot
from cambrel.comparison.brief import Brief, Conventions
from cambrel.comparison.rig import Body, Lens, Rig
from cambrel.links.benches import encode, encode_gear
from cambrel.optics.formats import Sensor

HOME = "/"
"""The address of the bench."""


def bench_address(bench: Bench, *, token: str = "", **look: str) -> str:
    """The address of a bench, with more parameters of how it is looked at; `token` where it is encoded already.

    Parameters
        bench: to be opened
        token: of the bench, where it is encoded already
        look: more parameters of how it is looked at
    Returns
        path and query
    """
    return HOME + "?" + urlencode({"b": token or encode(bench), **look})


def put_address(gear: Gear, carrier: Gear | None = None) -> str:
    """The address that puts gear on the bench as one more rig; a lens goes on the carrier where no body there has its
    mount.

    Parameters
        gear: a body, a lens or both
        carrier: what a lens goes on where no body there has its mount
    Returns
        path and query
    """
    tokens = [encode_gear(gear_given) for gear_given in (gear, carrier) if gear_given is not None]
    return HOME + "?" + urlencode({"action": ":".join(["put", *tokens])})


def alone_address(
    gear: Gear,
    focal_length_mm: float,
    f_number: float = 4.0,
    brief: Brief | None = None,
    conventions: Conventions | None = None,
) -> str:
    """The address of a bench with one camera: what the working of its figures stands on.

    Parameters
        gear: a body and a lens
        focal_length_mm: [mm]
        f_number: as marked
        brief, conventions: the usual ones by default
    Returns
        path and query
    """
    rig = Rig(gear.body or Body(Sensor(36.0, 24.0)), gear.lens or Lens(), focal_length_mm, f_number)
    slot = Slot(rig, gear.body_name, gear.lens_name)
    return bench_address(Bench(brief or Brief(), (slot,), conventions=conventions or Conventions()))

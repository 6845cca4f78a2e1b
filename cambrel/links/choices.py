"""Kits and the pictures to be made with them, by value: what Choose shows, as one link parameter or as it is kept."""

from __future__ import annotations

from typing import Any

from cambrel.bounds.limits import named, outside
from cambrel.bounds.names import check_name, is_shown
from cambrel.comparison.bench import Task
from cambrel.comparison.brief import Brief, Conventions, Hold
from cambrel.comparison.rig import Lens
from cambrel.decisions.choice import (
    LONGEST_NOTE,
    MOST_KITS,
    MOST_PICTURES,
    MOST_PIECES,
    Adapter,
    Choice,
    KitBag,
    Piece,
    Support,
)
from cambrel.links.benches import (
    NEWEST,
    VERSIONS,
    pack,
    unpack,
    upgraded,
    values,
)
from cambrel.links.codec import LinkError, deflated, inflated
from cambrel.optics.quantities import DomainError

LONGEST_KEPT = 60_000
"""Characters of what is kept, which need not go into an address."""
MOST_BYTES = 240_000
_KIND = "choice"
_MOST_SHARE = 1e6


def encode_choice(choice: Choice) -> str:
    """A choice as a parameter; a thing that is in several kits is written once.

    Parameters
        choice: kits, pictures and terms
    Returns
        base64url; a thing that is in several kits is written once
    """
    pieces: dict[Piece[Any], int] = {}
    kits = [
        [kit.name, kit.note, *(pieces.setdefault(piece, len(pieces)) for piece in kit.pieces)] for kit in choice.kits
    ]
    pictures = [
        [share, pack(task.brief), task.name, task.background_name, task.foreground_name, task.scene,
            [pack(change) for change in task.changes]]
        for task, share in choice.pictures
    ]  # fmt: skip
    return deflated([NEWEST, _KIND, pack(choice.conventions), [_packed(piece) for piece in pieces], kits, pictures])


def _packed(piece: Piece[Any]) -> list[Any]:
    what = piece.what
    if isinstance(what, Support):
        return ["s", piece.name, what.kind, what.weight_g, what.price, what.currency, what.payload_g]
    if isinstance(what, Adapter):
        return ["a", piece.name, what.lens_mount, what.mount, what.weight_g, what.price, what.currency]
    if isinstance(what, Lens):
        return ["l", piece.name, pack(what)]
    return ["b", piece.name, pack(what), list(piece.accepts), [_packed(accepted) for accepted in piece.fixed]]


def decode_choice(token: str, longest: int | None = None) -> Choice:
    """The choice that a parameter stands for.

    Parameters
        token: as it came
        longest: that is read [characters]; by default what an address holds
    Returns
        the choice
    Raises
        LinkError for anything that is not a whole, sound choice
    """
    content = inflated(token) if longest is None else inflated(token, longest, MOST_BYTES)
    if not (isinstance(content, list) and len(content) == 6 and content[1] == _KIND):
        raise LinkError("This link holds no kits to choose between.")
    version, _, terms, pieces, kits, pictures = content
    if type(version) is not int or version not in VERSIONS:
        raise LinkError("This link was written by a newer version, or not by Cambrel.")
    try:
        known = [_piece(cells, version) for cells in pieces]
        made = Choice(
            tuple(_kit(cells, known) for cells in kits),
            tuple(_picture(cells, terms, version) for cells in pictures),
            _in_force([], terms, version)["conventions"],
        )
    except LinkError:
        raise
    except DomainError as error:
        raise LinkError(f"This link is damaged: its {named(error.parameter)} makes no sense.") from error
    except (TypeError, ValueError, OverflowError, KeyError, IndexError, AttributeError) as error:
        raise LinkError("This link is damaged: a value in it is not of its kind.") from error
    if not 1 <= len(made.kits) <= MOST_KITS or not 1 <= len(made.pictures) <= MOST_PICTURES:
        raise LinkError(f"From 1 to {MOST_KITS} kits and {MOST_PICTURES} pictures are read from a link.")
    for name, _ in outside(made):
        raise LinkError(f"This link is damaged: its {named(name)} is out of range.")
    return made


def _in_force(brief: Any, terms: Any, version: int) -> dict[str, Any]:
    tables = VERSIONS[version]
    return upgraded(
        {
            "brief": Brief(**values("Brief", brief, tables)),
            "hold": Hold(),
            "conventions": Conventions(**values("Conventions", terms, tables)),
        },
        version,
    )


def _picture(cells: Any, terms: Any, version: int) -> tuple[Task, float]:
    share, brief, *names, changes = cells
    for name in names:
        check_name(name)
    if isinstance(share, bool) or not isinstance(share, int | float) or not 0 <= share <= _MOST_SHARE:
        raise LinkError("This link is damaged: a share of its pictures makes no sense.")
    moved = tuple(unpack("Change", change, VERSIONS[version]) for change in changes[:12])
    name, background, foreground, scene = names
    return Task(_in_force(brief, terms, version)["brief"], name, background, foreground, scene, moved), float(share)


def _kit(cells: Any, known: list[Piece[Any]]) -> KitBag:
    name, note, *numbers = cells
    check_name(name)
    if not isinstance(note, str) or len(note) > LONGEST_NOTE or not is_shown(note):
        raise LinkError("This link is damaged: a note in it cannot be shown.")
    if len(numbers) > MOST_PIECES or any(type(number) is not int or number < 0 for number in numbers):
        raise LinkError("This link is damaged: a kit in it names things that are missing.")
    return KitBag(name, tuple(known[number] for number in numbers), note)


def _piece(cells: Any, version: int) -> Piece[Any]:
    tag, name, *rest = cells
    check_name(name)
    if tag == "s":
        kind, weight_g, price, currency, payload_g = rest
        if kind not in ("tripod", "monopod", "gimbal", "tracker"):
            raise LinkError("This link is damaged: it holds a support of an unknown kind.")
        check_name(currency)
        numbers = [None if figure is None else float(figure) for figure in (weight_g, price, payload_g)]
        return Piece(name, Support(kind, numbers[0], numbers[1], currency, numbers[2]))
    if tag == "a":
        lens_mount, mount, weight_g, price, currency = rest
        for text in (lens_mount, mount, currency):
            check_name(text)
        known = [None if figure is None else float(figure) for figure in (weight_g, price)]
        return Piece(name, Adapter(lens_mount, mount, known[0], known[1], currency))
    if tag == "l":
        return Piece(name, unpack("Lens", rest[0], VERSIONS[version]))
    if tag != "b":
        raise LinkError("This link is damaged: it holds a thing of an unknown kind.")
    body, accepts, fixed = rest
    for mount in accepts:
        check_name(mount)
    lenses = tuple(_piece(packed, version) for packed in fixed[:MOST_PIECES])
    if any(not isinstance(lens.what, Lens) for lens in lenses):
        raise LinkError("This link is damaged: a camera in it has no usable lens.")
    return Piece(name, unpack("Body", body, VERSIONS[version]), tuple(accepts), lenses)

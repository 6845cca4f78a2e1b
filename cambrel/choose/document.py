"""A decision as open formats: every cell as a row of a table, and all of it as one JSON document."""

from __future__ import annotations

from dataclasses import asdict
from math import isfinite
from typing import Any

from django.http import JsonResponse, StreamingHttpResponse
from django.http.response import HttpResponseBase

from cambrel import wording
from cambrel.choose.deciding import Decision
from cambrel.decisions.kits import limits, share_made
from cambrel.exports.csv_tables import table_lines
from cambrel.links.choices import encode_choice
from cambrel.optics.quantities import is_unknown

VERSION = 1
COLUMNS = (
    "picture", "how often", "kit", "status", "body", "lens", "focal length mm", "focus m", "f-number", "shutter s",
    "ISO",
    "clean up to ISO", "sharp up to mm", "decides",
)  # fmt: skip


def table(decision: Decision) -> list[dict[str, Any]]:
    """Every cell as a row, at full precision; of a kit that makes nothing of it, no more than that."""
    made = []
    for task, cells in zip(decision.tasks, decision.cells, strict=True):
        for kit, cell in zip(decision.kits, cells, strict=True):
            row: dict[str, Any] = {"picture": task.task.name, "how often": decision.shares[task.key], "kit": kit.name}
            if cell is not None:
                body, lens = kit.pairs[cell.rig]
                figures, s = cell.figures, cell.figures.settings
                check = cell.judged.checks[0] if cell.judged.checks else None
                row |= {
                    "status": str(cell.status),
                    "body": body.name,
                    "lens": lens.name,
                    "focal length mm": s.focal_length_mm,
                    "focus m": s.object_distance_m,
                    "f-number": s.f_number,
                    "shutter s": s.shutter_s,
                    "ISO": s.iso,
                    "clean up to ISO": figures.light.ceiling_iso,
                    "sharp up to mm": figures.sharpness.largest_print_mm,
                    "decides": wording.sentence(check) if check else "",
                }
            made.append(row)
    return made


def document(decision: Decision) -> dict[str, Any]:
    """All that is shown, in the units of its names; what is not known is null, what has no end is "inf"."""
    kits = []
    for index, kit in enumerate(decision.kits):
        column = decision.column(index)
        kits.append(
            {
                "name": kit.name,
                "note": kit.bag.note,
                "holds": [{"kind": piece.kind, "name": piece.name} for piece in kit.bag.pieces],
                "weight_g": kit.weighs(decision.needed),
                "price": kit.cost,
                "currency": kit.currency,
                "covers_mm": [list(pair) for pair in kit.stretches(decision.conventions)],
                "makes_share": share_made(decision.pictures, column),
                "limited_by": limits(decision.pictures, column),
            }
        )
    pictures = [
        {"name": task.task.name, "how_often": decision.shares[task.key], "brief": asdict(task.task.brief)}
        for task in decision.tasks
    ]
    content: dict[str, Any] = _plain(
        {
            "cambrel_choice": VERSION,
            "conventions": asdict(decision.conventions),
            "kits": kits,
            "pictures": pictures,
            "cells": table(decision),
            "says": list(decision.sentences()),
            "link": encode_choice(decision.choice) if decision.kits else "",
        }
    )
    return content


def as_file(decision: Decision, kind: str) -> HttpResponseBase | None:
    """The table as CSV or the document as JSON, to be kept; None for any other kind."""
    made: HttpResponseBase
    if kind == "csv":
        made = StreamingHttpResponse(table_lines(COLUMNS, table(decision)), content_type="text/csv; charset=utf-8")
    elif kind == "json":
        made = JsonResponse(document(decision), json_dumps_params={"indent": 1, "ensure_ascii": False})
    else:
        return None
    made["Content-Disposition"] = f'attachment; filename="cambrel-choose.{kind}"'
    return made


def _plain(value: object) -> Any:
    """Numbers that JSON has none for in words."""
    if isinstance(value, dict):
        return {str(key): _plain(item) for key, item in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(part) for part in value]
    if isinstance(value, float) and not isfinite(value):
        return None if is_unknown(value) else "inf" if value > 0 else "-inf"
    return value

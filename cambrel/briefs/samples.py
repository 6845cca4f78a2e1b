"""Pictures to be made: those that ship with the application, and how a bench takes one."""

import json
from dataclasses import dataclass, replace
from functools import cache
from math import inf
from pathlib import Path

from cambrel.links import Bench
from cambrel.optics.brief import Brief


@dataclass(frozen=True)
class SampleBrief:
    slug: str
    name: str
    note: str
    background_name: str
    foreground_name: str
    scene: str
    brief: Brief


@cache
def sample_briefs() -> dict[str, SampleBrief]:
    """The briefs that ship with the application, by slug."""
    found = {}
    for row in json.loads(Path(__file__).with_name("samples.json").read_text()):
        values = {key: inf if value == "inf" else value for key, value in row.pop("brief").items()}
        found[row["slug"]] = SampleBrief(brief=Brief(**values), **row)
    return found


def with_brief(bench: Bench, slug: str) -> Bench:
    """The bench with another sample brief; its rigs stay."""
    sample = sample_briefs()[slug]
    return replace(
        bench,
        brief=sample.brief,
        brief_name=sample.name,
        background_name=sample.background_name,
        foreground_name=sample.foreground_name,
        scene=sample.scene,
    )

"""Pictures to be made: those that ship with the application, and how a bench takes one."""

import json
from dataclasses import dataclass
from functools import cache
from math import inf
from pathlib import Path
from typing import Any

from cambrel.comparison.bench import Bench, Task
from cambrel.comparison.brief import Brief


@dataclass(frozen=True)
class SampleBrief:
    slug: str
    name: str
    note: str
    background_name: str
    foreground_name: str
    scene: str
    brief: Brief
    framed_m: float | None = None
    """How wide it is framed at the subject, where the brief asks for no width: for choosing, which needs a framing."""
    caution: str = ""
    """What to mind where such a picture is made; local rules and trained people come first."""

    @property
    def task(self) -> Task:
        return Task(self.brief, self.name, self.background_name, self.foreground_name, self.scene)


@cache
def sample_briefs() -> dict[str, SampleBrief]:
    """The briefs that ship with the application, by slug."""
    briefs = {}
    for row in json.loads(Path(__file__).with_name("samples.json").read_text()):
        values: dict[str, Any] = {key: inf if value == "inf" else value for key, value in row.pop("brief").items()}
        briefs[row["slug"]] = SampleBrief(brief=Brief(**values), **row)
    return briefs


def with_brief(bench: Bench, slug: str) -> Bench:
    """The bench with another sample brief; its rigs stay."""
    return bench.with_task(sample_briefs()[slug].task)

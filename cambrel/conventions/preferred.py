"""What an owner prefers: an answer to each question, the usual one where none was given."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from django.contrib.auth.models import AnonymousUser

from cambrel.comparison.brief import Conventions
from cambrel.conventions.questions import OF_FIGURES, question
from cambrel.owners.models import Preferences, User


@dataclass(frozen=True)
class Preferred:
    """Answers by the keys of the questions."""

    answers: Mapping[str, Any] = field(default_factory=dict)

    def __getitem__(self, key: str) -> Any:
        return question(key).answered(self.answers.get(key))

    @cached_property
    def conventions(self) -> Conventions:
        """Those that figures depend on."""
        return Conventions(**{of_figure.key: self[of_figure.key] for of_figure in OF_FIGURES}, home=self.home)

    @cached_property
    def home(self) -> str:
        """The format in whose terms its owner thinks."""
        return str(self["home"])

    @cached_property
    def units(self) -> str:
        return str(self["units"])


def preferred_by(user: User | AnonymousUser) -> Preferred:
    """What a user prefers, or the usual for a visitor and for one who never chose."""
    return Preferred(Preferences.objects.for_owner(user).values_list("answers", flat=True).first() or {})

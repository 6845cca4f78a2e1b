"""What was understood of a text and what was not, in the order of the text."""

from __future__ import annotations

from dataclasses import dataclass, field

from cambrel.phrases.records import FormatChoice, Understood
from cambrel.phrases.scan import Mention
from cambrel.phrases.tokens import Token


@dataclass
class Notes:
    """What was understood and what was not, in the order of the text."""

    text: str
    tokens: list[Token]
    said: list[tuple[int, str, str]] = field(default_factory=list)
    left: list[tuple[int, int]] = field(default_factory=list)
    choices: list[FormatChoice] = field(default_factory=list)

    def _piece(self, mention: Mention) -> str:
        return self.text[self.tokens[mention.first].start : self.tokens[mention.last - 1].end]

    def say(self, mention: Mention, meaning: str) -> None:
        self.said.append((mention.first, self._piece(mention), meaning))

    def choose(self, mention: Mention) -> None:
        if len(mention.formats) > 1:
            self.choices.append(FormatChoice(self._piece(mention), mention.formats[0], mention.formats))

    def leave(self, mention: Mention) -> None:
        self.left.append((mention.first, mention.last))

    def done(
        self,
    ) -> tuple[tuple[Understood, ...], tuple[str, ...], tuple[FormatChoice, ...], tuple[tuple[int, int], ...]]:
        understood = tuple(
            Understood(text, meaning) for _, text, meaning in sorted(self.said, key=lambda spoken: spoken[0])
        )
        runs: list[list[int]] = []
        for first, last in sorted(self.left):
            if runs and first <= runs[-1][1]:
                runs[-1][1] = max(last, runs[-1][1])
            else:
                runs.append([first, last])
        places = tuple((self.tokens[a].start, self.tokens[b - 1].end) for a, b in runs)
        return understood, tuple(self.text[a:b] for a, b in places), tuple(self.choices), places

"""What a judge says of a sentence: whether it must be said, and with which figures and words."""

from dataclasses import dataclass, field
from math import inf, isfinite, log2

NEARLY = 0.02
VIEW, STOPS, DEPTH, WEIGHT, EFFECTIVE, COVER = 0.01, 1 / 6, 0.05, 0.05, 0.1, 0.995
NARROW = 1e-7


@dataclass
class Judged:
    should: bool | None
    figures: dict = field(default_factory=dict)
    words: dict = field(default_factory=dict)
    has: tuple = ()
    lacks: tuple = ()


def over(value, limit):
    """Whether a value passes a limit; not to be judged where it meets it to within rounding, or is unknown."""
    if value != value or limit != limit:
        return False
    if isfinite(value) and abs(value - limit) <= NARROW * max(1.0, abs(limit)):
        return None
    return value > limit


def both(*parts):
    return False if False in parts else None if None in parts else True


def no(part):
    return None if part is None else not part


def apart(ratio, level):
    """Whether a ratio differs from 1 by more than a level."""
    return over(abs(ratio - 1), level)


def stops(n, reference):
    return 2 * log2(n / reference) if 0 < n / reference < inf else inf

"""Three cameras and more: which serves the picture best, and one sentence a topic that ranks them all."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import inf, isfinite, log2

from cambrel.comparison.demand import CANNOT, DOES, NEARLY, UNKNOWN
from cambrel.comparison.engine import Comparison, RigFigures
from cambrel.comparison.fulfilment import Fulfilment, fulfilment
from cambrel.comparison.pairs import pair_alone
from cambrel.optics.quantities import is_unknown
from cambrel.optics.workings import Figure
from cambrel.verdicts.lights import cleaner_stops
from cambrel.verdicts.ranking import asked_topics, verdicts
from cambrel.verdicts.registry import RESTS_ON, Topic, Verdict, rests_on
from cambrel.wording.sentences import LEVEL_DEPTH, LEVEL_STOPS, LEVEL_VIEW, LEVEL_WEIGHT, listed

FEWEST, MOST_SAID = 3, 12
"""So many cameras are ranked; and so many sentences are said, however many there are."""
STATUSES = (DOES, NEARLY, UNKNOWN, CANNOT)
"""From the best."""
OF_PAIRS = ("weight", "bulk")
"""What of gear a ranking says already; of the rest of it, such as another mount, each sentence stays."""
FIRST_OF_ALL = (Topic.IMPOSSIBLE, Topic.FOCUS)


@dataclass(frozen=True)
class RankedTopic:
    """One thing by which all cameras are ranked.

    label: with the way it goes; alike: what is said where all are the same
    read: larger stands first; shown: the figure that stands with each, by the first of all
    is_level: whether two values count as the same; rests_on: the figures that it goes by
    """

    key: str
    topic: Topic
    label: str
    alike: str
    read: Callable[[RigFigures], float]
    shown: Callable[[RigFigures, RigFigures], Figure]
    is_level: Callable[[float, float], bool]
    rests_on: tuple[str, ...] = ()


def _within(level: float) -> Callable[[float, float], bool]:
    def is_level(one: float, other: float) -> bool:
        return one == other or (isfinite(one) and isfinite(other) and abs(other / one - 1) <= level)

    return is_level


def _stops_apart(one: float, other: float) -> bool:
    return abs(one - other) <= LEVEL_STOPS


def _depth(first: RigFigures, rig: RigFigures) -> Figure:
    return Figure("without end", "word") if rig.depth.total_m == inf else Figure(rig.depth.total_m, "m")


def _behind(read: Callable[[RigFigures], float]) -> Callable[[RigFigures, RigFigures], Figure]:
    """How many stops a camera is behind the first."""
    return lambda first, rig: Figure(read(first) - read(rig), "stops")


def _light(rig: RigFigures) -> float:
    return rig.light.total_stops


def _clean(rig: RigFigures) -> float:
    return 2 * log2(rig.light.snr) if rig.light.snr > 0 else float("nan")


TOPICS = (
    RankedTopic(
        "rank_view", Topic.VIEW, "View, widest first", "All see the same", lambda rig: rig.field,
        lambda first, rig: Figure(rig.view.field_wide_m, "m"), _within(LEVEL_VIEW), ("field_wide", "angle_wide"),
    ),
    RankedTopic(
        "rank_depth", Topic.DEPTH, "Depth of field, most to least", "Depth of field is the same on all",
        lambda rig: rig.depth.total_m, _depth, _within(LEVEL_DEPTH), ("total",),
    ),
    RankedTopic(
        "rank_blur", Topic.BLUR, "Background blur, most to least", "Background blur is the same on all",
        lambda rig: rig.blur.background_share, lambda first, rig: Figure(rig.blur.background_share, "share"),
        _within(2 ** (LEVEL_STOPS / 2) - 1), ("background_share",),
    ),
    RankedTopic(
        "rank_light", Topic.LIGHT, "Light in the whole picture, most to least", "All gather the same light", _light,
        _behind(_light), _stops_apart, ("total_stops",),
    ),
    RankedTopic(
        "rank_clean", Topic.LIGHT, "Noise, cleanest first", "All are equally clean", _clean, _behind(_clean),
        _stops_apart, ("snr_picture",),
    ),
    RankedTopic(
        "rank_print", Topic.SHARPNESS, "Good enough up to, largest first", "All are good enough for the same size",
        lambda rig: rig.sharpness.largest_print_mm,
        lambda first, rig: Figure(rig.sharpness.largest_print_mm / 1000, "m"), _within(LEVEL_DEPTH), ("largest",),
    ),
    RankedTopic(
        "rank_weight", Topic.GEAR, "Weight, lightest first", "All weigh the same", lambda rig: -rig.outfit.weight_g,
        lambda first, rig: Figure(rig.outfit.weight_g, "g"), _within(LEVEL_WEIGHT), ("weight",),
    ),
    RankedTopic(
        "rank_volume", Topic.GEAR, "Room that they take, least first", "All take the same room",
        lambda rig: -rig.outfit.volume_l, lambda first, rig: Figure(rig.outfit.volume_l, "l"), _within(LEVEL_WEIGHT),
        ("volume",),
    ),
)  # fmt: skip


RESTS_ON |= {topic.key: topic.rests_on for topic in TOPICS}


def _groups(topic: RankedTopic, rigs: Sequence[RigFigures]) -> list[list[RigFigures]]:
    """The rigs in order, those that count as the same as the first of a group together."""
    groups: list[list[RigFigures]] = []
    for rig in sorted(rigs, key=lambda rig: (-topic.read(rig), rig.index)):
        if groups and topic.is_level(topic.read(groups[-1][0]), topic.read(rig)):
            groups[-1].append(rig)
        else:
            groups.append([rig])
    return groups


def _letters(rigs: Sequence[RigFigures]) -> tuple[str, dict[str, Figure]]:
    ordered = sorted(rigs, key=lambda rig: rig.index)
    names = listed([f"{{rig_{rig.index}}}" for rig in ordered])
    return names, {f"rig_{rig.index}": Figure(rig.index, "rig") for rig in ordered}


def ranked_all(topic: RankedTopic, rigs: Sequence[RigFigures]) -> Verdict | None:
    """One sentence that ranks all cameras by one thing.

    Parameters
        topic: by what
        rigs: of one comparison
    Returns
        None where it is known of fewer than two
    """
    known = [rig for rig in rigs if not is_unknown(topic.read(rig))]
    if len(known) < 2:
        return None
    groups = _groups(topic, known)
    unknown = [rig for rig in rigs if is_unknown(topic.read(rig))]
    everyone = tuple(rig.index for rig in rigs)
    rest, figures = _letters(unknown) if unknown else ("", {})
    end = f"; {rest} {'is' if len(unknown) == 1 else 'are'} unknown." if unknown else "."
    if len(groups) == 1:
        return Verdict(topic.alike + end, figures, topic.key, topic.topic, 0.0, everyone)
    parts, top = [], groups[0][0]
    is_behind = topic.shown(top, top).kind == "stops"
    for number, group in enumerate(groups):
        names, letters = _letters(group)
        figures |= letters
        if is_behind and not number:
            parts.append(names)
            continue
        figures[f"value_{number}"] = topic.shown(top, group[0])
        parts.append(f"{names} {{value_{number}}}" + (" behind" if is_behind else ""))
    between = ", then " if is_behind else ", "
    return Verdict(
        f"{topic.label}: {between.join(parts)}{end}", figures, topic.key, topic.topic, float(len(groups)), everyone
    )


def _place(check: Fulfilment) -> int:
    return STATUSES.index(check.status)


@rests_on(
    "snr_picture",
    "weight",
    of=("best_of_all",),
    says=(
        "First who can take the picture, then who is cleanest, then who is lightest. "
        "Cleaner counts from a sixth of a stop on, lighter from 5% on."
    ),
)
def best_of_all(comparison: Comparison, among: Sequence[int]) -> Verdict:
    """Which camera serves the picture best, and why.

    Parameters
        comparison: of three rigs or more
        among: those that are looked at
    Returns
        one sentence
    """
    checks = [check for check in fulfilment(comparison) if check.index in among]
    least = min(_place(check) for check in checks)
    best = [comparison.of(check.index) for check in checks if _place(check) == least]
    set_to = " as set" if comparison.asked is None else " at its best"
    names, figures = _letters(best)
    chosen = best[0]
    if STATUSES[least] is DOES and len(best) == 1:
        text = f"{{best}} is best for this picture: it alone can take it{set_to}."
    elif STATUSES[least] is DOES:
        text, chosen, more = _of_several(best, "All of them" if len(best) == len(checks) else names)
        figures |= more
    elif STATUSES[least] is NEARLY and len(best) > 1:
        text = f"No camera can take this picture{set_to}. {names} just fall short."
    elif STATUSES[least] is NEARLY:
        check = next(check for check in checks if check.index == chosen.index).checks[0]
        text = f"No camera can take this picture{set_to}. {{best}} just falls short: {check.text}."
        figures |= check.figures
    elif STATUSES[least] is UNKNOWN:
        text = f"Whether {names} can take this picture{set_to} is not known, and no other can."
        if len(best) == len(checks):
            text = f"Whether any camera can take this picture{set_to} is not known."
    else:
        text = f"No camera can take this picture{set_to}."
    figures["best"] = Figure(chosen.index, "rig")
    placed = {name: figure for name, figure in figures.items() if "{" + name + "}" in text}
    others = tuple(rig.index for rig in best if rig is not chosen)
    return Verdict(text, placed, "best_of_all", Topic.ASKED, inf, (*others, chosen.index))


def _of_several(best: list[RigFigures], names: str) -> tuple[str, RigFigures, dict[str, Figure]]:
    """Of several that can take it: the cleanest, else the lightest, else none before the others."""
    clean = sorted(best, key=lambda rig: (-rig.light.snr, rig.index))
    together = "both " if len(best) == 2 else "all " if names[0] == "{" else ""
    lead = f" {names} can {together}take this picture."
    known = not any(is_unknown(rig.light.snr) for rig in best)
    if known:
        ahead = cleaner_stops(clean[1], clean[0])
        if ahead > LEVEL_STOPS:
            figures = {"ahead": Figure(ahead, "stops"), "next": Figure(clean[1].index, "rig")}
            text = "{best} is best for this picture: it is {ahead} cleaner than {next}."
            return text + lead, clean[0], figures
        best = [rig for rig in best if abs(cleaner_stops(clean[0], rig)) <= LEVEL_STOPS]
    if not any(is_unknown(rig.outfit.weight_g) for rig in best):
        light = sorted(best, key=lambda rig: (rig.outfit.weight_g, rig.index))
        less = light[1].outfit.weight_g - light[0].outfit.weight_g
        if less > LEVEL_WEIGHT * light[0].outfit.weight_g:
            figures = {"less": Figure(less, "g"), "next": Figure(light[1].index, "rig")}
            why = "none is cleaner, and " if known else ""
            text = f"{{best}} is best for this picture: {why}it is {{less}} lighter than {{next}}."
            return text + lead, light[0], figures
    alike, figures = _letters(best)
    return f"{alike} are equally good for this picture.{lead}", best[0], figures


def among_all(comparison: Comparison, void: Sequence[int] = ()) -> list[Verdict]:
    """What is said of three cameras and more: the best, what cannot be, a ranking for each topic, and of the rest the
    most important, at most a dozen in all.

    Parameters
        comparison: without a walk
        void: rigs that cannot be used
    Returns
        in the order in which they are shown
    """
    among = [index for index in range(len(comparison.rigs)) if index not in void]
    rigs = [comparison.of(index) for index in among if comparison.of(index).settings.focusable]
    every = [verdict for verdict in verdicts(comparison) if not set(verdict.rigs) & set(void)]
    urgent = [verdict for verdict in every if verdict.topic in FIRST_OF_ALL]
    asked = asked_topics(comparison.brief)
    made = [verdict for topic in TOPICS if (verdict := ranked_all(topic, rigs)) is not None]
    made.sort(key=lambda verdict: (verdict.size == 0, verdict.topic not in asked))
    said = [best_of_all(comparison, among), *urgent[: MOST_SAID - 1 - len(made)], *made]
    covered = ({verdict.topic for verdict in made} | {Topic.ASKED, Topic.EQUIVALENT, *FIRST_OF_ALL}) - {Topic.GEAR}
    rest = [verdict for verdict in every if verdict.topic not in covered and verdict.key not in OF_PAIRS]
    return (said + rest)[:MOST_SAID]


def of_pair(comparison: Comparison, one: int, other: int) -> list[Verdict]:
    """What is said of two cameras that are set against each other, as they stand.

    Parameters
        comparison: of three rigs or more
        one, other: their indices
    Returns
        in the order in which they are shown
    Raises
        DomainError where neither has an image at its distance
    """
    pair = {one, other}
    return [verdict for verdict in verdicts(pair_alone(comparison, one, other)) if set(verdict.rigs) <= pair]

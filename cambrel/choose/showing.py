"""What the page of Choose shows of what was asked."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import partial
from typing import Any

from django.urls import reverse

from cambrel import wording
from cambrel.choose.choose_query import ChooseQuery
from cambrel.choose.deciding import Decision
from cambrel.choose.forms import KeepForm
from cambrel.choose.looks import LOOKS, race_of
from cambrel.choose.loose_lenses import loose_of
from cambrel.choose.models import KeptDecision
from cambrel.choose.own_picture import OwnPictureForm
from cambrel.decisions.choice import MOST_KITS
from cambrel.decisions.kits import share_made
from cambrel.drawings.kit_chart import KitChart, KitPoint, kit_chart
from cambrel.links.choices import encode_choice
from cambrel.owners.models import gear_owner
from cambrel.owners.requests import Request
from cambrel.shelf.models import Kit

MOST_LISTED = 60
LONGEST_LINK = 3000
"""Characters of kits and pictures by value in an address, which has to hold what else is asked too."""


def page(asked: ChooseQuery, request: Request) -> dict[str, Any]:
    """What the page shows."""
    decision, look = asked.decision, LOOKS.get(asked.look)
    token = encode_choice(decision.choice) if decision.kits else ""
    return {
        "form": asked.shares,
        "musts_form": asked.musts_form,
        "musts": asked.musts,
        "try_form": asked.try_form,
        "musts_cost": list(_musts_cost(asked)),
        "kits": Kit.objects.for_owner(gear_owner(request.user))[:MOST_LISTED],
        "chosen": {bag.key for bag in asked.bags},
        "is_by_value": asked.choice is not None,
        "by_value": _by_value(asked),
        "decision": decision,
        "heads": _heads(asked, request),
        "rows": [
            (task, asked.shares[task.key], cells, bench)
            for (task, cells), bench in zip(decision.rows(), decision.together(), strict=True)
        ],
        "most": MOST_KITS,
        "headline": decision.headline(),
        "sentences": list(decision.sentences()),
        "out": asked.out,
        "level": decision.level,
        "carry": decision.carried(asked.out),
        "tried": asked.tried,
        "looks": LOOKS.values(),
        "look": look,
        "looked": look.see(asked, request) if look else None,
        "race": race_of(decision, asked.race) if asked.race else None,
        "racing": asked.race,
        "link": f"{reverse('choose:choose')}?c={token}" if token and len(token) <= LONGEST_LINK else "",
        "token": token,
        "asked_before": request.GET.urlencode() if request.method == "GET" else request.POST.get("asked", ""),
        "own_form": OwnPictureForm(),
        "has_own": asked.has_own,
        "only_own": asked.only_own,
        "charts": _charts(decision),
        "keep_form": KeepForm(),
        "kept_before": KeptDecision.objects.for_owner(request.user)[:MOST_LISTED],
    }


def _charts(decision: Decision) -> list[KitChart]:
    """The kits by the share that each can take, against weight and against price where they have one currency."""
    shares = [share_made(decision.pictures, decision.column(index)) for index in range(len(decision.kits))]

    def points(costs: Iterable[float]) -> list[KitPoint]:
        return [
            KitPoint(index, kit.name, share, cost)
            for index, (kit, share, cost) in enumerate(zip(decision.kits, shares, costs, strict=True))
        ]

    currencies = {kit.currency for kit in decision.kits}
    charts = [kit_chart(points(kit.weighs(decision.needed) for kit in decision.kits), "weight", wording.mass)]
    if len(currencies) == 1:
        say = partial(wording.money, currency=currencies.pop())
        charts.append(kit_chart(points(kit.cost for kit in decision.kits), "price", say))
    return [chart for chart in charts if chart is not None]


def _by_value(asked: ChooseQuery) -> str:
    """Kits and pictures that are no longer those of the shelf as they go along in an address; empty where they are too
    many for one.
    """
    token = encode_choice(asked.choice) if asked.choice is not None else ""
    return token if len(token) <= LONGEST_LINK else ""


def _heads(asked: ChooseQuery, request: Request) -> list[dict[str, Any]]:
    """What is said of each kit above its pictures."""
    loose = loose_of(gear_owner(request.user))
    heads = asked.decision.heads()
    for head in heads:
        kit = head["kit"]
        covering, cropped, fast = loose.fitting(kit.bodies)
        fitting = (
            f"{covering} on the shelf, "
            + (f"{cropped} more cropped, " if cropped else "")
            + f"{fast} of f/2.8 or faster"
        )
        head["sums"] = [
            ("can take", head["made"]),
            ("limited by", head["limits"]),
            ("weighs", head["weighs"]),
            ("costs", kit.price),
            ("covers", head["covers"]),
            *([("lenses for it", fitting)] if covering or cropped else []),
        ]
    return heads


def _musts_cost(asked: ChooseQuery) -> Iterator[str]:
    """What must be had takes from each kit."""
    if not asked.musts:
        return
    free, bound = asked.without_musts(), asked.decision
    for index, (before, after) in enumerate(zip(free.kits, bound.kits, strict=True)):
        out = bound.out(after)
        made = [share_made(result.pictures, result.column(index)) for result in (free, bound)]
        if out:
            yield f"{after.name} is out: {out}."
        elif made[0] > made[1]:
            yield (
                f"{after.name} can take {wording.share(made[1])} instead of {wording.share(made[0])}, because of the"
                " must-haves."
            )
        elif len(before.rigs) > len(after.rigs):
            yield f"{after.name} loses a camera with its lens, but no picture."

"""What an address of Choose asks: which kits, as they are or as they would be, for which pictures, and what one must
have.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from django.contrib.auth.models import AnonymousUser
from django.db.models import QuerySet
from django.http import QueryDict

from cambrel.choose.deciding import Decision, WantedPicture, tasks_of
from cambrel.choose.forms import SharesForm, TryForm
from cambrel.choose.musts import Musts, MustsForm
from cambrel.choose.packing import HELD_BY_KITS, GearShelf, Packed, by_value, what_if
from cambrel.conventions.preferred import preferred_by
from cambrel.decisions.choice import MOST_KITS, Choice, KitBag
from cambrel.inputs.fields import whole
from cambrel.links.choices import decode_choice
from cambrel.owners.models import User, gear_owner
from cambrel.pictures.own_scenes import ReaderScenes
from cambrel.shelf.models import Body, Kit, Mount, Support


@dataclass
class ChooseQuery:
    """An address as it was understood. bags: the kits as they are; tried: those as they would be, each under how it was
    asked for; has_own: whether there are pictures of one's own; only_own: whether the samples are left away for them
    """

    decision: Decision
    shares: SharesForm
    musts_form: MustsForm
    musts: Musts
    try_form: TryForm
    bags: list[KitBag]
    tried: list[tuple[str, KitBag]]
    out: list[str]
    look: str
    race: str
    choice: Choice | None
    has_own: bool
    only_own: bool

    def without_musts(self) -> Decision:
        """The same as if nothing had to be had."""
        return replace(self.decision, kits=[Packed(kit.bag) for kit in self.decision.kits], musts=Musts())


def asked_of(sent: QueryDict, user: User | AnonymousUser, kept: Choice | None = None) -> ChooseQuery:
    """What was asked by the parameters of an address.

    Parameters
        kept: kits and pictures by value, in the place of those of the shelf
    Raises
        LinkError for a choice in the address that cannot be read
    """
    owner = gear_owner(user)
    choice = kept or (decode_choice(str(sent["c"])) if sent.get("c") else None)
    shelf = GearShelf(owner)
    if choice is None:
        tasks, usual = tasks_of(user), {}
        own = [task for task in tasks if task.is_own]
        only_own = bool(own) and sent.get("mine") == "1"
        tasks = own if only_own else tasks
        conventions = preferred_by(user).conventions
        bags = [shelf.bag(record) for record in _chosen(sent, owner)[:MOST_KITS]]
    else:
        own, only_own = [], False
        tasks = [WantedPicture(f"p{index}", task) for index, (task, _) in enumerate(choice.pictures)]
        usual = {f"p{index}": share for index, (_, share) in enumerate(choice.pictures)}
        conventions, bags = choice.conventions, by_value(choice.kits)
    try_form = TryForm(sent, bags, shelf)
    wanted = [*sent.getlist("what"), *filter(None, [try_form.token()])]
    tried = list(what_if(bags, list(dict.fromkeys(wanted)), shelf))[: max(MOST_KITS - len(bags), 1)]
    bags = bags[: MOST_KITS - len(tried)]
    musts_form = MustsForm(sent, *_must_choices(owner))
    musts = musts_form.musts()
    shares = SharesForm(sent, tasks, usual)
    kits = [Packed(bag, musts) for bag in [*bags, *(bag for _, bag in tried)]]
    level = frozenset(sent.getlist("level")) & set(shares.fields)
    return ChooseQuery(
        Decision(kits, tasks, shares.shares(), conventions, musts, level, ReaderScenes(user)),
        shares,
        musts_form,
        musts,
        try_form,
        bags,
        tried,
        [key for key in sent.getlist("out") if key in shares.fields],
        sent.get("look", ""),
        sent.get("race", ""),
        choice,
        bool(own),
        only_own,
    )


def _chosen(sent: QueryDict, owner: User) -> QuerySet[Kit]:
    """The kits that are asked for, or all that there are."""
    records: QuerySet[Kit] = Kit.objects.for_owner(owner).prefetch_related(*HELD_BY_KITS)
    wanted = [key for key in map(whole, sent.getlist("kit")) if key is not None]
    chosen = records.filter(pk__in=wanted) if wanted else records
    return chosen if chosen.exists() else records


def _must_choices(owner: User) -> tuple[list[str], list[str], dict[str, tuple[str, float]]]:
    """The mounts, currencies and trackers of a shelf."""
    mounts = list(Mount.objects.for_owner(owner).values_list("name", flat=True))
    currencies = Body.objects.for_owner(owner).exclude(currency="").order_by("currency")
    trackers = Support.objects.for_owner(owner).filter(kind="tracker", payload_g__gt=0)
    return (
        mounts,
        list(currencies.values_list("currency", flat=True).distinct()),
        {str(tracker.pk): (tracker.name, tracker.payload_g) for tracker in trackers},
    )

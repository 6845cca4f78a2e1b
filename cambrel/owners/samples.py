"""The made-up records that a demo loads: which they are, and which are still there."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from django.apps import apps

from cambrel.owners.models import Owned, User
from cambrel.owners.undo import Recorder
from cambrel.owners.writing import in_chunks


def noted(owner: User, loaded: Recorder) -> None:
    """Note what was loaded as samples; call it within the transaction that loads it."""
    samples = dict(owner.samples)
    for model, of_model in loaded.touched.items():
        samples.setdefault(model._meta.label_lower, []).extend(of_model)
    owner.samples = samples
    owner.save(update_fields=["samples"])


def samples_of(owner: User) -> Iterator[list[Owned]]:
    """What is still there of the samples, model by model, those that others point at last."""
    for label, keys in reversed(owner.samples.items()):
        here: Any = apps.get_model(label)._base_manager.filter(owner=owner)
        yield [record for chunk in in_chunks(keys) for record in here.filter(pk__in=chunk)]


def has_samples(owner: User) -> bool:
    """Whether any of them is still there."""
    return any(
        apps.get_model(label)._base_manager.filter(owner=owner, pk__in=chunk).exists()
        for label, keys in owner.samples.items()
        for chunk in in_chunks(keys)
    )

"""Pictures that an owner has to make, kept under a name, beside the samples."""

from dataclasses import replace
from typing import Any

from cambrel.links import decode_brief, encode_brief
from cambrel.owners.models import Saved


class SavedBrief(Saved):
    class Meta(Saved.Meta):
        ordering = ["name", "pk"]

    def called(self, name: str) -> None:
        """Its name goes along in the value, so that a bench says which picture it is about."""
        super().called(name)
        self.token = encode_brief(replace(self.task(), name=name))

    def task(self) -> Any:
        """What is to be made."""
        return decode_brief(self.token)

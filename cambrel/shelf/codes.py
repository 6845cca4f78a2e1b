"""The owner's own letter codes: what the letters in lens names stand for, a sensor size or a mount. None ship with the
application.
"""

from cambrel.owners.models import User
from cambrel.shelf.models import LetterCode


def codes_of(owner: User) -> dict[str, str]:
    """The codes of an owner as the reader of phrases takes them."""
    codes = {}
    for code in LetterCode.objects.for_owner(owner):
        if code.stands_for:
            codes[code.name] = f"format:{code.stands_for}"
        elif code.mount:
            codes[code.name] = f"mount:{code.mount}"
    return codes

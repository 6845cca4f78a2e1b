"""Photographic wording read into figures: lens names, adverts, questions. The one reader of the whole house. Pure."""

from cambrel.phrases.reader import read
from cambrel.phrases.records import Choice, Reading, Side, Understood

__all__ = ["Choice", "Reading", "Side", "Understood", "read"]

"""Saved comparisons as a section of the exported document."""

from cambrel.bench.models import SavedComparison
from cambrel.links.benches import decode
from cambrel.owners.sections import register, saved_section


def register_comparisons() -> None:
    says = "A saved bench: bench is its link parameter."
    register(saved_section("comparisons", "Comparisons", SavedComparison, "bench", says, decode))

"""Tests of the core: closed forms against an independent route, properties with Hypothesis, no database."""

from hypothesis import settings

settings.register_profile("cambrel", deadline=None, derandomize=True, max_examples=60)
settings.load_profile("cambrel")

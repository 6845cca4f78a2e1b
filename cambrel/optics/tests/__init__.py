"""Closed forms against an independent route, properties over random cases, no database."""

from cambrel.tests import properties  # noqa: F401 - how they are tried

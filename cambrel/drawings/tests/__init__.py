from cambrel.tests import properties  # noqa: F401 - how they are tried

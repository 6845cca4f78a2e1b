"""A folder of its own for the pictures of a test: tests that run beside it have owners of the same keys."""

import tempfile

from django.test import override_settings


def own_folder(test):
    """Give a test its folder, which is gone afterwards."""
    folder = tempfile.TemporaryDirectory()
    test.addCleanup(folder.cleanup)
    settings = override_settings(VAR=folder.name)
    settings.enable()
    test.addCleanup(settings.disable)

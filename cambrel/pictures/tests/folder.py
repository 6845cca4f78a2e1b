"""A folder of its own for the pictures of a test: tests that run beside it have owners of the same keys."""

import tempfile
from pathlib import Path

from django.conf import settings
from django.test import override_settings


def own_folder(test):
    """Give a test its folder, which is gone afterwards; where the files of owners stand."""
    folder = tempfile.TemporaryDirectory()
    test.addCleanup(folder.cleanup)
    own = {"BACKEND": "cambrel.pictures.storage.WholeFiles", "OPTIONS": {"location": f"{folder.name}/own"}}
    changed = override_settings(VAR=folder.name, STORAGES=settings.STORAGES | {"own": own})
    changed.enable()
    test.addCleanup(changed.disable)
    return Path(folder.name) / "own"

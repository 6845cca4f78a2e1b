"""Settings of the browser tests: a file database in WAL mode, plain static files."""

from cambrel.site.settings import *  # noqa: F403
from cambrel.site.settings import DATABASES, VAR

DATABASES["default"]["TEST"] = {"NAME": VAR / "browser-test.sqlite3"}
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}

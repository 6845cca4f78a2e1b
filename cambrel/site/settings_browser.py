"""Settings of the browser tests: a database file that is copied for each process."""

from cambrel.site.settings import DATABASES, OWN_FILE, VAR
from cambrel.site.settings_tables import *  # noqa: F403

WHITENOISE_AUTOREFRESH = False  # files are kept as they are for readers
DATABASES["default"]["TEST"] = {"NAME": VAR / "browser-test.sqlite3"}
# each of two processes gets a copy of the file, which must hold all there is: no log beside it
DATABASES["default"]["OPTIONS"] = {
    **OWN_FILE["OPTIONS"],
    "init_command": "PRAGMA journal_mode=DELETE; PRAGMA synchronous=OFF; PRAGMA foreign_keys=ON;",
}

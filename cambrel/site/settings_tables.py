"""Settings of tests that look at no migration: the tables are made as the models are, which takes a moment."""

from cambrel.site.settings import *  # noqa: F403
from cambrel.site.settings import INSTALLED_APPS

WHITENOISE_AUTOREFRESH = True  # no test begins by reading all that is collected
MIGRATION_MODULES = {app.rpartition(".")[2]: None for app in INSTALLED_APPS}

"""Settings of tests that look at no migration: the tables are made as the models are, which takes a moment."""

from cambrel.site.settings import *  # noqa: F403
from cambrel.site.settings import INSTALLED_APPS

MIGRATION_MODULES = {app.rpartition(".")[2]: None for app in INSTALLED_APPS}

"""Run the walk with the entries in place: python -m cambrel.site.tests.added"""

import os
import sys

os.environ["DJANGO_SETTINGS_MODULE"] = "cambrel.site.settings_tables"

from cambrel.site.tests.added import entries

entries.add()

from django.core.management import execute_from_command_line  # noqa: E402 - the tables first

execute_from_command_line([sys.argv[0], "test", "cambrel.site.tests.added.walk", "--verbosity", "0"])

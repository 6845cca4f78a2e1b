"""The WSGI application that gunicorn serves. It starts those who draw, so it is loaded in each worker, not before they
part.
"""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "cambrel.site.settings")
application = get_wsgi_application()

from contextlib import suppress  # noqa: E402

from django.db import DatabaseError  # noqa: E402

from cambrel.pictures import own  # noqa: E402
from cambrel.pictures.views import pool  # noqa: E402

with suppress(DatabaseError, OSError):  # a database or a disk that is away is no reason not to start
    own.settle()
pool().start()

"""The WSGI application that gunicorn serves. It starts those who draw, so it is loaded in each worker, not before they part."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "cambrel.site.settings")
application = get_wsgi_application()

from cambrel.pictures.serving import pool  # noqa: E402

pool().start()

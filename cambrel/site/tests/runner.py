"""Django shows nothing where a template names what is not there. Here a test fails over it. Passwords of tests are
hashed quickly.
"""

import gc
from random import randrange

from django.conf import settings
from django.contrib.auth import get_user_model
from django.template import engines
from django.test.runner import DiscoverRunner

from cambrel.pictures.views import pool, shop

QUICK = "django.contrib.auth.hashers.MD5PasswordHasher"


class MissingError(AssertionError):
    """It is sent from a process of the tests to the first, without what led to it, which no process could send."""

    __context__ = None


class Missing(str):
    """In the place of what is not there: put into words, it is a fault."""

    __slots__ = ()

    def __mod__(self, name):
        raise MissingError(f"a template names {name}, which is not there")


class NothingMissing(DiscoverRunner):
    def setup_test_environment(self, **options):
        super().setup_test_environment(**options)
        gc.set_threshold(200_000, 50, 100)  # what a test leaves behind is little, and counting it takes a twentieth
        engines["django"].engine.string_if_invalid = Missing("%s")
        # what one test had worked out of a shelf is never taken for that of another's owner of the same number
        get_user_model()._meta.get_field("shelf_version").default = lambda: randrange(2**40)
        settings.PASSWORD_HASHERS = [QUICK, *settings.PASSWORD_HASHERS]
        # drawings are baked once for all processes, not for each test that has a folder of its own
        shop()
        pool()

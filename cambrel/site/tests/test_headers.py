"""What every answer tells the browser: the policy on what is loaded and who may frame it, and on a server that it is
reached by HTTPS alone.
"""

import json
import subprocess
import sys
from tempfile import TemporaryDirectory

from django.conf import settings
from django.test import SimpleTestCase, TestCase, tag

HOSTED = """
import json, django; django.setup()
from django.conf import settings
from django.test import Client
settings.ALLOWED_HOSTS += ["testserver"]
# without its tables: the header is there whatever comes
page = Client(raise_request_exception=False).get("/health/", secure=True)
plain = Client().get("/formats/")
cookies = [settings.SESSION_COOKIE_SECURE, settings.CSRF_COOKIE_SECURE]
there = plain.headers.get("Location")
print(json.dumps([page.status_code, dict(page.headers), plain.status_code, there, cookies, settings.DEBUG]))
"""
POLICY = {
    "default-src": "'none'", "script-src": "'self'", "style-src": "'self'", "img-src": "'self' data: blob:",
    "font-src": "'self'",
    "connect-src": "'self'", "form-action": "'self'", "base-uri": "'none'", "frame-ancestors": "'none'",
}  # fmt: skip


def policy_of(page):
    return dict(part.strip().split(" ", 1) for part in page["Content-Security-Policy"].split(";"))


class HeaderTests(TestCase):
    def test_every_page_has_the_policy_and_may_not_be_framed(self):
        for address in ("/", "/shelf/", "/choose/", "/field/", "/learn/", "/ask/", "/there-is-no-such-page/"):
            with self.subTest(address):
                page = self.client.get(address)
                self.assertEqual(policy_of(page), POLICY)
                self.assertEqual(
                    (page["X-Frame-Options"], page["X-Content-Type-Options"], page["Referrer-Policy"]),
                    ("DENY", "nosniff", "same-origin"),
                )


class HostedTests(SimpleTestCase):
    @tag("long")
    def test_a_server_is_reached_by_https_alone(self):
        with TemporaryDirectory() as var:
            env = {
                "CAMBREL_MODE": "hosted", "CAMBREL_SECRET_KEY": "k" * 50, "CAMBREL_HOSTS": "cambrel.example",
                "CAMBREL_VAR": var, "PATH": "",
                "CAMBREL_DEBUG": "1", "DJANGO_SETTINGS_MODULE": "cambrel.site.settings", "CAMBREL_RENDERERS": "0",
            }  # fmt: skip
            done = subprocess.run(
                [sys.executable, "-c", HOSTED], cwd=settings.ROOT, env=env, capture_output=True, text=True, timeout=120
            )
        self.assertEqual(done.returncode, 0, done.stderr)
        _, headers, plain, to, cookies, debug = json.loads(done.stdout.splitlines()[-1])
        self.assertEqual((plain, to, cookies, debug), (301, "https://testserver/formats/", [True, True], False))
        self.assertGreaterEqual(
            int(headers["Strict-Transport-Security"].removeprefix("max-age=").partition(";")[0]), 31_536_000
        )

"""What must hold for every tracked file: nothing loaded from elsewhere, no inline style or script, no registry named,
licences in place.
"""

import os
import re
import subprocess
from pathlib import Path

from django.conf import settings
from django.core.exceptions import ImproperlyConfigured
from django.test import SimpleTestCase

ROOT = Path(settings.ROOT)
TEMPLATES = sorted(ROOT.glob("cambrel/**/templates/**/*.html"))


def tracked():
    names = subprocess.run(
        ["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True
    ).stdout.splitlines()
    return [ROOT / name for name in names if (ROOT / name).is_file()]


class TreeTests(SimpleTestCase):
    def test_templates_have_no_inline_style_script_or_handler(self):
        self.assertGreater(len(TEMPLATES), 15)
        for path in TEMPLATES:
            text = path.read_text()
            for pattern in (
                r"<style",
                r"\sstyle=",
                r"<script>",
                r"\son[a-z]+=",
                r"hx-on",
                r"js:",
                r"javascript:",
                r"(src|href)=\"(https?:)?//",
            ):
                with self.subTest(template=path.name, pattern=pattern):
                    self.assertIsNone(re.search(pattern, text))

    def test_partials_list_their_variables(self):
        for path in TEMPLATES:
            if path.name.startswith("_"):
                with self.subTest(template=path.name):
                    self.assertRegex(path.read_text().splitlines()[0], r"^\{# .*Variables: .* #\}$")

    def test_no_registry_host_is_named(self):
        hosts = re.compile(r"(py" + r"pi|npm" + r"js|python" + r"hosted|deb" + r"ian)\.(org|com)")
        for path in tracked():
            if path.suffix in {".png", ".woff2"}:
                continue
            with self.subTest(path=path.name):
                self.assertIsNone(hosts.search(path.read_text(errors="ignore")))

    def test_each_vendored_asset_has_its_licence(self):
        folders = [path for path in (ROOT / "cambrel/site/static/vendor").iterdir() if path.is_dir()]
        self.assertEqual(len(folders), 4)
        for folder in folders:
            self.assertTrue((folder / "LICENSE").is_file(), folder.name)

    def test_no_source_map_is_missed(self):
        for path in (ROOT / "cambrel/site/static/vendor").rglob("*.[cj]s*"):
            self.assertNotIn("sourceMappingURL", path.read_text())

    def test_hosted_settings_are_strict(self):
        code = (
            "import cambrel.site.settings as s; print(s.SESSION_COOKIE_SECURE, s.SECURE_SSL_REDIRECT, s.ALLOWED_HOSTS,"
            " s.DEBUG)"
        )
        env = os.environ | {"CAMBREL_MODE": "hosted", "CAMBREL_HOSTS": "bench.example", "CAMBREL_DEBUG": "1"}
        python = [os.sys.executable, "-c", code]
        env.pop("CAMBREL_SECRET_KEY", None)
        refused = subprocess.run(python, cwd=ROOT, env=env, capture_output=True, text=True, check=False)
        self.assertIn(ImproperlyConfigured.__name__, refused.stderr)
        self.assertIn("CAMBREL_SECRET_KEY", refused.stderr)
        found = subprocess.run(
            python, cwd=ROOT, env=env | {"CAMBREL_SECRET_KEY": "k" * 60}, capture_output=True, text=True, check=True
        )
        self.assertEqual(found.stdout.strip(), "True True ['bench.example'] False")

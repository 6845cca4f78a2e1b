"""Copy the scripts, styles and fonts that Cambrel ships from node_modules into static/vendor, each with its licence.

Run by `make vendor` after `npm ci`; a user of Cambrel needs neither.
"""

import json
import re
import shutil
import subprocess
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
MODULES = ROOT / "node_modules"
VENDOR = ROOT / "cambrel" / "site" / "static" / "vendor"
FOR_TESTS = ROOT / "cambrel" / "site" / "tests" / "vendor"
FONT = "@fontsource-variable/sofia-sans-semi-condensed"
FONT_HOME = VENDOR / "sofia-sans-semi-condensed"
SUBSETS = ("latin", "latin-ext", "greek", "cyrillic", "cyrillic-ext")

FILES = {
    "bootstrap/LICENSE": "bootstrap/LICENSE",
    "htmx.org/dist/htmx.min.js": "htmx/htmx.min.js",
    "htmx.org/LICENSE": "htmx/LICENSE",
    "idiomorph/dist/idiomorph-ext.min.js": "idiomorph/idiomorph-ext.min.js",
    "idiomorph/LICENSE": "idiomorph/LICENSE",
    f"{FONT}/LICENSE": "sofia-sans-semi-condensed/LICENSE",
}


def copy(source: Path, target: Path) -> None:
    """Copy a file; a text's reference to its source map goes, as the map is not shipped."""
    target.parent.mkdir(parents=True, exist_ok=True)
    if source.suffix in {".css", ".js"}:
        text = source.read_text()
        target.write_text(re.sub(r"\n?/[/*]# sourceMappingURL=[^\n]*", "", text).rstrip() + "\n")
    else:
        shutil.copyfile(source, target)


def font_faces() -> str:
    """The @font-face rules of the variable font, one for each subset."""
    faces = []
    characters = json.loads((MODULES / FONT / "unicode.json").read_text())
    for subset in SUBSETS:
        name = f"sofia-sans-semi-condensed-{subset}-wght-normal.woff2"
        copy(MODULES / FONT / "files" / name, FONT_HOME / name)
        faces.append(
            f'@font-face {{ font-family: "Sofia Sans Semi Condensed"; font-weight: 100 900; font-display: swap; '
            f'src: url("{name}") format("woff2"); unicode-range: {characters[subset]}; }}'
        )
    return "\n".join(faces) + "\n"


def styles() -> None:
    """The parts of Bootstrap that are used, compiled."""
    source, target = ROOT / "scripts" / "styles" / "bootstrap.scss", VENDOR / "bootstrap" / "bootstrap.min.css"
    compiler = [MODULES / ".bin" / "sass", "--no-source-map", "--style=compressed", "--quiet", f"--load-path={MODULES}"]
    subprocess.run([*compiler, source, target], check=True)


def main() -> None:
    shutil.rmtree(VENDOR, ignore_errors=True)
    shutil.rmtree(FOR_TESTS, ignore_errors=True)
    for source, target in FILES.items():
        copy(MODULES / source, VENDOR / target)
    styles()
    faces = font_faces()
    (FONT_HOME / "font.css").write_text(faces)
    copy(MODULES / "axe-core" / "axe.min.js", FOR_TESTS / "axe.min.js")
    copy(MODULES / "axe-core" / "LICENSE", FOR_TESTS / "LICENSE")


if __name__ == "__main__":
    main()

"""Do what docs/carrying-on.md says, in a copy of the tree, and run the tests that it names."""

import os
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
GUIDE = ROOT / "docs" / "carrying-on.md"
BLOCK = re.compile(r"^```(diff|new|run|test) ?(\S*)\n(.*?)^```$", re.MULTILINE | re.DOTALL)


class GuideError(Exception):
    """What the guide says cannot be done as it says."""


def blocks(text):
    """What is done, in the order in which it is written: the kind of block, its file, and its lines."""
    return BLOCK.findall(text)


def changed(text, diff, name):
    """A file with a change made: where the lines without + stand, those without - are put."""
    lines = diff.split("\n")[:-1]
    before = "".join(f"{line[1:]}\n" for line in lines if line[:1] != "+")
    after = "".join(f"{line[1:]}\n" for line in lines if line[:1] != "-")
    if not before.endswith(("\n",)) or text.count(before) != 1:
        # a change within a line: its own text has to stand once
        before, after = before.rstrip("\n"), after.rstrip("\n")
    if text.count(before) != 1:
        raise GuideError(f"{name}: stands {text.count(before)} times:\n{before}")
    return text.replace(before, after)


def copied(to):
    """The tree as it is, without what is made from it."""
    names = subprocess.check_output(["git", "ls-files", "-co", "--exclude-standard"], cwd=ROOT, text=True).split("\n")
    for name in filter(None, names):
        if (ROOT / name).is_file():
            (to / name).parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(ROOT / name, to / name)


def followed(text, tree):
    """Everything that the guide says, done; the labels of the tests that it names."""
    labels = []
    environment = {**os.environ, "CAMBREL_VAR": "var/check", "CAMBREL_RENDERERS": "0"}
    for kind, name, body in blocks(text):
        path = tree / name
        if kind == "diff":
            path.write_text(changed(path.read_text(), body, name))
        elif kind == "new":
            if path.exists():
                raise GuideError(f"{name} is there already")
            path.write_text(body)
        elif kind == "run":
            for line in body.split("\n")[:-1]:
                command = line.replace("python ", f"{sys.executable} ", 1)
                subprocess.run(command, shell=True, check=True, cwd=tree, env=environment, stderr=subprocess.DEVNULL)
        else:
            labels += body.split()
    return labels, environment


def main():
    with tempfile.TemporaryDirectory() as folder:
        tree = Path(folder)
        copied(tree)
        labels, environment = followed(GUIDE.read_text(), tree)
        run = [sys.executable, "manage.py"]
        subprocess.run([*run, "collectstatic", "--noinput", "--verbosity", "0"], check=True, cwd=tree, env=environment)
        told = subprocess.run([*run, "test", *labels, "--parallel", "2"], cwd=tree, env=environment, check=False)
        return told.returncode


if __name__ == "__main__":
    sys.exit(main())

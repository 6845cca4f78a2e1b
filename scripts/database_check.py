"""The tests without a browser on a PostgreSQL: one of its own in a folder, or the one that is given. Run by `make
database-check`.
"""

import os
import subprocess
import sys

from servers import ROOT, Postgres


def main(url=""):
    server = None if url else Postgres(ROOT / "var" / "postgres-check")
    command = [sys.executable, "manage.py", "test", "--exclude-tag", "browser", "--parallel", "2", "--noinput"]
    try:
        done = subprocess.run(command, cwd=ROOT, env=os.environ | {"DATABASE_URL": url or server.url}, check=False)
    finally:
        if server is not None:
            server.stop()
    return done.returncode


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))

"""Servers for scripts: PostgreSQL, Redis, Cambrel as it is hosted, and a browser's part by hand."""

import contextlib
import http.client
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.parse
from pathlib import Path
from uuid import uuid4

ROOT = Path(__file__).resolve().parent.parent
POSTGRES = next(
    (str(folder) for folder in sorted(Path("/usr/lib/postgresql").glob("*/bin"), reverse=True)), "/usr/local/bin"
)


def free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


def until(true, seconds, what):
    """Wait until something is so."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        with contextlib.suppress(OSError, http.client.HTTPException):
            if true():
                return
        time.sleep(0.1)
    raise SystemExit(f"{what}: not within {seconds} s")


class Postgres:
    """A PostgreSQL in a folder; as root it is run by the user postgres, as it refuses to be root."""

    def __init__(self, folder, port=None):
        self.folder, self.port = Path(folder), port or free_port()
        self.url = f"postgresql://cambrel@127.0.0.1:{self.port}/postgres"
        shutil.rmtree(self.folder, ignore_errors=True)
        self.folder.mkdir(parents=True)
        self.as_user = ["runuser", "-u", "postgres", "--"] if os.getuid() == 0 else []
        if self.as_user:
            shutil.chown(self.folder, "postgres")
            for above in self.folder.parents:
                if ROOT in above.parents and not above.stat().st_mode & 0o001:
                    above.chmod(above.stat().st_mode | 0o011)
        self._run(f"{POSTGRES}/initdb", "-D", str(self.folder / "data"), "-U", "cambrel", "--auth=trust", "--no-sync")
        self.start()

    def _run(self, *command):
        done = subprocess.run([*self.as_user, *command], capture_output=True, text=True, check=False, cwd="/")
        if done.returncode:
            raise SystemExit(f"{command[0]}: {done.stdout[-400:]}{done.stderr[-400:]}")

    def start(self):
        options = f"-p {self.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories={self.folder} -c fsync=off"
        self._run(
            f"{POSTGRES}/pg_ctl",
            "-D",
            str(self.folder / "data"),
            "-o",
            options,
            "-l",
            str(self.folder / "log"),
            "-w",
            "start",
        )

    def stop(self):
        self._run(f"{POSTGRES}/pg_ctl", "-D", str(self.folder / "data"), "-m", "immediate", "-w", "stop")


class Redis:
    def __init__(self, port=None):
        self.port = port or free_port()
        self.url = f"redis://127.0.0.1:{self.port}/0"
        command = [
            "redis-server",
            "--port",
            str(self.port),
            "--bind",
            "127.0.0.1",
            "--save",
            "",
            "--maxmemory",
            "256mb",
        ]
        self.process = subprocess.Popen([*command, "--maxmemory-policy", "allkeys-lru"], stdout=subprocess.DEVNULL)

        def answers():
            with socket.create_connection(("127.0.0.1", self.port), 1) as connection:
                connection.sendall(b"PING\r\n")
                return connection.recv(20).startswith(b"+PONG")

        until(answers, 10, "redis")

    def stop(self):
        self.process.terminate()
        self.process.wait()


class Cambrel:
    """The application as it is hosted, with a CAMBREL_VAR of its own."""

    def __init__(self, var, port=None, **env):
        self.var, self.port = Path(var), port or free_port()
        self.env = os.environ | {
            "CAMBREL_MODE": "hosted", "CAMBREL_SECRET_KEY": "for this trial only", "CAMBREL_HOSTS": "127.0.0.1",
            "CAMBREL_VAR": str(self.var),
            "CAMBREL_PROXIES": "0", **env,
        }  # fmt: skip

    def manage(self, *command):
        done = subprocess.run(
            [sys.executable, "manage.py", *command], cwd=ROOT, env=self.env, capture_output=True, text=True, check=False
        )
        if done.returncode:
            raise SystemExit(f"{command[0]}: {done.stdout[-800:]}{done.stderr[-800:]}")
        return done.stdout

    def prepare(self):
        self.manage("migrate", "--noinput")
        self.manage("samples")
        self.collect()

    def collect(self):
        self.manage("collectstatic", "--noinput", "--verbosity", "0")

    def start(self, workers=1, threads=6):
        command = [
            sys.executable,
            "-m",
            "gunicorn",
            "cambrel.site.wsgi",
            "--bind",
            f"127.0.0.1:{self.port}",
            "--workers",
            str(workers),
        ]
        log = (self.var / "server.log").open("a")
        self.process = subprocess.Popen(
            [*command, "--threads", str(threads), "--timeout", "120"],
            cwd=ROOT,
            env=self.env,
            stdout=log,
            stderr=log,
            start_new_session=True,
        )
        until(lambda: Browser(self.port).get("/formats/")[0] == 200, 60, f"server at {self.port}")

    def kill(self):
        """Without a warning, with all its processes."""
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()

    def workers(self):
        """The processes that answer."""
        said = subprocess.run(
            ["ps", "-o", "pid=,args=", "--ppid", str(self.process.pid)], capture_output=True, text=True, check=False
        ).stdout
        return [int(line.split()[0]) for line in said.splitlines() if "gunicorn" in line]


class Browser:
    """A browser's part: cookies, the mark of forms, and files."""

    def __init__(self, port, cookies=None):
        self.port, self.cookies = port, {} if cookies is None else cookies

    def at(self, port):
        """The same browser at another server."""
        return Browser(port, self.cookies)

    def _ask(self, method, path, body=None, headers=None):
        through = http.client.HTTPConnection("127.0.0.1", self.port, timeout=120)
        told = {
            "X-Forwarded-Proto": "https", "Referer": f"https://127.0.0.1:{self.port}/", "Host": "127.0.0.1",
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
        } | (headers or {})  # fmt: skip
        told["Referer"] = "https://127.0.0.1/"
        through.request(method, path, body, told)
        answer = through.getresponse()
        content = answer.read()
        for cookie in answer.headers.get_all("Set-Cookie") or []:
            name, _, value = cookie.split(";")[0].partition("=")
            self.cookies[name] = value
        self.headers = answer.headers
        return answer.status, content

    def get(self, path):
        return self._ask("GET", path)

    def post(self, path, fields=(), files=(), headers=None):
        """What was answered; fields and files as pairs, a file as (field, (name, content))."""
        if "csrftoken" not in self.cookies:
            self.get("/sign-in/")
        fields = [*dict(fields).items(), ("csrfmiddlewaretoken", self.cookies.get("csrftoken", ""))]
        if not files:
            body, kind = urllib.parse.urlencode(fields).encode(), "application/x-www-form-urlencoded"
        else:
            mark, parts = uuid4().hex, []
            for name, value in fields:
                parts.append(f'--{mark}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode())
            for name, (called, content) in files:
                head = f'--{mark}\r\nContent-Disposition: form-data; name="{name}"; filename="{called}"\r\n'
                parts.append(head.encode() + b"Content-Type: application/octet-stream\r\n\r\n" + content + b"\r\n")
            body, kind = b"".join(parts) + f"--{mark}--\r\n".encode(), f"multipart/form-data; boundary={mark}"
        return self._ask("POST", path, body, {"Content-Type": kind} | (headers or {}))

    def sent_to(self):
        """Where the last answer leads."""
        return urllib.parse.urlsplit(self.headers.get("Location", "")).path

    def found(self, pattern, path):
        """The first thing of a kind on a page."""
        status, page = self.get(path)
        met = re.search(pattern, page.decode())
        if met is None:
            raise SystemExit(f"{path} ({status}) has no {pattern}")
        return met[1]

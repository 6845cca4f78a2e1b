"""How long pages take beside readers of the Scene who change their settings without end, printed side by side. Run by
`make load`.
"""

import http.client
import os
import random
import re
import subprocess
import sys
import threading
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VAR = ROOT / "var" / "load"
PORT, CLIENTS, SECONDS = 8125, 16, 12
LOOKS_S = 0.5
PAGES = ("/formats/", "/shelf/lenses/", "/?panel=frames")
SHOT = re.compile(r'data-shot="([^"]+)"')


def connection():
    return http.client.HTTPConnection("127.0.0.1", PORT, timeout=60)


def get(through, path):
    through.request("GET", path)
    answer = through.getresponse()
    return answer.status, answer.read()


def client(until, drawn):
    """One reader: a new setting, its pictures in two sizes, a look at them, and on to the next; where it is busy, a
    second's wait.
    """
    any_of, through = random.Random(), connection()  # pictures that nobody has had before
    while time.monotonic() < until:
        look = (
            f"/?panel=scene&brief-distance_m={any_of.uniform(1.5, 8):.2f}&rigs-0-f_number={any_of.uniform(1.4, 16):.2f}"
        )
        _, page = get(through, look)
        for shot in SHOT.findall(page.decode()):
            for height in (105, 420):
                status, _ = get(through, f"/scene/{shot}/{height}.webp")
                drawn[status] = drawn.get(status, 0) + 1
                if status == 503:
                    time.sleep(1)
        time.sleep(LOOKS_S)


def measured(clients):
    until, drawn, took = time.monotonic() + SECONDS, {}, []
    threads = [threading.Thread(target=client, args=(until, drawn)) for _ in range(clients)]
    for thread in threads:
        thread.start()
    time.sleep(1)
    through = connection()
    while time.monotonic() < until:
        for path in PAGES:
            begun = time.perf_counter()
            get(through, path)
            took.append(1000 * (time.perf_counter() - begun))
            time.sleep(0.05)
    for thread in threads:
        thread.join()
    took.sort()
    print(
        f"{clients:3} readers of the Scene: pages take {took[len(took) // 2]:.0f} ms, 95 % of them at most"
        f" {took[int(len(took) * 0.95)]:.0f}, all {took[-1]:.0f}; pictures drawn {drawn.get(200, 0)}, put off"
        f" {drawn.get(503, 0)}"
    )


def main():
    env = os.environ | {"CAMBREL_VAR": str(VAR)}
    server = subprocess.Popen([sys.executable, "manage.py", "demo", "--port", str(PORT)], cwd=ROOT, env=env)
    try:
        for _ in range(100):
            time.sleep(0.3)
            try:
                get(connection(), "/scene/warm/60.webp")
                break
            except OSError:
                continue
        client(time.monotonic() + 3, {})  # what a fresh server does once
        measured(0)
        measured(CLIENTS)
    finally:
        server.terminate()
        server.wait()


if __name__ == "__main__":
    main()

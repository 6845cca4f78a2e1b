"""Workers killed without a warning while they write: what was acknowledged is kept, and no file is left without a
record. Run by `make kills`.
"""

import io
import json
import os
import random
import shutil
import signal
import sys
import threading
import time

from servers import ROOT, Browser, Cambrel, until

HOME = ROOT / "var" / "kills"


def picture(number):
    from PIL import Image

    out = io.BytesIO()
    Image.new("RGB", (600, 400), (number % 256, number // 256 % 256, 90)).save(out, "JPEG")
    return out.getvalue()


def main(kills=150):
    shutil.rmtree(HOME, ignore_errors=True)
    HOME.mkdir(parents=True)
    server = Cambrel(HOME)
    server.prepare()
    server.start()
    here, chance = Browser(server.port), random.Random(7)
    here.post(
        "/register/", {"username": "fireman", "password1": "a long word of steam", "password2": "a long word of steam"}
    )
    code = (
        "from cambrel.bench.sample_benches import home_bench; from cambrel.links.benches import encode; print('TOKEN',"
        " encode(home_bench()))"
    )
    token = server.manage("shell", "-c", code).split("TOKEN ")[1].split()[0]
    sheets, names, brought, done = [], [], {}, threading.Event()

    def keep_sheet():
        here.post("/field/keep/", {"b": token, "name": f"Sheet {len(sheets)}", "t": "noise"})
        sheets.append(here.sent_to())

    keep_sheet()

    def write(number, kind):
        browser = Browser(server.port, dict(here.cookies))
        while not done.is_set():
            number += 2
            try:
                if kind == "name":
                    status, _ = browser.post("/saved/comparisons/new/", {"b": token, "name": f"Kept {number}"})
                    if status == 302 and browser.sent_to() == "/saved/":
                        names.append(f"Kept {number}")
                    time.sleep(0.05)
                else:
                    sheet = sheets[-1]
                    file = [("file", (f"{number}.jpg", picture(number)))]
                    status, _ = browser.post(f"{sheet}bring/", files=file, headers={"X-Requested-With": "fetch"})
                    if status == 200:
                        brought[sheet] = brought.get(sheet, 0) + 1
            except OSError:
                time.sleep(0.05)

    threads = [
        threading.Thread(target=write, args=(start, kind))
        for start, kind in ((0, "name"), (1, "picture"), (100_000, "picture"))
    ]
    for thread in threads:
        thread.start()
    for number in range(kills):
        until(lambda: Browser(server.port).get("/health/")[0] in (200, 503), 60, "a new worker")
        time.sleep(chance.uniform(0.2, 1.5))
        if brought.get(sheets[-1], 0) > 120:
            while True:
                try:
                    keep_sheet()
                    break
                except OSError:
                    time.sleep(0.2)
        for worker in server.workers():
            os.kill(worker, signal.SIGKILL)
        if number % 10 == 9:
            print(
                f"{number + 1} kills, {len(names)} names and {sum(brought.values())} pictures acknowledged", flush=True
            )
    time.sleep(2)
    done.set()
    for thread in threads:
        thread.join()
    server.kill()
    server.start()
    document = json.loads(here.get("/shelf/export/shelf.json")[1])["sections"]
    kept = {row["name"] for row in document["comparisons"]}
    held = {token for row in document["sheets"] for token in row["back"]}
    code = (
        "from cambrel.pictures.models import OwnFile; print('FILES', *(f'{one.token}{one.ending}' for one in"
        " OwnFile.objects.all()))"
    )
    rows = set(server.manage("shell", "-c", code).split("FILES")[1].split())
    files = {file.name for file in (HOME / "own").rglob("*") if file.is_file()}
    uploads = [file for file in (HOME / "scratch" / "uploads").rglob("*") if file.is_file()]
    lost = [name for name in names if name not in kept]
    print(f"{kills} kills: {len(names)} names acknowledged, {len(lost)} lost")
    print(
        f"{sum(brought.values())} pictures acknowledged, {len(held)} on their sheets, {len(rows - files)} of those"
        " without a file"
    )
    print(f"{len(files - rows)} files without a record, {len(uploads)} uploads left")
    server.kill()
    if lost or len(held) < sum(brought.values()) or files - rows or rows - files or uploads:
        sys.exit("it does not hold")


if __name__ == "__main__":
    main(*map(int, sys.argv[1:]))

"""Two servers on one PostgreSQL and one Redis: a walk across both, and one is killed in the middle. Run by `make
two-servers`.
"""

import io
import json
import shutil
import sys
import threading
import time
from pathlib import Path

from servers import ROOT, Browser, Cambrel, Postgres, Redis, free_port, until

HOME = ROOT / "var" / "two-servers"
LENSES = b"name,mount,focal_min_mm\nFen Macro,Tarn,40\nFen Tele,Tarn,200\n"
PLACE = {
    "name": "Street", "distance_m": "2 m", "subject_height_m": "1.8", "background_m": "6", "background_height_m": "8",
    "background_foot_m": "0",
    "camera_height_m": "1.5",
}  # fmt: skip
BROUGHT, QUOTA = 40, 25


def check(true, what):
    print(("  holds   " if true else "  FAILS   ") + what, flush=True)
    if not true:
        check.failed.append(what)


check.failed = []


def picture(colour):
    from PIL import Image

    out = io.BytesIO()
    Image.new("RGB", (900, 600), colour).save(out, "JPEG")
    return out.getvalue()


def token_of_sample(server):
    """A bench as a link, from the page of the Field."""
    return (
        server.manage(
            "shell",
            "-c",
            "from cambrel.bench.sample_benches import home_bench; from cambrel.links.benches import encode;"
            " print('TOKEN', encode(home_bench()))",
        )
        .split("TOKEN ")[1]
        .split()[0]
    )


def walk(one, two, postgres, shared):
    here, there = Browser(one.port), None
    password = "a long word of steam"
    status, _ = here.post("/register/", {"username": "signalman", "password1": password, "password2": password})
    there = here.at(two.port)
    check(status == 302 and there.get("/account/")[0] == 200, "whoever signs in at one is signed in at two")

    here.post("/shelf/import/", files=[("files", ("new.csv", LENSES))])
    preview = here.sent_to()
    there.post(f"{preview}work/")
    there.post(f"{preview}apply/")
    check(
        b"Fen Macro" in here.get("/shelf/lenses/")[1],
        "a file read at one, looked at and taken at two, is on the shelf of one",
    )

    token = token_of_sample(one)
    here.post("/field/keep/", {"b": token, "name": "Proof", "t": "noise"})
    sheet = here.sent_to()
    status, said = here.post(
        f"{sheet}bring/", files=[("file", ("a.jpg", picture((120, 130, 140))))], headers={"X-Requested-With": "fetch"}
    )
    check(status == 200, f"a picture is brought to a sheet at one {said[:80] if status != 200 else ''}")
    document = json.loads(there.get("/shelf/export/shelf.json")[1])
    (brought,) = document["sections"]["sheets"][0]["back"]
    check(there.get(f"{sheet}picture/{brought}/")[0] == 200, "and is seen at two")
    undo = there.found(r'action="(/undo/\d+/)"', "/field/scenes/")
    there.post(undo)
    check(
        not json.loads(here.get("/shelf/export/shelf.json")[1])["sections"]["sheets"][0]["back"],
        "undone at two it is gone at one",
    )

    here.post("/field/scenes/new/", PLACE, [("background", ("street.jpg", picture((200, 20, 20))))])
    scene = there.found(r'href="(/field/scenes/\d+/)"', "/field/scenes/")
    check(there.get(f"{scene}picture/background/")[0] == 200, "an own scene of one is there at two")
    there.post(f"{scene}brief/")
    opened = there.found(r'class="saved-name" href="([^"]+)"', "/saved/").replace("&amp;", "&")
    shot = there.found(r'data-shot="([^"]+)"', opened + "&panel=scene")
    check(there.get(f"/scene/{shot}/105.webp")[0] == 200, "and two draws the cameras in it")
    check(here.get(f"/scene/{shot}/105.webp")[0] == 200, "and so does one")
    check(Browser(two.port).get(f"/scene/{shot}/105.webp")[0] == 404, "and nobody else sees it at either")

    status, made = there.post(f"{sheet}simulate/noise-0-0/")
    check(
        status == 200 and made.startswith(b"\x89PNG"),
        f"the simulated camera takes a shot in a process of two's own {status}",
    )
    status, lines = there.get("/choose/helping/")
    check(
        status == 200 and b'"html"' in lines.splitlines()[-1],
        "and what would help is looked for there, and told as it goes",
    )

    stress(here, there, one, two, sheet)
    quota(one, two, token)

    metrics = Browser(int(one.env["CAMBREL_METRICS"])).get("/metrics")
    check(metrics[0] == 200 and b"django_http_requests" in metrics[1], "metrics are told to this machine")
    check(Browser(one.port).get("/metrics")[0] == 404, "and are no address of the site")

    backup = HOME / "backup.zip"
    one.manage("backup", str(backup))
    here.post(f"{scene}remove/")
    two.manage("restore", str(backup))
    check(
        here.get(f"{scene}picture/background/")[0] == 200,
        "a backup made at one and restored at two brings back records and pictures",
    )

    check(two_status(two) == (200, b"ok"), f"two says that it is well {two_status(two)[1][:60]}")
    postgres.stop()
    status, page = there.get("/shelf/lenses/")
    check(status == 503 and b"Away for a moment" in page, f"without the database a page says so: {status} {page[:90]}")
    check(two_status(two)[0] == 503, "and the health of the server too")
    postgres.start()
    until(lambda: there.get("/shelf/lenses/")[0] == 200, 20, "the database is back")
    check(True, "with the database all goes on by itself")
    leave(here, there, password, shared)


def stress(here, there, one, two, sheet):
    """Pictures are brought at both; one is killed in the middle and started again."""
    acknowledged, lock = [], threading.Lock()

    def bring(browser, numbers):
        for number in numbers:
            file = [("file", (f"{number}.jpg", picture((number, 100, 255 - number))))]
            try:
                status, _ = Browser(browser.port, dict(browser.cookies)).post(
                    f"{sheet}bring/", files=file, headers={"X-Requested-With": "fetch"}
                )
            except OSError:
                continue
            if status == 200:
                with lock:
                    acknowledged.append(number)

    threads = [
        threading.Thread(target=bring, args=(browser, range(start, BROUGHT, 2)))
        for start, browser in enumerate((here, there))
    ]
    for thread in threads:
        thread.start()
    time.sleep(4)
    one.kill()
    for thread in threads:
        thread.join()
    one.start()
    held = json.loads(there.get("/shelf/export/shelf.json")[1])["sections"]["sheets"][0]["back"]
    check(
        len(held) >= len(acknowledged) >= BROUGHT // 2,
        f"one was killed in the middle: {len(acknowledged)} acknowledged, {len(held)} kept",
    )
    seen = sum(there.get(f"{sheet}picture/{token}/")[0] == 200 for token in held)
    check(seen == len(held), f"each of them can be seen at two: {seen}")
    files = {file.name for file in (HOME / "own").rglob("*.npy")}
    code = (
        "from cambrel.pictures.models import OwnFile; print('FILES', *(f'{one.token}{one.ending}' for one in"
        " OwnFile.objects.all()))"
    )
    rows = set(two.manage("shell", "-c", code).split("FILES")[1].split())
    check(files <= rows, f"no file is left without its record: {len(files - rows)}")
    check(not list((HOME / "own").rglob("*.part")), "nor a half-written one")


def quota(one, two, token):
    """More is saved at once, at both, than one owner may keep."""
    guard = Browser(one.port)
    guard.post(
        "/register/", {"username": "guard", "password1": "a long word of steam", "password2": "a long word of steam"}
    )

    def save(port, number):
        Browser(port, dict(guard.cookies)).post("/saved/comparisons/new/", {"b": token, "name": f"Kept {number}"})

    threads = [
        threading.Thread(target=save, args=(port, number)) for number in range(QUOTA) for port in (one.port, two.port)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    kept = len(json.loads(guard.get("/shelf/export/shelf.json")[1])["sections"]["comparisons"])
    check(
        kept == QUOTA, f"of {2 * QUOTA} comparisons saved at once at both {QUOTA} are kept, as many as one may: {kept}"
    )


def two_status(two):
    return Browser(two.port).get("/health/")


def leave(here, there, password, shared):
    status, _ = there.post("/account/leave/", {"password": password})
    check(status == 302 and not list(shared.rglob("*.*")), "whoever leaves at two leaves no file behind")
    check(here.get("/account/")[0] == 302, "and is signed out at one")


def main():
    shutil.rmtree(HOME, ignore_errors=True)
    HOME.mkdir(parents=True)
    postgres, redis, shared = Postgres(HOME / "postgres"), Redis(), HOME / "own"
    url = postgres.url
    servers = [
        Cambrel(
            HOME / name,
            CAMBREL_WORKERS=workers,
            CAMBREL_QUOTA=str(QUOTA),
            DATABASE_URL=url,
            CAMBREL_CACHE=redis.url,
            CAMBREL_OWN=str(shared),
            CAMBREL_METRICS=str(free_port()),
        )
        for name, workers in (("one", "0"), ("two", "1"))
    ]
    one, two = servers
    try:
        one.var.mkdir()
        two.var.mkdir()
        one.prepare()
        two.collect()
        one.start()
        two.start()
        walk(one, two, postgres, shared)
    finally:
        for server in servers:
            if getattr(server, "process", None) is not None and server.process.poll() is None:
                server.kill()
        redis.stop()
        postgres.stop()
    if check.failed:
        sys.exit(f"{len(check.failed)} do not hold")
    print("All holds.")


if __name__ == "__main__":
    sys.path.insert(0, str(Path(__file__).parent))
    main()

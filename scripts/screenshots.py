"""Renew docs/screenshots from the demo data: one picture of each main view. Run by `make screenshots`."""

import base64
import os
import subprocess
import sys
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
SCRATCH = ROOT / "var" / "screenshots"
HOME = ROOT / "docs" / "screenshots"
PORT = 8124
sys.path.insert(0, str(ROOT))
os.environ["CAMBREL_VAR"] = str(SCRATCH)
os.environ["DJANGO_SETTINGS_MODULE"] = "cambrel.site.settings"

import django  # noqa: E402

django.setup()

from dataclasses import replace  # noqa: E402
from datetime import timedelta  # noqa: E402
from random import Random  # noqa: E402

from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: E402
from django.test import Client  # noqa: E402
from django.utils import timezone  # noqa: E402

from cambrel.bench.sample_benches import home_bench  # noqa: E402
from cambrel.briefs.sample_briefs import with_brief  # noqa: E402
from cambrel.comparison.moving_pictures import as_film  # noqa: E402
from cambrel.drills.all_drills import KINDS  # noqa: E402
from cambrel.field.models import Sheet  # noqa: E402
from cambrel.field.planning import SheetPlan  # noqa: E402
from cambrel.learn.models import Answered  # noqa: E402
from cambrel.links.benches import encode  # noqa: E402
from cambrel.owners.models import LOCAL_OWNER, User  # noqa: E402
from cambrel.site.tests.browser import make_driver  # noqa: E402

THREE = encode(home_bench())


def of(picture):
    return encode(with_brief(home_bench(), picture))


FILM = encode(as_film(home_bench(), 50))
TAKEN = "body=Travel+10&focal_length_mm=10.4&focal_35_mm=28&f_number=2.8&shutter_s=0.004&iso=125"

SIX = encode(replace(home_bench(), slots=(*home_bench().slots, *home_bench().slots)))

WIDE, PHONE = (1280, 800), (390, 844)
VIEWS = (
    # name, address, size, dark, script run before the picture is taken
    ("bench", "/", WIDE, False, ""),
    ("bench-six", f"/?b={SIX}", WIDE, False, ""),
    ("bench-depth-dark", f"/?b={THREE}&panel=depth&scale=log", WIDE, True, ""),
    ("bench-why", f"/?b={THREE}", WIDE, False, "document.querySelectorAll('.figures dd a.why')[1].click()"),
    ("bench-film", f"/?b={FILM}&panel=film", WIDE, False, "window.scrollTo(0, 460)"),
    ("photograph", f"/photograph/?{TAKEN}", WIDE, False, ""),
    ("bench-stars", f"/?b={of('night-mail')}&panel=stars&rigs-0-shutter_s=13", WIDE, True, "window.scrollTo(0, 460)"),
    ("formats", "/formats/", WIDE, False, ""),
    (
        "ask",
        "/formats/",
        WIDE,
        False,
        (
            "const q = document.getElementById('ask-q'); q.focus(); q.value = '25 f/1.4 mft vs 50 f/1.8 ff';"
            "q.dispatchEvent(new Event('input', {bubbles: true}))"
        ),
    ),
    (
        "match",
        "/match/?format=full-frame&focal_length_mm=50&f_number=2.8&t=micro-four-thirds&t=aps-c&t=44x33&t=one-inch&iso=400",
        WIDE,
        False,
        "",
    ),
    ("fit", "/fit/?lens=11&body=1", WIDE, False, ""),
    ("choose", "/choose/", WIDE, False, ""),
    ("field", f"/field/plan/?b={THREE}", WIDE, False, ""),
    ("field-back", "/field/1/back/", WIDE, False, ""),
    ("habits", "/field/habits/", WIDE, False, ""),
    ("shelf-lenses", "/shelf/lenses/", WIDE, False, ""),
    ("learn", "/learn/", WIDE, False, ""),
    ("argued", "/learn/argued/sensor-and-depth/", WIDE, False, ""),
    ("bench-phone", "/", PHONE, False, ""),
)


def fill_the_field():
    """A sheet that the simulated camera took and that was measured, and the made-up logbook."""
    client = Client(headers={"host": "127.0.0.1"})
    client.get("/field/")
    sheet = Sheet.objects.create(
        owner=User.objects.get(username=LOCAL_OWNER),
        name="Two tripods",
        token=THREE,
        trials=["framing", "blur", "noise"],
    )
    for shot in SheetPlan(home_bench(), tuple(sheet.trials)).shots:
        taken = client.post(f"/field/{sheet.pk}/simulate/{shot.key}/")
        if taken.status_code == 200:
            client.post(f"/field/{sheet.pk}/bring/", {"file": SimpleUploadedFile("shot", taken.content)})
    client.post(f"/field/{sheet.pk}/measure/")
    client.post("/field/habits/sample/")


def fill_the_drills():
    """Three weeks of answers, made up: what was wrong at first is known by now."""
    owner, random, now = User.objects.get(username=LOCAL_OWNER), Random(4), timezone.now()
    for day in (20, 19, 17, 14, 10, 6, 3, 1):
        for ordinal, kind in enumerate(random.sample(list(KINDS)[:11], 8)):
            is_right = random.random() > day / 30
            Answered.objects.create(
                owner=owner,
                round=f"{day:012x}",
                ordinal=ordinal,
                kind=kind,
                level="estimate",
                is_right=is_right,
                slip="" if is_right else random.choice(list(KINDS[kind].words.slips)),
                seconds=random.uniform(6, 30),
                answered_at=now - timedelta(days=day, minutes=10 - ordinal),
            )


def main():
    wanted = set(sys.argv[1:])
    for name in ("cambrel.sqlite3", "cambrel.sqlite3-wal", "cambrel.sqlite3-shm"):
        (SCRATCH / name).unlink(missing_ok=True)
    server = subprocess.Popen(
        [sys.executable, "manage.py", "demo", "--port", str(PORT)], cwd=ROOT, stdout=subprocess.PIPE
    )
    while b"Cambrel is at" not in server.stdout.readline():
        pass
    time.sleep(1)
    if not wanted or wanted & {"field-back", "habits"}:
        fill_the_field()
    if not wanted or "learn" in wanted:
        fill_the_drills()
    driver = make_driver()
    HOME.mkdir(parents=True, exist_ok=True)
    try:
        for name, address, (width, height), dark, script in VIEWS:
            if wanted and name not in wanted:
                continue
            metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
            driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
            scheme = [{"name": "prefers-color-scheme", "value": "dark" if dark else "light"}]
            driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"features": scheme})
            driver.get(f"http://127.0.0.1:{PORT}{address}")
            time.sleep(1)
            if script:
                driver.execute_script(script)
                time.sleep(2)
            data = driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})["data"]
            (HOME / f"{name}.png").write_bytes(base64.b64decode(data))
            print(f"docs/screenshots/{name}.png")
            driver.execute_script("sessionStorage.clear()")  # how one picture was looked at is not how the next is
    finally:
        driver.quit()
        server.terminate()


if __name__ == "__main__":
    main()

"""Speed, printed side by side in one run: ratios say more than times, as machines differ. Run by `make bench`.

The database is a scratch one below var/; nothing of the user's is touched.
"""

import gzip
import os
import subprocess
import sys
import time
from dataclasses import replace
from statistics import median

import numpy as np
from bench_records import bench_choose, bench_field, bench_match, bench_shelf
from django.core.management import call_command
from django.http import HttpResponse
from django.template import engines
from django.test import Client
from django.urls import path
from measured import LENSES, ROOT, ROWS, SCRATCH, SHORTEST, line, side_by_side_ms, six_rigs, took_ms

from cambrel.briefs.sample_briefs import sample_briefs, with_brief
from cambrel.comparison.engine import compare
from cambrel.links.benches import encode
from cambrel.optics.depth import depth_of_field
from cambrel.optics.equivalence import equivalent_f_number
from cambrel.optics.sharpness import mtf50_per_mm
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.pictures.shots import rig_shot
from cambrel.pictures.views import shop
from cambrel.rendering.render import encode as encode_picture
from cambrel.rendering.render import finish, render
from cambrel.shelf.demo import load_demo
from cambrel.site import urls

QUICK, FULL = (140, 140) if SHORTEST else (140, 280)
ROUND_TRIP = """const done = arguments[0], begun = performance.now();
fetch('/health/', {cache: 'no-store'}).then((r) => r.text()).then(() =>
    requestAnimationFrame(() => setTimeout(() => done(performance.now() - begun))))"""
CHANGE = """const field = document.querySelector('#id_brief-distance_m'); field.value = arguments[0];
field.dispatchEvent(new Event('change', {bubbles: true}))"""


def fresh():
    SCRATCH.mkdir(parents=True, exist_ok=True)
    for name in ("cambrel.sqlite3", "cambrel.sqlite3-wal", "cambrel.sqlite3-shm"):
        (SCRATCH / name).unlink(missing_ok=True)
    call_command("migrate", run_syncdb=True, interactive=False, verbosity=0)
    call_command("collectstatic", interactive=False, verbosity=0)
    owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
    load_demo(owner)
    return owner


def bench_pages(client):
    print("Pages, through the same middleware")
    address = "/?b=" + encode(six_rigs())
    panels = ("frames", "depth", "light", "walk", "numbers")
    asked = {
        f"{panel}: refresh": (f"{address}&panel={panel}&rigs-0-f_number=4", {"HTTP_HX_REQUEST": "true"})
        for panel in panels
    }
    asked["frames: full page"] = (address, {})
    has = client.get(f"{address}&panel=depth", HTTP_HX_REQUEST="true")["Bench-Parts"]
    asked["another panel: what differs"] = (
        f"{address}&panel=light",
        {"HTTP_HX_REQUEST": "true", "HTTP_BENCH_PARTS": has},
    )
    works = {
        name: lambda query=query, headers=headers: client.get(query, **headers)
        for name, (query, headers) in asked.items()
    }
    took = side_by_side_ms({"empty": lambda: client.get("/empty/"), **works})
    empty = took.pop("empty")
    line("an empty template", empty)
    for name, ms in took.items():
        size = len(gzip.compress(works[name]().content, 6)) / 1000
        line(f"six rigs, {name}", ms, f"{ms / empty:.0f} times the empty template, {size:.1f} kB packed")


def bench_ask(client):
    print("The line of questions")
    question = {"q": "35-100 f2.8 m43 / 70-200 f2.8 ff 360 g 1400 g at 3 m"}
    line("two lenses answered (aim: 60)", took_ms(lambda: client.get("/ask/", question, HTTP_HX_REQUEST="true")))


def bench_core():
    print("The core")
    bench = six_rigs()
    line("compare(), six rigs", took_ms(lambda: compare(bench.brief, bench.rigs, bench.hold, bench.conventions), 200))
    whole = took_ms(lambda: compare(bench.brief, bench.rigs, bench.hold, bench.conventions).of(0), 200)
    line("compare(), six rigs, with the blur budget (aim: 4)", whole)
    random = np.random.default_rng(1)
    rows = {
        "f_number": random.uniform(1, 22, LENSES),
        "pixel_pitch_um": random.uniform(1, 9, LENSES),
        "lens_mtf50_per_mm": random.uniform(20, 200, LENSES),
        "disc_mm": random.uniform(0, 0.1, LENSES),
    }
    line(f"mtf50_per_mm, {LENSES:,} rows (aim: 100)", took_ms(lambda: mtf50_per_mm(**rows), 10))
    f, n = random.uniform(5, 300, ROWS), random.uniform(1.4, 16, ROWS)
    u, c = random.uniform(1, 100, ROWS), random.uniform(0.005, 0.03, ROWS)

    def by_hand():
        x = (1000 * u - f) * n * c / f**2
        near = u / (1 + x)
        with np.errstate(divide="ignore"):
            far = np.where(x >= 1 - 1e-12, np.inf, u / (1 - x))
        return near, far, np.where(np.isinf(far), np.inf, far - near)

    core, plain = took_ms(lambda: depth_of_field(f, n, u, c)), took_ms(by_hand)
    line(f"depth_of_field, {ROWS:,} rows", core)
    line("the same as a plain NumPy expression", plain, f"the core takes {core / plain:.2f} times as long (aim: 1.3)")
    core, plain = took_ms(lambda: equivalent_f_number(n, c, 1.5)), took_ms(lambda: n * c / 1.5)
    line(f"equivalent_f_number, {ROWS:,} rows", core)
    line("the same as a plain NumPy expression", plain, f"the checks at the door take {core - plain:.2f} ms")


def bench_scene(client):
    print("The scene, on one core")
    bench = six_rigs()
    comparison = compare(bench.brief, bench.rigs, bench.hold, bench.conventions)
    shots = [rig_shot(bench, comparison, comparison.of(i)) for i in range(6)]

    def picture(shot, height):
        view = shot.view(height)
        return encode_picture(finish(render(view, shop()), view))

    def stopped(step):
        return replace(shots[0], camera=replace(shots[0].camera, f_number=1.8 + step / 100))

    def walked(step):
        return replace(
            shots[0],
            camera=replace(shots[0].camera, subject_distance_m=2 + step / 100, object_distance_m=2 + step / 100),
        )

    steps = iter(range(10_000))
    line("quick pass of six rigs (aim: 200)", took_ms(lambda: [picture(shot, QUICK) for shot in shots], 10))
    line("full pass, aperture change (aim: 120)", took_ms(lambda: picture(stopped(next(steps)), FULL), 20))
    line("full pass, new framing (aim: 250)", took_ms(lambda: picture(walked(next(steps)), FULL), 20))
    for name, slug, more in (
        ("star trails", "night-mail", {"shutter_s": 240.0}),
        ("a streak", "dusk-pass", {"shutter_s": 1 / 30}),
        ("shake", "footplate-portrait", {"shake_mm": 0.2}),
    ):
        b = with_brief(bench, slug)
        c = compared_with(bench, slug)
        still = replace(rig_shot(b, c, c.of(0)), shutter_s=0.0)
        pair = [took_ms(lambda one=one: picture(one, FULL), 12) for one in (still, replace(still, **more))]
        line(f"{name} against none, {slug}", pair[1], f"{pair[1] / pair[0]:.2f} of those without (aim: 1.3)")
    address = f"/scene/{shots[0].token()}/{FULL}.webp"
    line(
        "answered from the folder (aim: 5)",
        took_ms(lambda: client.get(address)),
        f"{len(client.get(address).content) / 1000:.1f} kB a view (aim: 25)",
    )
    worst = max(
        len(picture(rig_shot(b, c, c.of(0)), FULL))
        for b, c in ((with_brief(bench, slug), compared_with(bench, slug)) for slug in sample_briefs())
    )
    print(f"  the largest of all scenes: {worst / 1000:.1f} kB")


def compared_with(bench, slug):
    other = with_brief(bench, slug)
    return compare(other.brief, other.rigs, other.hold, other.conventions)


def bench_browser():
    """Change to painted, by the page's own performance marks."""

    from cambrel.site.tests.browser import make_driver

    print("In the browser")
    port = 8123
    server = subprocess.Popen(
        [sys.executable, "manage.py", "demo", "--port", str(port)], cwd=ROOT, stdout=subprocess.PIPE,
        env={**os.environ, "CAMBREL_VAR": str(SCRATCH / "demo"), "DJANGO_SETTINGS_MODULE": "cambrel.site.settings"},
    )  # fmt: skip
    while b"Cambrel is at" not in server.stdout.readline():
        pass
    driver = make_driver()
    try:
        time.sleep(1)
        driver.get(f"http://127.0.0.1:{port}/")
        empty = median(driver.execute_async_script(ROUND_TRIP) for _ in range(20))
        line("an empty page's round trip", empty)
        for panel in ("frames", "numbers"):
            driver.get(f"http://127.0.0.1:{port}/?b={encode(six_rigs())}&panel={panel}")
            for step in range(12):
                driver.execute_script(CHANGE, str(2 + step / 10))
                time.sleep(0.8)
            for what, mark, aim in (("figures", "painted", 100), ("pictures, quick pass", "pictured", 300)):
                spent = driver.execute_script(
                    "return performance.getEntriesByName(arguments[0]).map((e) => e.duration)", f"change-to-{mark}"
                )
                beyond = f"{median(spent) - empty:.0f} ms beyond the empty page (aim: {aim})"
                line(
                    f"change to painted {what}, six rigs, {panel}",
                    median(spent),
                    f"{beyond}, worst of {len(spent)}: {max(spent):.0f} ms",
                )
    finally:
        driver.quit()
        server.terminate()


def main():
    owner = fresh()
    empty = engines["django"].from_string("")
    urls.urlpatterns.append(path("empty/", lambda request: HttpResponse(empty.render({}, request))))
    client = Client(SERVER_NAME="localhost")
    bench_pages(client)
    bench_ask(client)
    bench_core()
    bench_scene(client)
    if not SHORTEST:  # the tests drive a browser
        bench_browser()
    bench_shelf(client, owner)
    bench_match(client, owner)
    bench_choose(client, owner)
    bench_field(client, owner)


if __name__ == "__main__":
    main()

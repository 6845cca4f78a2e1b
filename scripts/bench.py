"""Speed, printed side by side in one run: ratios say more than times, as machines differ. Run by `make bench`.

The database is a scratch one below var/; nothing of the user's is touched.
"""

import gzip
import io
import json
import os
import subprocess
import sys
import time
from dataclasses import replace
from pathlib import Path
from statistics import median

ROOT = Path(__file__).resolve().parent.parent
SCRATCH = ROOT / "var" / "bench"
sys.path.insert(0, str(ROOT))
os.environ["CAMBREL_VAR"] = str(SCRATCH)
os.environ["DJANGO_SETTINGS_MODULE"] = "cambrel.site.settings_tables"

import django  # noqa: E402

django.setup()

from django.conf import settings  # noqa: E402

settings.WHITENOISE_AUTOREFRESH = False  # pages are asked for as readers do

import numpy as np  # noqa: E402
from django.core.cache import cache  # noqa: E402
from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: E402
from django.core.management import call_command  # noqa: E402
from django.http import HttpResponse  # noqa: E402
from django.template import engines  # noqa: E402
from django.test import Client  # noqa: E402
from django.urls import path  # noqa: E402
from PIL import Image  # noqa: E402

from cambrel.bench.sample_benches import home_bench  # noqa: E402
from cambrel.briefs.sample_briefs import sample_briefs, with_brief  # noqa: E402
from cambrel.choose.loose_lenses import loose_of  # noqa: E402
from cambrel.comparison.bench import Bench  # noqa: E402
from cambrel.comparison.engine import compare  # noqa: E402
from cambrel.comparison.match import WantedLens, match  # noqa: E402
from cambrel.field.logbook import plan_of  # noqa: E402
from cambrel.field.sample import sample_rows  # noqa: E402
from cambrel.links.benches import encode  # noqa: E402
from cambrel.match.lens_shelf import shelf_of  # noqa: E402
from cambrel.optics.depth import depth_of_field  # noqa: E402
from cambrel.optics.equivalence import equivalent_f_number  # noqa: E402
from cambrel.optics.formats import FORMATS  # noqa: E402
from cambrel.optics.sharpness import mtf50_per_mm  # noqa: E402
from cambrel.owners.models import LOCAL_OWNER, User  # noqa: E402
from cambrel.owners.undo import carry_out, last_change, raise_version, undo  # noqa: E402
from cambrel.pictures.shots import rig_shot  # noqa: E402
from cambrel.pictures.views import shop  # noqa: E402
from cambrel.rendering.render import encode as encode_picture  # noqa: E402
from cambrel.rendering.render import finish, render  # noqa: E402
from cambrel.shelf.demo import load_demo  # noqa: E402
from cambrel.shelf.intake import read_file  # noqa: E402
from cambrel.shelf.models import Body, Kit, Lens  # noqa: E402
from cambrel.shelf.previews import apply, look_at, store  # noqa: E402
from cambrel.site import urls  # noqa: E402

SHORTEST = "--shortest" in sys.argv
"""All of it once, of little: not how fast it is, but whether it runs. CI runs it so."""
ROWS, LENSES, PICTURES, BROUGHT = (300, 60, 60, 60) if SHORTEST else (100_000, 20_000, 50_000, 5_000)
QUICK, FULL = (140, 140) if SHORTEST else (140, 280)
ROUND_TRIP = """const done = arguments[0], begun = performance.now();
fetch('/health/', {cache: 'no-store'}).then((r) => r.text()).then(() =>
    requestAnimationFrame(() => setTimeout(() => done(performance.now() - begun))))"""
CHANGE = """const field = document.querySelector('#id_brief-distance_m'); field.value = arguments[0];
field.dispatchEvent(new Event('change', {bubbles: true}))"""


def took_ms(work, times=30, warm=3):
    """Median time of a piece of work, after warming up."""
    times, warm = (1, 0) if SHORTEST else (times, warm)
    for _ in range(warm):
        work()
    spent = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        spent.append(time.perf_counter() - start)
    return 1000 * median(spent)


def side_by_side_ms(works, rounds=6, times=6):
    """Median times of pieces of work by name, in short runs turn about, so that a machine that slows down slows all of
    them.
    """
    rounds, times = (1, 1) if SHORTEST else (rounds, times)
    spent = {name: [] for name in works}
    for work in works.values():
        took_ms(work, 1)
    for _ in range(rounds):
        for name, work in works.items():
            work()
            for _ in range(times):
                start = time.perf_counter()
                work()
                spent[name].append(time.perf_counter() - start)
    return {name: 1000 * median(each) for name, each in spent.items()}


def line(what, ms, note=""):
    print(f"  {what:<58}{ms:10.2f} ms   {note}")


def fresh():
    SCRATCH.mkdir(parents=True, exist_ok=True)
    for name in ("cambrel.sqlite3", "cambrel.sqlite3-wal", "cambrel.sqlite3-shm"):
        (SCRATCH / name).unlink(missing_ok=True)
    call_command("migrate", run_syncdb=True, interactive=False, verbosity=0)
    call_command("collectstatic", interactive=False, verbosity=0)
    owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
    load_demo(owner)
    return owner


def six_rigs() -> Bench:
    bench = home_bench()
    return replace(bench, slots=(*bench.slots, *bench.slots))


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


def many_lenses(owner, count):
    rng = np.random.default_rng(2)
    focal = np.round(np.exp(rng.uniform(np.log(8), np.log(600), count)), 1)
    number = np.round(rng.uniform(1.2, 6.3, count), 1)
    mounts = ("Tarn", "Larkmoor", "Pipwren", "Holmgate")
    made = (
        Lens(
            owner=owner,
            name=f"Lens {i:05} {focal[i]:g} mm",
            mount=mounts[i % 4],
            focal_min_mm=focal[i],
            focal_max_mm=focal[i] * (1 if i % 3 else 3),
            widest=[[focal[i], number[i]]] if i % 7 else [],
            designed_for=("full-frame", "aps-c", "micro-four-thirds", "44x33")[i % 4],
            weight_g=None if i % 11 == 0 else 100.0 + i % 900,
        )
        for i in range(count)
    )
    Lens.objects.bulk_create(made, batch_size=500)


def once_ms(work):
    start = time.perf_counter()
    found = work()
    return 1000 * (time.perf_counter() - start), found


def bench_shelf(client, owner):
    print("The shelf")
    many_lenses(owner, LENSES)
    for what, query in (
        ("first page", ""),
        ("last page", "?page=401"),
        ("sorted by weight", "?sort=-weight"),
        ("searched", "?q=0123"),
    ):
        line(
            f"list of {LENSES:,} lenses, {what}", took_ms(lambda query=query: client.get(f"/shelf/lenses/{query}"), 10)
        )
    rows = [
        {"name": f"Brought {i}", "mount": "Tarn", "focal_min_mm": 10 + i / 10, "weight_g": 100} for i in range(BROUGHT)
    ]
    data = json.dumps({"cambrel": 1, "sections": {"lenses": rows}}).encode()
    ms, found = once_ms(lambda: read_file("rows.json", data))
    line(f"import of {BROUGHT:,} rows: read", ms)
    ms, preview = once_ms(lambda: store(owner, "rows.json", [("rows.json", found)]))
    line("stored as a preview", ms)

    def look():
        parts = []
        while not parts or parts[-1][1]:
            parts.append(once_ms(lambda: look_at(preview)))
        return parts

    ms, parts = once_ms(look)
    line(
        f"looked at beside {LENSES:,} lenses",
        ms,
        f"in {len(parts)} parts, the longest {max(p[0] for p in parts):.0f} ms",
    )
    ms, _ = once_ms(lambda: apply(preview))
    line("applied in one transaction, with its undo", ms)
    ms, _ = once_ms(lambda: undo(last_change(owner)))
    line("undone", ms)


def bench_match(client, owner):
    print(f"Match, beside {LENSES:,} lenses on six targets")
    many = ("full-frame", "aps-c", "micro-four-thirds", "one-inch", "44x33", "type-1-1.3")
    sensors = [FORMATS[slug] for slug in many]
    wanted = WantedLens(FORMATS["full-frame"], 50, 50, 1.8, 1.8)
    ms, shelf = once_ms(lambda: shelf_of(owner))
    line("the arrays, cold", ms)
    line("the arrays, warm", took_ms(lambda: shelf_of(owner)))
    table = shelf.table
    core = took_ms(lambda: [match(wanted, sensor, table) for sensor in sensors])

    def by_hand():
        for sensor in sensors:
            f2 = 50 * FORMATS["full-frame"].diagonal_mm ** -1 * sensor.diagonal_mm
            n2 = 1.8 * f2 / 50
            focal = np.clip(f2, table.focal_min_mm, table.focal_max_mm)
            at, n = np.log(focal), table.log_f_number[:, 0].copy()
            for i in range(table.log_focal.shape[1] - 1):
                low, high = table.log_focal[:, i], table.log_focal[:, i + 1]
                with np.errstate(all="ignore"):
                    n += np.where(high > low, np.clip((at - low) / (high - low), 0, 1), 0) * (
                        table.log_f_number[:, i + 1] - table.log_f_number[:, i]
                    )
            short = 2 * np.log2(np.maximum(np.exp(n) / (n2 * focal / f2), 1))
            score = np.abs(np.log(focal / f2)) / 0.15 + short
            np.where(short <= 1 / 6, 0, np.where(short <= 1, 1, 2)), score

    plain = took_ms(by_hand)
    line("the computation, warm (aim: 100)", core)
    line("the same as a plain NumPy expression", plain, f"the core takes {core / plain:.2f} times as long (aim: 3)")
    query = "/match/?format=full-frame&focal_length_mm=50&f_number=1.8&" + "&".join(f"t={slug}" for slug in many)
    line(
        "the whole answer with one page of results (aim: 60)",
        took_ms(lambda: client.get(query, HTTP_HX_REQUEST="true"), 10),
    )


def bench_browser():
    """Change to painted, by the page's own performance marks."""

    from cambrel.site.tests.browser import make_driver

    print("In the browser")
    port = 8123
    server = subprocess.Popen(
        [sys.executable, "manage.py", "demo", "--port", str(port)], cwd=ROOT, stdout=subprocess.PIPE
    )
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


def bench_choose(client, owner):
    print(f"Choose, beside {LENSES:,} lenses more")
    pk = Lens.objects.for_owner(owner).filter(name__startswith="Lens ").values_list("pk", flat=True)
    lenses = list(Lens.objects.filter(owner=owner, mount="Tarn", rectilinear=True).exclude(pk__in=pk)[:8])
    kits = []
    for number in range(6):
        kit = Kit.objects.create(owner=owner, name=f"Bag {number}")
        kit.bodies.set(Body.objects.filter(owner=owner, mount="Tarn")[:2])
        kit.lenses.set(lenses)
        kits.append(kit.pk)
    ms = took_ms(lambda: client.get("/choose/", {"kit": kits}), 10)
    line("8 pictures by 6 kits of 2 bodies and 8 lenses (aim: 150)", ms)
    Lens.objects.filter(pk__in=list(pk)).update(mount="Tarn")
    raise_version(owner)
    line("the lenses of the shelf as arrays, cold", once_ms(lambda: loose_of(owner))[0])

    def helps():
        cache.clear()
        return client.get("/choose/", {"kit": kits[:1], "look": "help"})

    line(f"one change out of {LENSES:,} lenses, 8 pictures (aim: 2000)", took_ms(helps, 3, 1))
    line("the same, kept", took_ms(lambda: client.get("/choose/", {"kit": kits[:1], "look": "help"}), 5))


def bench_field(client, owner):
    """A logbook of fifty thousand, and the heads of two thousand files."""
    rows = sample_rows(PICTURES)
    for k, row in enumerate(rows):
        row["focal_length_mm"] += k * 1e-7  # no two alike
    plan, count = plan_of(owner, rows)
    carry_out(plan, "Logged", None)
    first = once_ms(lambda: client.get("/field/habits/"))[0]
    line(f"habits of {count:,} pictures, as they come", first)
    line("habits again", took_ms(lambda: client.get("/field/habits/"), 8, 1))
    raise_version(owner)
    line("habits after a change of the shelf", once_ms(lambda: client.get("/field/habits/"))[0])
    out = io.BytesIO()
    Image.new("RGB", (1200, 800), "#777777").save(out, "JPEG", exif=Image.Exif())
    head = out.getvalue().ljust(65536, b"\0")
    says = json.dumps([{"id": k, "size": len(head), "rounds": 1, "parts": [[0, len(head)]]} for k in range(16)])

    def read():
        parts = [SimpleUploadedFile("part", head) for _ in range(16)]
        assert client.post("/field/heads/", {"says": says, "part": parts}).status_code == 200

    per_batch = took_ms(read, 10, 2)
    line("heads of 16 files", per_batch, f"2,000 files in {per_batch * 125 / 1000:.0f} s on one core")


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

"""Speed of what stands on many records: lists, imports, Match, Choose, a logbook."""

import io
import json

import numpy as np
from django.core.cache import cache
from django.core.files.uploadedfile import SimpleUploadedFile
from measured import BROUGHT, LENSES, PICTURES, line, once_ms, took_ms
from PIL import Image

from cambrel.choose.loose_lenses import loose_of
from cambrel.comparison.match import WantedLens, match
from cambrel.field.logbook import plan_of
from cambrel.field.sample import sample_rows
from cambrel.match.lens_shelf import shelf_of
from cambrel.optics.formats import FORMATS
from cambrel.owners.undo import carry_out, last_change, raise_version, undo
from cambrel.shelf.intake import read_file
from cambrel.shelf.models import Body, Kit, Lens
from cambrel.shelf.previews import apply, look_at, store


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

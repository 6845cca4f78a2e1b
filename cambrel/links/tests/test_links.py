import base64
import json
import random
import string
import zlib
from dataclasses import fields, replace
from math import inf
from pathlib import Path
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from cambrel.bounds.limits import outside
from cambrel.comparison.bench import Bench, Gear, LayerChange, Slot
from cambrel.comparison.engine import Body, Brief, Conventions, Hold, Lens, Rig, compare
from cambrel.comparison.rig import Mode
from cambrel.links import benches
from cambrel.links.benches import decode, decode_gear, encode, encode_gear
from cambrel.links.codec import LONGEST_TOKEN, LinkError
from cambrel.optics.formats import Sensor
from cambrel.optics.quantities import DomainError

KEPT = {
    # one link as written by each version, and what it holds; never written anew
    1: (
        "eNpNjs8KgzAMxl8l9Bxc01q3J9hl7DK8SQ9ldlOoVepk-PZLN2GGkD8fX36kIWwaXRiMSwi7QmrrZNnAoStUJVZSSsuKkciZGxUni0rZvKs8i9qlCLe-ffq3W8W2GwnDAI8D28WPSMdCI2k0dCozkimGaSUTrv09jXAelwR116d2ZoqLKwQfZ5G9_z9F66dXJ773O_XCKsxumILngw8c2UO8",
        ("Tarn Ridgeway", 1.4, "depth"),
    ),
    3: (
        "eNp9UctOwzAQ_BUr5yV414-6HwBnVJVT1INRXRqRppEJqvh7JklfKgUrXq_3NTNOZaiq2q-moXtGl4H-SWoHw-cb-5s1ZawjtivAVNdIXttAVgsyrDU5FlgM0ZrFkUHkFs-7QDyfayqeXhcFFcuY2wJzHWr1eHAZViQykLIwALam9MTBk8xu-8aZMnSMEbWo1-_pEL-PFcpptdupzSOGFhN7npWG2IBrsGRCGMBAWpy_pu41-fIXeactMYcziZe6O-Q08mfBO4wH2AyunGUYbIRBAXhCYX6nH5CTimNILRP0Xa4sD_YoRQYpQMT351-9mKLLddunfHqrKfi83_ddE_ukun3uc6x7YH1u01odYtPA38Z2_ZbjR4K_ORUD9gfOQrAJ",
        ("Tarn Ridgeway", 2.8, "f_number"),
    ),
    4: (
        "eNp9VF2P2jAQ_CuWn5fUu_6I81hV7Uul6nR3fUJ5SI9QUEOCAifUf9-xAynHnYiIs7Fnd8czDktHy2X_2nX00WCKSHcWjcfA8xuHm-s2Q2-afqVrdFxeNw3GRXJGXE1sDHkWjKhnDIsni5nbQsFH4qoypL_-fNSkn5ux15ihQNZe4dBGbOGJfVGSrdBGgpWa9OeHp8UX9TIO-0xnAtlCyEZnSDgYgNx31RxVMGo9Nrv2oEG0rgH3YGTyg4tYk0hSwWFwnpwtAnEMJOUNu4kQMgg0EgqASAEbCRQsygqDZFqXinKcQF6mGEgzRYB7_x8e6qkygCGeY7lnWx64nmipx-3qd3tq_p5pKm_UbqfWn8DjbBSXhYU2sCU6yBPTjuGP-HDtEtiF4p1P3jhijrMSD9v9aWyzVShaIkHAZMkC-_MjMU8GzLpa3FkCaBaFYvW-1iRsykQjn-Q3SdkqS1WZVN8UVS7tQSfFCVWWU4w0O0WcJi9wLhheY2eZy6Wbem6Tl_Mry8KdFZNZsSpVB-vIFUxhh3OdzorExKuwb692YfIZTxu91k8g3XzCUTeAU7pzAOvrNFw-PT5nYrPzsn4axrHt1I9t36r9Zuhb_XZu12x71bX9gRSSLraXOh1x_O4foKuP-qUZ2_Vrp-vryW_DcNx3zRGth_E4Ntsjuh827Uqdmq7T01_Br7H5k1itL2D0_gdLyjti",
        ("Tarn Ridgeway", 2.8, "f_number"),
    ),
    5: (
        "eNp9VMGOmzAQ_RXL5wn12NiYY1W1l0rVand7ijjQjdOgEkCEKu3f99kklM1Gi4IZ7Dczz--ZbC1tt93vtqV7g8o8vbOoLAZe3tjdXLcZ8lB3O1mh43bd1KncU650XhErRZY1RtRTirUlg5nbQs564rJUJD9_f5Qkn-uxk5ghR8ascGijTWaJbVaQKdFGO6Mrkh8fnjafxMvYD4nODDKZJuNzRZqdAij_KupJOCX2Y30MJwmiVQW4BSOVHpz5irSOKuQYcku5yRyxd6SLG3YzIWQQaEQUAJ4cNuLIGZTVDJJxXZeU4giyeo6BVHMEuLX_4a6aKwPo_CXW79mWBq5mWuKx2f0M5_rvhaawShyPYv8BPC5GcZEZaANbfA55fNwx_NHWrV0CO5e98cmqnJj9osRDM5zHkKxC0QIJGky2rGF_ekTm0YBFV4M7SQDNvCZfvq01Cxsz0chG-VVUtkxSlSrWV1mZSlvQiXFEFcUcI83MEcfJK5wzhtfYWeJy7SaeQ_RyeWW9yS-K6UWxMlYHa88lTOEc5zqeFe0jr8y8vsJGpTMeN7rWT0O65YSjrgOneKcA1ldxuH56fMnEZpdl-dSPY2jFt6YLYjj0XZCv545104k2dCcSSLraXsh4xPFbfbZD8ye08u5BksPYdFMY769yEfdWrfFf-n4a2noCp36cxrqZQOt0CDtxrls0Sf8RP8b6V6S7v4JB6h8yfUM9",
        ("Tarn Ridgeway", 2.8, "f_number"),
    ),
}


def full_bench():
    """Six rigs with every field given, names of the longest and hard to press together."""
    chance = random.Random(1)

    def name():
        return "".join(chance.choice(string.ascii_letters + string.digits + " ") for _ in range(60))

    def slot(i):
        body = Body(
            Sensor(23.5 + i / 10, 15.6, 6000 + i, 4000),
            100,
            25600,
            1 / 8000,
            30,
            5,
            0.3,
            0.55,
            1.7,
            400 + i * 13,
            1234.5,
            "EUR",
            "Tarn",
        )
        modes = (
            Mode(Sensor(23.5, 13.2 + i / 10, 3840, 2160), "16:9 video", 59.94, 1, 0.0123 + i / 1000),
            Mode(Sensor(23.5 + i / 10, 15.6, 12000, 8000 + i), "shifted", None, 8),
        )
        body = replace(
            body, register_mm=18.0 + i, stabilisation_with_lens_stops=6.5 + i, raw_megabytes=31.7 + i,
            range_stops=13.1 + i / 7,
            range_iso=125.0 + i, modes=modes, outer_width_mm=131.5 + i, outer_height_mm=92.4 + i, outer_depth_mm=61.7,
            weather_sealed=i % 2 == 0, handling="deep grip",
        )  # fmt: skip
        widest = ((14.0 + i, 2.8 + i / 10), (28.0 + i, 3.3 + i / 7), (42.5 + i, 4.1 + i / 9))
        lens = Lens(14.0 + i, 42.5 + i, widest, 22, 0.25 + i / 77, 0.28, 28.3 + i, 310 + i * 7, 888.8, "EUR", "Tarn")
        away = tuple((10.0 + 9 * h, 2.8 * n, 61.2 - 7 * h + i) for h in range(2) for n in (1, 2))
        lens = replace(
            lens, mtf50=((2.8, 71.3 + i), (5.6, 83.1 + i)), mtf50_away=away, fall_off=((10.0, 0.4), (19.0 + i, 1.7)),
            stabilisation_stops=4.5, length_mm=87.3 + i, diameter_mm=71.2, longest_mm=112.6 + i,
            autofocus=i % 2 == 0, zoom_lock=i % 2 == 1, weather_sealed=True, handling="stiff ring",
        )  # fmt: skip
        rig = Rig(
            body,
            lens,
            25.324198951869615 + i,
            2.8123456789 + i,
            1 / (60.3 + i),
            402.69559 + i,
            2.1234567 + i,
            1.4,
            True,
            None if i % 2 else 185.5,
            i % 2,
            "fnti"[i % 3 :],
        )
        return Slot(rig, name(), name())

    brief = Brief(
        2.123456789, 1.7, 3.1, "sensor", inf, 1.1, 8.3, True, "4:5", 500, 700, 0.1, inf, 1.2, 1 / 60, 3.3, 45, 14,
        "monopod", 1.5, 12.5, 0.3, 32, 0.01, 45, 23.976, 172.8, "feed", 50,
    )  # fmt: skip
    slots = tuple(slot(i) for i in range(6))
    conventions = Conventions(
        "width", "print", "pixel", 6, 520, 1e7, 6400, "printer", "typed", 3000, "rule_300", "picture"
    )
    return Bench(
        brief,
        slots,
        Hold("same", "walk", "depth", "iso", 2, True),
        conventions,
        3,
        name(),
        name(),
        name(),
        name(),
        "footplate",
    )


UNSAID = {
    # what a link of a version cannot say, and what it stood for when it was written: with what later ones cannot say
    # either
    6: {},
    5: {
        "body": {
            "outer_width_mm": None, "outer_height_mm": None, "outer_depth_mm": None, "weather_sealed": None,
            "handling": "",
        },
        "brief": {"frame_rate": None, "shutter_angle_deg": 180.0, "delivery": "4k", "mains_hz": None},
        "modes": {"rolling_s": None},
        "lens": {"longest_mm": None, "autofocus": None, "zoom_lock": None, "weather_sealed": None, "handling": ""},
    },
    4: {"conventions": {"press_lines_per_inch": 150.0, "seen_snr": 40.0, "disturbing_snr": 10.0}},
    3: {
        "brief": {
            "support": "", "nearest_m": None, "farthest_m": None, "comfortable_m": None, "flash_guide_m": None,
            "blur_share": None,
            "framing_deg": None,
        },
        "hold": {"is_best": False},
        "conventions": {"hand": "habit", "shake_arc_s": 6000.0, "star_rule": "exact", "range": "engineer"},
        "body": {
            "register_mm": None, "stabilisation_with_lens_stops": None, "raw_megabytes": None, "range_stops": None,
            "range_iso": None,
            "modes": (),
        },
        "lens": {
            "mtf50_away": (), "fall_off": (), "stabilisation_stops": None, "length_mm": None, "diameter_mm": None,
            "focuses_inside": False,
        },
        "rig": {"converter_weight_g": 0.0, "mode": None, "by_hand": ""},
    },
    2: {
        "brief": {"declination_deg": None, "scene_range_stops": None},
        "conventions": {"good_enough": "eye", "press_lines_per_inch": 200.0},
        "lens": {"mtf50": ()},
    },
    1: {"bench": {"changes": ()}},
}  # fmt: skip


def two_full():
    """Two rigs with every field given, and a thing of the scene moved."""
    whole = full_bench()
    hold = replace(whole.hold, lens_of=1)
    return replace(
        whole,
        slots=whole.slots[:2],
        hold=hold,
        reference=1,
        changes=(LayerChange(1, 2.5, -1.0, 1.5), LayerChange(0, 0.5, 0.0, 2.0)),
    )


def _modes(body, lacks):
    """The modes of a body without what a version cannot say of them."""
    return {"modes": tuple(replace(mode, **lacks.get("modes", {})) for mode in body.modes)}


def as_said_in(version, bench):
    """A bench without what a version of links cannot say."""
    for lacks in (UNSAID[one] for one in range(5, version - 1, -1)):
        slots = tuple(
            replace(
                slot,
                rig=replace(
                    slot.rig,
                    body=replace(slot.rig.body, **_modes(slot.rig.body, lacks) | lacks.get("body", {})),
                    lens=replace(slot.rig.lens, **lacks.get("lens", {})),
                    **lacks.get("rig", {}),
                ),
            )
            for slot in bench.slots
        )
        shared = {
            name: replace(getattr(bench, name), **lacks.get(name, {})) for name in ("brief", "hold", "conventions")
        }
        bench = replace(bench, slots=slots, **shared, **lacks.get("bench", {}))
    return bench


def token_of(content):
    return base64.urlsafe_b64encode(zlib.compress(json.dumps(content).encode())).decode().rstrip("=")


def cells(content, path=()):
    """The place of every cell of a content of lists."""
    for index, cell in enumerate(content):
        yield (*path, index)
        if isinstance(cell, list):
            yield from cells(cell, (*path, index))


class LinkTests(TestCase):
    tags = frozenset({"long"})

    def test_six_full_rigs_fit_and_come_back_exactly(self):
        token = encode(full_bench())
        self.assertLess(len(token), 3000)
        self.assertEqual(decode(token), full_bench())

    @given(st.floats(0.5, 10_000), st.floats(0.5, 256), st.sampled_from([None, inf, 0.1]))
    def test_numbers_keep_full_precision(self, focal, n, background):
        bench = Bench(Brief(background_m=background), (Slot(Rig(Body(Sensor(36, 24)), Lens(), focal, n)),))
        self.assertEqual(decode(encode(bench)), bench)

    def test_the_tables_hold_every_field_in_its_place(self):
        for name, table in benches.VERSIONS[benches.NEWEST].items():
            with self.subTest(record=name):
                known = [field.name for field in fields(benches._RECORDS[name]) if field.compare]
                self.assertEqual([field for field, _ in table], known)
        self.assertEqual(set(benches.UPGRADES), set(benches.VERSIONS) - {1}, "a step leads to each version")

    def test_a_link_is_read_by_its_own_version(self):
        changed = [None] * 10 + [[[0, 0.5]]]
        for version, says in (
            (1, "kind"),
            (2, None),
            (3, None),
            (4, None),
            (5, None),
            (6, None),
            (7, "newer"),
            (0, "newer"),
            (True, "newer"),
            ("2", "newer"),
            (1.0, "newer"),
        ):
            token = token_of([version, [[2], [[]], *changed[2:]]])
            with self.subTest(version=version):
                if says is None:
                    self.assertEqual(decode(token).changes, (LayerChange(0, 0.5, 0.0),))
                else:
                    with self.assertRaisesRegex(LinkError, says):
                        decode(token)
        self.assertEqual(decode(token_of([1, [[2], [[]]]])).changes, ())

    def test_a_kept_link_of_each_version_stays_readable(self):
        for version, (token, check) in KEPT.items():
            with self.subTest(version=version):
                bench = decode(token)
                self.assertEqual((bench.slots[0].body_name, bench.slots[1].rig.f_number, bench.hold.aperture), check)
                hand = "careful" if version == 4 else "habit"
                terms = Conventions(hand=hand, good_enough="printer" if version in (3, 5) else "eye")
                if version == 3:
                    terms = replace(terms, press_lines_per_inch=150.0)
                if version == 5:
                    terms = replace(terms, press_lines_per_inch=175.0, seen_snr=30.0, noise="pixel")
                self.assertEqual(
                    bench.conventions, terms, "what an older link does not say is as it was when it was written"
                )

    def test_every_field_of_a_link_of_each_version_is_what_it_was(self):
        kept = json.loads((Path(__file__).parent / "kept_links.json").read_text())
        self.assertEqual(
            [int(version) for version in kept], list(benches.VERSIONS), "keep a full link of the new version"
        )
        for version, token in kept.items():
            with self.subTest(version=version):
                self.assertEqual(decode(token), as_said_in(int(version), two_full()))

    def test_a_bench_is_written_as_the_oldest_version_that_holds_it_and_comes_back(self):
        """One field said, all else as usual: whatever it is, it is not lost."""
        plain = Bench(Brief(), (Slot(Rig(Body(Sensor(36, 24)), Lens())),))
        full = two_full()
        said = [replace(plain, changes=full.changes[:1]), replace(plain, scene="night"), replace(plain, title="x")]
        for name in ("brief", "hold", "conventions"):
            for field in (one.name for one in fields(getattr(full, name)) if one.compare and one.name != "lens_of"):
                changed = replace(getattr(plain, name), **{field: getattr(getattr(full, name), field)})
                said.append(replace(plain, **{name: changed}))
        for name, record in (("body", full.slots[0].rig.body), ("lens", full.slots[0].rig.lens)):
            whole = getattr(plain.slots[0].rig, name)
            for field in (one.name for one in fields(record) if one.compare):
                try:
                    gear = replace(whole, **{field: getattr(record, field)})
                except DomainError:
                    continue  # it needs another beside it
                said.append(replace(plain, slots=(Slot(replace(plain.slots[0].rig, **{name: gear})),)))
        self.assertGreater(len(said), 70)
        for bench in said:
            self.assertEqual(decode(encode(bench)), bench)

    def test_what_cannot_be_read_says_why_and_never_breaks(self):
        good = encode(full_bench())
        body = [[36], "-", None]
        cases = (
            ("", "cut|damaged"), ("!!!", "damaged"), (good[:-9], "cut|damaged"), ("A" * 5000, "too long"),
            (good[:40] + ("A" if good[40] != "A" else "B") + good[41:], "damaged|cut|newer|kind|cannot"),
            (token_of([9, []]), "newer"), (token_of({"a": 1}), "newer"), (token_of([1]), "no bench"),
            (token_of([1, {"x": 1}]), "kind"),
            (token_of([1, [[], [[]] * 7]]), "At most 6 are"), (token_of([1, [[0], [[]]]]), "its distance"),
            (token_of([1, [["2"], [[]]]]), "kind"), (token_of([1, [[True], [[]]]]), "kind"),
            (token_of([1, [[], []]]), "rigs"),
            (token_of([1, [[], [[[], "x" * 61]]]]), "kind"), (token_of([1, [[], [[[body, [50]]]]]]), "kind|cannot"),
            (token_of([1, [[], [[[]]], None, None, 4]]), "reference"),
        )  # fmt: skip
        for token, says in cases:
            with self.subTest(token=token[:40]), self.assertRaisesRegex(LinkError, says):
                decode(token)

    def test_tricks_with_size_and_numbers_are_refused(self):
        bomb = base64.urlsafe_b64encode(zlib.compress(b"[" * 3_000_000, 9)).decode()
        with self.assertRaises(LinkError):
            decode(bomb[:LONGEST_TOKEN])
        for text in ("[1,[[NaN],[[]]]]", "[1,[[1e400],[[]]]]", "[1,[[Infinity],[[]]]]", "[" * 5000):
            token = base64.urlsafe_b64encode(zlib.compress(text.encode())).decode()
            with self.subTest(text=text[:20]), self.assertRaises(LinkError):
                decode(token)

    def test_no_change_of_one_cell_brings_what_no_form_takes(self):
        """Every cell of a link with a fifth of the odd values, each in its turn: refused, or a bench that can be
        compared and is kept by every form.
        """
        odd = (1e5, -1e5, 1e300, 1e-300, True, "x", [], {}, None, 0, -1, 7, "-", "i")
        bench, tried = replace(two_full(), changes=()), 0
        content = json.loads(zlib.decompress(base64.urlsafe_b64decode(encode(bench) + "===")))
        for number, path in enumerate(cells(content[1])):
            for value in odd[number % 5 :: 5]:
                changed = json.loads(json.dumps(content))
                where = changed[1]
                for step in path[:-1]:
                    where = where[step]
                where[path[-1]] = value
                tried += 1
                try:
                    read = decode(token_of(changed))
                except LinkError:
                    continue
                with self.subTest(path=path, value=value):
                    self.assertEqual(list(outside(read)), [])
                    self.assertIs(type(read.reference), int)
                    compare(read.brief, read.rigs, read.hold, read.conventions, read.reference)
        self.assertGreater(tried, 240)

    @given(st.binary(max_size=200))
    def test_any_bytes_end_in_a_message(self, noise):
        for token in (base64.urlsafe_b64encode(noise).decode(), token_of([1, json.loads(json.dumps(list(noise)))])):
            with self.assertRaises(LinkError):
                decode(token)

    def test_a_bench_checks_itself(self):
        bench = full_bench()
        for change in (
            {"slots": ()},
            {"reference": 6},
            {"hold": Hold(lens_of=7)},
            {"title": "x" * 61},
            {"title": "a\nb"},
        ):
            with self.subTest(change=change), self.assertRaises(DomainError):
                replace(bench, **change)


class GearTests(TestCase):
    def test_gear_travels_by_value(self):
        slot = full_bench().slots[0]
        for gear in (
            Gear(body=slot.rig.body, body_name="Tarn Ridgeway"),
            Gear(lens=slot.rig.lens, lens_name="Tarn 50 mm"),
            Gear(slot.rig.body, "Bothy Pocket", slot.rig.lens, "Bothy lens"),
        ):
            self.assertEqual(decode_gear(encode_gear(gear)), gear)

    def test_what_is_no_gear_is_refused(self):
        for token in (
            encode(full_bench()),
            token_of([1, ["a", 5], None]),
            token_of([1, ["a" * 70, [[]]], None]),
            token_of([1, 3, None]),
        ):
            with self.subTest(token=token[:20]), self.assertRaises(LinkError):
                decode_gear(token)

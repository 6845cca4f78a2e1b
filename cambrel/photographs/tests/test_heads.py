"""Heads of files: settings read from any container, in few rounds, as data meets the world, and bounded whatever is
sent.
"""

import struct
import tempfile
import time
import zlib
from contextlib import suppress
from datetime import datetime
from io import BytesIO
from pathlib import Path
from unittest import TestCase

import numpy as np
import pillow_heif
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from cambrel.photographs import child, decoding
from cambrel.photographs.decoding import DecodeError, decode
from cambrel.photographs.heads import HEAD_BYTES, MOST_ROUNDS, Head, read_head
from cambrel.photographs.tags import FileParts, TagError
from cambrel.photographs.taken import taken

NOW = datetime(2026, 11, 26)
PLAIN = {
    0x829A: IFDRational(1, 125), 0x829D: IFDRational(28, 10), 0x8827: 400, 0x9003: "2026:05:04 10:20:30",
    0x920A: IFDRational(350, 10), 0xA405: 52, 0xA434: "Tern 35 mm f/2",
}  # fmt: skip


def exif(settings=PLAIN, model="Pipwren Tern", maker="", **more):
    made = Image.Exif()
    made[0x0110] = model
    if maker:
        made[0x010F] = maker
    for tag, value in more.get("top", {}).items():
        made[tag] = value
    made.get_ifd(0x8769).update(settings)
    made.get_ifd(0x8825).update({1: "N", 2: (51.0, 30.0, 0.0)})
    return made


def picture(kind="JPEG", size=(640, 480), noisy=False, **more):
    pixels = np.full((size[1], size[0], 3), 120, np.uint8)
    if noisy:
        pixels = np.random.default_rng(1).integers(0, 255, pixels.shape, np.uint8)
    out = BytesIO()
    Image.fromarray(pixels).save(out, kind, exif=exif(**more))
    return out.getvalue()


def tiff(order="<", directory_at=8, size=4000):
    """A file built like TIFF by hand, its directories at its head or its tail."""
    text = b"Tern 35 mm f/2\0"
    below_at = directory_at + 2 + 4 * 12 + 4 + 16
    texts_at = below_at + 2 + 6 * 12 + 4
    fractions_at = texts_at + 20

    def entry(tag, kind, count, value):
        held = struct.pack(order + {3: "HH", 4: "I", 2: "I", 5: "I"}[kind], *([value, 0] if kind == 3 else [value]))
        return struct.pack(order + "HHI", tag, kind, count) + held

    first = [
        entry(0x100, 4, 1, 640),
        entry(0x101, 4, 1, 480),
        entry(0x110, 2, 13, directory_at + 54),
        entry(0x8769, 4, 1, below_at),
    ]
    below = [
        entry(0x829A, 5, 1, fractions_at), entry(0x829D, 5, 1, fractions_at + 8), entry(0x8827, 3, 1, 400),
        entry(0x9003, 2, 20, fractions_at + 24), entry(0x920A, 5, 1, fractions_at + 16),
        entry(0xA434, 2, len(text), texts_at),
    ]  # fmt: skip
    body = struct.pack(order + "H", 4) + b"".join(first) + b"\0" * 4 + b"Pipwren Tern\0\0\0\0"
    body += struct.pack(order + "H", 6) + b"".join(below) + b"\0" * 4 + text.ljust(20, b"\0")
    body += struct.pack(order + "6I", 1, 125, 28, 10, 35, 1) + b"2026:05:04 10:20:30\0"
    head = (b"II" if order == "<" else b"MM") + struct.pack(order + "HI", 42, directory_at)
    return (head + b"\0" * (directory_at - 8) + body).ljust(size, b"\0")


def box(kind, content):
    return struct.pack(">I4s", 8 + len(content), kind) + content


def sent(content, rounds=MOST_ROUNDS):
    """Read as a browser sends it: the head, then what is asked for; the settings and the rounds that it took."""
    parts = [(0, content[:HEAD_BYTES])]
    head, count = read_head(FileParts(len(content), parts)), 1
    while head.asked and count < rounds:
        parts += [(start, content[start : start + length]) for start, length in head.asked]
        head, count = read_head(FileParts(len(content), parts)), count + 1
    return taken(head, NOW), count, head


class HeadTests(TestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        pillow_heif.register_heif_opener()

    def test_every_container_is_read_in_few_rounds(self):
        cases = (
            ("JPEG", 1, picture()), ("PNG", 1, picture("PNG")), ("WEBP", 1, picture("WEBP")),
            ("HEIF", 1, picture("HEIF")),
            ("TIFF", 1, tiff()), ("TIFF, the other way round", 1, tiff(">")),
            ("TIFF, at its tail", 3, tiff(directory_at=300_000, size=310_000)),
            ("long PNG", 2, picture("PNG", noisy=True)), ("long WebP", 3, picture("WEBP", noisy=True)),
            ("long HEIF", 3, picture("HEIF", noisy=True)),
        )  # fmt: skip
        for kind, most, content in cases:
            with self.subTest(kind=kind, size=len(content)):
                found, rounds, _ = sent(content)
                self.assertLessEqual(rounds, most)
                self.assertEqual(
                    (found.body, found.lens, found.focal_length_mm, found.f_number, found.shutter_s, found.iso),
                    ("Pipwren Tern", "Tern 35 mm f/2", 35.0, 2.8, 1 / 125, 400.0),
                )
                self.assertEqual(found.at, datetime(2026, 5, 4, 10, 20, 30))
                self.assertEqual((found.wide_px, found.high_px), (640, 480))

    def test_position_serial_numbers_and_names_are_not_even_read(self):
        private = {0xA431: "serial", 0xA430: "somebody", 0xA435: "lens serial", 0x927C: b"maker's own"}
        content = picture(settings=PLAIN | private, top={0x013B: "somebody", 0x8298: "somebody", 0x010E: "caption"})
        found, _, head = sent(content)
        self.assertNotIn("somebody", repr((found, head)))
        self.assertNotIn("serial", repr((found, head)))
        self.assertNotIn("51", repr(head.tags))

    def test_raw_files_of_the_common_builds_say_their_settings(self):
        block = exif().tobytes()[6:]
        # built like TIFF with another number, a preview somewhere in the head, and blocks inside boxes
        other = bytearray(block)
        other[2:4] = struct.pack("<H" if block[:2] == b"II" else ">H", 0x55)
        boxes = (
            struct.pack(">I4s8s", 16, b"ftyp", b"raw     ")
            + struct.pack(">I4s", 24 + len(block), b"moov")
            + b"\0" * 16
            + block
        )
        for name, content in (("tiff", bytes(other)), ("preview", b"RAWHEAD" * 30 + picture()), ("boxes", boxes)):
            with self.subTest(name):
                found, _, _ = sent(content + b"\0" * 3000)
                self.assertEqual((found.body, found.f_number, found.iso), ("Pipwren Tern", 2.8, 400.0))

    def test_raw_files_built_of_boxes_say_exposure_and_size_wherever_the_boxes_stand(self):
        image = tiff(size=400)
        for name, before in (
            ("at once", b""),
            ("far on", box(b"free", b"\0" * 70_000)),
            ("after others", box(b"uuid", b"1" * 16 + b"\0\0\0\x1cmore" * 9)),
        ):
            blocks = box(b"uuid", b"2" * 16 + box(b"ONE ", image))
            content = box(b"ftyp", b"raw     ") + box(b"moov", before + blocks) + b"\0" * 5000
            with self.subTest(name):
                found, _, head = sent(content)
                self.assertEqual((found.f_number, found.shutter_s, found.iso), (2.8, 1 / 125, 400.0))
                self.assertEqual((head.wide_px, head.high_px), (640, 480))

    def test_exif_that_a_program_wrote_into_a_text_of_a_png_is_read(self):
        block = exif().tobytes()
        figures = f"\nexif\n    {len(block)}\n{block.hex()}\n".encode()
        plain = picture("PNG", settings={})
        for name, kind, chunk in (
            ("plain", b"tEXt", b"Raw profile type exif\0" + figures),
            ("packed", b"zTXt", b"Raw profile type APP1\0\0" + zlib.compress(figures)),
        ):
            with self.subTest(name):
                made = struct.pack(">I4s", len(chunk), kind) + chunk + b"\0" * 4
                found, _, _ = sent(plain[:33] + made + plain[33:])
                self.assertEqual((found.body, found.f_number), ("Pipwren Tern", 2.8))
        bomb = b"Raw profile type exif\0\0" + zlib.compress(b"\n" * 50_000_000)
        made = struct.pack(">I4s", len(bomb), b"zTXt") + bomb + b"\0" * 4
        self.assertIsNone(sent(plain[:33] + made + plain[33:])[0].f_number)

    def test_the_worst_heads_are_read_in_no_time(self):
        directory = b"II*\0" + struct.pack("<IH", 8, 512) + struct.pack("<HHII", 0x8769, 4, 1, 8) * 512
        worst = (
            b"XXXX" + b"II*\0" * 262_143,
            b"XXXX" + b"MM\0*" * 262_143,
            b"XXXX" + directory * 170,
            b"\xff\xd8\xff" + b"\xe1\0\2\xff" * 200_000,
        )
        begun = time.thread_time()
        for content in worst * 8:
            with suppress(TagError):
                read_head(FileParts(len(content), [(0, content)]))
        self.assertLess(time.thread_time() - begun, 2.0)

    def test_figures_as_data_meets_the_world(self):
        cases = (
            # what stands in the file, what is believed of it, what is said
            ({0x829D: IFDRational(0, 10)}, {"f_number": None}, ""),
            ({0x829D: IFDRational(0, 0)}, {"f_number": None}, ""),
            ({0x829D: IFDRational(0, 1), 0x9202: IFDRational(4, 1)}, {"f_number": 4.0}, ""),
            ({0x829D: IFDRational(65535, 1)}, {"f_number": None}, "f-number makes no sense"),
            ({0x829A: IFDRational(0, 1), 0x9201: IFDRational(5, 1)}, {"shutter_s": 1 / 32}, ""),
            ({0x829A: IFDRational(4_000_000, 1)}, {"shutter_s": None}, "shutter time makes no sense"),
            ({0x8827: 65535, 0x8832: 102400}, {"iso": 102400.0}, ""),
            ({0x8827: 0}, {"iso": None}, ""),
            ({0x920A: IFDRational(0, 1), 0xA405: 0}, {"focal_length_mm": None, "focal_35_mm": None}, ""),
            ({0x920A: IFDRational(50000, 1)}, {"focal_length_mm": None}, "focal length makes no sense"),
            ({0x9003: "2099:01:01 00:00:00"}, {"at": None}, "2099"),
            ({0x9003: "0000:00:00 00:00:00"}, {"at": None}, ""),
            ({0x9003: "2026:02:31 10:00:00"}, {"at": None}, ""),
            ({0x9003: "2026-05-04T10:20"}, {"at": datetime(2026, 5, 4, 10, 20)}, ""),
            ({0xA434: "<script>alert(1)</script>\x07\n two  lines"}, {"lens": "<script>alert(1)</script> two lines"},
                ""),
            ({0xA002: 6000, 0xA003: 4000}, {"is_resized": True, "wide_px": 640}, "6,000 × 4,000"),
            ({0xA002: 640, 0xA003: 480}, {"is_resized": False}, ""),
        )  # fmt: skip
        for settings, believed, says in cases:
            with self.subTest(settings=settings):
                found, _, _ = sent(picture(settings=PLAIN | settings))
                self.assertEqual({key: getattr(found, key) for key in believed}, believed)
                self.assertEqual(bool(found.notes), bool(says), found.notes)
                self.assertIn(says, " ".join(found.notes))
        for tags, figure in (
            ({"f_number": "2,8"}, 2.8),
            ({"f_number": "f/4"}, 4.0),
            ({"focal_mm": "35,5 mm"}, 35.5),
            ({"iso": "auto"}, None),
        ):
            with self.subTest(tags=tags):
                found = taken(Head("JPEG", tags), NOW)
                self.assertEqual(
                    (found.f_number, found.focal_length_mm, found.iso)[("f_number", "focal_mm", "iso").index(*tags)],
                    figure,
                )

    def test_rotated_once_and_the_maker_said_once(self):
        for turn in range(1, 9):
            found, _, _ = sent(picture(top={0x0112: turn}, maker="Pipwren Works", model="Pipwren Tern"))
            seen = (480, 640) if turn >= 5 else (640, 480)
            self.assertEqual((found.wide_px, found.high_px, found.body), (*seen, "Pipwren Tern"), turn)
        found, _, _ = sent(picture(maker="Holm Optical", model="K 3"))
        self.assertEqual(found.body, "Holm Optical K 3")

    def test_a_value_that_is_longer_than_any_setting_is_passed_over(self):
        content = bytearray(tiff())
        at = content.index(struct.pack("<HH", 0xA434, 2))
        content[at + 4 : at + 8] = struct.pack("<I", 3000)
        found, _, head = sent(bytes(content))
        self.assertNotIn("lens", head.tags)
        self.assertEqual((found.lens, found.iso), ("", 400.0))

    def test_whatever_is_sent_is_read_in_bounded_time_and_never_breaks(self):
        random = np.random.default_rng(7)
        seeds = [picture(kind) for kind in ("JPEG", "PNG", "WEBP", "HEIF")] + [
            tiff(),
            tiff(">"),
            b"",
            b"II*\0",
            b"\xff\xd8\xff",
            b"RIFF\0\0\0\0WEBP",
        ]
        loop = b"II*\0\x08\0\0\0" + struct.pack("<H", 400) + struct.pack("<HHII", 0x8769, 4, 1, 8) * 400
        worst = 0.0
        for k in range(1500):
            content = bytearray(seeds[k % len(seeds)] if k else loop)
            for _ in range(int(random.integers(0, 12))):
                if content:
                    content[int(random.integers(0, min(len(content), 4000)))] = int(random.integers(0, 256))
            content = (
                bytes(content[: int(random.integers(0, len(content) + 1))]) if k % 3 == 0 and k else bytes(content)
            )
            size = len(content) if k % 5 else 10**12
            start = time.thread_time()
            try:
                head = read_head(FileParts(size, [(0, content[:HEAD_BYTES])]))
            except TagError:
                continue
            finally:
                worst = max(worst, time.thread_time() - start)
            taken(head, NOW)
            self.assertLessEqual(len(head.asked), 8)
            self.assertTrue(all(at >= 0 and at + length <= size for at, length in head.asked))
        self.assertLess(worst, 1.0)


class DecodingTests(TestCase):
    tags = frozenset({"long"})

    def setUp(self):
        pillow_heif.register_heif_opener()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def decoded(self, content, **more):
        file = self.folder / "file"
        file.write_bytes(content)
        return decode(file, self.folder / "out.npy", **more)

    def test_pixels_come_back_turned_the_way_they_are_looked_at(self):
        stored = np.random.default_rng(2).integers(0, 255, (child.ROWS * 2 + 5, 7, 3), np.uint8)
        for turn in range(1, 9):
            with self.subTest(turn=turn):
                made, out = Image.Exif(), BytesIO()
                made[0x0112] = turn
                Image.fromarray(stored).save(out, "PNG", exif=made)
                swapped = stored.swapaxes(0, 1)
                wanted = {
                    1: stored, 2: stored[:, ::-1], 3: stored[::-1, ::-1], 4: stored[::-1],
                    5: swapped, 6: swapped[:, ::-1], 7: swapped[::-1, ::-1], 8: swapped[::-1],
                }[turn]  # fmt: skip
                np.testing.assert_array_equal(self.decoded(out.getvalue()).pixels(), wanted)

    def test_the_quality_of_a_jpeg_is_read_from_its_tables(self):
        for quality in (60, 80, 92):
            out = BytesIO()
            Image.fromarray(np.full((32, 32, 3), 90, np.uint8)).save(out, "JPEG", quality=quality)
            self.assertAlmostEqual(self.decoded(out.getvalue()).quality, quality, delta=2)
        self.assertIsNone(self.decoded(picture("PNG")).quality)
        for kind in ("HEIF", "TIFF", "WEBP"):
            self.assertEqual(self.decoded(picture(kind)).pixels().shape, (480, 640, 3))

    def test_hostile_files_get_a_message_and_bounded_means(self):
        bomb = BytesIO()
        Image.new("1", (30_000, 30_000)).save(bomb, "PNG")
        lying = bytearray(picture("PNG"))
        lying[16:24] = struct.pack(">II", 2**30, 2**30)
        lying[29:33] = struct.pack(">I", zlib.crc32(lying[12:29]))
        script = b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>"
        cases = (
            (bomb.getvalue(), "more than 120 megapixels"),
            (bytes(lying), "120 megapixels"),
            (picture()[:900], "cut short or damaged"),
            (script, "not a picture that can be read here"),
            (b"", "not a picture that can be read here"),
            (b"GIF89a" + b"\0" * 40, "not a picture that can be read here"),
            (picture("AVIF"), "not a picture that can be read here"),
        )
        for content, says in cases:
            with self.subTest(says=says, start=content[:12]), self.assertRaisesRegex(DecodeError, says):
                self.decoded(content)
            self.assertFalse((self.folder / "out.npy").exists())
        file = self.folder / "large"
        with file.open("wb") as out:
            out.truncate(decoding.MOST_BYTES + 1)
        with self.assertRaisesRegex(DecodeError, "40 MB"):
            decode(file, self.folder / "out.npy")

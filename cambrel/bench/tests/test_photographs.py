"""From a photograph to a bench: twenty files as cameras write them, what a file does not say, and what it may send."""

import json
import struct
from urllib.parse import parse_qs, urlsplit

import pillow_heif
from django.test import TestCase, tag
from PIL.TiffImagePlugin import IFDRational

from cambrel.bench.photograph_gear import named_as
from cambrel.bench.sample_benches import home_bench
from cambrel.comparison.photographed import SAME_PICTURE
from cambrel.links.benches import decode, encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.photographs.heads import HEAD_BYTES
from cambrel.photographs.tests.test_heads import PLAIN, exif, picture
from cambrel.shelf.demo import load_demo
from cambrel.shelf.models import Body, Lens

AT = {0x9206: IFDRational(3, 1)}
"""Three metres away."""
TARN = PLAIN | AT | {0x920A: IFDRational(50, 1), 0xA405: 50, 0xA434: "Tarn 50 mm f/1.8"}
TERN = PLAIN | AT | {0x920A: IFDRational(25, 1), 0xA405: 50, 0xA434: "Pipwren 12-40 mm f/2.8"}
PHONE = PLAIN | AT | {0x920A: IFDRational(69, 10), 0xA405: 25, 0x829D: IFDRational(17, 10), 0xA434: "main"}
STRANGE = PLAIN | AT | {0x920A: IFDRational(35, 1), 0xA405: 53}


def raw(settings, model):
    """A file of raw values: a head of its own, and somewhere in it a preview with the settings."""
    return b"RAWHEAD" * 30 + picture(settings=settings, model=model) + b"\0" * 3000


def tiff_like(settings, model):
    block = bytearray(exif(settings, model).tobytes()[6:])
    block[2:4] = struct.pack("<H" if block[:2] == b"II" else ">H", 0x55)
    return bytes(block) + b"\0" * 3000


ROADS = {
    "JPEG": lambda settings, model: picture(settings=settings, model=model),
    "HEIF": lambda settings, model: picture("HEIF", settings=settings, model=model),
    "TIFF": lambda settings, model: (
        exif(settings, model, top={0x100: 640, 0x101: 480}).tobytes()[6:].ljust(4000, b"\0")
    ),
    "raw with a preview": raw,
    "raw like TIFF": tiff_like,
}
CAMERAS = {
    "Tarn Ridgeway": (TARN, "Tarn Ridgeway", "Tarn 50 mm f/1.8"),
    "Pipwren Tern": (TERN, "Pipwren Tern", "Pipwren 12-40 mm f/2.8"),
    "Sorrel Nine phone": (PHONE, "Sorrel Nine phone", None),
    "Coppice K2": (STRANGE, "APS-C", "any lens"),
}


class PhotographTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        pillow_heif.register_heif_opener()
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)

    def head_of(self, content):
        """What the server says of a file, asked as a browser asks."""
        parts = [(0, min(HEAD_BYTES, len(content)))]
        for rounds in range(1, 5):
            says = [{"id": 0, "size": len(content), "rounds": rounds, "parts": parts}]
            files = [self.file(content[start : start + length]) for start, length in parts]
            answer = self.client.post("/photograph/heads/", {"says": json.dumps(says), "part": files})
            self.assertEqual(answer.status_code, 200)
            (said,) = answer.json()["files"]
            if "asked" not in said:
                return said
            parts += [tuple(part) for part in said["asked"]]
        return said

    def file(self, content):
        from django.core.files.uploadedfile import SimpleUploadedFile

        return SimpleUploadedFile("part", content)

    def bench_at(self, response):
        self.assertEqual(response.status_code, 302, response.content[:3000])
        query = parse_qs(urlsplit(response["Location"]).query)
        return decode(query["b"][0]), query.get("photo", [""])[0]

    @tag("long")
    def test_twenty_files_lead_to_the_bench_that_they_are(self):
        for road, made in ROADS.items():
            for model, (settings, body, lens) in CAMERAS.items():
                with self.subTest(road=road, model=model):
                    said = self.head_of(made(settings, model))
                    self.assertEqual(said["name"], "Photograph, 4 May 2026, 10:20:30")
                    query = said["query"] + ("&go=1&camera=aps-c" if body == "APS-C" else "")
                    bench, photo = self.bench_at(self.client.get(f"/photograph/?{query}"))
                    first, f_number = bench.slots[0], settings[0x829D]
                    self.assertEqual((first.body_name, photo), (body, "1"))
                    if lens:
                        self.assertEqual(first.lens_name, lens)
                    else:
                        fixed = Lens.objects.filter(fixed_to__name=body)
                        self.assertIn(first.lens_name, fixed.values_list("name", flat=True))
                    rig = first.rig
                    self.assertEqual((rig.shutter_s, rig.iso), (1 / 125, 400))
                    self.assertAlmostEqual(rig.f_number, float(f_number))
                    self.assertAlmostEqual(rig.focal_length_mm, float(settings[0x920A]))
                    self.assertEqual((bench.brief.distance_m, bench.hold), (3, SAME_PICTURE))
                    self.assertNotIn(body, [slot.body_name for slot in bench.slots[1:]])
                    self.assertGreaterEqual(len(bench.slots), 2)
                    page = self.client.get(f"/?b={encode(bench)}&photo=1")
                    self.assertContains(page, 'data-verdict="photographed"')
                    self.assertContains(page, f'data-name="{said["name"]}"')

    def test_what_a_file_does_not_say_is_asked_once_with_what_it_does_say_kept(self):
        bare = self.head_of(picture(settings={}, model=""))
        page = self.client.get(f"/photograph/?{bare['query']}")
        self.assertContains(page, "Its file does not say how it was taken. Give what you know.")
        silent = {tag: value for tag, value in TARN.items() if tag != 0x9206}
        no_distance = self.head_of(picture(settings=silent, model="Tarn Ridgeway"))
        page = self.client.get(f"/photograph/?{no_distance['query']}")
        self.assertContains(page, "Its file does not say how far away the subject was. The distance below is a guess.")
        self.assertContains(page, 'value="1/125"')
        self.assertContains(page, f'value="{home_bench().brief.distance_m:g}"')
        strange = self.head_of(picture(settings={k: v for k, v in STRANGE.items() if k != 0x8827}, model="Coppice K2"))
        page = self.client.get(f"/photograph/?{strange['query']}")
        self.assertContains(page, "Its file does not say the ISO.")
        self.assertContains(
            page, "“Coppice K2” is not on your shelf. By its equivalent focal length, 53\u00a0mm, it is APS-C."
        )
        self.assertNotContains(page, "is a guess")

    def test_what_is_typed_is_read_as_everywhere_and_a_mistake_keeps_it(self):
        body = Body.objects.get(owner=self.owner, name="Tarn Ridgeway")
        typed = {
            "camera": f"body-{body.pk}",
            "focal_length_mm": "5 cm",
            "f_number": "f/2",
            "shutter_s": "1/250",
            "iso": "800",
            "distance_m": "10 ft",
            "go": "1",
        }
        bench, _ = self.bench_at(self.client.get("/photograph/", typed))
        rig = bench.rigs[0]
        self.assertEqual((rig.focal_length_mm, rig.f_number, rig.shutter_s, rig.iso), (50, 2, 1 / 250, 800))
        self.assertAlmostEqual(bench.brief.distance_m, 3.048)
        for wrong, says in (
            ({"iso": ""}, "Give the ISO."), ({"f_number": ""}, "Give the f-number."),
            ({"shutter_s": ""}, "Give the shutter time, such as 1/125."),
            ({"distance_m": ""}, "Give a distance, such as 2 m. A guess is enough."),
            ({"f_number": "f/0"}, "f/0"),
            ({"distance_m": "4 cm"}, "Nothing is sharp nearer"),
            ({"camera": "body-999999"}, "Choose one of the answers offered."), ({"shutter_s": "1e400"}, "1e400"),
            ({"camera": ""}, "Choose a camera, or its format."), ({"focal_length_mm": "nan"}, "nan"),
        ):  # fmt: skip
            page = self.client.get("/photograph/", typed | wrong)
            self.assertContains(page, says, status_code=422)
            self.assertContains(page, f'value="{(typed | wrong)["distance_m"]}"', status_code=422)

    def test_a_flash_and_a_tall_picture_are_seen(self):
        said = self.head_of(picture(size=(480, 640), settings=TARN | {0x9209: 9}, model="Tarn Ridgeway"))
        bench, photo = self.bench_at(self.client.get(f"/photograph/?{said['query']}"))
        self.assertEqual((photo, bench.brief.upright), ("flash", True))
        self.assertEqual(bench.brief.light_ev, home_bench().brief.light_ev)
        page = self.client.get(f"/?b={encode(bench)}&photo={photo}")
        self.assertContains(page, "A flash lit it, so its exposure says nothing of the light.")

    def test_the_other_cameras_are_those_of_the_bench_or_one_of_the_shelf(self):
        said = self.head_of(picture(settings=TARN, model="Tarn Ridgeway"))
        bench, _ = self.bench_at(self.client.get(f"/photograph/?{said['query']}&b={encode(home_bench())}"))
        self.assertEqual(
            [slot.body_name for slot in bench.slots], ["Tarn Ridgeway", "Pipwren Tern", "Sorrel Nine phone"]
        )
        alone = encode(type(bench)(bench.brief, bench.slots[:1]))
        bench, _ = self.bench_at(self.client.get(f"/photograph/?{said['query']}&b={alone}"))
        self.assertEqual(len(bench.slots), 2)
        self.assertTrue(bench.rigs[1].lens.is_ad_hoc)

    def test_another_picture_ends_it_and_its_sentence_says_why(self):
        said = self.head_of(picture(settings=TARN, model="Tarn Ridgeway"))
        bench, _ = self.bench_at(self.client.get(f"/photograph/?{said['query']}"))
        why = self.client.get("/why/", {"b": encode(bench), "verdict": "photographed", "rig": "1"})
        self.assertContains(why, "The same view, the same depth of field and the same shutter time")
        after = self.client.get("/", {"b": encode(bench), "photo": "1", "action": "brief:gauge-face"})
        self.assertNotIn("photo", after["Location"])

    def test_what_is_sent_wrongly_is_refused_and_what_an_address_says_wrongly_left_out(self):
        for says in ("", "[]", '[{"id": 1}]', "{"):
            self.assertEqual(self.client.post("/photograph/heads/", {"says": says}).status_code, 400)
        self.assertEqual(self.head_of(b"no picture at all")["problem"][:5] != "", True)
        for query in (
            "iso=nan",
            "iso=1e400",
            "f_number=0",
            "at=never",
            "wide_px=-4",
            "b=broken",
            "distance_m=inf",
            "body=" + "x" * 500,
        ):
            self.assertEqual(self.client.get(f"/photograph/?{query}").status_code, 200, query)

    def test_a_name_is_the_one_with_the_fewest_other_words(self):
        bodies = [Body(name=name) for name in ("Tarn Ridgeway Fine", "Tarn Ridgeway", "Pipwren Tern")]
        for name, found in (
            ("TARN RIDGEWAY", "Tarn Ridgeway"), ("Ridgeway", "Tarn Ridgeway"),
            ("Tarn Ridgeway-Fine", "Tarn Ridgeway Fine"),
            ("Ridge", None), ("", None),
        ):  # fmt: skip
            self.assertEqual(getattr(named_as(name, bodies), "name", None), found, name)

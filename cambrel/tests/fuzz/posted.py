"""What is posted as files and JSON: documents, tables, rows, heads and packed scenes, sound in part and wrong in one or
a few places.
"""

import io
import json
import random
import struct
import zipfile

from django.core.files.uploadedfile import SimpleUploadedFile

from cambrel.field.scene_files import FIGURES
from cambrel.field.sheet_shapes import BACK
from cambrel.owners.sections import SECTIONS

ODD = (
    "50mm", "heavy", "", " ", "\x00", "\ud800", "a\ud83dz", "../../secret_key", "x" * 5000, "9999-12-31T23:59:59-23:59",
    "0001-01-01T00:00:00+23:59",
    "2026-13-45T99:00:00", "=1+1", "🚂", 0, -1, 1, 0.5, 1e308, 5e-324, 10**4000, True, False, None, [], {}, [1],
    [[1, 2]], [[0, 0]], {"a": 1},
    ["a"], [None], [[[[[[[[[[1]]]]]]]]]], float("nan"), float("inf"), -float("inf"), "a" * 32, "2026-05-04 10:20:30",
    "noise-0-0",
)  # fmt: skip
HEADS = (
    b"", b"II*\0", b"MM\0*\0\0\0\x08", b"\xff\xd8\xff\xe1\xff\xff", b"\x89PNG\r\n\x1a\n" + b"\0" * 40,
    b"RIFF\xff\xff\xff\xffWEBPVP8X",
    struct.pack(">I4s", 8, b"ftyp") * 200, b"XXXX" + b"II*\0" * 9000, bytes(range(256)) * 20,
)  # fmt: skip


class Posted:
    """Posts one after the other, as (address, what is sent)."""

    def __init__(self, seed, sheet, shots):
        self.rnd, self.sheet, self.shots = random.Random(seed), sheet, shots

    def next(self):
        return self.rnd.choice(
            (
                self.document,
                self.document,
                self.document,
                self.table,
                self.row,
                self.rows,
                self.heads,
                self.scenes,
                self.tick,
                self.seen,
            )
        )()

    def odd(self):
        return self.rnd.choice(ODD)

    def typed(self, longest):
        """What a field is sent as."""
        return str(self.odd()).encode("utf-8", "replace").decode()[:longest]

    def of(self, schema):
        """A value that stands up to a schema, more or less."""
        if self.rnd.random() < 0.12:
            return self.odd()
        if "enum" in schema:
            return self.rnd.choice(schema["enum"])
        kind = schema.get("type", "string")
        kind = self.rnd.choice(kind) if isinstance(kind, list) else kind
        if kind == "object":
            return {name: self.of(one) for name, one in schema.get("properties", {}).items() if self.rnd.random() < 0.8}
        if kind == "array":
            return [self.of(schema.get("items", {})) for _ in range(self.rnd.randint(0, 3))]
        plain = {
            "number": self.rnd.choice((0.5, 2, 50, 1000)),
            "integer": self.rnd.randint(0, 50),
            "boolean": True,
            "null": None,
        }
        return plain.get(kind, self.rnd.choice(("Tarn", "Fen 40", "f/2", "2026-05-04", "a" * 12)))

    def file(self, name, content):
        text = json.dumps(content, ensure_ascii=True) if not isinstance(content, bytes | str) else content
        return SimpleUploadedFile(name, text if isinstance(text, bytes) else text.encode("utf-8", "surrogatepass"))

    def document(self):
        sections = {}
        for key in self.rnd.sample(list(SECTIONS), self.rnd.randint(1, 4)):
            rows = [self.of(SECTIONS[key].schema) for _ in range(self.rnd.randint(0, 4))]
            sections[key if self.rnd.random() < 0.95 else self.rnd.choice(("\ud800", "x", ""))] = rows
        whole = {"cambrel": 1, "sections": sections}
        if self.rnd.random() < 0.1:
            whole = self.rnd.choice(
                ([], [whole], {"cambrel": 1, "sections": []}, {"cambrel": True, "sections": sections}, {"cambrel": 1})
            )
        return "/shelf/import/", {"files": self.file("shelf.json", whole)}

    def table(self):
        key = self.rnd.choice(list(SECTIONS))
        names = self.rnd.sample(list(SECTIONS[key].schema["properties"]), 3)
        lines = [",".join(["name", *names])] + [",".join(str(self.odd())[:400] for _ in range(4)) for _ in range(4)]
        where = self.rnd.choice(("/shelf/import/", "/field/habits/table/"))
        return where, {"files" if "import" in where else "file": self.file("t.csv", "\n".join(lines))}

    def row(self):
        return f"/field/{self.sheet}/bring/", {"row": json.dumps(self.of(BACK))}

    def rows(self):
        row = {"taken_at": "2026-05-04 10:20:30", "body": "Tarn", "f_number": 2.8, "wide_px": 6000}
        rows = [row | {self.rnd.choice(list(row)): self.odd()} for _ in range(3)]
        return "/field/habits/log/", {"rows": self.file("rows", self.rnd.choice((rows, rows, self.odd())))}

    def heads(self):
        content = self.rnd.choice(HEADS)
        says = [{"id": 0, "size": len(content), "rounds": 1, "parts": [[0, len(content)]]}]
        if self.rnd.random() < 0.5:
            says[0][self.rnd.choice(list(says[0]))] = self.odd()
        return "/field/heads/", {"says": json.dumps(says), "part": self.file("part", content)}

    def scenes(self):
        row = {"key": "a" * 12, "name": "A", "background": "a"} | dict.fromkeys(FIGURES, 2.0)
        row[self.rnd.choice(list(row))] = self.odd()
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", self.rnd.choice((0, 8, 12, 14))) as archive:
            archive.writestr("scenes.json", json.dumps({"cambrel_scenes": 1, "scenes": [row]}))
            archive.writestr("a", b"no picture")
        content = bytearray(out.getvalue())
        for _ in range(self.rnd.choice((0, 0, 1, 5))):
            content[self.rnd.randrange(len(content))] = self.rnd.randrange(256)
        return "/field/scenes/bring/", {"file": self.file("s.zip", bytes(content))}

    def tick(self):
        return f"/field/{self.sheet}/take/", {
            "shot": self.rnd.choice(self.shots),
            "at": self.typed(100),
            "done": self.rnd.choice("01"),
        }

    def seen(self):
        key = self.rnd.choice(self.shots)
        return f"/field/{self.sheet}/seen/{key}/", {
            f"{key}-{name}": self.typed(50) for name in ("near", "far", "step", "value")
        }

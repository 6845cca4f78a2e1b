"""The pixels of a picture file, decoded in a process of its own with bounded memory and time, and left in a file as
bytes of an array.
"""

from __future__ import annotations

import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from cambrel.bounds.doors import DOORS
from cambrel.bounds.lanes import BusyError, Lane
from cambrel.photographs.light import Codes

MOST_BYTES = DOORS["decoding"].most_bytes
MOST_SECONDS = int(DOORS["decoding"].seconds)
ALONE = {"OMP_NUM_THREADS": "1", "OPENBLAS_NUM_THREADS": "1", "VIPS_CONCURRENCY": "1", "VIPS_BLOCK_UNTRUSTED": "1"}
_LANE = Lane("decoding")


class DecodeError(ValueError):
    """A file whose pixels are not read; the message says why."""


@dataclass(frozen=True)
class Decoded:
    """quality: of the JPEG, 0 to 100; None for what is kept without loss; pixels: height x width x channels in the file
    at `path`.
    """

    path: Path
    quality: float | None

    def pixels(self) -> Codes:
        mapped: Codes = np.load(self.path, mmap_mode="r")
        return mapped


def decode(file: Path, into: Path, *, with_alpha: bool = False, most_side_px: int = 0) -> Decoded:
    """Decode a picture file, turned the way it is looked at.

    Parameters
        file: as it came; into: where the array is written
        with_alpha: keep transparency as a fourth channel
        most_side_px: made smaller so that neither side is longer; 0 keeps all
    Raises
        DecodeError
    """
    size = file.stat().st_size
    if size > MOST_BYTES:
        raise DecodeError(f"It is larger than {MOST_BYTES // 2**20} MB, so its pixels are not read.")
    command = [
        sys.executable,
        "-m",
        "cambrel.photographs.child",
        str(file),
        str(into),
        str(int(with_alpha)),
        str(most_side_px),
    ]
    try:
        with _LANE.turn():
            done = subprocess.run(
                command,
                capture_output=True,
                timeout=2 * MOST_SECONDS,
                check=False,
                cwd=Path(__file__).parents[2],
                env=ALONE,
            )
    except BusyError:
        raise DecodeError("Too many pictures are being read just now. Send it again in a moment.") from None
    except subprocess.TimeoutExpired:
        into.unlink(missing_ok=True)
        raise DecodeError("It takes too long to decode.") from None
    said = done.stdout.decode("utf-8", "replace").strip()
    if done.returncode == 0 and said.startswith("ok "):
        quality = said.split()[1]
        return Decoded(into, None if quality == "-" else float(quality))
    into.unlink(missing_ok=True)
    raise DecodeError(
        said if done.returncode == 3 and said else "It takes more time or memory to decode than it is given."
    )

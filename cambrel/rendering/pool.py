"""Pictures drawn in processes of their own, so that whoever only reads pages is not kept waiting by them."""

from __future__ import annotations

from pathlib import Path

import cv2

from cambrel.bounds.lanes import Crew
from cambrel.rendering.cutouts import Shop
from cambrel.rendering.render import encode, finish, render
from cambrel.rendering.take import Take

_shop: Shop | None = None


def _prepare(folder: Path) -> None:
    """What a process needs before its first picture. One core a picture: several are drawn at once."""
    global _shop
    cv2.setNumThreads(1)
    _shop = Shop(folder)


def _draw(view: Take, kind: str) -> bytes:
    assert _shop is not None
    try:
        return encode(finish(render(view, _shop), view), kind)
    except cv2.error as error:
        if error.code == cv2.Error.StsNoMem:
            raise MemoryError from error
        raise


class RenderPool(Crew):
    """Who draws.

    folder: where the cut-outs are kept
    processes: how many draw at once; 0 draws in threads of this process
    """

    def __init__(self, folder: Path, processes: int) -> None:
        super().__init__("drawing", processes, _prepare, (folder,))

    def draw(self, view: Take, kind: str) -> bytes:
        """The file of a picture; call it within a turn.

        Raises
            OverrunError
        """
        return self.run(_draw, view, kind)

"""Bake the drawings of all scenes, so that nobody waits for the first picture of one. Runs beside the application, at
low priority.
"""

import multiprocessing
import os
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

from django.core.management.base import BaseCommand

from cambrel.rendering.cutouts import Shop
from cambrel.scenes import USUAL, scenes

LAST = 19
"""Even those who draw go first."""


def _bake(folder: Path, slug: str, art: str) -> None:
    Shop(folder).sheet(slug, art)


class Command(BaseCommand):
    help = __doc__

    def handle(self, **options: object) -> None:
        from cambrel.pictures.views import shop  # not in the processes that bake, which load no applications

        here = shop()
        here.sweep()
        usual_first = sorted(scenes().values(), key=lambda scene: scene.slug != USUAL)
        drawings = [(here.folder, scene.slug, layer.art) for scene in usual_first for layer in scene.layers]
        context = multiprocessing.get_context("spawn")
        with ProcessPoolExecutor(min(2, os.cpu_count() or 1), context, os.nice, (LAST,)) as bakers:
            list(bakers.map(_bake, *zip(*drawings, strict=True)))
        self.stdout.write(f"{len(drawings)} drawings are baked.")

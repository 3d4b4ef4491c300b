"""The cover read after its picture was moved and after its words were, and a place sought for a stack.

Held against Pillow and LittleCMS turning as many pixels of four inks into L*a*b* and back into screen colours.
"""

import time
from collections.abc import Callable, Iterator
from io import BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from PIL import Image, ImageCms

from benchmarks.report import line, medians
from half_fold.core.compiled.compiling import load
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.legibility.calm import calm_of
from half_fold.core.legibility.reading import Read, read_surface
from half_fold.core.legibility.remedies import places
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.colour.colour import COATED, shipped_profile
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.demo import make_demo
from half_fold.core.store.job import read as read_job

RUNS = 9


def run() -> None:
    load()
    setter = Setter()
    with TemporaryDirectory() as folder:
        file = make_demo(Path(folder))
        job, pictures = read_job(file), file.parent / "pictures"

        def told(of: Publication) -> Read:
            return read_surface(surface_of_side(of, pictures, "outside", setter))

        theirs = _theirs(told(job).ground.light.shape)
        for words, path in (
            ("its picture was drawn closer", "block.c1.closer"),
            ("its words moved", "block.c4.across"),
        ):
            steps = iter(range(1, 3 * RUNS))

            def ours(path: str = path, steps: Iterator[int] = steps) -> float:
                step = next(steps)
                value = f"{1 + step / 50}" if "closer" in path else f"{20 + step / 4}mm"
                changed = set_paths(job, [f"{path}={value}"])
                begun = time.perf_counter()
                told(changed)
                return time.perf_counter() - begun

            ours()
            line("cover", *medians(ours, theirs, RUNS), f"read after {words} (bar: 150 ms)")

        def sought() -> float:
            begun = time.perf_counter()
            sheet = surface_of_side(job, pictures, "outside", setter)
            places(sheet, "c4")
            calm_of(read_surface(sheet), "c4")
            return time.perf_counter() - begun

        line("cover", *medians(sought, theirs, RUNS), "a place found for a stack (bar: 1 s)")


def _theirs(shape: tuple[int, ...]) -> Callable[[], float]:
    inks = np.random.default_rng(1).integers(0, 256, (*shape, 4), np.uint8)
    image = Image.fromarray(inks, "CMYK")
    press = ImageCms.ImageCmsProfile(BytesIO(shipped_profile(COATED)))
    there = ImageCms.buildTransform(press, ImageCms.createProfile("LAB"), "CMYK", "LAB")
    back = ImageCms.buildTransform(ImageCms.createProfile("LAB"), ImageCms.createProfile("sRGB"), "LAB", "RGB")

    def theirs() -> float:
        begun = time.perf_counter()
        ImageCms.applyTransform(ImageCms.applyTransform(image, there), back)
        return time.perf_counter() - begun

    return theirs

"""Photographs of 24 megapixels for the press, against LittleCMS alone converting the same reduced pixels, both on all
processors."""

import io
import os
import tempfile
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageCms, ImageFilter

from benchmarks.report import line

COUNT, FILES, SIZE, PAGE = 100, 12, (6000, 4000), (632.0, 421.0)  # points: a page of 223 x 148 mm


def draw_photo(path: Path, seed: int) -> None:
    """Smooth shapes with grain, as a camera gives them."""
    chance = np.random.default_rng(seed)
    coarse = Image.fromarray(chance.integers(0, 255, (40, 60, 3), np.uint8)).resize(SIZE, Image.Resampling.BICUBIC)
    grain = Image.fromarray(chance.normal(128, 18, (SIZE[1], SIZE[0], 3)).clip(0, 255).astype(np.uint8))
    Image.blend(coarse, grain.filter(ImageFilter.GaussianBlur(0.8)), 0.35).save(path, quality=92)


def run() -> None:
    from half_fold.core.compiled.compiling import load
    from half_fold.core.drawing.marks import PictureMark as Mark
    from half_fold.core.measure.rect import Rect
    from half_fold.core.pictures.colour.colour import COATED, shipped_profile
    from half_fold.core.pictures.colour.treat import drawn_key
    from half_fold.core.press.pdf.images import made_images
    from half_fold.core.press.pdf.seen import part_of
    from half_fold.core.publication.records import Picture, Treatment

    load()
    profile = shipped_profile(COATED)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        os.environ["XDG_CACHE_HOME"] = str(folder / "cache")
        pictures = []
        for index in range(COUNT):
            if index < FILES:
                draw_photo(folder / f"{index}.jpg", index)
            pictures.append(
                Picture(
                    id=str(index), file=f"{index % FILES}.jpg", width=SIZE[0], height=SIZE[1], digest=str(index % FILES)
                )
            )
        page = Rect(0, 0, *PAGE)
        look = Treatment(exposure=0.2, contrast=20, warmth=8, saturation=12, sharpen=60)
        marks = [Mark(drawn_key(p.id, replace(look, exposure=0.01 * i)), page, page) for i, p in enumerate(pictures)]
        asked = [(p, part_of(m, page, SIZE), profile, 300.0) for p, m in zip(pictures, marks, strict=True)]
        begun = time.perf_counter()
        octets = sum(len(made.octets) for made in made_images(folder, asked))
        ours = time.perf_counter() - begun
        part = asked[0][1]
        through = ImageCms.buildTransform(
            ImageCms.createProfile("sRGB"), ImageCms.getOpenProfile(io.BytesIO(profile)), "RGB", "CMYK",
            ImageCms.Intent.RELATIVE_COLORIMETRIC, flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
        )  # fmt: skip
        reduced = [Image.open(folder / p.file).resize((part.across, part.down)) for p in pictures[:FILES]]
        begun = time.perf_counter()
        with ThreadPoolExecutor(2) as workers:
            list(workers.map(lambda at: ImageCms.applyTransform(reduced[at % FILES], through), range(COUNT)))
        theirs = time.perf_counter() - begun
    size = octets / COUNT / 1e6
    line(
        "photos",
        ours,
        theirs,
        f"{COUNT} of 24 megapixels, treated and sharpened, {size:.1f} MB a page; theirs: LittleCMS (bar: 2)",
    )

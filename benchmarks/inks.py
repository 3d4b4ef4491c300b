"""Inks: a palette of a photograph of 24 megapixels, and an ink that is used 400 times changed and painted again.

A palette is held against Pillow's own reduction of the same file to 256 colours by median cut, its decoding included in
both; a change against QPainter filling as many rectangles in the same picture.
"""

import time
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from PIL import Image

from benchmarks.report import line, medians
from half_fold.core.publication.places import Held

WIDE, HIGH = 6000, 4000
USES = 400
LOOKED_AT = 800


def _photograph(file: Path) -> None:
    rng = np.random.default_rng(3)
    y, x = np.mgrid[0:HIGH:4, 0:WIDE:4]
    base = np.stack([120 + 80 * np.sin(x / 700), 110 + 60 * np.cos(y / 500), 90 + x / 80], 2)
    small = np.clip(base + rng.normal(0, 12, base.shape), 0, 255).astype(np.uint8)
    Image.fromarray(small).resize((WIDE, HIGH)).save(file, quality=92)


def _palette() -> None:
    from half_fold.core.inks.palette import palette_of
    from half_fold.core.pictures.colour.colour import to_screen
    from half_fold.core.pictures.library.bring import load_pixels
    from half_fold.core.plan.starters import start

    job = start("magazine", "Bench")
    with TemporaryDirectory() as folder:
        file = Path(folder) / "p.jpg"
        _photograph(file)

        def ours() -> float:
            begun = time.perf_counter()
            assert palette_of(job, [to_screen(load_pixels(file, LOOKED_AT))])
            return time.perf_counter() - begun

        def theirs() -> float:
            begun = time.perf_counter()
            with Image.open(file) as image:
                image.draft("RGB", (LOOKED_AT, LOOKED_AT))
                image.convert("RGB").quantize(256)
            return time.perf_counter() - begun

        ours()
        note = "a palette of a JPEG of 24 megapixels; theirs: Pillow, 256 colours (bar: 300 ms)"
        line("palette", *medians(ours, theirs, 7), note)


def _change() -> None:
    from PyQt6.QtCore import QRectF
    from PyQt6.QtGui import QColor, QImage, QPainter

    from benchmarks.desk import dressed
    from half_fold.core.inks.edits import state_ink
    from half_fold.core.plan.spreads import spreads_of
    from half_fold.core.plan.starters import start
    from half_fold.core.publication.places import Stop
    from half_fold.core.publication.records import (
        Block,
        HoldsPanel,
    )
    from half_fold.core.publication.surgery import with_things
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.desk.paint.painter import paint

    dressed()
    job, setter = start("magazine", "Bench"), Setter()
    stop = Stop(kind="trim")
    blocks = tuple(
        Block(
            id=f"b{at}",
            place=Held(left=stop, top=stop, right=stop, bottom=stop),
            holds=HoldsPanel(ink="straw", tint=1 + at % 100),
        )
        for at in range(USES)
    )
    job = with_things(job, job.pages[2].id, lambda _: blocks)
    spread = spreads_of(job)[1]
    image = QImage(900, 600, QImage.Format.Format_RGB32)
    shares = iter(range(1, 100_000))

    def ours() -> float:
        nonlocal job
        share = next(shares)
        begun = time.perf_counter()
        job = state_ink(job, "straw", f"{share % 90} {share % 70} 20 5")
        painter = QPainter(image)
        paint(painter, setter.spread(job, spread), lambda *_: None)
        painter.end()
        return time.perf_counter() - begun

    def theirs() -> float:
        begun = time.perf_counter()
        painter = QPainter(image)
        for at in range(USES):
            painter.fillRect(QRectF(0, 0, 400, 500), QColor(at % 255, 40, 60))
        painter.end()
        return time.perf_counter() - begun

    setter.spread(job, spread)
    note = f"an ink used {USES} times changed, composed and painted; theirs: QPainter, as many rectangles (bar: 50 ms)"
    line("ink change", *medians(ours, theirs, 15), note)


def run() -> None:
    _palette()
    _change()

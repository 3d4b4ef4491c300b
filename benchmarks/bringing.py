"""A folder of photographs of 24 megapixels brought into an open job, against Pillow reading them at half their size,
both on all processors; and how long the window at most kept its owner waiting."""

import os
import shutil
import statistics
import time
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING

from PIL import Image

from benchmarks.desk import opened
from benchmarks.photos import SIZE, draw_photo
from benchmarks.report import line

if TYPE_CHECKING:
    from half_fold.desk.window import Window

COUNT, DRAWN, ROUNDS, TICK_MS = 150, 6, 3, 5
SETTLED_SECONDS = 20.0  # in which what is done after opening has been done


def run() -> None:
    with TemporaryDirectory() as name:
        os.environ["XDG_CACHE_HOME"] = name + "/cache"
        sources = [Path(name) / f"{index}.jpg" for index in range(COUNT)]
        for index, source in enumerate(sources):
            if index < DRAWN:
                draw_photo(source, index)
            else:
                shutil.copyfile(sources[index % DRAWN], source)
        rounds = [_round(sources, number) for number in range(ROUNDS)]
    ours, theirs = (statistics.median(each[at] for each in rounds) for at in (0, 1))
    longest = max(each[2] for each in rounds)
    line(
        "bringing",
        ours,
        theirs,
        f"{COUNT} of 24 megapixels; theirs: Pillow at half (bar: 1), longest wait {longest * 1000:.0f} ms (bar: 100)",
    )


def _round(sources: list[Path], number: int) -> tuple[float, float, float]:
    """Seconds of ours and theirs, and the longest that the window took no turn."""
    for index, source in enumerate(sources):
        with source.open("ab") as file:
            file.write(b"%d %d" % (number, index))  # so that it is one that has not been seen
    begun = time.perf_counter()
    with ThreadPoolExecutor(2) as threads:
        list(threads.map(_read, sources))
    theirs = time.perf_counter() - begun
    with opened() as (window, _):
        ours, longest = _bring(window, sources)
    return ours, theirs, longest


def _bring(window: "Window", sources: list[Path]) -> tuple[float, float]:
    """Seconds until all are in the job, and the longest between two turns of the window."""
    from PyQt6.QtCore import QEventLoop, QTimer
    from PyQt6.QtTest import QTest

    window.show()
    QTest.qWait(round(SETTLED_SECONDS * 1000))
    session, turns, waiting = window.session, [time.perf_counter()], QEventLoop()
    wanted = len(session.publication.pictures) + len(sources)

    def turn() -> None:
        turns.append(time.perf_counter())
        if len(session.publication.pictures) >= wanted:
            waiting.quit()

    clock = QTimer()
    clock.timeout.connect(turn)
    clock.start(TICK_MS)
    begun = time.perf_counter()
    session.bring_pictures(sources)
    waiting.exec()
    return turns[-1] - begun, max(b - a for a, b in pairwise(turns))


def _read(source: Path) -> None:
    with Image.open(source) as image:
        image.draft(None, (SIZE[0] // 2, SIZE[1] // 2))
        image.load()

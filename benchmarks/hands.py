"""Typing, dragging and undo in the demo's window, against the same keys in a bare QTextEdit of the same words.

The longest single event is printed too: nothing may block the window for more than 100 ms.
"""

import time
from collections.abc import Callable
from typing import TYPE_CHECKING

from benchmarks.desk import dressed, opened
from benchmarks.report import line

if TYPE_CHECKING:
    from half_fold.desk.window import Window

Timed = Callable[[Callable[[], object], Callable[[], object]], float]
BARS = {"carrying 40 things": 33, "Ask, a letter, 400 pages": 16}  # milliseconds


def run() -> None:
    from PyQt6.QtCore import QPoint, Qt
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QTextEdit

    application = dressed()
    with opened() as (window, _folder):
        window.session.view.go_to(7)
        window.open_station(4)
        QTest.qWait(2500)
        window.session.proxies.wait()
        QTest.qWait(500)
        station = window.station
        station.open_drawer("stories")  # type: ignore[attr-defined]
        text, bench = station.drawer.stories.text, station.bench  # type: ignore[attr-defined]

        def timed(act: Callable[[], object], settle: Callable[[], object]) -> float:
            begun = time.perf_counter()
            act()
            settle()
            application.processEvents()
            return time.perf_counter() - begun

        words = "The frost came down to the second gate and stayed until noon. "
        typed = [timed(lambda letter=letter: QTest.keyClicks(text, letter), bench.repaint) for letter in words]
        undone = [timed(window.session.undo, bench.repaint) for _ in range(1)]
        undone += [timed(window.session.redo, bench.repaint), timed(window.session.undo, bench.repaint)]
        bench.setFocus()
        QTest.keyClick(bench, Qt.Key.Key_Tab)
        start = bench.rect().center() - QPoint(150, 0)
        QTest.mousePress(bench, Qt.MouseButton.LeftButton, pos=start)
        dragged = [
            timed(lambda i=i: QTest.mouseMove(bench, start + QPoint(4 * i, 2 * i)), bench.repaint) for i in range(40)
        ]
        QTest.mouseRelease(bench, Qt.MouseButton.LeftButton, pos=start)
        carried = _forty_carried(window, timed)
        asked = _asked(window, timed)
        plain = QTextEdit()
        plain.setPlainText(text.toPlainText())
        plain.resize(text.size())
        plain.show()
        QTest.qWait(100)
        bare = [timed(lambda letter=letter: QTest.keyClicks(plain, letter), plain.repaint) for letter in words]
        for name, events in (
            ("typing", typed),
            ("undo", undone),
            ("dragging", dragged),
            ("carrying 40 things", carried),
            ("Ask, a letter, 400 pages", asked),
        ):
            middle = sorted(events)[len(events) // 2]
            line(
                name,
                middle,
                sorted(bare)[30],
                f"longest {max(events) * 1000:.0f} ms (bar: {BARS.get(name, 100)}); theirs: a bare QTextEdit",
            )


def _forty_carried(window: "Window", timed: Timed) -> list[float]:
    """A group of forty panels on a spread that is full already, carried by the mouse."""
    from PyQt6.QtCore import QPoint, Qt
    from PyQt6.QtTest import QTest

    from half_fold.core.paths.all import set_paths
    from half_fold.core.spread.edits.grouping import group

    session, bench = window.session, window.station.bench  # type: ignore[attr-defined]
    before = {block.id for block in session.publication.pages[6].blocks}
    claims = [f"page.7.claim=panel over {1 + i % 6} x {1 + i // 6 % 8}" for i in range(40)]
    session.edit(lambda p: set_paths(p, claims), "forty panels")
    names = [block.id for block in session.publication.pages[6].blocks if block.id not in before]
    session.edit(lambda p: group(p, names)[0], "a group")
    session.view.select(next(thing.id for thing in reversed(session.publication.pages[6].things)))
    QTest.qWait(800)
    at = bench.to_widget(bench.frames()[-1][1].trim).center().toPoint()
    QTest.mousePress(bench, Qt.MouseButton.LeftButton, pos=at)
    out = [timed(lambda i=i: QTest.mouseMove(bench, at + QPoint(3 * i, 2 * i)), bench.repaint) for i in range(30)]
    QTest.mouseRelease(bench, Qt.MouseButton.LeftButton, pos=at)
    session.undo()
    session.undo()
    session.undo()
    return out


def _asked(window: "Window", timed: Timed) -> list[float]:
    """Ask's line typed into, on a job of 400 pages."""
    from PyQt6.QtCore import Qt
    from PyQt6.QtTest import QTest

    from half_fold.core.plan.order import set_extent

    window.session.edit(lambda p: set_extent(p, 400), "400 pages")
    QTest.qWait(3000)  # the checks that an edit is followed by
    QTest.keyClick(window, Qt.Key.Key_F4)
    QTest.qWait(200)
    line = window.wanted.ask.line  # type: ignore[union-attr]
    out = [timed(lambda c=c: QTest.keyClicks(line, c), line.repaint) for c in "space between letters of headline"]
    QTest.keyClick(line, Qt.Key.Key_Escape)
    window.session.undo()
    return out

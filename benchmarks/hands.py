"""Typing, dragging and undo in the demo's window, against the same keys in a bare QTextEdit of the same words.

The longest single event is printed too: nothing may block the window for more than 100 ms.
"""

import time
from collections.abc import Callable

from benchmarks.desk import dressed, opened
from benchmarks.report import line


def run() -> None:
    from PyQt6.QtCore import QPoint, Qt
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QTextEdit

    application = dressed()
    with opened() as (window, _folder):
        window.session.go_to(7)
        window.open_station(4)
        QTest.qWait(2500)
        window.session.proxies.wait()
        QTest.qWait(500)
        station = window.station
        station.open_drawer("story drawer")  # type: ignore[attr-defined]
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
        plain = QTextEdit()
        plain.setPlainText(text.toPlainText())
        plain.resize(text.size())
        plain.show()
        QTest.qWait(100)
        bare = [timed(lambda letter=letter: QTest.keyClicks(plain, letter), plain.repaint) for letter in words]
        for name, events in (("typing", typed), ("undo", undone), ("dragging", dragged)):
            middle = sorted(events)[len(events) // 2]
            line(
                name,
                middle,
                sorted(bare)[30],
                f"longest {max(events) * 1000:.0f} ms (bar: 100); theirs: a bare QTextEdit",
            )

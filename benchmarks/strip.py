"""Scrolling the concertina of a 400-page job, against QListView over as many icons of the same size.

Also printed: the longest step (a screen shows 60 in a second, so 16.7 ms lose no frame), and the longest keystroke
while all its thumbnails are being made.
"""

import time

from benchmarks.desk import dressed, opened
from benchmarks.report import line

PAGES, STEPS = 400, 160


def run() -> None:
    from PyQt6.QtCore import QPoint, QPointF, QSize, Qt
    from PyQt6.QtGui import QIcon, QPixmap, QWheelEvent
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QListView, QListWidget, QListWidgetItem, QWidget

    from half_fold.core.plan.settings import set_value
    from half_fold.core.publication.surgery import every_block

    application = dressed()

    def turn(widget: QWidget, angle: int) -> float:
        """One notch of the wheel, painted."""
        at = QPointF(widget.rect().center())
        none = Qt.KeyboardModifier.NoModifier
        wheel = QWheelEvent(
            at, at, QPoint(), QPoint(0, angle), Qt.MouseButton.NoButton, none, Qt.ScrollPhase.NoScrollPhase, False
        )
        begun = time.perf_counter()
        application.sendEvent(widget, wheel)
        widget.repaint()
        return time.perf_counter() - begun

    with opened() as (window, folder):
        session = window.session
        session.edit(lambda p: set_value(p, "pages", str(PAGES)), "pages")
        words = "The hedge is cut twice and the ditch is cleared once a year by whoever is nearest. " * 6
        path = folder / "long.txt"
        path.write_text("\n\n".join([words] * 800))
        session.bring_text(path)
        while session.bringing.busy:
            QTest.qWait(20)
        QTest.qWait(400)
        window.open_station(4)
        session.view.go_to(7)
        station = window.station
        station.open_drawer("stories")  # type: ignore[attr-defined]
        text = station.drawer.stories.text  # type: ignore[attr-defined]
        window.thumbnails.follows.clear()
        window.thumbnails.refresh()
        QTest.qWait(300)
        typed = []
        while window.thumbnails.busy and len(typed) < 200:
            begun = time.perf_counter()
            QTest.keyClicks(text, "e")
            station.bench.repaint()  # type: ignore[attr-defined]
            typed.append(time.perf_counter() - begun)
            QTest.qWait(15)
        while window.thumbnails.busy:
            QTest.qWait(50)
        ours = [turn(window.concertina, -120) for _ in range(STEPS)]
        rows = QListWidget()
        rows.setFlow(QListView.Flow.LeftToRight)
        rows.setViewMode(QListView.ViewMode.IconMode)
        rows.setIconSize(QSize(80, 52))
        for index in range(PAGES // 2 + 1):
            image = window.thumbnails.get(index)
            assert image is not None
            rows.addItem(QListWidgetItem(QIcon(QPixmap.fromImage(image)), str(index)))
        rows.resize(window.concertina.size())
        rows.show()
        QTest.qWait(100)
        theirs = [turn(rows.viewport(), -120) for _ in range(STEPS)]  # type: ignore[arg-type]
        laid = len({index for index, _, _ in every_block(session.publication)})
        longest = f"longest {max(ours) * 1000:.1f} ms (bar: 16.7); theirs: a QListView of icons; {laid} pages laid"
        line("scrolling", sorted(ours)[STEPS // 2], sorted(theirs)[STEPS // 2], longest)
        print(
            f"           {len(typed)} keystrokes while thumbnails were made: median "
            f"{sorted(typed)[len(typed) // 2] * 1000:.1f} ms, longest {max(typed) * 1000:.1f} ms (bar: 100)"
        )

"""Typing values of the brief of a 400-page job on its drawing, against the same keys in a bare QLineEdit.

Each keystroke that makes sense is an edit; drawing, docket, concertina and working are painted before the next, as Qt
does it: what changed.
"""

import time

from benchmarks.desk import dressed, opened
from benchmarks.report import line

PAGES = 400


def run() -> None:
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QLineEdit

    from half_fold.core.plan.settings import set_values

    application = dressed()
    with opened() as (window, _folder):
        session = window.session
        session.edit(lambda p: set_values(p, [f"pages={PAGES}"]), "pages")
        window.open_station(1)
        bench = window.station.bench  # type: ignore[attr-defined]
        QTest.qWait(1500)
        while window.thumbnails.busy or session._quiet.isActive():
            QTest.qWait(50)
        ours: dict[str, list[float]] = {}
        for words, texts in (("front", ("211mm", "212.5mm", "219mm")), ("bleed", ("4mm", "5mm", "3mm"))):
            for text in texts:
                placed = next(p for p in bench.drawing()[0].lettered if p.dimension.words.startswith(words))
                bench.open_figure(placed)
                for letter in text:
                    begun = time.perf_counter()
                    QTest.keyClicks(bench.figure, letter)
                    application.processEvents()
                    ours.setdefault(words, []).append(time.perf_counter() - begun)
                bench.close_figure()
        values = {"paper": "paper.text=Marrow Silk {}", "pages": "pages={}"}
        for name, setting in values.items():
            for value in (90, 130, 150, 170) if name == "paper" else (396, 392, 388, 400):
                begun = time.perf_counter()
                said = setting.format(value)
                session.edit(lambda p, said=said: set_values(p, [said]), name)
                application.processEvents()
                ours.setdefault(name, []).append(time.perf_counter() - begun)
        plain = QLineEdit()
        plain.show()
        QTest.qWait(50)
        theirs = []
        for letter in "211mm212.5mm219mm":
            begun = time.perf_counter()
            QTest.keyClicks(plain, letter)
            plain.repaint()
            theirs.append(time.perf_counter() - begun)
        middle = sorted(theirs)[len(theirs) // 2]
        for name, events in ours.items():
            longest = f"longest {max(events) * 1000:.0f} ms (bar: 50); theirs: a bare QLineEdit"
            line(name, sorted(events)[len(events) // 2], middle, longest)

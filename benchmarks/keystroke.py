"""A keystroke in the middle of a book of 100,000 words, its spread painted, against a bare QTextEdit of the same words.

Printed too: the 95th percentile.
"""

import time

from benchmarks.desk import opened
from benchmarks.report import line

WORDS, PARAGRAPH, KEYS = 100_000, 96, 80
WORDS_OF_IT = "The hedge is cut twice and the ditch is cleared once a year by whoever is nearest."


def run() -> None:
    from PyQt6.QtTest import QTest
    from PyQt6.QtWidgets import QTextEdit

    words = WORDS_OF_IT.split()
    paragraph = " ".join(words[i % len(words)] for i in range(PARAGRAPH))
    with opened("book") as (window, folder):
        text = folder / "book.txt"
        text.write_text("\n\n".join([paragraph] * (WORDS // PARAGRAPH)))
        session = window.session
        window.open_station(4)
        session.bring_text(text)
        while session.bringing.busy:
            QTest.qWait(20)
        station = window.station
        station.open_drawer("stories")  # type: ignore[attr-defined]
        desk_text, bench = station.drawer.stories.text, station.bench  # type: ignore[attr-defined]
        flow = session.setter.threads.flow(session.publication, session.view.story or "")
        session.view.go_to(flow.columns[len(flow.columns) // 2].page)
        cursor = desk_text.textCursor()
        cursor.setPosition(len(desk_text.toPlainText()) // 2)
        desk_text.setTextCursor(cursor)
        while window.thumbnails.busy or session._quiet.isActive():
            QTest.qWait(50)
        plain = QTextEdit()
        plain.setPlainText(desk_text.toPlainText())
        plain.resize(desk_text.size())
        plain.show()
        at = plain.textCursor()
        at.setPosition(cursor.position())
        plain.setTextCursor(at)
        QTest.qWait(200)
        ours, theirs = [], []
        for _ in range(KEYS):
            for times, widget, painted in ((ours, desk_text, bench), (theirs, plain, plain)):
                begun = time.perf_counter()
                QTest.keyClicks(widget, "e")
                painted.repaint()
                times.append(time.perf_counter() - begun)
            QTest.qWait(1)
        late = sorted(ours)[int(KEYS * 0.95)] * 1000
        note = f"95 of 100 within {late:.1f} ms (bars: 16 at the median, 50); {len(session.publication.pages)} pages"
        line("book", sorted(ours)[KEYS // 2], sorted(theirs)[KEYS // 2], f"{note}; theirs: a bare QTextEdit")

"""Find and replace in the text in the story drawer."""

import re
from collections.abc import Callable
from itertools import accumulate

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QTextCursor
from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QLineEdit, QPushButton, QWidget

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Paragraph
from half_fold.core.typesetting.texts.finding import FoundPlace, find, pattern_of, replace_all, replaced
from half_fold.desk.kit.plain import label
from half_fold.desk.stations.spreads.drawer.story_text import StoryText
from half_fold.desk.stations.spreads.drawer.text_blocks import units

Typed = Callable[[tuple[Paragraph, ...]], None]


class FindBar(QWidget):
    """Words to look for, words to put there; Return goes to the next place, Escape closes."""

    def __init__(self, text: StoryText, typed: Typed, said: Callable[[str], None]) -> None:
        super().__init__()
        self.text, self._typed, self._said = text, typed, said
        line = QHBoxLayout(self)
        line.setContentsMargins(0, 0, 0, 2)
        self.words, self.instead = QLineEdit(), QLineEdit()
        self.words.setPlaceholderText("Find")
        self.instead.setPlaceholderText("Put instead")
        self.whole, self.exact = QCheckBox("Whole"), QCheckBox("Exact")
        self.whole.setToolTip("Whole words only")
        self.exact.setToolTip("Capitals as typed")
        for field in (self.words, self.instead):
            field.setMinimumWidth(96)
        self.count = label("", 12, quiet=True)
        self.count.setWordWrap(False)
        line.addWidget(self.words, 2)
        line.addWidget(self.instead, 2)
        for box in (self.whole, self.exact):
            line.addWidget(box)
            box.toggled.connect(self.refresh)
        line.addWidget(self.count, 1)
        acts = (("Next", self.next), ("Put", self.replace_one), ("Put all", self.replace_all))
        for words, act in acts:
            button = QPushButton(words)
            button.setStyleSheet("padding: 5px 8px;")
            button.clicked.connect(lambda _=False, act=act: act())
            line.addWidget(button)
        self.words.textChanged.connect(self.refresh)
        self.words.returnPressed.connect(self.next)
        self.instead.returnPressed.connect(self.replace_one)
        self.hide()

    def open(self) -> None:
        """Show the bar, looking for what is selected."""
        self.text.show_all()
        chosen = self.text.textCursor().selectedText()
        if chosen and "\u2029" not in chosen:
            self.words.setText(chosen)
        self.show()
        self.words.setFocus()
        self.words.selectAll()
        self.refresh()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
            self.text.setFocus()
        else:
            super().keyPressEvent(event)

    def places(self) -> list[FoundPlace]:
        """Where the words stand now."""
        try:
            return list(find(self.text.paragraphs, self._pattern()))
        except Problem:
            return []

    def _pattern(self) -> re.Pattern[str]:
        return pattern_of(self.words.text(), self.whole.isChecked(), self.exact.isChecked())

    def refresh(self) -> None:
        """Count the places where the words stand."""
        found = self.places()
        self.count.setText(counted(len(found), "place") if self.words.text() else "")

    def _positions(self) -> list[tuple[int, int]]:
        texts = [paragraph.text for paragraph in self.text.paragraphs]
        begins = list(accumulate((units(text, len(text)) + 1 for text in texts), initial=0))

        def at(place: FoundPlace, letter: int) -> int:
            return begins[place.paragraph] + units(texts[place.paragraph], letter)

        return [(at(place, place.start), at(place, place.end)) for place in self.places()]

    def next(self) -> bool:
        """Select the next place, from the head again after the last."""
        positions = self._positions()
        if not positions:
            self._said(f"“{self.words.text()}” is not in this text." if self.words.text() else "Type what to look for.")
            return False
        cursor = self.text.textCursor()
        after = cursor.selectionEnd()
        start, end = next(((a, b) for a, b in positions if a >= after), positions[0])
        cursor.setPosition(start)
        cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
        self.text.setTextCursor(cursor)
        self.text.ensureCursorVisible()
        return True

    def replace_one(self) -> None:
        """Put the other words at the place selected, and go to the next."""
        cursor = self.text.textCursor()
        chosen = (cursor.selectionStart(), cursor.selectionEnd())
        positions = self._positions()
        if chosen in positions:
            place = self.places()[positions.index(chosen)]
            paragraphs = list(self.text.paragraphs)
            old = paragraphs[place.paragraph]
            paragraphs[place.paragraph] = replaced(old, place.start, place.end, self.instead.text())
            self._typed(tuple(paragraphs))
            cursor = self.text.textCursor()
            words = self.instead.text()
            cursor.setPosition(chosen[0] + units(words, len(words)))
            self.text.setTextCursor(cursor)
        self.next()
        self.refresh()

    def replace_all(self) -> None:
        """Put the other words at every place, as one edit."""
        try:
            made, count = replace_all(self.text.paragraphs, self._pattern(), self.instead.text())
        except Problem as problem:
            self._said(str(problem))
            return
        if count:
            self._typed(made)
        self._said(f"{counted(count, 'place')} replaced. Ctrl+Z takes it back." if count else "Nothing to replace.")
        self.refresh()

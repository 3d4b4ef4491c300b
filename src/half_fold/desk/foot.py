"""The foot: where you are, what was just said, and what the keys do now."""

from collections.abc import Sequence

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtGui import QFontMetrics, QGuiApplication, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtWidgets import QPushButton, QWidget

from half_fold.desk.theme import tokens

SAID_FOR_MS = 9000


class Foot(QWidget):
    """One line; a sentence that was just said stands in place of the position for a while."""

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("foot")
        self.setFixedHeight(tokens.FOOT_HEIGHT)
        self.where = ""
        self.sentence, self._tone = "", tokens.INK
        self.keys: Sequence[tuple[str, str]] = ()
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._over)
        self.report = ""
        self.copy = QPushButton("Copy the report", self)
        self.copy.setProperty("link", True)
        self.copy.clicked.connect(self._copy)
        self.copy.hide()

    def say(self, sentence: str) -> None:
        """A sentence that wants care."""
        self._show(sentence, tokens.OCHRE_TEXT)

    def note(self, sentence: str) -> None:
        """Plain news."""
        self._show(sentence, tokens.INK)

    def fault(self, sentence: str, report: str) -> None:
        """A fault of the program: its sentence stays until something else is said, and its report can be copied."""
        self._show(sentence, tokens.MADDER)
        self._timer.stop()
        self.report = report
        self.copy.show()
        self._place_copy()

    def _copy(self) -> None:
        clipboard = QGuiApplication.clipboard()
        assert clipboard is not None
        clipboard.setText(self.report)
        self.note("The report is on the clipboard.")

    def _place_copy(self) -> None:
        size = self.copy.sizeHint()
        high = min(size.height(), self.height() - 6)
        self.copy.setGeometry(self.width() - size.width() - 10, (self.height() - high) // 2, size.width(), high)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._place_copy()
        super().resizeEvent(event)

    def _over(self) -> None:
        self.say("")

    def _show(self, sentence: str, tone: str) -> None:
        self.sentence, self._tone = sentence, tone
        self.copy.hide()
        self.setToolTip(sentence)
        if sentence:
            self._timer.start(SAID_FOR_MS)
        self.update()

    def show_where(self, where: str) -> None:
        """Say at the left where the user is."""
        if where != self.where:
            self.where = where
            self.update()

    def show_keys(self, keys: Sequence[tuple[str, str]]) -> None:
        """Name at the right the keys that do something here, each with what it does."""
        self.keys = keys
        self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), tokens.colour(tokens.BOARD))
        painter.setPen(tokens.colour(tokens.LINE))
        painter.drawLine(0, 0, self.width(), 0)
        right = self._paint_keys(painter) if not self.sentence else self.width() - 12
        if self.copy.isVisible():
            right = self.copy.x() - 8
        painter.setFont(tokens.font(12))
        painter.setPen(tokens.colour(self._tone if self.sentence else tokens.INK))
        text = self.sentence or self.where
        shown = QFontMetrics(painter.font()).elidedText(text, Qt.TextElideMode.ElideRight, right - 20)
        painter.drawText(self.rect().adjusted(12, 0, 0, 0), Qt.AlignmentFlag.AlignVCenter, shown)

    def _paint_keys(self, painter: QPainter) -> int:
        """Keys from the right as far as there is room; gives where they begin."""
        x = self.width() - 12
        for key, meaning in reversed(self.keys):
            painter.setFont(tokens.font(12))
            words = QFontMetrics(painter.font()).horizontalAdvance(meaning)
            painter.setFont(tokens.font(12, tokens.MEDIUM))
            head = QFontMetrics(painter.font()).horizontalAdvance(key)
            if x - words - head - 6 < self.width() * 0.5:
                break
            painter.setPen(tokens.colour(tokens.INK))
            painter.drawText(x - words - head - 6, 0, head + 2, self.height(), Qt.AlignmentFlag.AlignVCenter, key)
            painter.setFont(tokens.font(12))
            painter.setPen(tokens.colour(tokens.QUIET))
            painter.drawText(x - words, 0, words + 2, self.height(), Qt.AlignmentFlag.AlignVCenter, meaning)
            x -= words + head + 6 + 18
        return x

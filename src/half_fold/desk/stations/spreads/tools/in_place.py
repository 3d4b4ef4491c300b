"""Words written where they stand: a sheet over their block, in their own type; the page follows letter by letter."""

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QFont, QKeyEvent
from PyQt6.QtWidgets import QPlainTextEdit

from half_fold.core.publication.records import Block, HoldsDisplay
from half_fold.core.publication.surgery import role_in
from half_fold.core.spread.edits.written import lines_of, write_anew
from half_fold.core.spread.where.frames import block_box
from half_fold.core.typesetting.faces.faces import face_key
from half_fold.desk.kit.face_list import desk_font
from half_fold.desk.stations.spreads.tools.worktop import Worktop

LEAST_PIXELS, MOST_PIXELS = 11, 90
LEAST_SIZE = QSize(180, 40)


class WordsInPlace(QPlainTextEdit):
    """Every line is a paragraph; what is typed goes onto the page at once. Esc, or going elsewhere, puts it away."""

    away = pyqtSignal(bool)  # whether the keys go back to the bench

    def __init__(self, bench: Worktop, number: int, block: Block) -> None:
        super().__init__(bench.as_widget())
        self.bench, self.block, self._is_open = bench, block.id, True
        self.setAccessibleName("Words of the block")
        self.setPlainText("\n".join(lines_of(block)))
        self.setFont(self._font(block))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area = bench.to_widget(block_box(bench.session.publication, number, block)).toAlignedRect()
        area.setSize(area.size().expandedTo(LEAST_SIZE))
        self.setGeometry(area.intersected(bench.rect().adjusted(4, 4, -4, -4)))
        self.textChanged.connect(self._typed)
        self.selectAll()
        self.show()
        self.setFocus()

    def _font(self, block: Block) -> QFont:
        """The type of its first line, as large as it stands on the bench where that can be read."""
        holds, publication = block.holds, self.bench.session.publication
        assert isinstance(holds, HoldsDisplay)
        name = holds.paragraphs[0].role if holds.paragraphs else publication.roles[0].name
        role = role_in(publication, holds, name)
        size = holds.size.pt if holds.size is not None else role.size.pt
        pixels = min(max(round(size * self.bench.scale()), LEAST_PIXELS), MOST_PIXELS)
        return desk_font(face_key(role.family, role.style), pixels)

    def _typed(self) -> None:
        lines, block = self.toPlainText().split("\n"), self.block
        self.bench.session.edit(lambda p: write_anew(p, block, lines), "words", f"words {block}")

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Escape:
            self.put_away()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        if event is not None and event.reason() != Qt.FocusReason.PopupFocusReason:
            self.put_away(back=False)

    def put_away(self, back: bool = True) -> None:
        """End writing; ``back`` gives the keys to the bench."""
        if self._is_open:
            self._is_open = False
            self.bench.session.history.pause()
            self.hide()
            self.deleteLater()
            self.away.emit(back)

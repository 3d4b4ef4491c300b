"""The story drawer: a story, or the words of a display block, written and read as text with its roles."""

import re
from collections.abc import Callable, Sequence

from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QMimeData, QPoint, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QTextBlock,
    QTextBlockFormat,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PyQt6.QtWidgets import QTextEdit, QWidget

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.flow.counting import alike
from half_fold.core.typesetting.texts.pasting import PastePlace, pasted
from half_fold.desk.kit.symbol_font import with_symbols
from half_fold.desk.stations.spreads.drawer.text_blocks import (
    KeptParagraph,
    blocks_of_text,
    format_of,
    paragraph_of,
    role_of,
    run_of,
    style_of_words,
    units,
)
from half_fold.desk.theme import tokens

GUTTER = 84
PAUSE_MS = 1500
AT_ONCE = 250  # paragraphs that are shown before the window goes on
BREAKS = re.compile(r"\r\n|[\n\r\u2029]")
WORD = re.compile(r"\S+")
LASTING = ("body", "entry", "list", "quote")  # roles of which another follows
OWN_KEYS = (Qt.Key.Key_B, Qt.Key.Key_I, Qt.Key.Key_K, Qt.Key.Key_Tab, Qt.Key.Key_F)


class StoryText(QTextEdit):
    """Words in their styles; the role of each paragraph stands in the margin."""

    find_asked = pyqtSignal()
    styled = pyqtSignal()
    pasted_long = pyqtSignal(tuple)  # all paragraphs with it in its place; it is not shown yet
    shown_whole = pyqtSignal()

    def __init__(self, typed: Callable[[tuple[Paragraph, ...]], None], paused: Callable[[], None]) -> None:
        super().__init__()
        self._typed = typed
        self._loading = False
        self.paragraphs: tuple[Paragraph, ...] = ()
        self.lasting = False  # whether a line after another is in the same role, as in words set large
        self._rest: tuple[Paragraph, ...] = ()  # of a long text, what is still to be shown
        self._marks: list[QTextEdit.ExtraSelection] = []
        self._over: list[QTextEdit.ExtraSelection] = []
        self._places: list[tuple[int, int, int]] = []
        self._touched: tuple[int, int] | None = None  # characters changed since the paragraphs were read
        self.setUndoRedoEnabled(False)
        self.setAcceptRichText(False)
        self.setTabChangesFocus(True)
        self.setFont(with_symbols(tokens.font(tokens.SECTION, family=tokens.SERIF)))
        self.setViewportMargins(GUTTER, 0, 0, 0)
        self.setAccessibleName("Story drawer text")
        self._gutter = _Gutter(self)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(PAUSE_MS)
        self._pause.timeout.connect(paused)
        self._more = QTimer(self)
        self._more.setSingleShot(True)
        self._more.setInterval(0)
        self._more.timeout.connect(self._show_more)
        self.document().contentsChange.connect(self._note_change)
        self.textChanged.connect(self._changed)
        bar = self.verticalScrollBar()
        assert bar is not None
        bar.valueChanged.connect(lambda _: self._gutter.update())
        self.cursorPositionChanged.connect(self._gutter.update)

    def document(self) -> QTextDocument:
        """What is shown: a text always has one."""
        found = super().document()
        assert found is not None
        return found

    def insertFromMimeData(self, source: QMimeData | None) -> None:
        """Put in what is pasted or dropped; a long text, which takes time to set, is handed over to be put in."""
        lines = BREAKS.split(source.text()) if source is not None else []
        if len(lines) <= AT_ONCE:
            super().insertFromMimeData(source)
            return
        cursor = self.textCursor()
        start, end = self._place(cursor.selectionStart()), self._place(cursor.selectionEnd())
        self.pasted_long.emit(pasted(self.paragraphs, start, end, lines))

    def _place(self, at: int) -> PastePlace:
        """A place of the document in paragraphs and letters."""
        block = self.document().findBlock(at)
        before = block.text().encode("utf-16-le", "surrogatepass")[: 2 * (at - block.position())]
        return PastePlace(block.blockNumber(), len(before.decode("utf-16-le", "surrogatepass")))

    def load(self, paragraphs: Sequence[Paragraph]) -> None:
        """Show these paragraphs, the cursor where it was as far as that can be; what stands as it did is let be."""
        now, was = tuple(paragraphs), self.paragraphs
        if now is was or now == was:
            self.paragraphs = now
            return
        self._rest, was = (), was[: len(was) - len(self._rest)]
        first = alike(was, now)
        last = min(alike(was[first:][::-1], now[first:][::-1]), len(was) - first, len(now) - first)
        at, self._loading = self.textCursor().position(), True
        cursor = QTextCursor(self.document())
        cursor.beginEditBlock()  # so that lines are laid out once
        both = min(len(was), len(now)) - last
        is_little = len(now) - first - last <= AT_ONCE
        if both > 0 and is_little and len(was) == self.document().blockCount():
            self._put(cursor, first, len(was) - last, now[first : len(now) - last])
        else:
            self._put_all(cursor, now[:AT_ONCE])
            self._rest = now[AT_ONCE:]
        cursor.endEditBlock()
        self._loading, self._touched = False, None
        self.paragraphs = now
        self._more.start() if self._rest else self._more.stop()
        cursor.setPosition(min(at, max(0, self.document().characterCount() - 1)))
        self.setTextCursor(cursor)
        self._gutter.update()

    def _show_more(self) -> None:
        """Some more of a long text, each time the window has done what waits: nothing is held up by it."""
        if not self._rest:
            return
        some, self._rest, self._loading = self._rest[:AT_ONCE], self._rest[AT_ONCE:], True
        cursor = QTextCursor(self.document())
        cursor.movePosition(QTextCursor.MoveOperation.End)
        cursor.beginEditBlock()
        for paragraph in some:
            cursor.insertBlock()
            self._write(cursor, paragraph)
        cursor.endEditBlock()
        self._loading, self._touched = False, None
        if self._rest:
            self._more.start()
        else:
            self.shown_whole.emit()

    def show_all(self) -> None:
        """All of it now, for what looks through the whole text."""
        while self._rest:
            self._show_more()

    def _put_all(self, cursor: QTextCursor, paragraphs: Sequence[Paragraph]) -> None:
        """All paragraphs in place of what was there."""
        cursor.select(QTextCursor.SelectionType.Document)
        cursor.removeSelectedText()
        for index, paragraph in enumerate(paragraphs):
            if index:
                cursor.insertBlock()
            self._write(cursor, paragraph)
        if not paragraphs:
            cursor.setBlockFormat(QTextBlockFormat())

    def _put(self, cursor: QTextCursor, start: int, end: int, paragraphs: Sequence[Paragraph]) -> None:
        """Paragraphs in place of the blocks from ``start``, which is not the first, to ``end``."""
        both = min(end - start, len(paragraphs))
        for number, paragraph in enumerate(paragraphs[:both], start):
            cursor.setPosition(self.document().findBlockByNumber(number).position())
            cursor.movePosition(QTextCursor.MoveOperation.EndOfBlock, QTextCursor.MoveMode.KeepAnchor)
            cursor.removeSelectedText()
            self._write(cursor, paragraph)
        cursor.setPosition(self._end_of(start + both - 1))
        if end > start + both:
            cursor.setPosition(self._end_of(end - 1), QTextCursor.MoveMode.KeepAnchor)
            cursor.removeSelectedText()
        for paragraph in paragraphs[both:]:
            cursor.insertBlock()
            self._write(cursor, paragraph)

    def _end_of(self, number: int) -> int:
        block = self.document().findBlockByNumber(number)
        return block.position() + block.length() - 1

    def _write(self, cursor: QTextCursor, paragraph: Paragraph) -> None:
        """A paragraph into the empty block that the cursor stands in."""
        cursor.setBlockFormat(format_of(paragraph.role, paragraph))
        cursor.setBlockCharFormat(QTextCharFormat())
        for run in paragraph.runs:
            cursor.insertText(run.text, style_of_words(run))
        cursor.block().setUserData(KeptParagraph(paragraph))

    def _changed(self) -> None:
        if self._loading:
            return
        self.paragraphs = self._read()
        self._typed(self.paragraphs)
        self._pause.start()
        self._gutter.update()

    def _note_change(self, position: int, _removed: int, added: int) -> None:
        """What was touched, from the first place to the last, over all changes since it was read."""
        start, end = position, position + added
        if self._touched is not None:
            start, end = min(start, self._touched[0]), max(end, self._touched[1] + added)
        self._touched = (start, end)

    def _read(self) -> tuple[Paragraph, ...]:
        """The paragraphs as they now are; only those that were touched are read again."""
        touched, self._touched = self._touched, None
        count, shown = self.document().blockCount(), self.paragraphs[: len(self.paragraphs) - len(self._rest)]
        if touched is None or not shown:
            return (*(paragraph_of(block) for block in blocks_of_text(self)), *self._rest)
        block, last = self.document().findBlock(touched[0]), self.document().findBlock(touched[1])
        first, end = block.blockNumber(), last.blockNumber() if last.isValid() else count - 1
        fresh = []
        while block.isValid() and block.blockNumber() <= end:
            fresh.append(paragraph_of(block))
            block = block.next()
        after = len(shown) - (count - 1 - end)
        if after < first or first > len(shown):
            return (*(paragraph_of(block) for block in blocks_of_text(self)), *self._rest)
        return (*shown[:first], *fresh, *shown[after:], *self._rest)

    def paragraph(self) -> Paragraph:
        """The paragraph the cursor stands in."""
        return paragraph_of(self.textCursor().block())

    def chosen(self) -> range:
        """The paragraphs that the selection touches, by their numbers."""
        cursor = self.textCursor()
        first = self.document().findBlock(cursor.selectionStart()).blockNumber()
        return range(first, self.document().findBlock(cursor.selectionEnd()).blockNumber() + 1)

    def mark(self, places: Sequence[tuple[int, int, int]]) -> None:
        """Underline characters [start, end) of paragraphs in waves, and nothing else."""
        wave = QTextCharFormat()
        wave.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
        wave.setUnderlineColor(tokens.colour(tokens.OCHRE))
        self._marks, self._places = [], list(places)
        for number, start, end in places:
            block = self.document().findBlockByNumber(number)
            if not block.isValid():
                continue  # it is still to be shown
            at, words = block.position(), block.text()
            self._marks.append(self._marked(at + units(words, start), at + units(words, end), wave))
        self._show_marks()

    def marked_word(self) -> tuple[int, int, int] | None:
        """(paragraph, start, end) of the marked word that the cursor stands in or beside."""
        cursor = self.textCursor()
        number, at, words = cursor.blockNumber(), cursor.positionInBlock(), cursor.block().text()
        here = (place for place in self._places if place[0] == number)
        return next((place for place in here if units(words, place[1]) <= at <= units(words, place[2])), None)

    def break_off(self, at: tuple[int, int] | None) -> None:
        """Show that what stands after so many words of a paragraph has no place on a page; None for nothing."""
        self._over = []
        block = self.document().findBlockByNumber(at[0]) if at is not None else QTextBlock()
        if at is not None and block.isValid():
            words = [units(block.text(), match.end()) for match in WORD.finditer(block.text())]
            begins = block.position() + (words[at[1] - 1] if 0 < at[1] <= len(words) else 0)
            faint = QTextCharFormat()
            faint.setForeground(tokens.colour(tokens.OCHRE_TEXT))
            faint.setBackground(tokens.colour(tokens.OCHRE, 0.12))
            self._over = [self._marked(begins, self.document().characterCount() - 1, faint)]
        self._show_marks()

    def _marked(self, start: int, end: int, style: QTextCharFormat) -> QTextEdit.ExtraSelection:
        mark = QTextEdit.ExtraSelection()
        cursor = QTextCursor(self.document())
        cursor.setPosition(start)
        cursor.setPosition(max(start, end), QTextCursor.MoveMode.KeepAnchor)
        mark.cursor, mark.format = cursor, style
        return mark

    def _show_marks(self) -> None:
        if self._over or self._marks or self.extraSelections():
            self.setExtraSelections([*self._over, *self._marks])

    def role(self) -> str:
        """The role of the paragraph the cursor stands in."""
        return role_of(self.textCursor().block())

    def set_role(self, role: str) -> None:
        """Give the paragraphs of the selection another role."""
        cursor = self.textCursor()
        block, last = (
            self.document().findBlock(cursor.selectionStart()),
            self.document().findBlock(cursor.selectionEnd()),
        )
        self._loading = True
        while block.isValid():
            QTextCursor(block).setBlockFormat(format_of(role, paragraph_of(block)))
            if block == last:
                break
            block = block.next()
        self._loading = False
        self._changed()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        control = event.modifiers() == Qt.KeyboardModifier.ControlModifier
        if control and event.key() in OWN_KEYS:
            self._own_key(Qt.Key(event.key()))
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            following = self.role() if self.lasting or self.role() in LASTING else "body"
            at_end = self.textCursor().atBlockEnd()
            self.textCursor().insertBlock(format_of(following if at_end else self.role()))
            self.ensureCursorVisible()
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        """While text is written its own keys come before the window's."""
        if (
            isinstance(event, QKeyEvent)
            and event.type() == QEvent.Type.ShortcutOverride
            and event.modifiers() == Qt.KeyboardModifier.ControlModifier
            and event.key() in OWN_KEYS
        ):
            event.accept()
            return True
        return super().event(event)

    def _own_key(self, key: Qt.Key) -> None:
        if key == Qt.Key.Key_Tab:
            self.textCursor().insertText("\t")
        elif key == Qt.Key.Key_F:
            self.find_asked.emit()
        else:
            names = {Qt.Key.Key_B: "bold", Qt.Key.Key_I: "italic", Qt.Key.Key_K: "small_caps"}
            self.toggle(names[key])

    def words_style(self) -> Run:
        """The style of the words at the cursor, as a run without any."""
        return run_of("", self.textCursor().charFormat())

    def toggle(self, name: str) -> None:
        """Bold, italic or small caps for the words selected, or for what is typed next; a second time takes it off."""
        self.set_style(replace(self.words_style(), **{name: not getattr(self.words_style(), name)}))

    def set_style(self, style: Run) -> None:
        """The words selected, or what is typed next, in that style."""
        self.mergeCurrentCharFormat(style_of_words(style))
        self._changed()
        self.styled.emit()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        inner = self.contentsRect()
        self._gutter.setGeometry(inner.left(), inner.top(), GUTTER, inner.height())


class _Gutter(QWidget):
    """Names the role of each paragraph beside it."""

    def __init__(self, text: StoryText) -> None:
        super().__init__(text)
        self._text = text

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setFont(tokens.font(tokens.SMALL))
        layout = self._text.document().documentLayout()
        assert layout is not None
        bar = self._text.verticalScrollBar()
        down = bar.value() if bar is not None else 0
        here = self._text.textCursor().block()
        block = self._text.cursorForPosition(QPoint(0, 0)).block()
        while block.isValid():
            top = layout.blockBoundingRect(block).top() - down
            if top > self.height():
                break
            painter.setPen(tokens.colour(tokens.LODEN if block == here else tokens.QUIET))
            area = QRectF(4, top + 3, GUTTER - 14, 16)
            painter.drawText(area, Qt.AlignmentFlag.AlignRight, role_of(block))
            block = block.next()

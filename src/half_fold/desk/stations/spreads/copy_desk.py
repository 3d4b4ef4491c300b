"""The copy desk: a story, or the words of a display block, written and read as text with its roles."""

from collections.abc import Callable, Sequence

from PyQt6.QtCore import QEvent, QRectF, Qt, QTimer
from PyQt6.QtGui import (
    QFont,
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QTextBlock,
    QTextBlockFormat,
    QTextBlockUserData,
    QTextCharFormat,
    QTextCursor,
)
from PyQt6.QtWidgets import QTextEdit, QWidget

from half_fold.core.publication.records import Paragraph, Run
from half_fold.desk.theme import tokens

ROLE = 0x100001
GUTTER = 84
PAUSE_MS = 1500
LASTING = ("body", "entry", "list", "quote")  # roles of which another follows
OWN_KEYS = (Qt.Key.Key_B, Qt.Key.Key_I, Qt.Key.Key_Tab)


class _Kept(QTextBlockUserData):
    """The paragraph a block of text stands for, as long as its words and styles are the same."""

    def __init__(self, paragraph: Paragraph) -> None:
        super().__init__()
        self.paragraph = paragraph


class CopyText(QTextEdit):
    """Plain words, bold and italic; the role of each paragraph stands in the margin."""

    def __init__(self, typed: Callable[[tuple[Paragraph, ...]], None], paused: Callable[[], None]) -> None:
        super().__init__()
        self._typed = typed
        self._loading = False
        self.paragraphs: tuple[Paragraph, ...] = ()
        self._touched: tuple[int, int] | None = None  # characters changed since the paragraphs were read
        self.setUndoRedoEnabled(False)
        self.setAcceptRichText(False)
        self.setTabChangesFocus(True)
        self.setFont(tokens.font(tokens.SECTION, family=tokens.SERIF))
        self.setViewportMargins(GUTTER, 0, 0, 0)
        self.setAccessibleName("Copy desk text")
        self._gutter = _Gutter(self)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(PAUSE_MS)
        self._pause.timeout.connect(paused)
        document = self.document()
        assert document is not None
        document.contentsChange.connect(self._note_change)
        self.textChanged.connect(self._changed)
        bar = self.verticalScrollBar()
        assert bar is not None
        bar.valueChanged.connect(lambda _: self._gutter.update())
        self.cursorPositionChanged.connect(self._gutter.update)

    def load(self, paragraphs: Sequence[Paragraph]) -> None:
        """Show these paragraphs, the cursor where it was as far as that can be."""
        if tuple(paragraphs) == self.paragraphs:
            self.paragraphs = tuple(paragraphs)
            return
        at = self.textCursor().position()
        self._loading = True
        self.clear()
        cursor = self.textCursor()
        for index, paragraph in enumerate(paragraphs):
            if index:
                cursor.insertBlock(_format(paragraph.role), QTextCharFormat())
            else:
                cursor.setBlockFormat(_format(paragraph.role))
            for run in paragraph.runs:
                cursor.insertText(run.text, _style(run.bold, run.italic))
            cursor.block().setUserData(_Kept(paragraph))
        self._loading, self._touched = False, None
        self.paragraphs = tuple(paragraphs)
        cursor.setPosition(min(at, max(0, self.document().characterCount() - 1)))
        self.setTextCursor(cursor)
        self._gutter.update()

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
        count = self.document().blockCount()
        if touched is None or not self.paragraphs:
            return tuple(_paragraph(block) for block in _blocks(self))
        block, last = self.document().findBlock(touched[0]), self.document().findBlock(touched[1])
        first, end = block.blockNumber(), last.blockNumber() if last.isValid() else count - 1
        fresh = []
        while block.isValid() and block.blockNumber() <= end:
            fresh.append(_paragraph(block))
            block = block.next()
        after = len(self.paragraphs) - (count - 1 - end)
        if after < first or first > len(self.paragraphs):
            return tuple(_paragraph(block) for block in _blocks(self))
        return (*self.paragraphs[:first], *fresh, *self.paragraphs[after:])

    def role(self) -> str:
        """The role of the paragraph the cursor stands in."""
        return _role(self.textCursor().block())

    def set_role(self, role: str) -> None:
        """Give the paragraphs of the selection another role."""
        cursor = self.textCursor()
        block, last = (
            self.document().findBlock(cursor.selectionStart()),
            self.document().findBlock(cursor.selectionEnd()),
        )
        self._loading = True
        while block.isValid():
            QTextCursor(block).setBlockFormat(_format(role))
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
            following = self.role() if self.role() in LASTING else "body"
            at_end = self.textCursor().atBlockEnd()
            self.textCursor().insertBlock(_format(following if at_end else self.role()))
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
        else:
            self._toggle(key == Qt.Key.Key_B)

    def _toggle(self, bold: bool) -> None:
        now = self.textCursor().charFormat()
        style = QTextCharFormat()
        if bold:
            on = now.fontWeight() >= QFont.Weight.DemiBold
            style.setFontWeight(QFont.Weight.Normal if on else QFont.Weight.Bold)
        else:
            style.setFontItalic(not now.fontItalic())
        self.mergeCurrentCharFormat(style)
        self._changed()

    def resizeEvent(self, event: "object") -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        inner = self.contentsRect()
        self._gutter.setGeometry(inner.left(), inner.top(), GUTTER, inner.height())


class _Gutter(QWidget):
    """Names the role of each paragraph beside it."""

    def __init__(self, text: CopyText) -> None:
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
        for block in _blocks(self._text):
            top = layout.blockBoundingRect(block).top() - down
            if -40 < top < self.height():
                painter.setPen(tokens.colour(tokens.LODEN if block == here else tokens.QUIET))
                area = QRectF(4, top + 3, GUTTER - 14, 16)
                painter.drawText(area, Qt.AlignmentFlag.AlignRight, _role(block))


def _blocks(text: QTextEdit) -> list[QTextBlock]:
    out = []
    block = text.document().begin()
    while block.isValid():
        out.append(block)
        block = block.next()
    return out


def _role(block: QTextBlock) -> str:
    return str(block.blockFormat().property(ROLE) or "body")


def _format(role: str) -> QTextBlockFormat:
    made = QTextBlockFormat()
    made.setProperty(ROLE, role)
    made.setBottomMargin(3)
    return made


def _style(bold: bool, italic: bool) -> QTextCharFormat:
    made = QTextCharFormat()
    made.setFontWeight(QFont.Weight.Bold if bold else QFont.Weight.Normal)
    made.setFontItalic(italic)
    return made


def _paragraph(block: QTextBlock) -> Paragraph:
    """The block's paragraph; the record of before where nothing in it changed."""
    runs: list[Run] = []
    iterator = block.begin()
    while not iterator.atEnd():
        fragment = iterator.fragment()
        style = fragment.charFormat()
        text = fragment.text().replace("\u2028", " ")
        bold, italic = style.fontWeight() >= QFont.Weight.DemiBold, style.fontItalic()
        if runs and (runs[-1].bold, runs[-1].italic) == (bold, italic):
            runs[-1] = Run(text=runs[-1].text + text, bold=bold, italic=italic)
        elif text:
            runs.append(Run(text=text, bold=bold, italic=italic))
        iterator += 1
    made = Paragraph(role=_role(block), runs=tuple(runs))
    kept = block.userData()
    if isinstance(kept, _Kept) and kept.paragraph == made:
        return kept.paragraph
    block.setUserData(_Kept(made))
    return made

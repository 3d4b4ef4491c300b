"""The story drawer: a story, or the words of a display block, written and read as text with its roles."""

import re
from collections.abc import Callable, Sequence

from msgspec.structs import replace
from PyQt6.QtCore import QEvent, QPoint, QRectF, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import (
    QFont,
    QKeyEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QTextBlock,
    QTextBlockFormat,
    QTextBlockUserData,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PyQt6.QtWidgets import QTextEdit, QWidget

from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.typesetting.directions import reads_leftwards
from half_fold.core.typesetting.texts.reading import joined
from half_fold.desk.kit.symbol_font import with_symbols
from half_fold.desk.theme import tokens

ROLE, SMALL_CAPS, RISE, INK, ASKED, APART = 0x100001, 0x100002, 0x100003, 0x100004, 0x100005, 0x100006
GUTTER = 84
PAUSE_MS = 1500
WORD = re.compile(r"\S+")
LASTING = ("body", "entry", "list", "quote")  # roles of which another follows
OWN_KEYS = (Qt.Key.Key_B, Qt.Key.Key_I, Qt.Key.Key_K, Qt.Key.Key_Tab, Qt.Key.Key_F)


def units(text: str, at: int) -> int:
    """The place of a letter as Qt counts: letters outside the basic plane take two places."""
    return at if text.isascii() else at + sum(letter > "\uffff" for letter in text[:at])


class _Kept(QTextBlockUserData):
    """The paragraph a block of text stands for, as long as its words and styles are the same."""

    def __init__(self, paragraph: Paragraph) -> None:
        super().__init__()
        self.paragraph = paragraph


class StoryText(QTextEdit):
    """Words in their styles; the role of each paragraph stands in the margin."""

    find_asked = pyqtSignal()
    styled = pyqtSignal()

    def __init__(self, typed: Callable[[tuple[Paragraph, ...]], None], paused: Callable[[], None]) -> None:
        super().__init__()
        self._typed = typed
        self._loading = False
        self.paragraphs: tuple[Paragraph, ...] = ()
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
                cursor.insertBlock(_format(paragraph.role, paragraph), QTextCharFormat())
            else:
                cursor.setBlockFormat(_format(paragraph.role, paragraph))
            for run in paragraph.runs:
                cursor.insertText(run.text, _style(run))
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

    def paragraph(self) -> Paragraph:
        """The paragraph the cursor stands in."""
        return _paragraph(self.textCursor().block())

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
        if at is not None:
            block = self.document().findBlockByNumber(at[0])
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
            QTextCursor(block).setBlockFormat(_format(role, _paragraph(block)))
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
        elif key == Qt.Key.Key_F:
            self.find_asked.emit()
        else:
            names = {Qt.Key.Key_B: "bold", Qt.Key.Key_I: "italic", Qt.Key.Key_K: "small_caps"}
            self.toggle(names[key])

    def words_style(self) -> Run:
        """The style of the words at the cursor, as a run without any."""
        return _run("", self.textCursor().charFormat())

    def toggle(self, name: str) -> None:
        """Bold, italic or small caps for the words selected, or for what is typed next; a second time takes it off."""
        self.set_style(replace(self.words_style(), **{name: not getattr(self.words_style(), name)}))

    def set_style(self, style: Run) -> None:
        """The words selected, or what is typed next, in that style."""
        self.mergeCurrentCharFormat(_style(style))
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
            painter.drawText(area, Qt.AlignmentFlag.AlignRight, _role(block))
            block = block.next()


def _blocks(text: StoryText) -> list[QTextBlock]:
    out = []
    block = text.document().begin()
    while block.isValid():
        out.append(block)
        block = block.next()
    return out


def _role(block: QTextBlock) -> str:
    return str(block.blockFormat().property(ROLE) or "body")


def _format(role: str, paragraph: Paragraph | None = None) -> QTextBlockFormat:
    """The format of a block of that role; what a paragraph asks for besides travels with it."""
    made = QTextBlockFormat()
    made.setProperty(ROLE, role)
    if paragraph is not None and (paragraph.language or paragraph.looseness or paragraph.tracking or paragraph.filler):
        asked = f"{paragraph.language} {paragraph.looseness} {paragraph.tracking!r} {paragraph.filler}"
        made.setProperty(ASKED, asked)
        if reads_leftwards(paragraph.language):
            made.setLayoutDirection(Qt.LayoutDirection.RightToLeft)
    made.setBottomMargin(3)
    return made


def _style(run: Run) -> QTextCharFormat:
    made = QTextCharFormat()
    made.setFontWeight(QFont.Weight.Bold if run.bold else QFont.Weight.Normal)
    made.setFontItalic(run.italic)
    made.setFontCapitalization(QFont.Capitalization.SmallCaps if run.small_caps else QFont.Capitalization.MixedCase)
    places = {
        "superior": QTextCharFormat.VerticalAlignment.AlignSuperScript,
        "inferior": QTextCharFormat.VerticalAlignment.AlignSubScript,
    }
    made.setVerticalAlignment(places.get(run.rise, QTextCharFormat.VerticalAlignment.AlignNormal))
    made.setProperty(SMALL_CAPS, run.small_caps)
    made.setProperty(RISE, run.rise)
    made.setProperty(INK, run.ink)
    apart = f"{run.size!r} {run.tracking!r} {run.face}" if run.face or run.size != 100.0 or run.tracking else ""
    made.setProperty(APART, apart)
    made.setFontUnderline(bool(run.ink or apart))
    return made


def _run(text: str, style: QTextCharFormat) -> Run:
    size, tracking, face = str(style.property(APART) or "100.0 0.0 ").split(" ", 2)
    return Run(
        text=text,
        bold=style.fontWeight() >= QFont.Weight.DemiBold,
        italic=style.fontItalic(),
        small_caps=bool(style.property(SMALL_CAPS)),
        rise=str(style.property(RISE) or ""),  # type: ignore[arg-type]
        ink=str(style.property(INK) or ""),
        face=face,
        size=float(size),
        tracking=float(tracking),
    )


def _paragraph(block: QTextBlock) -> Paragraph:
    """The block's paragraph; the record of before where nothing in it changed."""
    runs: list[Run] = []
    iterator = block.begin()
    while not iterator.atEnd():
        fragment = iterator.fragment()
        runs.append(_run(fragment.text().replace("\u2028", " "), fragment.charFormat()))
        iterator += 1
    kept = block.userData()
    language, looseness, tracking, filler = str(block.blockFormat().property(ASKED) or " 0 0.0 ").split(" ")
    made = Paragraph(
        role=_role(block),
        runs=joined(runs),
        language=language,
        looseness=int(looseness),
        tracking=float(tracking),
        filler=filler,
    )
    if isinstance(kept, _Kept) and kept.paragraph == made:
        return kept.paragraph
    block.setUserData(_Kept(made))
    return made

"""The story drawer as a leaf of the drawer: the text with its tools, and how it fits."""

from collections.abc import Callable, Sequence

from msgspec.structs import replace
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from half_fold.core.measure.length import counted
from half_fold.core.publication.records import HoldsDisplay, Paragraph, Publication
from half_fold.core.publication.surgery import page_of_block, story_of
from half_fold.core.spread.edits import edits
from half_fold.core.spread.edits.fitting import limit_at
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.where.frames import block_box
from half_fold.core.typesetting.flow.counting import count_words
from half_fold.core.typesetting.texts.finding import replaced
from half_fold.core.typesetting.texts.spelling import dictionary_file
from half_fold.core.typesetting.texts.titles import title_from, with_text
from half_fold.desk.asking import ask_for_text
from half_fold.desk.beside.speller import Speller
from half_fold.desk.kit.narrowing import Narrowing
from half_fold.desk.kit.plain import label
from half_fold.desk.kit.symbol_font import show_symbols
from half_fold.desk.stations.spreads.drawer.find_bar import FindBar
from half_fold.desk.stations.spreads.drawer.story_text import StoryText
from half_fold.desk.stations.spreads.drawer.text_menu import TextMenu
from half_fold.desk.theme import tokens
from half_fold.desk.workpiece import Workpiece

SPELLED_AFTER_MS = 600
NARROW = 400  # pixels for its tools, below which there is no room to say how it fits: the working says it too


class StoryDrawer:
    """The text of the story chosen, or of the display block selected, and how it fits."""

    def __init__(self, session: Workpiece) -> None:
        self.session = session
        self.takes_stories = session.takes_stories
        self.text = StoryText(self._typed, session.history.pause)
        self.text.pasted_long.connect(self._pasted_long)
        self.tools = Narrowing(NARROW, lambda narrow: self.gauge.setVisible(not narrow))
        line = QHBoxLayout(self.tools)
        line.setContentsMargins(8, 0, 0, 0)
        self.stories = QComboBox()
        self.stories.setMinimumWidth(72)
        self.stories.setMaximumWidth(190)
        self.stories.setToolTip("The story on the desk")
        self.stories.activated.connect(self._choose_story)
        self.roles = QComboBox()
        self.roles.setToolTip("The role of this paragraph")
        self.roles.activated.connect(lambda _: self.text.set_role(self.roles.currentData()))
        new = QPushButton("New")
        new.setToolTip("A new story, to be written here")
        new.clicked.connect(lambda: self.new_story())
        bring = QPushButton("Bring in")
        bring.setToolTip("Markdown, plain text, .docx or .odt, threaded through the next free pages (Ctrl+T)")
        bring.clicked.connect(self.ask)
        self.gauge = label("", 12)
        self.gauge.setWordWrap(False)
        self.roles.setMinimumWidth(72)
        for widget in (self.stories, self.roles):
            line.addWidget(widget)
        line.addSpacing(8)
        line.addWidget(self.gauge, 1)
        self.menu = TextMenu(self)
        line.addWidget(self.menu)
        line.addWidget(new)
        line.addWidget(bring)
        for button in (self.menu, new, bring):
            button.setStyleSheet("padding: 5px 8px;")  # narrow, so that the row fits the narrowest window
        self.gauge.setMinimumWidth(0)
        for each in (self.stories, new):
            each.setVisible(self.takes_stories)
        bring.setVisible(session.runs_on)
        self.text.cursorPositionChanged.connect(self._show_role)
        self.text.cursorPositionChanged.connect(self._think)
        self.text.find_asked.connect(self.find)
        self.text.shown_whole.connect(self._show_limit)
        self._spelling = QTimer(self.tools)
        self._spelling.setSingleShot(True)
        self._spelling.setInterval(SPELLED_AFTER_MS)
        self._spelling.timeout.connect(self._mark_spelling)
        self.speller = Speller()
        self.speller.found.connect(self.text.mark)
        self.speller.found.connect(lambda _: self._think())
        self.finder = FindBar(self.text, self._typed_at_once, session.noted.emit)
        self.leaf = QWidget()
        column = QVBoxLayout(self.leaf)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addWidget(self.finder)
        column.addWidget(self.text, 1)

    # Text ---------------------------------------------------------------------------------------

    def find(self) -> None:
        """Open the bar for finding and replacing."""
        self.finder.open()

    @property
    def spells(self) -> bool:
        """Whether words that no dictionary knows are marked: as the job says, where there is a dictionary."""
        return self.session.publication.spelled and dictionary_file(self.language()) is not None

    def spell(self, on: bool) -> None:
        """Mark words that the dictionary does not know, or no longer: here, in the checks, and at the next opening."""
        language = self.language()
        if on and dictionary_file(language) is None:
            self.session.said.emit(f"There is no dictionary of {language} here; the system's Hunspell ones are used.")
            return
        self.session.edit(lambda p: replace(p, spelled=on), "spelling looked at" if on else "spelling let be")
        self._mark_spelling()

    def language(self) -> str:
        """That of the story on the desk."""
        story = self.session.view.story
        publication = self.session.publication
        return story_of(publication, story).language if story is not None else publication.language

    def _mark_spelling(self) -> None:
        if self.spells:
            self.speller.start(self.text.paragraphs, self.language())
        else:
            self.speller.cancel()
            self.text.mark([])

    def _think(self) -> None:
        word = self.misspelled()
        if word:
            self.speller.think(word, self.language())

    def misspelled(self) -> str:
        """The marked word at the cursor, or ''."""
        place = self.text.marked_word() if self.spells else None
        if place is None or place[0] >= len(self.text.paragraphs):
            return ""
        return self.text.paragraphs[place[0]].text[place[1] : place[2]]

    def meant(self) -> list[str]:
        """What may have been meant by the marked word at the cursor."""
        return self.speller.meant.get(self.misspelled(), [])

    def put_instead(self, word: str) -> None:
        """Another word in place of the marked one."""
        place = self.text.marked_word()
        if place is not None:
            number, start, end = place
            paragraphs = list(self.text.paragraphs)
            paragraphs[number] = replaced(paragraphs[number], start, end, word)
            self._typed_at_once(tuple(paragraphs), f"spelled {word}")

    def change_paragraphs(self, change: Callable[[Paragraph], Paragraph], said: str) -> None:
        """Change the paragraphs that the selection touches, as one edit."""
        chosen = self.text.chosen()
        made = tuple(change(p) if i in chosen else p for i, p in enumerate(self.text.paragraphs))
        self._typed_at_once(made, said)

    def _typed_at_once(self, paragraphs: tuple[Paragraph, ...], said: str = "replaced") -> None:
        self.session.history.pause()
        self._typed(paragraphs, said)
        self.session.history.pause()

    # What is on the desk ------------------------------------------------------------------------

    def display_block(self) -> str | None:
        """The display block selected, whose words are then on the desk."""
        block = self.session.view.block
        if block is None:
            return None
        _, _, found = page_of_block(self.session.publication, block)
        return block if isinstance(found.holds, HoldsDisplay) else None

    def _paragraphs(self) -> tuple[Paragraph, ...]:
        display = self.display_block()
        if display is not None:
            holds = page_of_block(self.session.publication, display)[2].holds
            assert isinstance(holds, HoldsDisplay)
            return holds.paragraphs
        if self.session.view.story is None:
            return ()
        return story_of(self.session.publication, self.session.view.story).paragraphs

    def _show_symbols(self, publication: Publication) -> None:
        """In the text as on the page, where the job has any."""
        if show_symbols(publication, self.session.proxies.folder.parent):
            self.text.setFont(self.text.font())

    def refresh(self) -> None:
        publication, display = self.session.publication, self.display_block()
        self.text.lasting = display is not None
        self._show_symbols(publication)
        entries = [(story.id, story.title or "Untitled") for story in publication.stories]
        if display is not None:
            entries = [("", "words of the selected block"), *entries]
        _fill(self.stories, entries, "" if display is not None else self.session.view.story or "")
        _fill(self.roles, [(role.name, role.label) for role in publication.roles], self.text.role())
        on_desk = display is not None or self.session.view.story is not None
        self.text.setEnabled(on_desk)
        self.text.setPlaceholderText("Write here." if on_desk else self._nothing())
        self.text.load(self._paragraphs())
        self._show_limit()
        if self.finder.isVisible():
            self.finder.refresh()
        self._show_role()
        self.gauge.setText(self.fit_words())
        style = f"color: {tokens.OCHRE_TEXT if 'over' in self.gauge.text() else tokens.QUIET};"
        if self.gauge.styleSheet() != style:
            self.gauge.setStyleSheet(style)

    def _show_limit(self) -> None:
        """Where it breaks off, and what is misspelled: again once all of a long text is shown."""
        self.text.break_off(self._limit())
        if self.spells:
            self._spelling.start()

    def _limit(self) -> tuple[int, int] | None:
        """Where the story on the desk breaks off for want of room."""
        story = self.session.view.story
        if story is None or self.display_block() is not None:
            return None
        return limit_at(self.session.publication, self.session.setter, story)

    def _nothing(self) -> str:
        return "No story yet. Start one with New." if self.takes_stories else "Choose a block of words to write in it."

    def fit_words(self) -> str:
        """How what is on the desk fits, in words and lines."""
        words = counted(count_words(self._paragraphs()), "word")
        publication, display = self.session.publication, self.display_block()
        if display is not None:
            index, _, block = page_of_block(publication, display)
            setting = display_marks(
                self.session.setter.composer, publication, block, block_box(publication, index + 1, block)
            )
            over = setting.over_lines
            return f"{words}, {counted(over, 'line')} over" if over else f"{words}, fits its block"
        if self.session.view.story is None:
            return ""
        flow = self.session.setter.threads.flow(publication, self.session.view.story)
        if not flow.columns:
            return f"{words}, not on a page yet"
        if flow.over_lines:
            return f"{words}, {counted(flow.over_lines, 'line')} over ({counted(flow.over_words, 'word')})"
        return f"{words}, {counted(flow.used, 'line')}, {flow.room} free"

    def _show_role(self) -> None:
        index = self.roles.findData(self.text.role())
        if index >= 0:
            self.roles.setCurrentIndex(index)

    # Edits --------------------------------------------------------------------------------------

    def _typed(self, paragraphs: tuple[Paragraph, ...], said: str = "typing") -> None:
        display, story = self.display_block(), self.session.view.story
        if display is not None:
            self.session.edit(lambda p: _with_words(p, display, paragraphs), said, f"type {display}")
        elif story is not None:
            self.session.edit(lambda p: with_text(p, story, paragraphs), said, f"type {story}")

    def _pasted_long(self, paragraphs: tuple[Paragraph, ...]) -> None:
        if self.display_block() is None and self.session.view.story is not None:
            self.session.write_long(self.session.view.story, paragraphs)
        else:
            self._typed_at_once(paragraphs, "pasted words")
            self.text.load(self._paragraphs())

    def _choose_story(self, index: int) -> None:
        story = self.stories.itemData(index)
        if story:
            self.session.view.select(None)
            self.session.view.choose_story(story)

    def new_story(self, paragraphs: Sequence[Paragraph] = ()) -> str:
        """A story on the desk, empty unless it is given words; gives its id."""
        made = ""

        def make(publication: Publication) -> Publication:
            nonlocal made
            words = tuple(paragraphs) or (Paragraph(role="body", runs=()),)
            publication, made = add_story(publication, title_from(words), words)
            return publication

        self.session.edit(make, "new story")
        self.session.view.select(None)
        self.session.view.choose_story(made)
        self.text.setFocus()
        return made

    def ask(self) -> None:
        """Ask for a text to bring in."""
        path = ask_for_text(self.text)
        if path is not None:
            self.session.bring_text(path)


def _with_words(publication: Publication, block: str, paragraphs: tuple[Paragraph, ...]) -> Publication:
    _, _, found = page_of_block(publication, block)
    assert isinstance(found.holds, HoldsDisplay)
    return edits.set_holds(publication, block, replace(found.holds, paragraphs=paragraphs))


def _fill(combo: QComboBox, entries: list[tuple[str, str]], chosen: str) -> None:
    have = [(combo.itemData(i), combo.itemText(i)) for i in range(combo.count())]
    if have != entries:
        combo.clear()
        for data, words in entries:
            combo.addItem(words, data)
    combo.setCurrentIndex(max(0, combo.findData(chosen)))
    combo.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

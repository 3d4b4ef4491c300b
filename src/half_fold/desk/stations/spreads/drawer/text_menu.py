"""The menu of the story drawer: styles of words, what a paragraph asks for, and what is done with a whole story."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Protocol

from msgspec.structs import replace
from PyQt6.QtCore import QPoint
from PyQt6.QtGui import QAction, QIcon
from PyQt6.QtWidgets import QFileDialog, QMenu, QPushButton

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.languages import LANGUAGES
from half_fold.core.publication.ranges import RANGES
from half_fold.core.publication.records import Paragraph, Publication, Run
from half_fold.core.publication.surgery import story_of, with_story
from half_fold.core.spread.edits.filling import fill_to_the_foot
from half_fold.core.store.atomic import write_whole
from half_fold.core.typesetting.faces.faces import families
from half_fold.core.typesetting.sheet.exceptions import makes_a_role, with_role_of
from half_fold.core.typesetting.texts.markdown_out import to_markdown
from half_fold.core.typesetting.texts.quotes import in_language, told_in
from half_fold.core.typesetting.texts.reading import DEFAULT_ROLES, role_table, set_text_role
from half_fold.desk.kit.ink_chip import LARGE, chip
from half_fold.desk.memory import last_folder, note_folder
from half_fold.desk.stations.spreads.drawer.story_text import StoryText
from half_fold.desk.workpiece import Workpiece

SIZE_STEP, TRACKING_STEP = 1.1, 10.0
Act = Callable[[], object]


class MenuDesk(Protocol):
    """What the menu acts on."""

    session: Workpiece
    text: StoryText

    @property
    def spells(self) -> bool: ...

    def change_paragraphs(self, change: Callable[[Paragraph], Paragraph], said: str) -> None: ...
    def find(self) -> None: ...
    def language(self) -> str: ...
    def meant(self) -> list[str]: ...
    def put_instead(self, word: str) -> None: ...
    def spell(self, on: bool) -> None: ...


class TextMenu(QPushButton):
    """A button that opens the menu, made anew each time for what the cursor stands in."""

    def __init__(self, desk: MenuDesk) -> None:
        super().__init__("Text")
        self.desk = desk
        self.setToolTip("Styles, languages, find, spelling, Markdown")
        self.clicked.connect(self.open)
        self.menu_now: QMenu | None = None

    def open(self) -> None:
        """Show the menu over the button."""
        menu = self.menu_now = QMenu(self)
        style, text = self.desk.text.words_style(), self.desk.text
        for word in self.desk.meant():
            _add(menu, f"Put “{word}”", partial(self.desk.put_instead, word))
        if self.desk.meant():
            menu.addSeparator()
        for name, words in (
            ("bold", "Bold  Ctrl+B"),
            ("italic", "Italic  Ctrl+I"),
            ("small_caps", "Small caps  Ctrl+K"),
        ):
            _add(menu, words, partial(text.toggle, name), getattr(style, name))
        for rise in ("superior", "inferior"):
            other = "" if style.rise == rise else rise
            _add(menu, rise.capitalize(), partial(text.set_style, replace(style, rise=other)), style.rise == rise)
        self._inks(menu.addMenu("Ink"))
        self._apart(menu.addMenu("Words of their own"))
        for symbol in self.desk.session.publication.symbols:
            _add(menu, f"Put in the symbol “{symbol.name}”", partial(text.insertPlainText, symbol.letter))
        menu.addSeparator()
        self._paragraph(menu)
        menu.addSeparator()
        _add(menu, "Find and replace  Ctrl+F", self.desk.find)
        _add(menu, "Mark misspelled words", lambda: self.desk.spell(not self.desk.spells), self.desk.spells)
        if self.desk.session.view.story is not None:
            languages = menu.addMenu("Language of the story")
            assert languages is not None
            for code, words in LANGUAGES:
                _add(languages, words, partial(self._tell, code), self.desk.language() == code)
            _add(menu, "Filler copy to the foot of its blocks", self._fill)
            _add(menu, "Write it as Markdown", self.write)
            self._roles(menu.addMenu("What texts that come in become"))
        menu.popup(self.mapToGlobal(self.rect().topLeft()) - QPoint(0, menu.sizeHint().height()))

    def _inks(self, menu: QMenu | None) -> None:
        assert menu is not None
        text, style = self.desk.text, self.desk.text.words_style()
        names = [("", "the role's"), *((ink.name, ink.name) for ink in self.desk.session.publication.inks)]
        for name, words in names:
            action = _add(menu, words, partial(text.set_style, replace(style, ink=name)), style.ink == name)
            if name:
                action.setIcon(QIcon(chip(self.desk.session.publication, name, LARGE, self.devicePixelRatioF())))

    def _apart(self, menu: QMenu | None) -> None:
        """Size, tracking and face of the words selected, beside what their role says."""
        assert menu is not None
        text, style = self.desk.text, self.desk.text.words_style()
        least, most = RANGES[Run]["size"]
        for words, step in (("Larger, by a tenth", SIZE_STEP), ("Smaller, by a tenth", 1 / SIZE_STEP)):
            size = round(min(max(style.size * step, least), most), 1)
            _add(menu, words, partial(text.set_style, replace(style, size=size)))
        for words, by in (("Tracked out", TRACKING_STEP), ("Tracked in", -TRACKING_STEP)):
            _add(menu, words, partial(text.set_style, replace(style, tracking=style.tracking + by)))
        faces = menu.addMenu("Face")
        assert faces is not None
        keys = [("", "the role's"), *((f"{f}/{s}", f"{f} {s}") for f, styles in families().items() for s in styles)]
        for key, words in keys:
            _add(faces, words, partial(text.set_style, replace(style, face=key)), style.face == key)
        plain = replace(style, face="", size=100.0, tracking=0.0, ink="")
        _add(menu, "As their role says", partial(text.set_style, plain))
        if self.desk.session.view.story is not None and makes_a_role(self.desk.text.paragraph()):
            _add(menu, "Make a role of this paragraph", self._make_role)

    def _make_role(self) -> None:
        """The exceptions of the paragraph at the cursor as a role of their own."""
        session, at = self.desk.session, self.desk.text.textCursor().blockNumber()
        story = session.view.story
        assert story is not None
        session.edit(lambda p: with_role_of(p, story, at), "a role of its exceptions")

    def _paragraph(self, menu: QMenu) -> None:
        change = self.desk.change_paragraphs
        now = self.desk.text.paragraph()
        languages = menu.addMenu("Language of the paragraph")
        assert languages is not None
        for code, words in (("", "the story's"), *LANGUAGES):
            _add(languages, words, partial(self._speak, code, words), now.language == code)
        for by, words in ((1, "A line longer"), (-1, "A line shorter")):
            _add(
                menu,
                words,
                partial(change, partial(_looser, by=by), words),
            )
        if now.looseness or now.tracking:
            _add(
                menu,
                "As long as is best",
                lambda: change(lambda p: replace(p, looseness=0, tracking=0.0), "as is best"),
            )

    def _fill(self) -> None:
        """Words that hold the place of text, as many as the story's blocks have room for."""
        session = self.desk.session
        story = session.view.story
        assert story is not None
        session.edit(lambda p: fill_to_the_foot(p, session.setter, story), "filler copy")

    def _tell(self, language: str) -> None:
        """The whole story in a language, with its quotation marks."""
        story = self.desk.session.view.story
        assert story is not None

        def change(publication: Publication) -> Publication:
            return with_story(publication, told_in(story_of(publication, story), language))

        self.desk.session.edit(change, f"story in {language}")

    def _speak(self, language: str, words: str) -> None:
        story = self.desk.language()
        self.desk.change_paragraphs(lambda p: in_language(p, language, story), f"paragraph in {words}")

    def _roles(self, menu: QMenu | None) -> None:
        """The table of text roles: every kind of paragraph, and under it the roles it may become."""
        assert menu is not None
        publication = self.desk.session.publication
        table = role_table(publication)
        for found in (*DEFAULT_ROLES, *(k for k in table if k not in DEFAULT_ROLES)):
            kind = menu.addMenu(f"{found}: {table[found]}")
            assert kind is not None
            for role in publication.roles:
                _add(kind, role.label, partial(self._say, found, role.name), table[found] == role.name)

    def _say(self, found: str, role: str) -> None:
        self.desk.session.edit(lambda p: set_text_role(p, found, role), f"{found} becomes {role}")

    def write(self) -> None:
        """Ask for a file and write the story into it."""
        session = self.desk.session
        assert session.view.story is not None
        story = story_of(session.publication, session.view.story)
        name, _ = QFileDialog.getSaveFileName(
            self, "Write it as Markdown", str(Path(last_folder("texts")) / f"{story.title}.md"), "Markdown (*.md)"
        )
        if not name:
            return
        note_folder("texts", Path(name).parent)
        text, notes = to_markdown(story.paragraphs, role_table(session.publication))
        try:
            write_whole(Path(name), text.encode())
        except Problem as problem:
            session.said.emit(str(problem))
            return
        session.noted.emit(" ".join([f"Written: {Path(name).name}.", *notes]))


def _add(menu: QMenu, words: str, act: Act, checked: bool | None = None) -> QAction:
    action = menu.addAction(words)
    assert action is not None
    if checked is not None:
        action.setCheckable(True)
        action.setChecked(checked)
    action.triggered.connect(lambda _=False: act())
    return action


def _looser(paragraph: Paragraph, by: int) -> Paragraph:
    return replace(paragraph, looseness=max(-3, min(3, paragraph.looseness + by)))

"""The story drawer reads only what was touched: after any edits its paragraphs are those of the whole text."""

import random
from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QMimeData, Qt
from PyQt6.QtGui import QTextCursor
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from half_fold.core.measure.length import length
from half_fold.core.publication.records import HoldsPicture, Paragraph, Run, Wrap
from half_fold.core.publication.surgery import page_of_block, story_of
from half_fold.core.typesetting.flow.filler import is_filler
from half_fold.core.typesetting.sheet.exceptions import format_exceptions
from half_fold.core.typesetting.texts.markdown_in import read_markdown
from half_fold.core.typesetting.texts.reading import role_table
from half_fold.desk.stations.spreads.drawer.story_drawer import StoryDrawer
from half_fold.desk.stations.spreads.drawer.story_text import AT_ONCE, StoryText
from half_fold.desk.stations.spreads.drawer.text_blocks import blocks_of_text, paragraph_of, units
from half_fold.desk.window import Window
from tests.desk.conftest import choose_from, type_into, type_into_dialog, wait_for

MOVE, KEEP = QTextCursor.MoveMode.MoveAnchor, QTextCursor.MoveMode.KeepAnchor


def _texts(paragraphs: tuple[Paragraph, ...]) -> list[tuple[str, str, list[bool]]]:
    return [(p.role, p.text, [run.bold for run in p.runs]) for p in paragraphs]


def _edit(text: StoryText, chance: random.Random) -> None:
    """One edit such as a writer makes, at any place, over any selection."""
    length = len(text.toPlainText())
    cursor = text.textCursor()
    cursor.setPosition(chance.randint(0, length), MOVE)
    if chance.random() < 0.5:
        cursor.setPosition(chance.randint(0, length), KEEP)
    text.setTextCursor(cursor)
    what = chance.randrange(8)
    if what == 0:
        QTest.keyClick(text, Qt.Key.Key_Return)
    elif what == 1:
        QTest.keyClick(text, Qt.Key.Key_Backspace)
    elif what == 2:
        QTest.keyClick(text, Qt.Key.Key_Delete)
    elif what == 3:
        text.insertPlainText("pasted\nin three\nlines")
    elif what == 4:
        text.set_role(chance.choice(["body", "crosshead", "quote"]))
    elif what == 5:
        QTest.keyClick(text, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    else:
        QTest.keyClicks(text, chance.choice(["e", "a word ", "x"]))


@pytest.mark.parametrize("seed", range(12))
def test_paragraphs_read_in_part_are_those_of_the_whole(dressed: None, seed: int) -> None:
    chance = random.Random(seed)
    said: list[tuple[Paragraph, ...]] = []
    text = StoryText(said.append, lambda: None)
    text.show()
    text.load([Paragraph(role="body", runs=(Run(text=f"Paragraph {n} of several."),)) for n in range(6)])
    for _ in range(60):
        _edit(text, chance)
        whole = tuple(paragraph_of(block) for block in blocks_of_text(text))
        assert _texts(text.paragraphs) == _texts(whole)
    assert said


LONGER = tuple(
    Paragraph(role=role, runs=(Run(text=words), Run(text=" in bold", bold=True)))
    for role, words in (("headline", "The 𝄞 winter"), ("body", "of long ladders"), ("quote", "עץ and frost"))
)


@pytest.mark.parametrize("seed", range(40))
def test_a_long_text_is_put_where_the_editor_itself_would_put_it(dressed: None, seed: int) -> None:
    chance = random.Random(seed)
    text = StoryText(lambda _: None, lambda: None)
    text.load(LONGER)
    whole = text.toPlainText()
    cursor = text.textCursor()
    for way in (MOVE, KEEP):
        cursor.setPosition(units(whole, chance.randint(0, len(whole))), way)
    text.setTextCursor(cursor)
    lines = [chance.choice(["", "frost 𝄞", "a gate", "ladders"]) for _ in range(AT_ONCE + 1)]
    lines[0], lines[-1] = chance.choice(["", "first"]), chance.choice(["", "last"])
    told: list[tuple[Paragraph, ...]] = []
    text.pasted_long.connect(told.append)
    pasted = QMimeData()
    pasted.setText(chance.choice(["\n", "\r\n", "\u2029"]).join(lines))
    before = text.paragraphs
    text.insertFromMimeData(pasted)
    assert text.paragraphs == before
    text.textCursor().insertText("\n".join(lines))
    assert [(p.role, p.text) for p in told[0]] == [(p.role, p.text) for p in text.paragraphs]


def test_typing_in_one_paragraph_keeps_the_records_of_the_rest(dressed: None) -> None:
    text = StoryText(lambda _: None, lambda: None)
    text.show()
    loaded = [Paragraph(role="body", runs=(Run(text=f"Paragraph {n}."),)) for n in range(50)]
    text.load(loaded)
    cursor = text.textCursor()
    cursor.setPosition(len("Paragraph 0.\n") * 10)
    text.setTextCursor(cursor)
    QTest.keyClicks(text, "word ")
    changed = [n for n, (a, b) in enumerate(zip(loaded, text.paragraphs, strict=True)) if a is not b]
    assert len(changed) == 1 and "word" in text.paragraphs[changed[0]].text


# The desk in the window ----------------------------------------------------------------------------


@pytest.fixture
def copy(window: Window) -> StoryDrawer:
    window.session.view.go_to(7)
    window.open_station(4)
    window.station.open_drawer("stories")  # type: ignore[attr-defined]
    window.session.view.choose_story(window.session.publication.stories[0].id)
    QTest.qWait(30)
    return window.station.drawer.stories  # type: ignore[attr-defined, no-any-return]


def _story(window: Window) -> tuple[Paragraph, ...]:
    return window.session.publication.stories[0].paragraphs


def _select(copy: StoryDrawer, words: str) -> None:
    at = copy.text.toPlainText().index(words)
    cursor = copy.text.textCursor()
    cursor.setPosition(at, MOVE)
    cursor.setPosition(at + len(words), KEEP)
    copy.text.setTextCursor(cursor)
    copy.text.setFocus()


def _menu(copy: StoryDrawer, *names: str) -> None:
    """Choose from the Text menu, through its submenus, by key."""
    QTest.mouseClick(copy.menu, Qt.MouseButton.LeftButton)
    menu = copy.menu.menu_now
    assert menu is not None
    for name in names[:-1]:
        action = next(a for a in menu.actions() if a.text().startswith(name))
        menu = action.menu()
        assert menu is not None
    action = next(a for a in menu.actions() if a.text().startswith(names[-1]))
    action.trigger()
    copy.menu.menu_now.close()
    QTest.qWait(10)


def test_words_take_styles_by_key_and_by_menu(window: Window, copy: StoryDrawer) -> None:
    _select(copy, "ladders")
    QTest.keyClick(copy.text, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    assert [run.text for run in _story(window)[0].runs if run.small_caps] == ["ladders"]
    _select(copy, "barn")
    _menu(copy, "Superior")
    _menu(copy, "Ink", "russet")
    run = next(run for run in _story(window)[0].runs if run.text == "barn")
    assert (run.rise, run.ink) == ("superior", "russet")
    _menu(copy, "Superior")
    run = next(run for run in _story(window)[0].runs if run.text == "barn")
    assert (run.rise, run.ink) == ("", "russet")
    window.grab()


def test_a_paragraph_asks_for_a_language_and_for_a_line_more(window: Window, copy: StoryDrawer) -> None:
    _select(copy, "ladders")
    _menu(copy, "Language of the paragraph", "German")
    _menu(copy, "A line longer")
    paragraph = _story(window)[0]
    assert (paragraph.language, paragraph.looseness) == ("de_DE", 1)
    QTest.keyClicks(copy.text, "Leitern")
    assert _story(window)[0].language == "de_DE" and "Leitern" in _story(window)[0].text
    _menu(copy, "As long as is best")
    assert _story(window)[0].looseness == 0
    for _ in range(4):
        window.session.undo()
    assert _story(window)[0].language == ""


def test_a_story_is_told_its_language(window: Window, copy: StoryDrawer) -> None:
    before = _story(window)
    assert any("“" in p.text for p in before)
    _menu(copy, "Language of the story", "German")
    story = window.session.publication.stories[0]
    assert story.language == "de_DE" and any("„" in p.text for p in story.paragraphs)
    assert copy.text.paragraphs == story.paragraphs
    _menu(copy, "Language of the story", "English, British")
    assert _story(window) == before


def test_a_long_text_is_set_beside_the_window_and_is_one_edit(window: Window, copy: StoryDrawer) -> None:
    session, text = window.session, copy.text
    before, lines = session.publication, [f"The frost of night {number}." for number in range(400)]
    text.moveCursor(QTextCursor.MoveOperation.End)
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    clipboard.setText("\n".join(["", *lines]))
    QTest.keyClick(text, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert session.publication is before and session.bringing.busy
    wait_for(lambda: not session.bringing.busy)
    assert [p.text for p in story_of(session.publication, session.view.story).paragraphs][-400:] == lines
    wait_for(lambda: text.toPlainText().endswith(lines[-1]))
    session.undo()
    assert session.publication is before
    # The story is written in while another is pasted: what was written stays, and that is said.
    QTest.keyClick(text, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(text, "Meanwhile ")
    wait_for(lambda: not session.bringing.busy)
    assert "paste it once more" in window.foot.sentence
    assert "Meanwhile" in text.toPlainText() and len(text.paragraphs) < 400
    # Something else is edited while it is pasted: both are there.
    session.history.pause()
    QTest.keyClick(text, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    session.edit(lambda p: replace(p, title="Otherwise"), "title")
    wait_for(lambda: not session.bringing.busy)
    assert session.publication.title == "Otherwise"
    assert len(story_of(session.publication, session.view.story).paragraphs) > 400


def test_find_and_replace_by_keyboard(window: Window, copy: StoryDrawer) -> None:
    before = window.session.publication
    copy.text.setFocus()
    QTest.keyClick(copy.text, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    finder = copy.finder
    assert finder.isVisible()
    finder.words.selectAll()
    QTest.keyClicks(finder.words, "the gate")
    count = len(finder.places())
    assert count >= 2 and finder.count.text() == f"{count} places"
    QTest.keyClick(finder.words, Qt.Key.Key_Return)
    assert copy.text.textCursor().selectedText().lower() == "the gate"
    QTest.keyClicks(finder.instead, "the stile")
    QTest.keyClick(finder.instead, Qt.Key.Key_Return)
    assert len(finder.places()) == count - 1
    finder.replace_all()
    assert not finder.places() and sum(p.text.count("the stile") for p in _story(window)) == count
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.session.publication is before
    QTest.keyClick(finder.words, Qt.Key.Key_Escape)
    assert not finder.isVisible()


def test_misspelled_words_are_marked_and_the_marks_follow_the_text(window: Window, copy: StoryDrawer) -> None:
    _menu(copy, "Mark misspelled words")
    wait_for(lambda: any(m.cursor.selectedText() == "Voll" for m in copy.text.extraSelections()))
    _select(copy, "ladders")
    QTest.keyClicks(copy.text, "ladrs")
    wait_for(lambda: any(m.cursor.selectedText() == "ladrs" for m in copy.text.extraSelections()))
    _select(copy, "ladrs")
    wait_for(lambda: "lads" in copy.meant())
    _menu(copy, "Put “lads”")
    assert "The lads come" in _story(window)[0].text and "ladrs" not in _story(window)[0].text
    wait_for(lambda: not any(m.cursor.selectedText() == "ladrs" for m in copy.text.extraSelections()))
    _menu(copy, "Mark misspelled words")
    assert not copy.text.extraSelections()


def test_where_a_story_breaks_off_is_shown(window: Window, copy: StoryDrawer) -> None:
    cursor = copy.text.textCursor()
    cursor.movePosition(QTextCursor.MoveOperation.End)
    copy.text.setTextCursor(cursor)
    copy.text.insertPlainText("\n" + "More words than there is room for. " * 60)
    QTest.qWait(20)
    (mark,) = copy.text.extraSelections()
    flow = window.session.setter.threads.flow(window.session.publication, window.session.view.story or "")
    assert abs(len(mark.cursor.selectedText().split()) - flow.over_words) <= 1


def test_a_story_is_written_as_markdown(window: Window, copy: StoryDrawer, tmp_path: Path) -> None:
    type_into_dialog(str(tmp_path / "out.md"))
    copy.menu.write()
    text = (tmp_path / "out.md").read_text(encoding="utf-8")
    assert "*Patience*" in text and "## " in text
    back = read_markdown(text).paragraphs
    assert tuple(back[1:]) == _story(window)[1:] and back[0].runs == _story(window)[0].runs
    assert "“opening” paragraphs were written as plain ones" in window.foot.sentence


def test_the_table_of_text_roles_is_edited_in_the_menu(window: Window, copy: StoryDrawer) -> None:
    _menu(copy, "What texts", "heading 2", "Subhead")
    assert role_table(window.session.publication)["heading 2"] == "subhead"
    _menu(copy, "What texts", "heading 2", "Crosshead")
    assert window.session.publication.text_roles == ()


def test_make_it_fit_offers_what_it_costs_and_one_click_does_it(window: Window, copy: StoryDrawer) -> None:
    _select(copy, "ladders")
    cursor = copy.text.textCursor()
    cursor.movePosition(QTextCursor.MoveOperation.End)
    copy.text.setTextCursor(cursor)
    copy.text.insertPlainText(" It was a long winter, and nobody was sorry. " * 14)
    QTest.qWait(20)
    story = window.session.view.story or ""
    assert window.session.setter.threads.flow(window.session.publication, story).over_lines
    station = window.station
    card = next(card for card in window.working.cards if card.card.title == "Make it fit")
    QTest.mouseClick(card.buttons[0], Qt.MouseButton.LeftButton)
    wait_for(lambda: not station.fitter.busy)  # type: ignore[attr-defined]
    QTest.qWait(30)
    before = window.session.publication
    offered = [card for card in window.working.cards if card.buttons and card.buttons[0].text() == "Do it"]
    assert len(offered) >= 2
    QTest.mouseClick(offered[0].buttons[0], Qt.MouseButton.LeftButton)
    assert window.session.publication is not before
    assert not window.session.setter.threads.flow(window.session.publication, story).over_lines
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.session.publication is before


def test_text_runs_round_a_block_when_it_is_told_to(window: Window) -> None:
    window.session.view.go_to(46)
    window.open_station(4)
    block = next(b for b in window.session.publication.pages[45].blocks if isinstance(b.holds, HoldsPicture))
    window.session.view.select(block.id)
    QTest.qWait(20)
    before = window.session.marks()
    for key in (Qt.Key.Key_Down,) * 3:
        QTest.keyClick(window.station.bench, key)  # type: ignore[attr-defined]
    choose_from(window.working.row("Text"), "round its outline")
    wrapped = window.session.marks()
    assert wrapped is not before
    type_into(window.working.row("Kept off by"), "6mm")
    choose_from(window.working.row("Text runs"), "both sides")
    found = page_of_block(window.session.publication, block.id)[2].wrap
    assert found == Wrap(shape="outline", side="both", offset=length("6mm"))
    now = window.session.publication
    type_into(window.working.row("Kept off by"), "-1mm")
    assert window.session.publication is now


def test_letters_outside_the_basic_plane_shift_nothing(window: Window, copy: StoryDrawer) -> None:
    """Qt counts such a letter twice: found words, marks of misspelled ones and of what is over stand where they are."""
    copy.new_story(
        (Paragraph(role="body", runs=(Run(text="\U0001f34e\U0001f350 pears and \U0001f34e pears, hegde"),)),)
    )
    copy.find()
    copy.finder.words.setText("pears")
    assert copy.finder.next() and copy.text.textCursor().selectedText() == "pears"
    copy.finder.instead.setText("\U0001f333 oaks")
    copy.finder.replace_one()
    assert copy.text.textCursor().selectedText() == "pears"
    copy.finder.replace_one()
    assert copy.text.paragraphs[0].text == "\U0001f34e\U0001f350 \U0001f333 oaks and \U0001f34e \U0001f333 oaks, hegde"
    at = copy.text.paragraphs[0].text.index("hegde")
    copy.text.mark([(0, at, at + 5)])
    assert copy.text.extraSelections()[-1].cursor.selectedText() == "hegde"
    cursor = copy.text.textCursor()
    cursor.movePosition(QTextCursor.MoveOperation.End)
    copy.text.setTextCursor(cursor)
    assert copy.text.marked_word() == (0, at, at + 5)
    copy.text.break_off((0, 2))
    assert copy.text.extraSelections()[0].cursor.selectedText().startswith(" oaks and")


def test_selected_words_are_set_apart_counted_and_made_a_role(window: Window, copy: StoryDrawer) -> None:
    session = window.session
    first = _story(window)[0]
    words = first.text.split()[0]
    _select(copy, words)
    _menu(copy, "Words of their own", "Larger")
    _menu(copy, "Words of their own", "Larger")
    _menu(copy, "Words of their own", "Face", "Young Serif Regular")
    run = next(run for run in _story(window)[0].runs if words in run.text)
    assert run.text.strip() == words and run.size == pytest.approx(121.0) and run.face == "Young Serif/Regular"
    assert format_exceptions(session.publication, first.role).startswith("1 word in 1 way")
    _select(copy, words)
    _menu(copy, "Words of their own", "As their role says")
    assert _story(window)[0].runs == first.runs
    _select(copy, first.text)
    _menu(copy, "Words of their own", "Tracked out")
    _menu(copy, "Words of their own", "Make a role")
    made = _story(window)[0]
    assert made.role != first.role and all(run.tracking == 0 for run in made.runs)
    assert next(role for role in session.publication.roles if role.name == made.role).based_on == first.role


def test_filler_copy_is_poured_to_the_foot_from_the_menu(window: Window, copy: StoryDrawer) -> None:
    before = len(_story(window))
    _menu(copy, "Filler copy")
    paragraphs = _story(window)
    if len(paragraphs) == before:  # it was full: then that is said
        return
    assert any(is_filler(paragraph) for paragraph in paragraphs)
    at = next(i for i, paragraph in enumerate(paragraphs) if is_filler(paragraph))
    _select(copy, paragraphs[at].text[:20])
    QTest.keyClicks(copy.text, "Written instead. ")
    assert not is_filler(_story(window)[at])

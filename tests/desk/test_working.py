"""The working of what is chosen: headings that fold, dots that put back, rows found by typing, and how few acts."""

import pytest
from msgspec.structs import replace
from PyQt6 import sip
from PyQt6.QtCore import QPoint, QRectF, Qt
from PyQt6.QtGui import QTransform
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QMenu

from half_fold.core.drawing.marks import leaves
from half_fold.core.grid.stops import EDGES
from half_fold.core.paths.all import set_path
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsPicture, Publication
from half_fold.core.publication.surgery import block_named, picture_of
from half_fold.core.spread.settable.headings import ORDER, heading_of
from half_fold.core.spread.settable.properties import BLOCK
from half_fold.core.spread.settable.samples import SAMPLES, sample
from half_fold.desk.stations.aided_bench import PILL_HIGH, pill_width
from half_fold.desk.stations.spreads.drawer.story_text import StoryText
from half_fold.desk.stations.spreads.tools.chosen import beside_edge
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, pears, spreads_at, wait_for


def _words(window: Window, count: int = 1) -> list[str]:
    """The first blocks of words on pages 14 and 15, which are chosen."""
    spreads_at(window, 14)
    pages = window.session.publication.pages[13:15]
    names = [b.id for page in pages for b in page.blocks if isinstance(b.holds, HoldsDisplay)][:count]
    if count == 1:
        window.session.view.select(names[0])
    else:
        window.session.view.choose(names)
    window.working.catch_up()
    return names


def _holds(window: Window, name: str) -> HoldsDisplay:
    holds = block_named(window.session.publication, name).holds
    assert isinstance(holds, HoldsDisplay)
    return holds


class _Acts:
    """Counts what a user does: clicks and typed values."""

    def __init__(self, window: Window) -> None:
        self.window, self.count = window, 0

    def unfold(self, title: str) -> None:
        heading = next(each for each in self.window.working.headings if each.text() == title)
        self.window.working.ensureWidgetVisible(heading)
        QTest.mouseClick(heading, LEFT)
        self.count += 1

    def open(self, name: str) -> None:
        view = next(each for each in self.window.working.rows if each.row.name == name)
        self.window.working.ensureWidgetVisible(view)
        QTest.mouseClick(view.value, LEFT)
        self.count += 1

    def choose(self, words: str) -> None:
        menu = next(each for each in self.window.findChildren(QMenu) if each.isVisible())
        action = next(each for each in menu.actions() if each.text().startswith(words))
        QTest.mouseClick(menu, LEFT, pos=menu.actionGeometry(action).center())
        self.count += 1

    def pick(self, name: str) -> None:
        """From a list that is searched by typing."""
        rows = (each.pick_list for each in self.window.working.rows)
        listed = next(each for each in rows if each is not None and not sip.isdeleted(each) and each.isVisible())
        QTest.keyClicks(listed.search, name)
        QTest.keyClick(listed.search, Qt.Key.Key_Return)
        self.count += 1

    def type(self, name: str, text: str) -> None:
        editor = next(each for each in self.window.working.rows if each.row.name == name).editor
        assert editor is not None
        QTest.keyClicks(editor, text)
        QTest.keyClick(editor, Qt.Key.Key_Return)
        self.count += 1


# Acts -----------------------------------------------------------------------------------------------------


def test_another_face_takes_two_acts(window: Window) -> None:
    (name,), acts = _words(window), _Acts(window)
    acts.open("Family")
    acts.pick("plex sans")
    own = _holds(window, name).own
    assert own is not None and own.family == "IBM Plex Sans" and acts.count == 2


def test_families_are_drawn_in_themselves(window: Window) -> None:
    _words(window)
    row = window.working.row("Family")
    QTest.mouseClick(row.value, LEFT)
    listed = row.pick_list
    assert listed is not None
    fonts = {listed.list.item(at).text(): listed.list.item(at).font().family() for at in range(listed.list.count())}  # type: ignore[union-attr] # counted
    assert fonts["Young Serif"] == "Young Serif" and fonts["EB Garamond"] == "EB Garamond"
    QTest.keyClicks(listed.search, "garamond")
    assert listed.list.count() == 1
    QTest.keyClick(listed.search, Qt.Key.Key_Escape)


def test_another_leading_takes_two_acts(window: Window) -> None:
    (name,), acts = _words(window), _Acts(window)
    acts.open("Leading")
    acts.type("Leading", "0.9")
    own = _holds(window, name).own
    assert own is not None and own.ratio == 0.9 and acts.count == 2


def test_a_shadow_takes_three_acts_and_is_seen(window: Window) -> None:
    (name,), acts = _words(window), _Acts(window)
    acts.unfold("Light")
    acts.open("Shadow")
    acts.choose("yes")
    light = block_named(window.session.publication, name).light
    assert light is not None and light.shadow is not None and acts.count == 3
    assert window.working.has_row("Shadow across") and window.working.row("Shadow's opacity").row.value == "40 %"


def test_an_outline_on_one_word_takes_four_acts(window: Window) -> None:
    (name,), acts = _words(window), _Acts(window)
    QTest.keyClick(spreads_at(window, 14).bench, Qt.Key.Key_Return)  # into its text
    text = spreads_at(window, 14).drawer.stories.text
    wait_for(lambda: text.isVisible() and "keeping" in text.toPlainText())
    cursor = text.document().find("keeping")  # type: ignore[union-attr]  # it has one
    cursor.setPosition(cursor.selectionStart() + 2)
    QTest.mouseDClick(text.viewport(), LEFT, pos=text.cursorRect(cursor).center())
    acts.count += 2
    wait_for(lambda: window.working.has_row("Bold"))
    assert text.textCursor().selectedText() == "keeping"
    view = next(each for each in window.working.rows if each.row.name == "Outline")  # of the words, which stand first
    QTest.mouseClick(view.value, LEFT)
    assert view.editor is not None
    QTest.keyClicks(view.editor, "1.5pt")
    QTest.keyClick(view.editor, Qt.Key.Key_Return)
    acts.count += 2
    lit = [run for run in _holds(window, name).paragraphs[0].runs if run.light is not None]
    assert [run.text for run in lit] == ["keeping"] and acts.count == 4
    assert lit[0].light is not None and lit[0].light.contours[0].weight.pt == 1.5
    row = next(each for each in window.working.rows if each.row.name == "Outline's ink")
    assert row.row.edit is not None and row.row.edit("loden")
    window.session.undo()
    window.session.undo()
    assert all(run.light is None for run in _holds(window, name).paragraphs[0].runs)


def test_the_same_ink_for_several_takes_two_acts(window: Window) -> None:
    names, acts = _words(window, 3), _Acts(window)
    acts.open("Ink")
    acts.pick("loden")
    assert {_holds(window, name).ink for name in names} == {"loden"} and acts.count == 2
    window.session.undo()
    assert {_holds(window, name).ink for name in names} != {"loden"}


def test_e_held_shows_it_without_its_light(window: Window) -> None:
    (name,) = _words(window)
    take = window.working.row("Shadow").row.edit
    assert take is not None and take("yes")
    bench, session = spreads_at(window, 14).bench, window.session
    session.view.select(name)
    lit = session.marks()
    QTest.keyPress(bench, Qt.Key.Key_E)
    assert len(list(leaves(session.marks().marks))) == len(list(leaves(lit.marks))) - 1
    QTest.keyRelease(bench, Qt.Key.Key_E)
    assert session.view.tried is None and session.marks() is lit


# Several --------------------------------------------------------------------------------------------------


def test_several_show_one_value_or_say_which_there_are(window: Window) -> None:
    names = _words(window, 2)
    row = window.working.row("Size").row
    assert row.value == "several" and "1" in row.working and row.edit is not None
    assert row.edit("21pt")
    window.working.catch_up()
    assert window.working.row("Size").row.value == "21pt"
    assert {str(_holds(window, name).size) for name in names} == {"21pt"}
    take = window.working.row("Size").row.edit
    assert take is not None and not take("nonsense")


# Headings -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", list(SAMPLES))
def test_every_property_stands_under_a_heading(kind: str) -> None:
    block = sample(kind, wraps=True)
    for of in BLOCK:
        if of.applies(block):
            assert heading_of(block, of.key) in ORDER, of.key


def test_all_headings_of_words_and_of_a_picture_are_in_view_at_once(window: Window) -> None:
    window.resize(1280, 800)
    _words(window)
    for _ in range(2):
        QTest.qWait(20)
        shown = window.working.headings
        assert len(shown) >= 12
        lowest = max(each.mapTo(window.working, QPoint(0, each.height())).y() for each in shown)
        assert lowest <= window.working.height(), shown[-1].text()
        assert sum(each.is_open for each in shown) == 2
        window.session.view.select(pears(window))
        window.working.catch_up()


def test_a_folded_heading_says_what_is_in_it(window: Window) -> None:
    _words(window)
    said = {each.text(): each.says for each in window.working.headings}
    assert " × " in said["Place"] and "field" in said["Place"]
    assert said["Light"] == "none" and said["Again"] == "once" and said["Lines"] == "straight"
    assert window.working.row("Opacity").row.edit is not None
    window.working.row("Opacity").row.edit("60")  # type: ignore[misc]
    window.working.catch_up()
    assert next(each.says for each in window.working.headings if each.text() == "Mixes").endswith("60 %")


def test_what_was_unfolded_stays_so_for_that_kind_and_in_the_next_sitting(window: Window) -> None:
    _words(window)
    heading = next(each for each in window.working.headings if each.text() == "Mixes")
    heading.setFocus()
    QTest.keyClick(heading, Qt.Key.Key_Return)
    assert any(view.row.name == "Opacity" for view in window.working.rows)
    window.session.view.select(pears(window))
    window.working.catch_up()
    assert not any(view.row.name == "Opacity" for view in window.working.rows), "of pictures it is as it was"
    _words(window)
    assert any(view.row.name == "Opacity" for view in window.working.rows)
    from half_fold.desk.memory import recall

    assert recall().opened == {"words": {"Mixes": True}}


def test_a_row_is_kept_and_not_made_anew_by_an_edit(window: Window) -> None:
    _words(window)
    before = window.working.row("Size")  # which is not its role's already: no row comes or goes
    assert before.row.edit is not None and before.row.edit("41")
    window.working.catch_up()
    assert window.working.row("Size") is before and before.row.value == "41pt"


# Putting back ---------------------------------------------------------------------------------------------


def test_a_dot_before_what_is_not_at_rest_puts_it_back(window: Window) -> None:
    (name,) = _words(window)
    row = window.working.row("Tracking")
    assert row.row.back is None and row.row.edit is not None and row.row.edit("40")
    window.working.catch_up()
    row = window.working.row("Tracking")
    assert row.row.value.startswith("40") and "the role says 0" in row.row.working
    page = row.parentWidget()
    assert page is not None
    QTest.mouseClick(page, LEFT, pos=QPoint(row.x() - 8, row.y() + 13))
    own = _holds(window, name).own
    assert own is None or "tracking" not in own.own


def test_what_is_not_the_roles_is_made_the_role_or_a_new_one(window: Window) -> None:
    (name,), acts = _words(window), _Acts(window)
    window.working.row("Case").row.edit("capitals")  # type: ignore[misc]
    window.working.catch_up()
    row = next(view for view in window.working.rows if "not the role's" in view.row.name)
    QTest.mouseClick(row.value, LEFT)
    acts.choose("Make it a new role")
    holds = _holds(window, name)
    assert holds.own is None and holds.paragraphs[0].role == "headline 2"
    assert any(role.name == "headline 2" and role.case == "capitals" for role in window.session.publication.roles)


# Finding --------------------------------------------------------------------------------------------------


def test_typing_in_the_working_finds_a_row(window: Window) -> None:
    (name,) = _words(window)
    QTest.keyClick(window, Qt.Key.Key_F6, Qt.KeyboardModifier.ShiftModifier)
    assert window.working.hasFocus()
    QTest.keyClicks(window.working, "see thr")
    assert [view.row.name for view in window.working.rows] == ["Opacity"] and window.working.sought == "see thr"
    QTest.keyClick(window.working, Qt.Key.Key_Return)
    editor = window.working.rows[0].editor
    assert editor is not None
    QTest.keyClicks(editor, "45")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    assert block_named(window.session.publication, name).opacity == 45
    window.working.setFocus()
    for _ in range(3):
        QTest.keyClick(window.working, Qt.Key.Key_Backspace)
    assert window.working.sought == "see "
    QTest.keyClick(window.working, Qt.Key.Key_Escape)
    assert not window.working.sought and len(window.working.rows) > 5


def test_what_is_sought_goes_with_what_was_chosen(window: Window) -> None:
    _words(window)
    window.working.seek("track")
    window.session.view.select(pears(window))
    window.working.catch_up()
    assert not window.working.sought
    holds = block_named(window.session.publication, pears(window)).holds
    assert isinstance(holds, HoldsPicture) and picture_of(window.session.publication, holds.picture)


def test_a_job_with_one_of_every_kind_shows_each(window: Window) -> None:
    """No kind has a row without a place, or a summary that cannot be made."""
    publication = window.session.publication
    picture, story = publication.pictures[0].id, publication.stories[0].id

    def one(kind: str) -> Block:
        held = sample(kind).holds
        held = replace(held, picture=picture) if kind == "picture" else held
        held = replace(held, story=story) if kind == "story" else held
        return replace(sample(kind), id=f"every {kind}", holds=held)

    def lay(job: Publication) -> Publication:
        page = replace(job.pages[2], things=tuple(one(kind) for kind in SAMPLES))
        return replace(job, pages=(*job.pages[:2], page, *job.pages[3:]))

    assert window.session.edit(lay, "one of each")
    spreads_at(window, 3)
    for kind in SAMPLES:
        window.session.view.select(f"every {kind}")
        window.working.catch_up()
        assert all(each.says or each.is_open for each in window.working.headings), kind
        assert 1 <= sum(each.is_open for each in window.working.headings) <= 2


def test_after_enter_in_words_set_large_the_next_line_keeps_its_role(window: Window) -> None:
    (name,) = _words(window)
    station = spreads_at(window, 14)
    window.session.view.select(name)
    station.open_drawer("stories")
    text = station.drawer.stories.text
    text.moveCursor(text.textCursor().MoveOperation.End)
    QTest.keyClick(text, Qt.Key.Key_Return)
    QTest.keyClicks(text, "again")
    assert [each.role for each in _holds(window, name).paragraphs][-2:] == ["headline", "headline"]


def test_a_key_makes_a_block_as_deep_as_its_words(window: Window) -> None:
    (name,) = _words(window)
    before = window.working.row("Height").row.value
    window.session.view.select(name)
    QTest.keyClick(spreads_at(window, 14).bench, Qt.Key.Key_V, Qt.KeyboardModifier.ShiftModifier)
    window.working.catch_up()
    assert window.working.row("Height").row.value != before
    window.session.undo()
    window.working.catch_up()
    assert window.working.row("Height").row.value == before


# Words that are chosen --------------------------------------------------------------------------------------


def _chosen_words(window: Window, name: str, words: str) -> StoryText:
    """Those words of the block chosen in the story drawer."""
    station = spreads_at(window, 14)
    window.session.view.select(name)
    station.open_drawer("stories")
    text = station.drawer.stories.text
    cursor = text.document().find(words)  # type: ignore[union-attr]  # it has one
    text.setTextCursor(cursor)
    wait_for(lambda: window.working.has_row("Bold"))
    return text


def test_chosen_words_are_typed_a_size_and_given_a_face_of_their_own(window: Window) -> None:
    (name,) = _words(window)
    text = _chosen_words(window, name, "keeping")
    size = next(view for view in window.working.rows if view.row.name == "Size")  # of the words, which stand first
    QTest.mouseClick(size.value, LEFT)
    assert size.editor is not None
    QTest.keyClicks(size.editor, "57")
    QTest.keyClick(size.editor, Qt.Key.Key_Return)
    runs = _holds(window, name).paragraphs[0].runs
    assert [(run.text, run.size) for run in runs if run.size != 100] == [("keeping", 150.0)]
    assert text.textCursor().selectedText() == "keeping", "they stay chosen"
    face = next(view for view in window.working.rows if view.row.name == "Family")
    QTest.mouseClick(face.value, LEFT)
    assert face.pick_list is not None
    QTest.keyClicks(face.pick_list.search, "archivo")
    QTest.keyClick(face.pick_list.search, Qt.Key.Key_Return)
    assert [run.face for run in _holds(window, name).paragraphs[0].runs if run.face] == ["Archivo/Regular"]
    row = next(view for view in window.working.rows if view.row.name == "Size")
    assert row.row.back is not None
    row.row.back()
    assert all(run.size == 100 for run in _holds(window, name).paragraphs[0].runs)


def test_no_words_chosen_no_rows_of_them(window: Window) -> None:
    (name,) = _words(window)
    text = _chosen_words(window, name, "keeping")
    cursor = text.textCursor()
    cursor.clearSelection()
    text.setTextCursor(cursor)
    wait_for(lambda: not window.working.has_row("Bold"))
    assert window.working.row("Family").row.value == "Young Serif"


# What stands at its edges ----------------------------------------------------------------------------------


@pytest.mark.parametrize("size", [(4.0, 3.0), (60.0, 20.0), (400.0, 300.0)])
@pytest.mark.parametrize("angle", [0, 90, 180, 270])
def test_what_is_said_of_an_edge_stands_outside_of_the_block(
    dressed: None, size: tuple[float, float], angle: float
) -> None:
    area = QRectF(100, 100, *size)
    x, y = area.center().x(), area.center().y()
    turn = QTransform.fromTranslate(-x, -y) * QTransform().rotate(angle) * QTransform.fromTranslate(x, y)
    for edge in EDGES:
        wide = pill_width("field 4")
        at = beside_edge(area, edge, wide, turn)
        pill = QRectF(at.x() - wide / 2, at.y() - PILL_HIGH / 2, wide, PILL_HIGH)
        assert not pill.intersects(turn.mapRect(area)), edge


def test_a_thing_is_scaled_by_its_row_as_by_its_path(window: Window) -> None:
    (name,) = _words(window)
    start = window.session.publication
    window.working.unfold("Place")
    edit = window.working.row("Scale").row.edit
    assert edit is not None and edit("150 %")
    assert window.session.publication == set_path(start, f"block.{name}.scaled", "150 %")
    window.session.undo()
    assert window.session.publication is start and not edit("so much")

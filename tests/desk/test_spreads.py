"""The Spreads station by mouse and keyboard."""

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from half_fold.core.paths.all import set_path
from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    HoldsStory,
)
from half_fold.core.publication.surgery import page_of_block
from half_fold.desk.stations.spreads.bench import SpreadBench
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, field, on_bench, spreads_at

ALT, SHIFT = Qt.KeyboardModifier.AltModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    """Spreads, on an empty spread."""
    return spreads_at(window, 26)


def _claim(station: SpreadsStation, start: tuple[int, int], end: tuple[int, int], letter: str) -> Block:
    bench = station.bench
    drag(bench, field(bench, *start), field(bench, *end))
    assert station.chooser is not None and station.chooser.isVisible()
    QTest.keyClicks(station.chooser, letter)
    QTest.qWait(10)
    return _selected(station)


def _selected(station: SpreadsStation) -> Block:
    assert station.session.view.block is not None
    return page_of_block(station.session.publication, station.session.view.block)[2]


@pytest.mark.parametrize(
    ("letter", "kind"),
    [
        ("p", HoldsPicture), ("w", HoldsDisplay), ("i", HoldsPanel), ("k", HoldsNothing),
        ("b", HoldsBarcode), ("q", HoldsCode), ("r", HoldsRule),
    ],
)  # fmt: skip
def test_fields_are_claimed_and_one_letter_chooses(station: SpreadsStation, letter: str, kind: type) -> None:
    block = _claim(station, (1, 1), (3, 4), letter)
    assert isinstance(block.holds, kind)
    assert [(s.kind, s.index) for s in (block.place.left, block.place.top, block.place.right, block.place.bottom)] == [
        ("field", 1),
        ("field", 1),
        ("field", 3),
        ("field", 4),
    ]


def test_a_drag_beyond_the_text_area_reaches_the_bleed(station: SpreadsStation) -> None:
    bench = station.bench
    paper = bench.paper()
    drag(bench, on_bench(bench, paper.left + 6, paper.top + 6), field(bench, 8, 3))
    QTest.keyClicks(station.chooser, "p")
    block = _selected(station)
    assert (block.place.left.kind, block.place.top.kind, block.place.right.facing) == ("bleed", "bleed", True)


def test_the_picture_chosen_on_the_picture_drawer_is_placed(station: SpreadsStation) -> None:
    station.open_drawer("pictures")
    table = station.drawer.pictures
    port = table.viewport()
    wanted = station.session.publication.pictures[2].id
    QTest.mouseClick(port, LEFT, pos=table.places()[2].center().toPoint())
    block = _claim(station, (0, 0), (2, 2), "p")
    assert isinstance(block.holds, HoldsPicture) and block.holds.picture == wanted
    first = table.places()[0].center().toPoint()
    QTest.mouseDClick(port, LEFT, pos=first)
    QTest.mouseClick(port, LEFT, pos=first)
    QTest.keyClick(table, Qt.Key.Key_Return)
    holds = _selected(station).holds
    assert isinstance(holds, HoldsPicture) and holds.picture == station.session.publication.pictures[0].id


def test_a_story_is_written_on_the_story_drawer(station: SpreadsStation) -> None:
    drag(station.bench, field(station.bench, 6, 4), field(station.bench, 11, 7))
    assert station.chooser is not None
    QTest.keyClicks(station.chooser, "s")
    QTest.keyClicks(station.chooser, "n")
    QTest.qWait(10)
    text = station.drawer.stories.text
    QTest.keyClicks(text, "A heading")
    text.set_role("crosshead")
    QTest.keyClick(text, Qt.Key.Key_Return)
    QTest.keyClicks(text, "The frost came ")
    QTest.keyClick(text, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    QTest.keyClicks(text, "down")
    story = station.session.publication.stories[-1]
    assert [(p.role, p.text) for p in story.paragraphs] == [("crosshead", "A heading"), ("body", "The frost came down")]
    assert [run.bold for run in story.paragraphs[1].runs] == [False, True]
    flow = station.session.setter.threads.flow(station.session.publication, story.id)
    assert len(flow.chunks) == 2 and not flow.over_lines
    assert "6 words" in station.drawer.stories.gauge.text()
    marks = station.session.setter.spread(station.session.publication, station.session.view.spread).marks
    assert "".join("".join(m.texts) for m in marks if hasattr(m, "texts")).startswith("A headingThe frost came down")


def test_typing_is_undone_in_one_step_and_the_desk_follows(station: SpreadsStation, window: Window) -> None:
    window.session.view.go_to(7)
    text = station.drawer.stories.text
    station.open_drawer("stories")
    before = window.session.publication
    QTest.keyClicks(text, "Now then. ")
    assert text.toPlainText().startswith("Now then. ")
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert window.session.publication is before
    assert text.toPlainText().startswith("The ladders come out")


def test_unchanged_paragraphs_stay_the_same_records(station: SpreadsStation, window: Window) -> None:
    story = window.session.publication.stories[0]
    station.session.view.choose_story(story.id)
    station.open_drawer("stories")
    QTest.keyClicks(station.drawer.stories.text, "x")
    after = window.session.publication.stories[0]
    assert after.paragraphs[0] is not story.paragraphs[0]
    assert all(a is b for a, b in zip(after.paragraphs[1:], story.paragraphs[1:], strict=True))


def test_overset_is_counted_in_lines_and_words(station: SpreadsStation, window: Window) -> None:
    window.session.view.choose_story(window.session.publication.stories[0].id)
    block = next(b for b in window.session.publication.pages[6].blocks if isinstance(b.holds, HoldsStory))
    window.session.view.go_to(7)
    window.session.view.select(block.id)
    for _ in range(2):
        QTest.keyClick(station.bench, Qt.Key.Key_Down, ALT | SHIFT)
    flow = window.session.setter.threads.flow(window.session.publication, window.session.publication.stories[0].id)
    assert flow.over_lines > 0 and flow.over_words > 20
    assert window.working.row("Over").row.value == f"{flow.over_lines} lines"
    assert f"{flow.over_words} words" in window.working.row("Over").row.working


def test_edges_reach_and_draw_in_by_keys(station: SpreadsStation) -> None:
    _claim(station, (1, 1), (3, 4), "k")
    for _ in range(3):
        QTest.keyClick(station.bench, Qt.Key.Key_Left, ALT)
    assert _selected(station).place.left.kind == "bleed"
    QTest.keyClick(station.bench, Qt.Key.Key_Down, ALT)
    assert _selected(station).place.bottom.index == 5
    QTest.keyClick(station.bench, Qt.Key.Key_Right, ALT | SHIFT)
    assert _selected(station).place.right.index == 2


def test_blocks_move_by_keys_and_by_mouse_and_go_by_delete(station: SpreadsStation) -> None:
    block = _claim(station, (1, 1), (2, 2), "k")
    QTest.keyClick(station.bench, Qt.Key.Key_Right)
    QTest.keyClick(station.bench, Qt.Key.Key_Down)
    assert (_selected(station).place.left.index, _selected(station).place.top.index) == (2, 2)
    drag(station.bench, field(station.bench, 2, 2), field(station.bench, 7, 4))
    moved = _selected(station)
    assert (moved.place.left.index, moved.place.top.index) == (1, 4)
    assert page_of_block(station.session.publication, block.id)[0] + 1 == 27
    QTest.keyClick(station.bench, Qt.Key.Key_Delete)
    assert station.session.view.block is None and not station.session.publication.pages[26].blocks
    station.session.undo()
    assert station.session.publication.pages[26].blocks


def test_a_turned_block_is_chosen_and_drawn_where_it_lies(station: SpreadsStation, window: Window) -> None:
    """A flat bar stood on its end: clicked above its old box, not where its old end was."""
    block = _claim(station, (1, 3), (3, 3), "i")
    bench, session = station.bench, station.session
    left, right = field(bench, 1, 3), field(bench, 3, 3)
    session.edit(lambda p: set_path(p, f"block.{block.id}.angle", "90"), "Turned")
    QTest.qWait(20)
    middle = QPoint((left.x() + right.x()) // 2, left.y())
    reach = (right.x() - left.x()) // 2
    picture = bench.grab().toImage()
    bare, drawn = (picture.pixelColor(middle.x() + dx, middle.y() + dy) for dx, dy in ((-reach, 14), (0, -reach)))
    assert bare.lightness() > drawn.lightness()
    for at, hit in ((QPoint(left.x(), left.y()), None), (QPoint(middle.x(), middle.y() - reach), block.id)):
        session.view.select(None)
        QTest.mouseClick(bench, LEFT, pos=at)
        assert session.view.block == hit


def test_fields_are_claimed_by_keyboard(station: SpreadsStation) -> None:
    bench = station.bench
    bench.setFocus()
    QTest.keyClick(bench, Qt.Key.Key_Right)
    QTest.keyClick(bench, Qt.Key.Key_Right)
    QTest.keyClick(bench, Qt.Key.Key_Down, SHIFT)
    QTest.keyClick(bench, Qt.Key.Key_Right, SHIFT)
    QTest.keyClick(bench, Qt.Key.Key_Return)
    assert station.chooser is not None
    QTest.keyClicks(station.chooser, "i")
    block = _selected(station)
    place = block.place
    assert (place.left.index, place.right.index, place.top.index, place.bottom.index) == (
        1,
        2,
        0,
        1,
    )


def test_tab_goes_through_the_blocks(station: SpreadsStation, window: Window) -> None:
    window.session.view.go_to(7)
    station.bench.setFocus()
    ids = [b.id for n in (6, 7) for b in window.session.publication.pages[n - 1].blocks]
    seen = []
    for _ in ids:
        QTest.keyClick(station.bench, Qt.Key.Key_Tab)
        seen.append(window.session.view.block)
    assert seen == ids
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)
    assert window.session.view.block is None


def test_as_trimmed_shows_no_aids_beyond_the_trim(station: SpreadsStation, window: Window) -> None:
    window.session.view.go_to(6)
    window.session.proxies.wait()
    QTest.qWait(50)
    outside = on_bench(station.bench, -220 * 72 / 25.4 - 5, 300)

    def colour() -> str:
        return station.bench.grab().toImage().pixelColor(outside).name()

    assert colour() != "#bdbdbd"
    station.bench.setFocus()
    QTest.keyPress(station.bench, Qt.Key.Key_Space)
    assert colour() == "#bdbdbd"
    QTest.keyRelease(station.bench, Qt.Key.Key_Space)
    assert colour() != "#bdbdbd"
    QTest.keyClick(station.bench, Qt.Key.Key_P)
    assert colour() == "#bdbdbd"


def test_the_picture_working_says_resolution_and_crop(station: SpreadsStation, window: Window) -> None:
    window.session.view.go_to(6)
    QTest.mouseClick(station.bench, LEFT, pos=field(station.bench, 2, 2))
    labels = window.working.findChildren(type(window.docket._title))
    assert any("4200 × 2800" in label.text() for label in labels if label.isVisible())
    # 226 x 291 mm filled by 4200 x 2800 px: 2800 px over 291 mm is 244 ppi.
    assert window.working.row("Resolution").row.value == "244 ppi"
    row = window.working.row("Focus across")
    QTest.mouseClick(row.value, LEFT)
    assert row.editor is not None
    QTest.keyClicks(row.editor, "90")
    QTest.keyClick(row.editor, Qt.Key.Key_Return)
    holds = window.session.publication.pages[5].blocks[0].holds
    assert isinstance(holds, HoldsPicture) and holds.focus_x == 0.9


def test_what_the_screen_shows_is_what_the_display_list_says(station: SpreadsStation, window: Window) -> None:
    """The panel's ink on the bench is the ink of the list through the press profile."""
    from half_fold.core.inks.tones import ink
    from half_fold.core.pictures.colour.colour import ink_on_screen

    window.session.view.go_to(22)
    window.session.proxies.wait()
    QTest.qWait(30)
    station.bench.show_fields = False
    image = station.bench.grab().toImage()
    seen = image.pixelColor(on_bench(station.bench, -200 * 72 / 25.4, 30))
    assert (seen.red(), seen.green(), seen.blue()) == pytest.approx(
        ink_on_screen(ink(window.session.publication, "straw", 55)), abs=2
    )


def test_drags_never_lose_the_pointer(station: SpreadsStation) -> None:
    assert isinstance(station.bench, SpreadBench)
    drag(station.bench, QPoint(2, 2), QPoint(5, 3))
    assert station.session.view.block is None

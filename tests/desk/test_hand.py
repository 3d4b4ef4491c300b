"""The designer's hand at the real window: edges drawn, several chosen, groups, slips, copies, room, and asking."""

import pytest
from PyQt6.QtCore import QEvent, QPoint, QPointF, Qt
from PyQt6.QtGui import QMouseEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QWidget

from half_fold.core.measure.entry import MM
from half_fold.core.paths.all import set_path
from half_fold.core.publication.places import Floating
from half_fold.core.publication.records import Block, Group, HoldsPanel
from half_fold.core.publication.surgery import block_named, page_of_block, page_of_thing
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.desk.stations.cover.station import CoverStation
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, field, on_bench, spreads_at

NONE = Qt.KeyboardModifier.NoModifier
ALT, SHIFT, CTRL = (
    Qt.KeyboardModifier.AltModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.ControlModifier,
)
RIGHT = 27


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    """Spreads, with three panels on page 27: two columns each, one above the other."""
    station = spreads_at(window, 26)
    for at in range(3):
        drag(station.bench, field(station.bench, 7, 2 * at), field(station.bench, 8, 2 * at))
        QTest.keyClicks(station.chooser, "i")
        QTest.qWait(10)
    return station


def _names(station: SpreadsStation) -> list[str]:
    return [thing.id for thing in station.session.publication.pages[RIGHT - 1].things]


def _box(station: SpreadsStation, name: str) -> tuple[float, float, float, float]:
    index, _, block = page_of_block(station.session.publication, name)
    return block_box(station.session.publication, index + 1, block)


def _middle(station: SpreadsStation, name: str) -> QPoint:
    left, top, right, bottom = _box(station, name)
    return on_bench(station.bench, (left + right) / 2, (top + bottom) / 2)


def _click(station: SpreadsStation, name: str, held: Qt.KeyboardModifier = NONE) -> None:
    QTest.mouseClick(station.bench, LEFT, held, _middle(station, name))
    QTest.qWait(5)


def _move(widget: QWidget, at: QPoint, held: Qt.KeyboardModifier) -> None:
    """The mouse over a widget with its left button down, which QTest does not send."""
    where = QPointF(widget.mapToGlobal(at))
    moved = QMouseEvent(QEvent.Type.MouseMove, QPointF(at), where, Qt.MouseButton.NoButton, LEFT, held)
    QApplication.sendEvent(widget, moved)


def _drag(station: SpreadsStation, start: QPoint, end: QPoint, held: Qt.KeyboardModifier = NONE) -> None:
    bench = station.bench
    QTest.mousePress(bench, LEFT, held, start)
    for step in range(1, 6):
        at = start + (end - start) * step / 5
        _move(bench, at, held)
    QTest.mouseRelease(bench, LEFT, held, end)
    QTest.qWait(10)


def test_an_edge_is_drawn_by_the_mouse_onto_a_stop_and_freely_with_alt(station: SpreadsStation) -> None:
    (name, *_), bench = _names(station), station.bench
    _click(station, name)
    left, top, right, bottom = _box(station, name)
    frame = page_frame_of(station.session.publication, RIGHT)
    edge = on_bench(bench, right, (top + bottom) / 2)
    steps = station.session.history.undoes
    _drag(station, edge, on_bench(bench, frame.columns[3][1] + 1.5, top + 10))
    place = page_of_block(station.session.publication, name)[2].place
    assert (place.right.kind, place.right.index, place.right.off) == ("field", 3, None)
    station.session.undo()  # one drag is one step
    assert _box(station, name) == (left, top, right, bottom) and station.session.history.undoes == steps
    corner, to = on_bench(bench, right, bottom), on_bench(bench, right + 31, bottom + 17)
    _drag(station, corner, to, ALT)
    assert _box(station, name)[:2] == (left, top)
    assert _box(station, name)[2:] == pytest.approx((right + 31, bottom + 17), abs=2.5)
    QTest.keyClick(bench, "l")
    assert block_named(station.session.publication, name).locked
    before = _box(station, name)
    _drag(station, on_bench(bench, before[2], (before[1] + before[3]) / 2), on_bench(bench, before[2] + 40, top))
    assert _box(station, name) == before


def test_several_are_chosen_by_shift_and_by_a_box_and_act_as_one(station: SpreadsStation) -> None:
    first, second, third = _names(station)
    session, bench = station.session, station.bench
    _click(station, first)
    _click(station, second, SHIFT)
    assert session.view.chosen == (first, second) and session.view.block is None
    _click(station, first, SHIFT)
    assert session.view.chosen == (second,) and session.view.block == second
    boxes = [_box(station, name) for name in (first, second)]
    _drag(
        station,
        on_bench(bench, boxes[0][0] - 8, boxes[0][1] - 8),
        on_bench(bench, boxes[1][2] - 4, boxes[1][1] + 4),
        CTRL,
    )
    assert session.view.chosen == (first, second)
    QTest.keyClick(bench, Qt.Key.Key_Right, CTRL)
    assert _box(station, first)[0] - boxes[0][0] == pytest.approx(0.25 * MM, abs=0.01)
    QTest.keyClick(bench, Qt.Key.Key_Down, CTRL | SHIFT)
    assert _box(station, second)[1] - boxes[1][1] == pytest.approx(2.5 * MM, abs=0.01)
    QTest.keyClick(bench, "a", CTRL)
    assert session.view.chosen == (first, second, third)
    session.view.choose((third, first))
    QTest.keyClick(bench, "a")
    QTest.keyClicks(station.chooser, "l")
    assert _box(station, first)[0] == pytest.approx(_box(station, third)[0], abs=0.01)
    QTest.keyClick(bench, Qt.Key.Key_Delete)
    assert _names(station) == [second] and session.view.chosen == ()
    session.undo()
    assert _names(station) == [first, second, third]


def test_a_group_is_carried_entered_and_taken_apart(station: SpreadsStation) -> None:
    first, second, third = _names(station)
    session, bench = station.session, station.bench
    session.view.choose((first, second))
    QTest.keyClick(bench, "g")
    (group,) = session.view.chosen
    assert isinstance(page_of_thing(session.publication, group)[2], Group) and _names(station) == [group, third]
    before = [_box(station, name) for name in (first, second)]
    start = _middle(station, first)
    _drag(station, start, start + QPoint(-23, 31), ALT)
    by = 1 / bench.scale()
    for name, was in zip((first, second), before, strict=True):
        now = _box(station, name)
        assert (now[0] - was[0], now[1] - was[1]) == pytest.approx((-23 * by, 31 * by), abs=1.5 * by)
    QTest.mouseDClick(bench, LEFT, NONE, _middle(station, second))
    assert session.view.chosen == (second,) and session.view.inside == group
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    assert session.view.chosen == (group,) and session.view.inside == ""
    QTest.keyClick(bench, Qt.Key.Key_Return)
    assert session.view.chosen == (second,)
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    QTest.keyClick(bench, "u")
    assert set(session.view.chosen) == {first, second} and _names(station) == [first, second, third]
    session.undo()
    session.undo()
    assert _box(station, first) == before[0]


def test_a_floating_block_is_carried_and_drawn_to_the_middle_of_the_page(station: SpreadsStation) -> None:
    (name, *_), session = _names(station), station.session
    session.edit(lambda p: set_path(p, f"block.{name}.place", "floating"), "floats")
    _click(station, name)
    page = page_frame_of(session.publication, RIGHT).trim
    box = _box(station, name)
    start = _middle(station, name)
    by = page.centre[0] - (box[0] + box[2]) / 2
    _drag(station, start, start + QPoint(round((by + 3) * station.bench.scale()), 0))
    now = _box(station, name)
    assert (now[0] + now[2]) / 2 == pytest.approx(page.centre[0], abs=0.02)
    assert isinstance(page_of_block(session.publication, name)[2].place, Floating)


def test_slips_show_the_order_and_change_it_name_lock_and_hide(station: SpreadsStation) -> None:
    first, second, third = _names(station)
    session, bench = station.session, station.bench
    session.view.select(None)
    QTest.keyClick(bench, "w")
    slips = station.drawer.slips
    assert slips.hasFocus() and [thing.id for _, thing in slips.things()] == [third, second, first]
    QTest.keyClick(slips, Qt.Key.Key_Right)
    assert session.view.chosen == (third,)
    QTest.keyClick(slips, Qt.Key.Key_F2)
    QTest.keyClicks(slips.editor, "the  wash")
    QTest.keyClick(slips.editor, Qt.Key.Key_Return)
    assert block_named(session.publication, third).name == "the wash" and "the wash" in slips.accessibleDescription()
    QTest.keyClick(slips, "l")
    assert "locked" in slips.accessibleDescription()
    QTest.keyClick(slips, "l")
    marks = session.marks()
    QTest.keyClick(slips, "h")
    assert third in session.view.hidden and len(session.marks().marks) < len(marks.marks)
    assert len(session.setter.spread(session.publication, session.view.spread).marks) == len(marks.marks)  # it prints
    QTest.keyClick(slips, "h", SHIFT)
    assert session.view.hidden == frozenset() and session.marks() is marks
    place = slips._place(0).center().toPoint()
    port = slips.viewport()
    QTest.mousePress(port, LEFT, NONE, place)
    to = slips._place(2).center().toPoint() + QPoint(60, 0)
    for at in (place + QPoint(20, 0), to):
        _move(port, at, NONE)
    QTest.mouseRelease(port, LEFT, NONE, to)
    assert _names(station) == [third, first, second]
    QTest.keyClick(slips, "n", SHIFT)
    assert _names(station) == [first, second, third]


def test_what_is_copied_is_laid_on_the_page_in_view_and_on_the_cover(window: Window, station: SpreadsStation) -> None:
    first, second, _ = _names(station)
    session, bench = station.session, station.bench
    session.view.choose((first, second))
    bench.setFocus()
    window.copy()
    session.view.go_to(24)
    there = session.publication.pages[23].things
    window.paste()
    pasted = session.publication.pages[23].things[len(there) :]
    assert [thing.id for thing in pasted] == list(session.view.chosen) and len(pasted) == 2
    window.cut()
    assert session.publication.pages[23].things == there
    window.open_station(5)
    assert isinstance(window.station, CoverStation)
    before = len(window.station.session.publication.pages[2].things)
    window.paste()
    now = window.station.session.publication.pages[2].things
    assert len(now) == before + 2 and all(isinstance(thing, Block) for thing in now[-2:])
    assert all(isinstance(thing.holds, HoldsPanel) for thing in now[-2:])
    session.undo()
    assert len(window.station.session.publication.pages[2].things) == before


def test_the_bench_is_left_alone_by_one_key_and_each_station_remembers(window: Window, station: SpreadsStation) -> None:
    scale = station.bench.scale()
    QTest.keyClick(window, Qt.Key.Key_F8)
    QTest.qWait(20)
    assert not window.docket.isVisible() and not window.working.isVisible() and window.room.is_alone
    assert station.bench.scale() > 1.3 * scale
    window.open_station(1)
    assert window.docket.isVisible()
    window.open_station(4)
    assert not window.docket.isVisible()
    QTest.keyClick(window, Qt.Key.Key_F9, CTRL)
    assert window.docket.isVisible() and not window.working.isVisible()
    QTest.keyClick(window, Qt.Key.Key_F8)
    QTest.keyClick(window, Qt.Key.Key_F8)
    QTest.qWait(20)
    assert window.docket.isVisible() and window.working.isVisible() and station.bench.scale() == scale


def test_ask_sets_does_and_goes_there_by_keyboard_alone(window: Window, station: SpreadsStation) -> None:
    first, *_ = _names(station)
    station.session.view.select(first)

    def ask(said: str) -> None:
        QTest.keyClick(window, Qt.Key.Key_F4)
        assert window.wanted is not None and window.wanted.ask.line.hasFocus()
        QTest.keyClicks(window.wanted.ask.line, said)
        QTest.keyClick(window.wanted.ask.line, Qt.Key.Key_Return)

    ask("see-through 45")
    assert block_named(station.session.publication, first).opacity == 45.0
    assert window.wanted is not None and not window.wanted.ask.isVisible() and "Opacity" in window.foot.sentence
    ask("mixes by")
    line = window.wanted.ask.line
    QTest.keyClicks(line, "multi")
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert block_named(station.session.publication, first).blend == "multiply"
    ask("duplicate")
    assert len(_names(station)) == 4 and station.session.view.chosen != (first,)
    station.session.undo()
    ask("page 14")
    assert station.session.view.page == 14
    ask("go to checks")
    assert window.current == 6
    QTest.keyClick(window, Qt.Key.Key_F4)
    QTest.keyClicks(line, "group")
    assert "choose something" in window.wanted.ask.list.accessibleDescription()
    QTest.keyClick(line, Qt.Key.Key_Return)
    assert "choose something" in window.foot.sentence and window.wanted.ask.isVisible()
    QTest.keyClick(line, Qt.Key.Key_Escape)
    assert not window.wanted.ask.isVisible()


def _corner(station: SpreadsStation, name: str, off: int) -> QPoint:
    """So many pixels off the lower right corner of a block, both ways."""
    _, _, right, bottom = _box(station, name)
    return on_bench(station.bench, right, bottom) + QPoint(off, off)


def test_a_thing_is_turned_off_its_corner_in_one_act(station: SpreadsStation) -> None:
    (name, *_), bench, session = _names(station), station.bench, station.session
    _click(station, name)
    box, steps = _box(station, name), session.history.undoes
    start = _corner(station, name, 12)
    QTest.mouseMove(bench, start)
    middle = _middle(station, name)
    arm = start - middle
    _drag(station, start, middle + QPoint(-arm.y(), arm.x()))  # a quarter of the way round
    assert page_of_thing(session.publication, name)[2].angle == 90 and _box(station, name) == box
    session.undo()
    assert page_of_thing(session.publication, name)[2].angle == 0 and session.history.undoes == steps
    _drag(station, start, middle + QPoint(round(arm.x() * 0.9 - arm.y() * 0.44), round(arm.y() * 0.9 + arm.x() * 0.44)))
    free = page_of_thing(session.publication, name)[2].angle
    assert 20 < free < 32 and free % 15
    session.undo()
    _drag(station, start, middle + QPoint(-round(arm.y() * 0.55), round(arm.y() * 1.2)), SHIFT)
    assert page_of_thing(session.publication, name)[2].angle % 15 == 0
    assert station.session.view.chosen == (name,)


def test_several_are_turned_and_scaled_together_and_one_with_ctrl(station: SpreadsStation) -> None:
    (first, second, *_), session = _names(station), station.session
    _click(station, first)
    _click(station, second, SHIFT)
    boxes = [_box(station, name) for name in (first, second)]
    hull = (boxes[0][0], boxes[0][1], boxes[1][2], boxes[1][3])
    corner = on_bench(station.bench, hull[2], hull[3])
    opposite = on_bench(station.bench, hull[0], hull[1])
    _drag(station, corner, opposite + (corner - opposite) / 2, ALT)
    assert [_box(station, name)[2] - _box(station, name)[0] for name in (first, second)] == [
        pytest.approx((box[2] - box[0]) / 2, rel=0.03) for box in boxes
    ]
    session.undo()
    assert [_box(station, name) for name in (first, second)] == boxes
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)
    _click(station, first)
    session.edit(lambda p: set_path(p, f"block.{first}.edge.weight", "2pt"), "edge")
    start = on_bench(station.bench, boxes[0][2], boxes[0][3])
    end = on_bench(station.bench, boxes[0][0], boxes[0][1])
    _drag(station, start, end + (start - end) * 2, CTRL)
    block = page_of_block(session.publication, first)[2]
    assert isinstance(block.holds, HoldsPanel) and block.holds.edge is not None
    assert block.holds.edge.weight.pt == pytest.approx(4, rel=0.05)
    left, top, right, _ = _box(station, first)
    assert (left, top) == pytest.approx(boxes[0][:2], abs=0.05) and right - left == pytest.approx(
        2 * (boxes[0][2] - boxes[0][0]), rel=0.05
    )


def test_ctrl_and_drag_copy_a_thing_and_on_bare_paper_choose(station: SpreadsStation) -> None:
    (name, *others), session = _names(station), station.session
    box, steps = _box(station, name), session.history.undoes
    _drag(station, _middle(station, name), _middle(station, name) + QPoint(40, 25), CTRL | ALT)
    made = [each for each in _names(station) if each not in (name, *others)]
    assert len(made) == 1 and session.view.chosen == (made[0],)
    assert _box(station, name) == box and _box(station, made[0])[0] > box[0] + 10
    session.undo()
    assert _names(station) == [name, *others] and session.history.undoes == steps
    QTest.mouseClick(station.bench, LEFT, CTRL, _middle(station, name))  # a click alone copies nothing
    assert _names(station) == [name, *others]

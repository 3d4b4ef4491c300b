"""Views, zoom, pan and the loupe."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from half_fold.core.measure.rect import Rect
from half_fold.core.spread.edits.grouping import delete_things
from half_fold.core.spread.where.reaching import reach
from half_fold.desk.stations.bench import LOUPE
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.stations.viewing import CLOSEST, FARTHEST, MARGIN, Viewing
from half_fold.desk.window import Window
from tests.desk.conftest import field, spreads_at

TARGET = Rect(-300, -10, 300, 400)


@given(st.floats(200, 3000), st.floats(200, 2000))
def test_a_named_view_shows_the_whole_of_its_target(width: float, height: float) -> None:
    scale, origin = Viewing().fitted(TARGET, width, height)
    if FARTHEST < scale < CLOSEST:
        assert origin.x() + TARGET.left * scale >= MARGIN - 1e-6 and origin.y() + TARGET.top * scale >= MARGIN - 1e-6
        assert origin.x() + TARGET.right * scale <= width - MARGIN + 1e-6
        assert origin.y() + TARGET.bottom * scale <= height - MARGIN + 1e-6


@given(st.floats(0.3, 4), st.floats(0, 800), st.floats(0, 600), st.floats(0.2, 5))
def test_zooming_keeps_the_place_under_the_pointer(scale: float, x: float, y: float, factor: float) -> None:
    viewing, at = Viewing(), QPointF(x, y)
    before = (scale, QPointF(37, 21))
    viewing.zoom(before, at, factor)
    after = viewing.fitted(TARGET, 800, 600)
    for old, new in ((before, after),):
        place = (at - old[1]) / old[0]
        assert ((new[1] + place * new[0]) - at).manhattanLength() < 1e-6
    assert FARTHEST <= after[0] <= CLOSEST


def test_views_follow_each_other_and_the_selections_needs_one() -> None:
    viewing = Viewing()
    assert [viewing.next(False) for _ in range(3)] == ["page", "width", "spread"]
    assert [viewing.next(True) for _ in range(4)] == ["page", "selection", "width", "spread"]
    viewing.pan((1.0, QPointF(0, 0)), QPointF(10, 5))
    assert viewing.is_free and viewing.next(False) == "spread" and not viewing.is_free


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    station = spreads_at(window, 7)
    station.bench.setFocus()
    QTest.qWait(20)
    return station


def test_keys_change_the_view_and_claiming_still_hits_its_fields(station: SpreadsStation, window: Window) -> None:
    bench = station.bench
    whole = bench.scale()
    QTest.keyClicks(bench, "v")
    assert bench.scale() >= whole and window.foot.sentence == "View: page"
    QTest.keyClicks(bench, "+")
    assert bench.scale() > whole
    QTest.keyClicks(bench, "-")
    window.session.view.go_to(26)
    bench.viewing.choose("page")
    start, end = field(bench, 1, 1), field(bench, 3, 2)
    QTest.mousePress(bench, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(bench, (start + end) / 2)
    QTest.mouseMove(bench, end)
    QTest.mouseRelease(bench, Qt.MouseButton.LeftButton, pos=end)
    QTest.keyClicks(station.chooser, "k")
    block = window.session.publication.pages[25].blocks[0]
    place = block.place
    assert (place.left.index, place.right.index, place.top.index, place.bottom.index) == (
        1,
        3,
        1,
        2,
    )


def test_the_selection_fills_the_bench(station: SpreadsStation, window: Window) -> None:
    bench = station.bench
    window.session.view.select(window.session.publication.pages[6].blocks[1].id)
    QTest.keyClicks(bench, "vv")
    assert bench.viewing.name == "selection"
    box = bench.selection_box()
    assert box is not None
    seen = bench.to_widget(box)
    assert max(seen.width() / bench.width(), seen.height() / bench.height()) > 0.8
    assert bench.rect().toRectF().contains(seen)


def _wheel(bench: object, by: int, held: Qt.KeyboardModifier) -> None:
    at = QPointF(200, 150)
    event = QWheelEvent(
        at, at, QPoint(), QPoint(0, by), Qt.MouseButton.NoButton, held, Qt.ScrollPhase.NoScrollPhase, False
    )
    QApplication.sendEvent(bench, event)  # type: ignore[arg-type]


def test_the_wheel_zooms_with_ctrl_and_pans_without(station: SpreadsStation) -> None:
    bench = station.bench
    whole, origin = bench.scale(), bench.origin()
    _wheel(bench, 120, Qt.KeyboardModifier.NoModifier)
    assert bench.origin() == origin
    _wheel(bench, 240, Qt.KeyboardModifier.ControlModifier)
    assert bench.scale() == pytest.approx(whole * 1.25**2)
    before = bench.origin()
    _wheel(bench, -120, Qt.KeyboardModifier.NoModifier)
    assert bench.origin() - before == QPointF(0, -60)


def test_the_loupe_shows_the_printed_size(station: SpreadsStation) -> None:
    bench = station.bench
    QTest.mouseMove(bench, bench.rect().center() + QPoint(110, 40))
    plain = bench.grab().toImage()
    QTest.keyPress(bench, Qt.Key.Key_T)
    assert bench.shows_loupe and bench.grab().toImage() != plain
    screen = bench.screen()
    assert screen is not None
    assert bench.true_scale() * 72 == pytest.approx(screen.physicalDotsPerInch()) and LOUPE > 200
    QTest.keyRelease(bench, Qt.Key.Key_T)
    assert not bench.shows_loupe and bench.grab().toImage() == plain


def test_baselines_show_while_b_is_held(station: SpreadsStation) -> None:
    bench = station.bench
    QTest.keyPress(bench, Qt.Key.Key_B)
    assert bench.show_baselines
    QTest.keyRelease(bench, Qt.Key.Key_B)
    assert not bench.show_baselines


def test_drawing_only_what_changed_gives_what_drawing_all_gives(window: Window) -> None:
    """Typing, a moved block, an undone edit: pixel by pixel the bench is as if drawn anew."""
    window.open_station(4)
    window.session.view.go_to(7)
    window.session.proxies.wait()
    QTest.qWait(300)
    station = window.station
    bench = station.bench  # type: ignore[attr-defined]
    station.open_drawer("stories")  # type: ignore[attr-defined]
    text = station.drawer.stories.text  # type: ignore[attr-defined]

    def as_if_anew() -> bool:
        shown = bench._content().toImage()
        (scale, origin) = bench._fitted()
        return bool(
            shown == bench._drawn(bench.session.marks(), scale, origin, bench.width(), bench.height()).toImage()
        )

    assert as_if_anew()
    for letters in ("frost ", "a longer word to push a line ", "x"):
        QTest.keyClicks(text, letters)
        bench.repaint()
        assert as_if_anew()
    story = window.session.publication.pages[6].blocks[3].id
    for change in (
        lambda p: reach(p, story, "bottom", False),
        lambda p: delete_things(p, [window.session.publication.pages[6].blocks[0].id]),
    ):
        window.session.edit(change, "change")
        bench.repaint()
        assert as_if_anew()
    for _ in range(3):
        window.session.undo()
        bench.repaint()
        assert as_if_anew()

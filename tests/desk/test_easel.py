"""The easel: a picture moved, drawn closer and turned inside its block, by mouse, wheel and keys, as one step each."""

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage, QPainter, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from half_fold.core.measure.rect import Rect
from half_fold.core.publication.surgery import block_named
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.theme import tokens
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, pears, pears_held

NONE, SHIFT = Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def station(at_the_pears: SpreadsStation) -> SpreadsStation:
    return at_the_pears


def _box(window: Window) -> Rect:
    return block_box(window.session.publication, 14, block_named(window.session.publication, pears(window)))


def _middle(station: SpreadsStation) -> QPoint:
    frame = station.bench.frames()[0][1]
    return station.bench.to_widget(frame.trim).center().toPoint() - QPoint(0, 110)


def _wheel(station: SpreadsStation, notches: int, held: Qt.KeyboardModifier = NONE) -> None:
    at = QPointF(_middle(station))
    event = QWheelEvent(
        at, station.bench.mapToGlobal(at), QPoint(), QPoint(0, 120 * notches), Qt.MouseButton.NoButton, held,
        Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(station.bench, event)


def test_by_mouse_wheel_and_keys_and_back_in_one_step(window: Window, station: SpreadsStation) -> None:
    before = window.session.publication
    QTest.mouseDClick(station.bench, LEFT, pos=_middle(station))
    assert station.bench.easel.work and "wheel draws it closer" in window.foot.sentence
    _wheel(station, 6)
    assert pears_held(window).closer == pytest.approx(1.04**6, rel=0.01)
    drag(station.bench, _middle(station), _middle(station) + QPoint(60, 20))
    moved = pears_held(window)
    assert moved.focus_x < 0.5, "the picture went to the right"
    _wheel(station, 4, SHIFT)
    QTest.keyClick(station.bench, Qt.Key.Key_Right, SHIFT)
    assert pears_held(window).turn == pytest.approx(2.5)
    assert station.bench.grab().width() > 0
    QTest.keyClick(station.bench, Qt.Key.Key_Return)
    assert not station.bench.easel.work
    window.session.undo()
    assert window.session.publication is before, "all of it is one step"


def test_by_keys_alone_and_put_down_when_another_block_is_chosen(window: Window, station: SpreadsStation) -> None:
    QTest.keyClicks(station.bench, "r")
    QTest.keyClicks(station.bench, "+++")
    for _ in range(5):
        QTest.keyClick(station.bench, Qt.Key.Key_Left)
    holds = pears_held(window)
    assert holds.closer > 1.1 and holds.focus_x > 0.5
    box = block_named(window.session.publication, pears(window)).place
    assert box == block_named(window.session.publication, pears(window)).place
    window.session.view.select(None)
    station.bench.grab()
    assert not station.bench.easel.work
    QTest.keyClicks(station.bench, "r")
    assert "Choose a picture first" in window.foot.sentence


def test_the_subject_or_a_place_comes_to_the_middle(window: Window, station: SpreadsStation) -> None:
    before = window.session.publication
    QTest.keyClicks(station.bench, "r")
    QTest.keyClicks(station.bench, "f")
    subject = pears_held(window)
    assert (subject.focus_x, subject.focus_y) != (0.5, 0.5) and station.bench.easel.work
    shown = station.bench.grab().toImage()
    below = station.bench.to_widget(_box(window)).bottomLeft().toPoint() + QPoint(40, 40)
    assert shown.pixelColor(below) != tokens.colour(tokens.LODEN), "the rest of it is faint, not painted over"
    _wheel(station, 30)
    closer = pears_held(window)
    box = _box(window)
    away = station.bench.to_widget(box).center().toPoint() + QPoint(50, 20)
    QTest.mouseDClick(station.bench, LEFT, pos=away)
    moved = pears_held(window)
    assert moved.focus_x > closer.focus_x and moved.focus_y > closer.focus_y and station.bench.easel.work
    outside = station.bench.to_widget(box).bottomRight().toPoint() + QPoint(0, 30)
    QTest.mouseDClick(station.bench, LEFT, pos=outside)
    assert not station.bench.easel.work, "beside the block it is put down"
    window.session.undo()
    assert window.session.publication is before, "all of it is one step"


@pytest.mark.parametrize("keys", ["", "r", "d", "C"])
def test_what_is_drawn_over_a_spread_leaves_the_painter_as_it_was(station: SpreadsStation, keys: str) -> None:
    QTest.keyClicks(station.bench, keys)
    image = QImage(station.bench.size(), QImage.Format.Format_ARGB32_Premultiplied)
    painter = QPainter(image)
    before = painter.brush(), painter.pen(), painter.transform(), painter.opacity(), painter.hasClipping()
    station.bench.paint_over(painter)
    after = painter.brush(), painter.pen(), painter.transform(), painter.opacity(), painter.hasClipping()
    painter.end()
    assert after == before

"""The scissors at the Spreads station: a box, strokes, what is cut out; by mouse and from the working."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest

from half_fold.core.pictures.cutting.masks import read_mask
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.own_kinds import begin
from half_fold.core.publication.records import HoldsPicture
from half_fold.core.publication.surgery import block_named, picture_of
from half_fold.core.spread.edits.claiming import claim_by_words
from half_fold.desk.application import Desk
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.core.test_cutting import agreement, glass, rough_box, scene
from tests.desk.conftest import LEFT, drag, ready, wait_for

SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def cutting(desk: Desk, tmp_path: Path) -> Iterator[Window]:
    """A ring on a ground, over a whole page, chosen."""
    picture, _ = scene("ring")
    picture.save(tmp_path / "ring.png")
    window = desk.open(begin("magazine", "Cut", tmp_path / "job"))
    window.resize(1280, 800)
    ready(window)
    folder = window.session.proxies.folder
    window.session.edit(lambda p: bring_picture(p, folder, tmp_path / "ring.png")[0], "a picture")
    window.session.edit(lambda p: claim_by_words(p, 3, "picture ring.png over 1-6 x 1-4"), "laid")
    window.open_station(4)
    window.session.view.go_to(3)
    window.session.view.select(window.session.publication.pages[2].blocks[0].id)
    QTest.qWait(100)
    yield window
    window.close()


def _station(window: Window) -> SpreadsStation:
    assert isinstance(window.station, SpreadsStation)
    return window.station


def _at(station: SpreadsStation, x: float, y: float) -> QPoint:
    """A place of the picture, in shares, on the bench."""
    where, _ = station.bench.scissors._lies()
    place = QPointF(where.left + x * where.width, where.top + y * where.height)
    return (station.bench.origin() + place * station.bench.scale()).toPoint()


def _boxed(window: Window) -> SpreadsStation:
    station = _station(window)
    station.bench.setFocus()
    QTest.keyClick(station.bench, Qt.Key.Key_C, SHIFT)
    assert station.bench.scissors.work == "box"
    box = rough_box(scene("ring")[1])
    drag(station.bench, _at(station, box.left, box.top), _at(station, box.right, box.bottom))
    wait_for(lambda: station.bench.scissors.work == "strokes")
    return station


def test_a_subject_is_cut_out_by_a_box_and_a_stroke(cutting: Window) -> None:
    station, before = _boxed(cutting), cutting.session.publication
    scissors = station.bench.scissors
    known = scissors.cutting
    assert known is not None
    filled = known.subject.sum()
    drag(station.bench, _at(station, 0.46, 0.5), _at(station, 0.54, 0.52), SHIFT)
    wait_for(lambda: known.subject.sum() < filled or known.subject[known.subject.shape[0] // 2].sum() > 0)
    assert station.bench.grab().width() > 0
    QTest.keyClick(station.bench, Qt.Key.Key_Return)
    wait_for(lambda: cutting.session.publication is not before)
    made = cutting.session.publication
    holds = block_named(made, made.pages[2].blocks[0].id).holds
    assert isinstance(holds, HoldsPicture)
    cut = picture_of(made, holds.picture)
    assert cut.mask and agreement(read_mask(cutting.session.proxies.folder, cut), scene("ring")[1]) > 0.95
    assert not scissors.work and "Cut out" in cutting.foot.sentence
    cutting.working.unfold("Cut out")
    card = next(card for card in cutting.working.cards if card.card.title == "Cut out")
    QTest.mouseClick(card.buttons[0], LEFT)
    after = cutting.session.publication
    assert picture_of(after, block_named(after, made.pages[2].blocks[0].id).holds.picture).mask == ""  # type: ignore[union-attr]
    cutting.session.undo()
    cutting.session.undo()
    assert cutting.session.publication is before


def test_it_is_given_up_by_escape_and_refused_where_there_is_no_picture(cutting: Window) -> None:
    station, before = _boxed(cutting), cutting.session.publication
    QTest.keyClicks(station.bench, "+-s")
    assert station.bench.scissors.soft and station.bench.scissors.brush == pytest.approx(0.025)
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)
    assert not station.bench.scissors.work and cutting.session.publication is before
    assert station.bench.tool is station.bench.knife
    cutting.session.view.select(None)
    station.bench.setFocus()
    QTest.keyClick(station.bench, Qt.Key.Key_C, SHIFT)
    assert "Choose a picture first" in cutting.foot.sentence


def test_another_try_and_what_is_said_of_a_subject_like_its_ground(cutting: Window, tmp_path: Path) -> None:
    station = _boxed(cutting)
    known = station.bench.scissors.cutting
    assert known is not None and "A tries again" in cutting.foot.sentence
    sought: list[bool] = []
    known.again = lambda: sought.append(True)  # type: ignore[method-assign]  # only whether it is asked
    QTest.keyClicks(station.bench, "a")
    wait_for(lambda: bool(sought))
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)
    picture, share = glass()
    picture.save(tmp_path / "glass.png")
    folder = cutting.session.proxies.folder
    cutting.session.edit(lambda p: bring_picture(p, folder, tmp_path / "glass.png")[0], "a picture")
    cutting.session.edit(lambda p: claim_by_words(p, 5, "picture glass.png over 1-6 x 1-4"), "laid")
    cutting.session.view.go_to(5)
    cutting.session.view.select(cutting.session.publication.pages[4].blocks[0].id)
    station.bench.setFocus()
    QTest.keyClick(station.bench, Qt.Key.Key_C, SHIFT)
    box = rough_box(share)
    drag(station.bench, _at(station, box.left, box.top), _at(station, box.right, box.bottom))
    wait_for(lambda: "much alike here" in cutting.foot.sentence)


def test_it_is_taken_up_from_the_working(cutting: Window) -> None:
    station = _station(cutting)
    cutting.working.unfold("Cut out")
    card = next(card for card in cutting.working.cards if card.card.title == "Cut the subject out")
    QTest.mouseClick(card.buttons[0], LEFT)
    assert station.bench.scissors.work == "box"
    drag(station.bench, _at(station, 0.5, 0.5), _at(station, 0.502, 0.501))
    wait_for(lambda: "too small" in cutting.foot.sentence)
    assert station.bench.scissors.work == "box", "another box can be drawn"
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)

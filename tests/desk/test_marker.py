"""What is drawn on a picture with the mouse, the curve drawn by hand, and the ways of looking at a picture."""

import numpy as np
import pytest
from PIL import Image
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest

from half_fold.core.publication.records import (
    Brushed,
    Coloured,
    Drawn,
    Group,
    HoldsPicture,
    Oval,
    Picture,
    Slope,
    Treatment,
)
from half_fold.core.publication.surgery import block_named, picture_of
from half_fold.desk.kit.curve import CurveField
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.stations.spreads.tools.marker import WAYS, Marker
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, pears, pears_held, spreads_at, wait_for

SHIFT = Qt.KeyboardModifier.ShiftModifier
LETTERS = {key: Qt.Key(ord(key)) for key in WAYS}


@pytest.fixture
def station(at_the_pears: SpreadsStation) -> SpreadsStation:
    return at_the_pears


def _picture(window: Window) -> Picture:
    return picture_of(window.session.publication, pears_held(window).picture)


def _treatment(window: Window) -> Treatment:
    return pears_held(window).treatment or Treatment()


def _up(station: SpreadsStation, key: str) -> Marker:
    """The easel, and from it that way of drawing."""
    QTest.keyClick(station.bench, Qt.Key.Key_R)
    QTest.keyClick(station.bench, LETTERS[key])
    assert station.bench.marker.work == key and not station.bench.easel.work
    return station.bench.marker


def _at(marker: Marker, across: float, down: float) -> QPoint:
    return marker.place((across, down)).toPoint()


def _line(station: SpreadsStation, marker: Marker, one: tuple[float, float], other: tuple[float, float],
          held: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:  # fmt: skip
    drag(station.bench, _at(marker, *one), _at(marker, *other), held)


def test_level_by_a_line(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "H")
    _line(station, marker, (0.1, 0.5), (0.9, 0.53))
    assert pears_held(window).turn == pytest.approx(-np.degrees(np.arctan2(0.03 * 3000, 0.8 * 4500)), abs=0.1)
    assert not marker.work
    window.session.undo()
    assert pears_held(window).turn == 0


def test_upright_by_two_lines(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "U")
    _line(station, marker, (0.2, 0.8), (0.25, 0.3))
    assert _treatment(window).upright is None and marker.work
    _line(station, marker, (0.8, 0.8), (0.75, 0.3))
    upright = _treatment(window).upright
    assert upright is not None and upright.first[0] == pytest.approx((0.2, 0.8), abs=0.01) and not marker.work


def test_kept_clear_by_a_box_and_let_go_by_a_click(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "K")
    _line(station, marker, (0.3, 0.3), (0.45, 0.6))
    (area,) = _picture(window).keep_clear
    assert area == pytest.approx((0.3, 0.3, 0.45, 0.6), abs=0.01)
    station.bench.grab()
    QTest.mouseClick(station.bench, LEFT, pos=_at(marker, 0.4, 0.5))
    assert not _picture(window).keep_clear and marker.work == "K"
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)
    assert not marker.work


def test_a_point_by_a_click_and_aimed_in_its_row(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "P")
    QTest.mouseClick(station.bench, LEFT, pos=_at(marker, 0.4, 0.4))
    (point,) = _picture(window).points
    assert (point.name, point.across) == ("eyes", pytest.approx(0.4, abs=0.01))
    row = window.working.row("Aims")
    assert row.row.edit is not None and row.row.edit("eyes on half across")
    before = pears_held(window).focus_x
    assert pears_held(window).aims and before is not None
    assert window.working.row("Points").row.typed.startswith("eyes 4")


@pytest.mark.parametrize(("key", "kind"), [("S", Slope), ("O", Oval), ("D", Drawn), ("C", Coloured)])
@pytest.mark.parametrize("only", [False, True])
def test_a_part_is_drawn_and_set_in_its_rows(
    window: Window, station: SpreadsStation, key: str, kind: type, only: bool
) -> None:
    marker, held = _up(station, key), SHIFT if only else Qt.KeyboardModifier.NoModifier
    if WAYS[key].hand == "click":
        QTest.mouseClick(station.bench, LEFT, held, _at(marker, 0.5, 0.5))
    elif WAYS[key].hand == "stroke":
        _round(station, marker, held)
    else:
        _line(station, marker, (0.3, 0.3), (0.6, 0.6), held)
    QTest.qWait(20)
    if only:
        assert isinstance(_treatment(window).seen, kind) and not _treatment(window).areas
        return
    (area,) = _treatment(window).areas
    assert isinstance(area.where, kind) and area.treatment.exposure < 0 and not marker.work
    row = window.working.row("Part 1")
    assert row.row.edit is not None and row.row.edit("oval 50 50 by 20 20 soft 30")
    assert _treatment(window).areas[0].where == Oval(middle=(0.5, 0.5), half=(0.2, 0.2), soft=30)
    card = next(card for card in window.working.cards if card.card.title == "Part 1")
    QTest.mouseClick(card.buttons[0], LEFT)
    assert not _treatment(window).areas


def _round(station: SpreadsStation, marker: Marker, held: Qt.KeyboardModifier) -> None:
    ways = [(0.3, 0.3), (0.6, 0.3), (0.6, 0.6), (0.3, 0.6), (0.3, 0.35)]
    QTest.mousePress(station.bench, LEFT, held, _at(marker, *ways[0]))
    for way in ways[1:]:
        QTest.mouseMove(station.bench, _at(marker, *way))
    QTest.mouseRelease(station.bench, LEFT, held, _at(marker, *ways[-1]))


ALT = Qt.KeyboardModifier.AltModifier


def test_by_brush_stroke_by_stroke_added_and_taken_away(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "W")
    wide = marker.brush
    QTest.keyClick(station.bench, Qt.Key.Key_Plus, Qt.KeyboardModifier.NoModifier)
    QTest.keyClicks(station.bench, "+")
    assert marker.brush > wide
    files = []
    for down, held in ((0.4, Qt.KeyboardModifier.NoModifier), (0.5, Qt.KeyboardModifier.NoModifier), (0.4, ALT)):
        QTest.mousePress(station.bench, LEFT, held, _at(marker, 0.3, down))
        QTest.mouseMove(station.bench, _at(marker, 0.5, down))
        QTest.mouseRelease(station.bench, LEFT, held, _at(marker, 0.5, down))
        (area,) = _treatment(window).areas
        assert isinstance(area.where, Brushed)
        files.append(area.where.file)
    assert len(set(files)) == 3 and marker.work == "W"
    assert all((window.session.proxies.folder.parent / "masks" / file).is_file() for file in files)
    for shown in ("as a veil", "alone", "by what it does"):
        QTest.keyClicks(station.bench, "x")
        assert marker.shows == shown
        station.bench.grab()
    QTest.keyClicks(station.bench, ".5")
    assert (marker.soft, marker.strength) == (pytest.approx(0.6), 0.5)
    window.session.undo()
    (area,) = _treatment(window).areas
    assert isinstance(area.where, Brushed) and area.where.file == files[1], "one stroke is one step"
    QTest.keyClicks(station.bench, "n")
    _line(station, marker, (0.6, 0.6), (0.7, 0.6))
    assert len(_treatment(window).areas) == 2
    QTest.keyClick(station.bench, Qt.Key.Key_Return)
    assert not marker.work and len(_treatment(window).areas) == 2


def test_what_is_seen_is_painted_and_rubbed_out(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "A")
    QTest.mousePress(station.bench, LEFT, ALT, _at(marker, 0.3, 0.4))
    QTest.mouseMove(station.bench, _at(marker, 0.6, 0.4))
    QTest.mouseRelease(station.bench, LEFT, ALT, _at(marker, 0.6, 0.4))
    seen = _treatment(window).seen
    assert isinstance(seen, Brushed) and not _treatment(window).areas
    mask = np.asarray(Image.open(window.session.proxies.folder.parent / "masks" / seen.file))
    high, wide = mask.shape
    assert mask[round(0.4 * high), round(0.45 * wide)] < 20 and mask[round(0.8 * high), round(0.45 * wide)] == 255


def test_mended_beside_the_window_and_let_go(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "M")
    _line(station, marker, (0.5, 0.3), (0.52, 0.3))
    wait_for(lambda: bool(_treatment(window).patches))
    assert len(_treatment(window).patches) == 1 and marker.work == "M"
    window.working.unfold("Light and colour")
    card = next(card for card in window.working.cards if card.card.title == "Mended")
    QTest.mouseClick(card.buttons[0], LEFT)
    assert not _treatment(window).patches


def test_strokes_made_one_upon_the_other_are_all_mended(window: Window, station: SpreadsStation) -> None:
    marker = _up(station, "M")
    for across in (0.5, 0.6, 0.7):
        _line(station, marker, (across, 0.3), (across + 0.01, 0.3))
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)
    wait_for(lambda: len(_treatment(window).patches) == 3)


def test_what_is_too_short_changes_nothing_and_goes_on(window: Window, station: SpreadsStation) -> None:
    before = window.session.publication
    for key in ("H", "S", "O"):
        marker = _up(station, key)
        QTest.mouseClick(station.bench, LEFT, pos=_at(marker, 0.5, 0.5))
        assert window.session.publication is before and marker.work == key
        QTest.keyClick(station.bench, Qt.Key.Key_Escape)


def test_a_drawing_and_no_picture_are_said(window: Window, station: SpreadsStation) -> None:
    said: list[str] = []
    window.session.said.connect(said.append)
    window.session.view.select(None)
    assert not station.bench.marker.take_up("H") and "Choose a picture" in said[-1]


def test_from_the_row_too(window: Window, station: SpreadsStation) -> None:
    row = window.working.row("Draw on it").row
    assert row.edit is not None and row.edit("K") and station.bench.marker.work == "K"


# The curve ----------------------------------------------------------------------------------------------------------


def _field(window: Window) -> CurveField:
    window.working.unfold("Light and colour")
    return window.working.curves[0].field


def test_a_curve_is_drawn_by_mouse(window: Window, station: SpreadsStation) -> None:
    field = _field(window)
    high, wide = field.height() - 1, field.width() - 1
    drag(field, QPoint(wide // 4, 3 * high // 4), QPoint(wide // 4, 85 * high // 100))
    ((x, y),) = _treatment(window).curve
    assert x == pytest.approx(25, abs=1.5) and y == pytest.approx(15, abs=1.5)
    assert _field(window) is field  # it is not made anew under the hand
    drag(field, field.at((x, y)).toPoint(), QPoint(wide // 4, high + 60))
    assert not _treatment(window).curve


def test_a_curve_is_drawn_by_keys(window: Window, station: SpreadsStation) -> None:
    field = _field(window)
    field.setFocus()
    QTest.keyClick(field, Qt.Key.Key_Insert)
    QTest.keyClick(field, Qt.Key.Key_Up)
    QTest.keyClick(field, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    assert _treatment(window).curve == ((51.0, 51.0),)
    QTest.keyClick(field, Qt.Key.Key_Insert)
    assert len(_treatment(window).curve) == 2 and "51" in field.accessibleDescription()
    QTest.keyClick(field, Qt.Key.Key_Left)
    QTest.keyClick(field, Qt.Key.Key_Delete)
    QTest.keyClick(field, Qt.Key.Key_Delete)
    assert not _treatment(window).curve
    window.session.undo()
    assert len(_treatment(window).curve) == 1


def test_each_colour_has_a_curve_of_its_own(window: Window, station: SpreadsStation) -> None:
    window.working.unfold("Light and colour")
    view = window.working.curves[0]
    QTest.mouseClick(view.channel, LEFT)
    assert "red" in view.channel.text()
    view.field.setFocus()
    QTest.keyClick(view.field, Qt.Key.Key_Insert)
    QTest.keyClick(view.field, Qt.Key.Key_Down)
    assert _treatment(window).curve_red and not _treatment(window).curve
    assert len(view.field.curve.histogram) == 4 and sum(view.field.curve.histogram[1]) > 0


# Ways of looking ----------------------------------------------------------------------------------------------------


def _octets(image: QImage) -> np.ndarray:
    made = image.convertToFormat(QImage.Format.Format_RGB32)
    bits = made.constBits()
    assert bits is not None
    return np.frombuffer(bits.asstring(made.sizeInBytes()), np.uint8).reshape(made.height(), made.width(), 4)[
        ..., 2::-1
    ]


def _shown(station: SpreadsStation) -> np.ndarray:
    station.bench.grab()  # which asks for what is lacking; until it has come, what was there before is shown
    station.bench.session.proxies.wait()
    QTest.qWait(60)
    return _octets(station.bench.grab().toImage()).astype(int)


def test_as_printed_has_the_papers_white_and_goes_back(window: Window, station: SpreadsStation) -> None:
    window.session.view.select(None)
    before = _shown(station)
    QTest.keyClick(station.bench, Qt.Key.Key_Q)
    paper = _shown(station)
    trim = station.bench.to_widget(station.bench.frames()[0][1].trim)
    y, x = int(trim.bottom()) - 6, int(trim.left()) + 20
    assert before[y, x].tolist() == [255, 255, 255] and paper[y, x].max() < 250 and paper[y, x].min() > 200
    middle = int(trim.top()) + 60, int(trim.center().x())
    assert np.abs(paper[middle] - before[middle]).max() < 60
    QTest.keyClick(station.bench, Qt.Key.Key_Q)
    assert np.array_equal(_shown(station), before)


def test_before_and_after_beside_each_other(window: Window, station: SpreadsStation) -> None:
    name = pears(window)
    plain = _shown(station)
    row = window.working.row("Exposure").row
    assert row.edit is not None and row.edit("-2")
    treated = _shown(station)
    QTest.keyClick(station.bench, Qt.Key.Key_E, SHIFT)
    trim = station.bench.to_widget(station.bench.frames()[0][1].trim)
    x, y = int(trim.center().x()), int(trim.top()) + 40
    station.bench.pointer = QPointF(x, y)
    split = _shown(station)
    left, right = (slice(y - 10, y + 10), slice(x - 60, x - 40)), (slice(y - 10, y + 10), slice(x + 40, x + 60))
    assert np.abs(split[left] - plain[left]).max() < 12 < np.abs(split[left] - treated[left]).mean()
    assert np.array_equal(split[right], treated[right])
    assert name == window.session.view.block


def test_what_is_clipped_is_marked(window: Window, station: SpreadsStation) -> None:
    window.session.edit(lambda p: p, "nothing")
    for key, value in (("White from", "40"), ("Exposure", "2")):
        row = window.working.row(key).row
        assert row.edit is not None and row.edit(value)
    window.session.view.select(None)
    before = _shown(station)
    QTest.keyClick(station.bench, Qt.Key.Key_J)
    after = _shown(station)
    changed = np.abs(after - before).max(2) > 30
    assert changed.mean() > 0.02
    assert (before[changed].min(1) > 235).mean() > 0.8


def test_a_scene_and_one_step_for_all_from_the_rows_of_several(window: Window) -> None:
    spreads_at(window, 25)
    names = [b.id for b in window.session.publication.pages[24].blocks if isinstance(b.holds, HoldsPicture)]
    assert len(names) == 2
    window.session.view.select(names[1])
    row = window.working.row("Exposure").row
    assert row.edit is not None and row.edit("0.5")
    window.session.view.choose(names)
    row = window.working.row("One step for all").row
    assert row.edit is not None and row.choices == [("exposure", "Exposure")] and row.edit("exposure")
    both = [block_named(window.session.publication, name).holds for name in names]
    assert all(holds.treatment == Treatment(exposure=0.5) for holds in both)  # type: ignore[union-attr]
    window.working.unfold("Light and colour")
    card = next(card for card in window.working.cards if card.card.title == "As one ground")
    QTest.mouseClick(card.buttons[0], LEFT)
    (name,) = window.session.view.chosen
    group = next(t for page in window.session.publication.pages for t in page.things if t.id == name)
    assert isinstance(group, Group) and group.locked and len(group.members) == 2
    window.session.undo()
    window.session.view.select(names[1])
    row = window.working.row("Let a step go").row
    assert row.edit is not None and row.edit("exposure")
    assert block_named(window.session.publication, names[1]).holds.treatment is None  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("said", "does"), [("horizon", "H"), ("retouch", "M"), ("eyes", "P"), ("verticals", "U"), ("do not crop", "K")]
)
def test_ask_takes_up_what_is_drawn(window: Window, station: SpreadsStation, said: str, does: str) -> None:
    window.ask_for()
    assert window.wanted is not None
    QTest.keyClicks(window.wanted.ask.line, said)
    QTest.qWait(60)
    QTest.keyClick(window.wanted.ask.line, Qt.Key.Key_Return)
    assert station.bench.marker.work == does


def test_ask_shows_it_as_printed(window: Window, station: SpreadsStation) -> None:
    window.ask_for()
    assert window.wanted is not None
    QTest.keyClicks(window.wanted.ask.line, "as printed")
    QTest.qWait(60)
    QTest.keyClick(window.wanted.ask.line, Qt.Key.Key_Return)
    assert station.bench.on_paper

"""Earlier versions, looked at and returned to in the real window."""

from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from half_fold.core.store.codec import encode
from half_fold.desk.stations.versions import VersionsStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT

CONTROL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def _versions(window: Window) -> VersionsStation:
    station = window.station
    assert isinstance(station, VersionsStation)
    return station


def _look(window: Window) -> VersionsStation:
    QTest.keyClick(window, Qt.Key.Key_O, CONTROL | SHIFT)
    return _versions(window)


def _press(station: VersionsStation, key: Qt.Key) -> None:
    QTest.keyClick(station.list, key)
    QTest.qWait(10)


def test_a_version_is_looked_at_without_changing_anything(window: Window) -> None:
    window.session.keep_version("before the cut")
    then = window.session.publication
    window.session.edit(lambda p: replace(p, title="Graftwood cut"), "another title")
    now = window.session.publication
    station = _look(window)
    assert station.kept.publication.title == then.title and window.session.publication is now
    assert window.working.row("Title").row.working == "now Graftwood cut"
    assert not any(button.isChecked() for button in window.docket.buttons.values())
    label = station.kept.view.spread.label
    _press(station, Qt.Key.Key_Right)
    assert station.kept.view.spread.label != label and station.kept.view.spread.label in window.foot.where
    _press(station, Qt.Key.Key_Escape)
    assert window.current == 4 and window.session.publication is now and window.docket.buttons[4].isChecked()


def test_returning_is_an_edit_at_the_spread_looked_at(window: Window) -> None:
    window.session.keep_version()
    kept = encode(window.session.publication)
    window.session.edit(lambda p: replace(p, pages=p.pages[:32]), "fewer pages")
    changed = window.session.publication
    station = _look(window)
    assert window.working.row("Extent").row.value == "48 pages"
    for _ in range(20):
        _press(station, Qt.Key.Key_Right)
    QTest.mouseClick(window.working.cards[-1].buttons[0], LEFT)
    assert encode(window.session.publication) == kept and window.session.view.page >= 40
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is changed


def test_an_unchanged_version_says_so_and_the_newest_stands_first(window: Window) -> None:
    window.session.keep_version("one")
    QTest.qWait(5)
    window.session.keep_version("two")
    station = _look(window)
    assert [station.list.item(i).text().split(", ")[-1] for i in range(2)] == ["two", "one"]  # type: ignore[union-attr]
    assert window.working.cards[0].card.title == "The same as now"


def test_a_damaged_version_says_so_and_cannot_be_returned_to(window: Window) -> None:
    window.session.keep_version("cut short")
    version = window.session.job.versions()[0]
    version.write_bytes(version.read_bytes()[:200])
    before = window.session.publication
    station = _look(window)
    assert "cannot be read" in window.foot.where and not station.bench.isVisible()
    _press(station, Qt.Key.Key_Return)
    assert window.session.publication is before


def test_no_versions_is_said(window: Window) -> None:
    QTest.mouseClick(window.docket.versions_button, LEFT)
    assert window.current == 4 and "Ctrl+S" in window.foot.sentence

"""The picture drawer as a picture desk: searched, ordered, shown in part, valued by a key each, low, tall, whole."""

from pathlib import Path

import pytest
from PIL import Image, ImageFilter
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from half_fold.desk.stations.spreads.drawer.drawer import HEIGHTS, TALL
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import type_into_dialog, wait_for


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    window.open_station(4)
    assert isinstance(window.station, SpreadsStation)
    window.station.open_drawer("pictures")
    QTest.qWait(30)
    return window.station


def _files(station: SpreadsStation) -> list[str]:
    return [picture.file for picture in station.drawer.pictures.pictures()]


def test_it_is_searched_and_ordered(window: Window, station: SpreadsStation) -> None:
    tools = station.drawer._picture_tools
    every = _files(station)
    QTest.keyClicks(tools.search, "pear")
    assert set(_files(station)) == {file for file in every if "pear" in file}
    assert tools.count.text().endswith(f"of {len(every)}")
    tools.search.clear()
    tools.order.setCurrentText("name")
    assert _files(station) == sorted(every, key=str.lower)
    tools.order.setCurrentText("light")
    wait_for(lambda: len(station.drawer.pictures.teller.told) >= len(set(every)))
    told = station.drawer.pictures.teller.told
    lights = [told[picture.digest].light for picture in station.drawer.pictures.pictures()]
    assert lights == sorted(lights) and lights[0] < lights[-1]
    tools.show_only.setCurrentText("unused")
    assert _files(station) == [], "all of the demo's pictures are laid"
    assert station.drawer.pictures.viewport().grab().width() > 0  # type: ignore[union-attr]
    tools.show_only.setCurrentText("all")


def test_pictures_are_valued_by_one_key_each(window: Window, station: SpreadsStation) -> None:
    drawer = station.drawer.pictures
    drawer.setFocus()
    QTest.keyClick(drawer, Qt.Key.Key_Home)
    QTest.keyClicks(drawer, "103")
    worths = [picture.worth for picture in window.session.publication.pictures][:4]
    assert worths == ["opens", "left out", "fills", ""]
    station.drawer._picture_tools.show_only.setCurrentText("opens")
    assert len(_files(station)) == 1
    for _ in range(3):
        window.session.undo()
    assert not any(picture.worth for picture in window.session.publication.pictures)


def test_it_grows_by_one_key_and_shows_more(window: Window, station: SpreadsStation) -> None:
    drawer = station.drawer
    assert drawer.height() == HEIGHTS["pictures"]
    heights = []
    for _ in range(3):
        drawer.pictures.setFocus()
        QTest.keyClicks(drawer.pictures, "i")
        QTest.qWait(30)
        heights.append(drawer.height())
    assert heights[0] == TALL and heights[1] > TALL and heights[2] == HEIGHTS["pictures"]
    QTest.keyClicks(drawer.pictures, "i")
    station.open_drawer("stories")
    assert drawer.height() == HEIGHTS["stories"]


def test_those_too_small_for_the_chosen_block_are_shown(window: Window, station: SpreadsStation) -> None:
    window.session.view.go_to(14)
    wide = max(
        window.session.publication.pages[13].blocks, key=lambda block: "picture" in type(block.holds).__name__.lower()
    )
    window.session.view.select(wide.id)
    station.drawer._picture_tools.show_only.setCurrentText("too small")
    files = _files(station)
    assert files and "one-apple.png" in files


def test_contact_sheets_are_made_beside_the_window(window: Window, station: SpreadsStation, tmp_path: Path) -> None:
    type_into_dialog(str(tmp_path / "contact.pdf"))
    QTest.keyClick(window, Qt.Key.Key_I, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    wait_for(lambda: "14 pictures" in window.foot.sentence)
    assert (tmp_path / "contact.pdf").read_bytes().startswith(b"%PDF")


def test_near_duplicates_are_gone_through(window: Window, station: SpreadsStation, tmp_path: Path) -> None:
    source = next(p for p in window.session.publication.pictures if p.file.endswith("jpg"))
    soft = Image.open(window.session.job.pictures / source.file).filter(ImageFilter.GaussianBlur(3))
    soft.save(tmp_path / "again.jpg", quality=92)
    window.session.bring_pictures([tmp_path / "again.jpg"])
    wait_for(lambda: any(p.file == "again.jpg" for p in window.session.publication.pictures))
    tools, drawer = station.drawer._picture_tools, station.drawer.pictures
    tools.show_only.setCurrentText("alike")
    wait_for(lambda: _files(station) == [source.file, "again.jpg"])
    assert tools.count.text() == f"2 of {len(window.session.publication.pictures)}"
    assert drawer._said[source.id] == "sharpest of 2" and set(drawer._said.values()) != {"sharpest of 2"}
    drawer.setFocus()
    QTest.keyClick(drawer, Qt.Key.Key_Home)
    QTest.keyClick(drawer, Qt.Key.Key_Right)
    QTest.keyClicks(drawer, "0")
    assert _files(station) == [], "with one left out, none has another"
    tools.show_only.setCurrentText("one of each")
    assert "again.jpg" not in _files(station) and source.file in _files(station)
    window.session.undo()
    assert "again.jpg" not in _files(station), "the sharpest stands for both"

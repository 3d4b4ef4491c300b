"""What can be read, through the real window: shown by a key, read again after edits, mended by a card."""

from PyQt6.QtTest import QTest

from half_fold.core.paths.all import set_paths
from half_fold.desk.kit.rows import Card
from half_fold.desk.stations.cover.station import CoverStation
from half_fold.desk.window import Window
from tests.desk.conftest import spreads_at, wait_for


def _cover(window: Window) -> CoverStation:
    window.open_station(5)
    QTest.qWait(50)
    assert isinstance(window.station, CoverStation)
    return window.station


def _cards(station: CoverStation) -> dict[str, Card]:
    return {card.title: card for section in station.sections() for card in section.items if isinstance(card, Card)}


def test_the_cover_is_read_by_a_key_and_a_remedy_is_one_step(window: Window) -> None:
    window.session.edit(lambda p: set_paths(p, ["block.c5.ink=black"]), "spoiled")
    station = _cover(window)
    reader = station.bench.reader
    QTest.keyClick(station.bench, "z")
    wait_for(lambda: reader.read is not None)
    assert reader.read.verdict("c5") == "not to be read" and reader.read.verdict("c4") == "good"
    assert "Choose a block" in _cards(station)
    station.session.view.select("c5")
    before = window.session.publication
    dict(_cards(station)["What would do it?"].actions)["Make it readable"]()
    wait_for(lambda: reader.found is not None)
    assert reader.found
    dict(_cards(station)[reader.found[0].words].actions)["Do it"]()
    assert window.session.publication is not before
    station.bench.repaint()
    wait_for(lambda: reader.read is not None and reader.read.verdict("c5") == "good")
    window.session.undo()
    assert window.session.publication.cover == before.cover
    QTest.keyClick(station.bench, "z")
    assert not reader.shown and not any(section.title == "What can be read" for section in station.sections())


def test_a_spread_is_read_and_read_again_when_another_comes_into_view(window: Window) -> None:
    station = spreads_at(window, 2)
    QTest.keyClick(station.bench, "z")
    reader = station.bench.reader
    wait_for(lambda: reader.read is not None)
    assert reader.read.sheet.spread.numbers == (2, 3) and reader.read.words
    window.session.view.go_to(12)
    station.bench.repaint()
    wait_for(lambda: reader.read is not None and reader.read.sheet.spread.numbers == (12, 13))
    assert next(section for section in station.sections() if section.title == "What can be read").items

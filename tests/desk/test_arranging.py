"""Arrange, Draft and features through the real window: by mouse, by keys, by rows, with undo."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtTest import QTest

from half_fold.core.publication.records import HoldsPicture
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.setting.threads import thread
from half_fold.core.spread.where.frames import blocks_on
from half_fold.core.store.demo import HARVEST, make_demo
from half_fold.core.typesetting.texts.text_in import read_plain
from half_fold.desk.application import Desk
from half_fold.desk.kit.rows import Card, Row
from half_fold.desk.stations.order.station import OrderStation
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.stations.spreads.tools.arranger import Arranger
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, drag, ready, spreads_at, wait_for

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def harvest(desk: Desk, tmp_path: Path) -> Window:
    """The photo book whose pictures wait in the drawer, its pages empty."""
    opened = desk.open(make_demo(tmp_path, HARVEST).parent)
    ready(opened)
    session = opened.session
    from msgspec.structs import replace

    if any(page.things for page in session.publication.pages):
        bare = tuple(replace(page, things=()) for page in session.publication.pages)
        session.edit(lambda p: replace(p, pages=bare), "emptied")
    return opened


def found(station: SpreadsStation) -> Arranger:
    """The arranger, once it has found something."""
    arranger = station.bench.arranger
    wait_for(lambda: bool(arranger.found))
    return arranger


def _chosen(station: SpreadsStation, *numbers: int) -> list[str]:
    drawer = station.drawer.pictures
    names = [drawer.pictures()[n].id for n in numbers]
    for n in numbers:
        place = drawer.places()[n].center().toPoint()
        QTest.mouseClick(drawer.viewport(), LEFT, CTRL if n != numbers[0] else Qt.KeyboardModifier.NoModifier, place)
    assert list(drawer.gathered) == names
    return names


def _laid(window: Window) -> list[str]:
    session = window.session
    held = (block.holds for _, _, block in blocks_on(session.publication, session.view.spread))
    return [each.picture for each in held if isinstance(each, HoldsPicture)]


def test_pictures_of_the_drawer_are_arranged_by_keys_and_undo_takes_it_back(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    names = _chosen(station, 0, 1, 2)
    before = harvest.session.publication
    QTest.keyClick(station.drawer.pictures, "y")
    arranger = found(station)
    assert arranger.strip.isVisible() and not station.drawer.isVisible()
    assert harvest.session.publication is before and harvest.session.view.tried is not None
    first = harvest.session.view.tried
    QTest.keyClick(station.bench, Qt.Key.Key_Right)
    assert arranger.at == 1 and harvest.session.view.tried is not first
    shown = harvest.session.view.tried
    QTest.keyClick(station.bench, Qt.Key.Key_Return)
    assert harvest.session.publication.pages == shown.pages and harvest.session.view.tried is None
    assert sorted(_laid(harvest)) == sorted(names) and len(harvest.session.view.chosen) == 3
    assert station.drawer.isVisible() and not arranger.strip.isVisible()
    harvest.session.undo()
    assert harvest.session.publication.pages == before.pages


def test_escape_leaves_all_as_it_was_and_nothing_chosen_takes_what_lies_free(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    QTest.keyClick(station.bench, "y")
    wait_for(lambda: not station.bench.arranger.work)  # nothing is chosen and nothing lies here: said
    _chosen(station, 0, 1)
    station.arrange()
    found(station)
    QTest.keyClick(station.bench, Qt.Key.Key_Return)
    before = harvest.session.publication
    harvest.session.view.select(None)
    QTest.keyClick(station.bench, "y")
    arranger = found(station)
    assert {item.block for item in arranger.found[0].items} == {
        b.id for _, _, b in blocks_on(before, harvest.session.view.spread)
    }
    QTest.keyClick(station.bench, Qt.Key.Key_Escape)
    assert harvest.session.publication is before and harvest.session.view.tried is None and not arranger.work


def test_a_picture_dragged_onto_another_changes_places_and_pins_hold(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    _chosen(station, 0, 1, 3)
    station.arrange()
    arranger, bench = found(station), station.bench

    def middle(n: int) -> QPoint:
        left, top, right, bottom = arranger.found[0].room.seen[arranger.found[0].rects[n]]
        return bench.from_points(((left + right) / 2, (top + bottom) / 2)).toPoint()

    QTest.qWait(100)  # until the strip has its place
    items, rects = arranger.found[0].items, arranger.found[0].rects
    drag(bench, middle(0), middle(1))
    wait_for(lambda: arranger.found[0].rects[:2] == (rects[1], rects[0]))
    assert len(arranger.pins) == 2 and arranger.found[0].items[0].picture == items[0].picture
    QTest.mouseClick(bench, LEFT, pos=middle(2))
    QTest.keyClick(bench, "p")
    wait_for(lambda: len(arranger.pins) == 3)
    QTest.keyClick(bench, "p")  # its place no longer, but its size
    assert arranger.pins[arranger.item].size is not None
    QTest.keyClick(bench, "p")
    assert arranger.item not in arranger.pins


def test_nudges_move_the_manner_by_key_and_by_card_and_look_again(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    _chosen(station, 0, 1, 2, 3)
    station.arrange()
    arranger = found(station)
    before = arranger.found
    QTest.keyClick(station.bench, "e")
    assert harvest.session.publication.manner.bleed == 50
    wait_for(lambda: arranger.found is not before)
    sections = station.sections()
    card = next(card for s in sections for card in s.items if isinstance(card, Card) and card.title == "On seeing them")
    dict(card.actions)["Quieter (Q)"]()
    assert harvest.session.publication.manner.room == 70
    row = next(row for s in sections for row in s.items if isinstance(row, Row) and row.name == "White")
    assert not any(isinstance(each, Row) and each.edit for each in sections[0].items)
    rows = [row for s in sections if s.title == "Manner" for row in s.items if isinstance(row, Row)]
    white = next(row for row in rows if row.name == "White")
    assert white.edit is not None and white.edit("150") and harvest.session.publication.manner.white == 150
    assert not white.edit("1000") and row.name == "White"


def test_what_was_taken_speaks_for_a_manner_that_only_the_user_takes(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    _chosen(station, 0, 2)
    station.arrange()
    arranger = found(station)
    manner = harvest.session.publication.manner
    arranger.choices = [({"order": 0.9}, [{"order": 0.1}])] * 4
    assert any(section.title == "Suggested" for section in station.sections())
    assert harvest.session.publication.manner == manner
    arranger.take_suggestion()
    assert harvest.session.publication.manner.order == 75


def test_one_page_alone_and_another_spread_ends_it(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    _chosen(station, 0, 2)
    station.arrange()
    arranger = found(station)
    both = arranger.found
    QTest.keyClick(station.bench, "o")
    wait_for(lambda: arranger.found is not both)
    assert len(arranger.found[0].room.pages) == 1
    harvest.session.view.go_to(6)
    station.bench.repaint()
    wait_for(lambda: not arranger.work)
    assert harvest.session.view.tried is None


def test_the_strip_shows_each_and_takes_by_double_click(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    _chosen(station, 0, 2)
    station.arrange()
    arranger = found(station)
    QTest.mouseClick(arranger.strip, LEFT, pos=arranger.strip.place(1).center().toPoint())
    assert arranger.at == 1 and "2 of" in arranger.strip.accessibleDescription()
    QTest.mouseDClick(arranger.strip, LEFT, pos=arranger.strip.place(1).center().toPoint())
    assert not arranger.work and len(_laid(harvest)) == 2


def test_several_pictures_are_chosen_in_the_drawer_by_mouse_and_by_keys(harvest: Window) -> None:
    station = spreads_at(harvest, 2)
    drawer = station.drawer.pictures
    names = [picture.id for picture in drawer.pictures()]
    QTest.mouseClick(drawer.viewport(), LEFT, pos=drawer.places()[1].center().toPoint())
    QTest.mouseClick(drawer.viewport(), LEFT, SHIFT, drawer.places()[3].center().toPoint())
    assert list(drawer.gathered) == names[1:4] and drawer.chosen == names[3]
    QTest.mouseClick(drawer.viewport(), LEFT, CTRL, drawer.places()[2].center().toPoint())
    assert list(drawer.gathered) == [names[1], names[3]]
    QTest.keyClick(drawer, Qt.Key.Key_Right, SHIFT)
    assert list(drawer.gathered) == [names[1], names[3], names[4]]
    QTest.keyClick(drawer, Qt.Key.Key_A, CTRL)
    assert list(drawer.gathered) == names


# Drafting -------------------------------------------------------------------------------------------------------------


def test_a_photo_book_is_planned_drafted_and_drafted_again_as_one_step_each(harvest: Window) -> None:
    harvest.open_station(2)
    station = harvest.station
    assert isinstance(station, OrderStation)
    before, draft = harvest.session.publication, station.rows.draft
    offer = next(
        card
        for s in station.sections()
        for card in s.items
        if isinstance(card, Card) and "Plan it" in dict(card.actions)
    )
    dict(offer.actions)["Plan it"]()
    wait_for(lambda: not draft.drafter.busy)
    assert draft.plan is not None and harvest.session.publication is before
    draft_pages = draft.plan.pages
    rows = {row.name: row for row in station.sections()[0].items if isinstance(row, Row)}
    assert rows["Pages"].edit is not None and rows["Pages"].edit("24") and not rows["Pages"].edit("many")
    assert rows["Pages"].stands == draft_pages and rows["Pace"].span == (0, 100) and rows["Bleed"].span == (-100, 100)
    wait_for(lambda: not draft.drafter.busy)
    assert draft.plan.pages == 24
    _act(station, "Draft it")
    wait_for(lambda: not draft.drafter.busy and harvest.session.publication is not before)
    first = harvest.session.publication
    assert len(first.pages) == 24 and any(page.things for page in first.pages)
    assert draft.plan.pages == 24 and draft.plan.spreads  # still of the job as it was before
    rows = {row.name: row for row in station.sections()[0].items if isinstance(row, Row)}
    assert (
        rows["Pace"].edit is not None
        and rows["Pace"].edit("90")
        and rows["Pages"].edit is not None
        and rows["Pages"].edit("")
    )
    wait_for(lambda: not draft.drafter.busy)
    _act(station, "Draft it again")
    wait_for(lambda: not draft.drafter.busy and harvest.session.publication is not first)
    assert len(harvest.session.publication.pages) < 24
    harvest.session.undo()
    assert harvest.session.publication.pages == before.pages
    _act(station, "Leave")
    assert not draft.open


def _act(station: OrderStation, words: str) -> None:
    card = next(c for s in station.sections() for c in s.items if isinstance(c, Card) and words in dict(c.actions))
    dict(card.actions)[words]()


def test_a_story_that_lies_nowhere_is_laid_over_spreads_with_the_pictures_chosen(window: Window) -> None:
    session = window.session
    words = "\n\n".join(["The barn is older than the house and the ladders hang from its beams all winter. " * 5] * 8)
    story = ""

    def add(publication: object) -> object:
        nonlocal story
        made, story = add_story(publication, "The long barn", tuple(read_plain(words).paragraphs))  # type: ignore[arg-type]
        return made

    session.edit(add, "a story")  # type: ignore[arg-type]
    station = spreads_at(window, 26)
    session.view.choose_story(story)
    session.view.select(None)
    station.drawer.pictures.choose(session.publication.pictures[4].id)
    section = next(s for s in station.sections() if s.title == "Feature")
    row = next(each for each in section.items if isinstance(each, Row))
    assert row.edit is not None and row.edit("1") and not row.edit("none")
    section = next(s for s in station.sections() if s.title == "Feature")
    before = session.publication
    dict(next(each for each in section.items if isinstance(each, Card)).actions)["Lay it"]()
    wait_for(lambda: not station.feature.busy)
    assert thread(session.publication, story) and session.publication is not before
    assert session.publication.pictures[4].id in _laid(window)
    session.undo()
    assert session.publication.pages == before.pages
    assert QPointF() is not None

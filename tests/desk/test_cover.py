"""The Cover station, driven by mouse and keyboard."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QMenu, QWidget

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.cover.flat import cover_flat
from half_fold.core.cover.properties import set_cover
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.measure.entry import MM
from half_fold.core.paths.all import set_paths
from half_fold.core.plan.inserts import add_insert
from half_fold.core.publication.records import Block, HoldsBarcode, HoldsDisplay, HoldsPicture, HoldsStory, Run
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.where.frames import page_frame_of
from half_fold.core.store.codec import encode
from half_fold.desk.application import Desk
from half_fold.desk.stations.cover import CoverStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, choose_listed, drag, field, on_bench, ready, wait_for
from tests.trips import TRIPS

SHIFT, CONTROL = Qt.KeyboardModifier.ShiftModifier, Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def station(window: Window) -> CoverStation:
    QTest.keyClick(window, Qt.Key.Key_5, CONTROL)
    ready(window)
    assert isinstance(window.station, CoverStation)
    return window.station


def _claim(station: CoverStation, start: tuple[int, int], end: tuple[int, int], letter: str) -> Block:
    """Shift, since a picture covers the front; columns count over both pages, the front's from 6."""
    drag(station.bench, field(station.bench, *start), field(station.bench, *end), SHIFT)
    assert station.chooser is not None
    QTest.keyClicks(station.chooser, letter)
    QTest.qWait(20)
    return _selected(station)


def _selected(station: CoverStation) -> Block:
    cover = station.job.publication.cover
    return next(b for b in (*cover.back, *cover.front, *cover.inside_front) if b.id == station.cover.view.block)


def _type(text: str) -> None:
    widget = QApplication.focusWidget()
    assert widget is not None
    QTest.keyClick(widget, Qt.Key.Key_A, CONTROL)
    QTest.keyClicks(widget, text)


def _set(window: Window, row: str, text: str) -> None:
    QTest.mouseClick(window.working.row(row).value, LEFT)
    _type(text)
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)


def _pick(window: Window, row: str, words: str) -> None:
    view: QWidget = window.working.row(row)
    QTest.mouseClick(view.value, LEFT)  # type: ignore[attr-defined]
    menu = next(m for m in view.findChildren(QMenu) if m.isVisible())
    next(a for a in menu.actions() if a.text() == words).trigger()  # the row, and its menu, may be made anew


@pytest.mark.parametrize(("kind", "bound"), [("magazine", "right"), ("magazine", "left"), ("screen-cover", "right")])
def test_the_cover_is_come_to_at_its_front(desk: Desk, tmp_path: Path, kind: str, bound: str) -> None:
    """Bound at the right the front lies at the left: a front alone was called the back cover there."""
    assert main(["new", kind, str(tmp_path / "job"), "--set", f"bound={bound}"]) == 0
    window = desk.open(tmp_path / "job")
    ready(window)
    window.open_station(5)
    assert window.station.where().startswith("Front cover")


def test_a_stack_is_claimed_typed_and_evened(station: CoverStation, window: Window) -> None:
    block = _claim(station, (10, 3), (11, 6), "l")
    assert isinstance(block.holds, HoldsDisplay) and block.holds.even and block.holds.side == "right"
    text = QApplication.focusWidget()
    assert text is station.drawer.stories.text
    QTest.keyClicks(text, "41")
    QTest.keyClick(text, Qt.Key.Key_Return)
    QTest.keyClicks(text, "lost apples")
    holds = _selected(station).holds
    assert isinstance(holds, HoldsDisplay)
    assert [p.text for p in holds.paragraphs] == ["41", "lost apples"]
    sizes = [window.working.row(f"Line {n}").value.text() for n in (1, 2)]
    assert float(sizes[0].split()[0]) > float(sizes[1].split()[0]), "the shorter line is the larger"
    _pick(window, "Evened", "no")
    holds = _selected(station).holds
    assert isinstance(holds, HoldsDisplay) and not holds.even


def test_a_masthead_takes_the_title_and_follows_it(station: CoverStation, window: Window) -> None:
    block = _claim(station, (6, 0), (11, 1), "m")
    before = station.cover.marks()
    window.session.edit(lambda p: TRIPS["changed picture"][0](p, window.session.job.pictures), "issue")
    assert window.session.undo() is None
    said = ["".join(getattr(mark, "texts", ())) for mark in before.marks if mark.origin.block == block.id]
    assert said == ["Graftwood"]


@pytest.mark.checked
def test_a_barcode_waits_for_its_number_and_proves_it(station: CoverStation, window: Window) -> None:
    block = _claim(station, (0, 9), (2, 11), "b")
    assert isinstance(block.holds, HoldsBarcode)
    wait_for(lambda: any(f.rule == "barcode number" for f in window.session.findings))
    assert "to look at" in window.docket.buttons[5].line.state
    _set(window, "Number", "2901234567890")
    assert "check digit" in window.foot.sentence
    _type("290123456789")
    QTest.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    _set(window, "Size", "100")
    _set(window, "Above it", "{issue} / 4.50")
    holds = _selected(station).holds
    assert isinstance(holds, HoldsBarcode)
    assert (holds.number, holds.size) == ("2901234567896", 100)
    assert [p.text for p in holds.paragraphs] == ["{issue}", "4.50"]


def test_edges_reach_over_the_spine(station: CoverStation) -> None:
    _claim(station, (6, 3), (11, 6), "i")
    lefts = []
    for _ in range(3):
        QTest.keyClick(station.bench, Qt.Key.Key_Left, Qt.KeyboardModifier.AltModifier)
        lefts.append(_selected(station).place.left)
    assert [(s.kind, s.facing) for s in lefts] == [("fold", False), ("fold", True), ("field", True)] or [
        (s.kind, s.facing) for s in lefts[:2]
    ] == [("fold", False), ("fold", True)]


def test_the_cover_follows_its_spine(station: CoverStation, window: Window) -> None:
    size = spine_text(window.session.setter.composer, window.session.publication).size
    before = station.bench.folds()
    window.open_station(1)
    _set(window, "Pages", "124")
    window.open_station(5)
    now = station.bench.folds()
    assert before[1] / MM == pytest.approx(5.0) and now[1] / MM == pytest.approx(12.0)
    assert cover_flat(window.session.publication).trim.width / MM == pytest.approx(452)
    assert float(window.working.row("Size").value.text().split()[0]) > size
    hero = next(b for b in window.session.publication.cover.front if isinstance(b.holds, HoldsPicture))
    clip = next(m for m in station.cover.marks().marks if m.origin.block == hero.id)
    assert clip.clip.right / MM == pytest.approx(12 + 220 + 3)  # type: ignore[union-attr]


@pytest.mark.checked
def test_spine_text_too_large_is_found_and_mended(station: CoverStation, window: Window) -> None:
    _set(window, "Size", "14")
    wait_for(lambda: any(f.rule == "spine text" for f in window.session.findings))
    QTest.keyClick(window, Qt.Key.Key_6, CONTROL)
    QTest.keyClick(window.station.list, Qt.Key.Key_Return)  # type: ignore[attr-defined]
    assert window.session.publication.cover.spine_size is None
    wait_for(lambda: not window.session.findings)


def test_the_inside_is_turned_to_and_laid(station: CoverStation, window: Window) -> None:
    station.bench.setFocus()
    QTest.keyClicks(station.bench, "o")
    assert station.cover.side == "inside" and "Inside" in station.where()
    block = _claim(station, (1, 1), (4, 4), "i")
    assert window.session.publication.cover.inside_front == (block,)
    QTest.keyClicks(station.bench, "o")
    assert station.cover.side == "outside" and station.cover.view.block is None
    before = encode(window.session.publication)
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert encode(window.session.publication) != before and not window.session.publication.cover.inside_front


def test_a_self_cover_says_so_and_shows_the_way(station: CoverStation, window: Window) -> None:
    window.session.edit(lambda p: station_self_cover(p), "self cover")
    assert not station.bench.isVisible() and "own cover" in window.docket.buttons[5].line.state
    assert window.working.cards[0].card.title == "No cover"


def station_self_cover(publication: object) -> object:
    from half_fold.core.plan.settings import set_values

    return set_values(publication, ["paper.cover=none"])  # type: ignore[arg-type]


@pytest.mark.checked
def test_checks_lead_to_the_block_on_the_cover(desk: Desk, window: Window) -> None:
    window.session.edit(lambda p: TRIPS["barcode number"][0](p, window.session.job.pictures), "trip")
    QTest.keyClick(window, Qt.Key.Key_6, CONTROL)
    wait_for(lambda: bool(window.session.findings))
    QTest.keyClick(window.station.list, Qt.Key.Key_Space)  # type: ignore[attr-defined]
    assert window.current == 5 and isinstance(window.station, CoverStation)
    assert window.station.cover.view.block == "b900"


def test_the_hero_is_chosen_by_a_click_and_keeps_its_place(station: CoverStation, window: Window) -> None:
    flat = cover_flat(window.session.publication)
    place: QPoint = on_bench(station.bench, flat.front.right - 4 * MM, flat.front.height * 0.62)
    QTest.mouseClick(station.bench, LEFT, pos=place)
    assert isinstance(_selected(station).holds, HoldsPicture)
    assert "Front cover" in station.where()


def test_the_ink_of_the_flat_is_set_and_a_wrong_tint_told(station: CoverStation, window: Window) -> None:
    _set(window, "Tint", "40")
    assert window.session.publication.cover.tint == 40
    choose_listed(window.working.row("Ink"), "russ")
    assert window.session.publication.cover.ink == "russet"
    _set(window, "Tint", "over the hills")
    assert "over the hills" in window.foot.sentence and window.session.publication.cover.tint == 40


def test_trials_by_their_keys_show_and_follow_edits(station: CoverStation, window: Window) -> None:
    view = station.trials
    QTest.keyClick(station.bench, Qt.Key.Key_1)
    wait_for(lambda: view.shown is not None)
    assert view.isVisible() and not station.bench.isVisible() and not station.drawer.isVisible()
    assert window.working.row("In view").row.value == "71.3 mm"
    before = view.shown
    station.job.edit(lambda p: set_cover(p, "ink", "black"), "another ink")
    wait_for(lambda: view.shown is not before)
    QTest.keyClick(view, Qt.Key.Key_Escape)
    assert station.bench.isVisible() and not view.isVisible() and station.bench.hasFocus()


def test_the_copy_lies_and_stands_by_its_key_and_is_kept_as_it_is_seen(
    station: CoverStation, window: Window, tmp_path: Path
) -> None:
    view = station.trials
    QTest.keyClick(station.bench, Qt.Key.Key_9)
    wait_for(lambda: view.shown is not None and view.shown.trial.name == "standing")
    QTest.keyClick(view, Qt.Key.Key_9)
    wait_for(lambda: view.shown is not None and view.shown.trial.name == "lying")
    assert window.working.row("Copy").row.value == "220 × 285 × 5 mm"
    view.keep_at(tmp_path / "lying.png")
    wait_for(lambda: (tmp_path / "lying.png").exists())
    QTest.keyClick(view, Qt.Key.Key_9)
    QTest.keyClick(view, Qt.Key.Key_9)
    wait_for(lambda: view.problem != "")
    assert "no jacket" in view.problem and view.shown is None
    view.show_trial("rack")
    view.keep_at(tmp_path)
    wait_for(lambda: "folder" in window.foot.sentence)


def test_versions_are_named_compared_and_chosen_and_pieces_are_rows(station: CoverStation, window: Window) -> None:
    _set(window, "Another", "in straw")
    assert window.working.row("In use").row.value == "in straw"
    station.job.edit(lambda p: set_cover(p, "ink", "straw"), "another ink")
    QTest.keyClick(station.bench, Qt.Key.Key_0)
    wait_for(lambda: len(station.trials.compared) == 2)
    use = next(card for card in window.working.cards if card.card.title == "cover 1")
    QTest.mouseClick(use.buttons[0], LEFT)
    assert station.job.publication.cover.ink == "loden"
    wait_for(lambda: bool(station.trials.compared) and station.trials.compared[0].name == "cover 1")
    QTest.keyClick(station.trials, Qt.Key.Key_0)
    assert station.bench.isVisible()
    add = next(card for card in window.working.cards if card.card.title == "In pieces")
    QTest.mouseClick(add.buttons[0], LEFT)
    assert len(station.job.publication.cover.pieces) == 2
    _set(window, "Its size", "80")
    assert station.job.publication.cover.pieces[0].size == 80
    for _ in range(5):
        station.job.undo()
    assert station.job.publication.covers == () and not station.job.publication.cover.pieces


def test_flaps_are_turned_to_and_claimed(station: CoverStation, window: Window) -> None:
    assert station.job.edit(lambda p: set_paths(p, ["brief.flap=80mm", "brief.spine=9mm"]), "flaps")
    for side in ("inside", "flaps"):
        QTest.keyClick(station.bench, Qt.Key.Key_O)
        assert station.cover.side == side
    bench = station.bench
    assert bench.whole().width > cover_flat(station.job.publication).trim.width
    area = bench.to_widget(page_frame_of(station.cover.publication, 3).area)
    start, end = area.topLeft().toPoint() + QPoint(4, 4), area.center().toPoint()
    drag(bench, start, end, SHIFT)
    assert station.chooser is not None
    QTest.keyClicks(station.chooser, "I")
    QTest.qWait(20)
    panel = station.job.publication.cover.front_flap[0]
    assert station.cover.view.block == panel.id and window.foot is not None
    QTest.keyClick(bench, Qt.Key.Key_O)
    assert station.cover.side == "outside" and station.cover.view.block is None
    assert any(mark.origin.block == panel.id for mark in station.cover.marks().marks)
    _pick(window, "In view", "flaps")
    assert station.cover.side == "flaps"
    station.job.edit(lambda p: set_paths(p, ["brief.flap=none"]), "no flaps")
    QTest.qWait(50)
    assert station.cover.side == "outside"  # what is no longer there is not looked at


def test_a_card_is_turned_to_claimed_and_pressed_also_where_the_job_is_its_own_cover(
    station: CoverStation, window: Window
) -> None:
    station.job.edit(lambda p: add_insert(p, 16, "card"), "a card")
    card = f"card {station.job.publication.inserts[0].id}"
    for side in ("inside", card):
        QTest.keyClick(station.bench, Qt.Key.Key_O)
        assert station.cover.side == side
    assert window.working.row("In view").row.value == station.job.publication.inserts[0].name
    bench = station.bench
    area = bench.to_widget(page_frame_of(station.cover.publication, 3).area)
    drag(bench, area.topLeft().toPoint() + QPoint(4, 4), area.center().toPoint(), SHIFT)
    assert station.chooser is not None
    QTest.keyClicks(station.chooser, "I")
    QTest.qWait(20)
    (panel,) = station.job.publication.inserts[0].back
    assert station.cover.view.block == panel.id and station.where().startswith("Reply card, back")
    face = window.session.covers.face(station.job.publication, station.job.publication.inserts[0], verso=True)
    assert any(mark.origin.block == panel.id for mark in face)
    QTest.keyClick(bench, Qt.Key.Key_Delete)
    assert station.job.publication.inserts[0].back == ()
    station.job.undo()
    station.job.edit(lambda p: set_paths(p, ["brief.binding=saddle", "brief.paper.cover=none"]), "its own cover")
    QTest.qWait(50)
    assert station.cover.side == card and station.bench.isVisible()
    window.grab()


@pytest.mark.checked
def test_a_blurb_is_a_story_on_the_back_with_text_round_a_picture(station: CoverStation, window: Window) -> None:
    drag(station.bench, field(station.bench, 0, 6), field(station.bench, 5, 10), SHIFT)
    assert station.chooser is not None
    QTest.keyClicks(station.chooser, "S")
    QTest.qWait(20)
    assert station.chooser is not None
    QTest.keyClicks(station.chooser, "N")
    QTest.qWait(50)
    back = station.job.publication.cover.back
    block = next(each for each in back if isinstance(each.holds, HoldsStory))
    station.job.edit(lambda p: set_paths(p, [f"block.{block.id}.columns=1"]), "one column")
    station.drawer.stories.text.setFocus()
    QTest.keyClicks(station.drawer.stories.text, "All of them in one lane, and one of them the right way up. " * 9)
    QTest.qWait(100)
    runs = [m for m in station.cover.marks().marks if isinstance(m, Glyphs) and m.origin.block == block.id]
    assert len(runs) > 3 and station.job.publication.stories[-1].paragraphs
    inside = [m for m in leaves(station.job.setter.spread(station.job.publication, station.job.view.spread).marks)
              if m.origin.block == block.id]  # fmt: skip
    assert not inside  # it lies on the cover alone
    before = sorted(round(m.reach[1]) for m in runs)
    apple = next(each.id for each in back if isinstance(each.holds, HoldsPicture))
    station.job.edit(lambda p: set_paths(p, [f"block.{apple}.wrap=box"]), "text round it")
    after = sorted(round(m.reach[1]) for m in station.cover.marks().marks
                   if isinstance(m, Glyphs) and m.origin.block == block.id)  # fmt: skip
    assert after != before
    story = station.job.publication.stories[-1]
    long = replace(story, paragraphs=tuple(replace(p, runs=(Run(text="And more. " * 900),)) for p in story.paragraphs))
    station.job.edit(lambda p: replace(p, stories=(*p.stories[:-1], long)), "more of it")
    findings = check(station.job.publication, Setter(), None)
    over = [f for f in findings if f.rule == "overset" and f.side == "outside"]
    assert len(over) == 1 and over[0].block == block.id and over[0].fix is None

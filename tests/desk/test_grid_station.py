"""The Grid station by mouse and keyboard: candidates, masters and their furniture, the type sheet."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from half_fold.core.grid.frame import PageFrame
from half_fold.core.grid.pencil import format_pencil
from half_fold.core.measure.entry import MM
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.surgery import master_named, role_named
from half_fold.desk.stations.grid.candidates import CandidateStrip
from half_fold.desk.stations.grid.furniture import FurnitureBench
from half_fold.desk.stations.grid.sheet import TypeSheet
from half_fold.desk.stations.grid.station import GridStation
from half_fold.desk.window import Window
from tests.conftest import font_called
from tests.desk.conftest import LEFT, choose_from, choose_listed, drag, ready, type_into, type_into_dialog, wait_for

CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def grid(window: Window) -> GridStation:
    window.session.view.go_to(7)
    window.open_station(3)
    QTest.qWait(30)
    assert isinstance(window.station, GridStation)
    return window.station


def _master(grid: GridStation) -> str:
    return grid.master().name


def _strip(grid: GridStation) -> CandidateStrip:
    return grid.strip


def test_a_candidate_is_picked_with_one_click_and_taken_back_with_one_key(window: Window, grid: GridStation) -> None:
    before = window.session.publication
    strip = _strip(grid)
    index = next(i for i, c in enumerate(strip.candidates) if c.name == "even")
    wanted = strip.candidates[index].grid
    QTest.mouseClick(strip, LEFT, pos=strip.cell(index).center().toPoint())
    assert window.session.publication.masters[0].grid == wanted
    assert strip.candidates[0].departure <= 1.0  # solved again, round the new margins
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is before


def test_candidates_are_chosen_by_key_too(window: Window, grid: GridStation) -> None:
    strip = _strip(grid)
    strip.setFocus()
    QTest.keyClick(strip, Qt.Key.Key_Right)
    QTest.keyClick(strip, Qt.Key.Key_Right)
    wanted = strip.candidates[2].grid
    QTest.keyClick(strip, Qt.Key.Key_Return)
    assert window.session.publication.masters[0].grid == wanted


def test_a_typed_margin_says_what_it_does_to_the_fit(window: Window, grid: GridStation) -> None:
    type_into(window.working.row("Foot at least"), "30mm")
    assert "A foot of" in window.working.row("Lines a field").row.note
    type_into(window.working.row("Columns laid over"), "5")
    type_into(window.working.row("Guides"), "thirds")
    made = window.session.publication.masters[0].grid
    assert made.columns_over == 5 and made.guides == ("thirds",)
    window.grab()


def test_a_spread_gets_a_grid_of_its_own(window: Window, grid: GridStation) -> None:
    card = next(card for card in window.working.cards if card.card.title == "A grid of its own")
    QTest.mouseClick(card.buttons[0], LEFT)
    type_into(window.working.row("Columns"), "9")
    pages = window.session.publication.pages
    assert [page.grid is not None for page in pages[4:8]] == [False, True, True, False]
    assert pages[5].grid is not None and pages[5].grid.columns == 9
    assert window.session.publication.masters[0].grid.columns == 6
    assert "its own grid" in grid.where()


def test_extent_for_a_number_of_words(window: Window, grid: GridStation) -> None:
    type_into(window.working.row("A story of"), "60000")
    pages = window.working.row("Pages it takes").row.value
    type_into(window.working.row("A story of"), "30000")
    assert float(window.working.row("Pages it takes").row.value.split()[0]) == pytest.approx(
        float(pages.split()[0]) / 2, rel=0.02
    )


# Masters -------------------------------------------------------------------------------------------


@pytest.fixture
def furniture(grid: GridStation) -> FurnitureBench:
    QTest.keyClick(grid.bench, Qt.Key.Key_M)
    assert grid.view is grid.furniture
    return grid.furniture


def _box_of(bench: FurnitureBench, words: str) -> QPoint:
    piece = next(p for _, _, p in bench.placed() if p.piece.words == words)
    return bench.to_widget(piece.box).center().toPoint()


def test_furniture_is_dragged_to_its_line_and_side(
    window: Window, grid: GridStation, furniture: FurnitureBench
) -> None:
    start = _box_of(furniture, "{season}")
    _, frame = furniture.frames()[1]
    middle = furniture.to_widget(frame.area)
    above = QPoint(round(middle.center().x()), round(middle.top() - 2 * frame.baselines.step * furniture.scale()))
    drag(furniture, start, above)
    piece = next(p for p in grid.master().furniture if p.words == "{season}")
    assert (piece.at, piece.side) == ("head", "centre") and piece.lines == pytest.approx(2, abs=0.5)
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert next(p for p in grid.master().furniture if p.words == "{season}").at == "foot"


def test_words_are_typed_where_they_stand(window: Window, grid: GridStation, furniture: FurnitureBench) -> None:
    QTest.mouseDClick(furniture, LEFT, pos=_box_of(furniture, "{season}"))
    QTest.mouseClick(furniture, LEFT, pos=_box_of(furniture, "{season}"))
    QTest.keyClick(furniture, Qt.Key.Key_Return)
    assert furniture.editor is not None
    QTest.keyClicks(furniture.editor, "{story}, {issue}")
    QTest.keyClick(furniture.editor, Qt.Key.Key_Return)
    assert "{story}, {issue}" in [p.words for p in window.session.publication.masters[0].furniture]
    said = ["".join(t for m in p.marks for t in getattr(m, "texts", ())) for _, _, p in furniture.placed()]
    assert any("The winter of long ladders, No. 14" in words for words in said)


def test_pieces_are_added_moved_hidden_and_taken_out_by_key(
    window: Window, grid: GridStation, furniture: FurnitureBench
) -> None:
    before = len(grid.master().furniture)
    furniture.setFocus()
    QTest.keyClick(furniture, Qt.Key.Key_R)
    rule = furniture.piece()
    assert rule is not None and rule.kind == "rule" and len(grid.master().furniture) == before + 1
    QTest.keyClick(furniture, Qt.Key.Key_Up)
    assert grid.piece().lines == 1.5
    choose_from(window.working.row("Runs over"), "the whole page")
    assert grid.piece().over == "page"
    furniture.setFocus()
    QTest.keyClick(furniture, Qt.Key.Key_H)
    assert rule.id in window.session.publication.pages[6].without
    QTest.keyClick(furniture, Qt.Key.Key_Delete)
    assert len(grid.master().furniture) == before
    type_into(window.working.row("Name"), "three columns wide")
    assert {page.master for page in window.session.publication.pages} >= {"three columns wide"}


def test_what_furniture_may_not_be_is_said_and_changes_nothing(
    window: Window, grid: GridStation, furniture: FurnitureBench
) -> None:
    furniture.select(grid.master().furniture[0].id)
    before = window.session.publication
    type_into(window.working.row("From the text"), "0")
    assert window.session.publication is before and "stand in the text" in window.foot.sentence


def test_a_new_master_is_based_on_the_one_in_view(window: Window, grid: GridStation, furniture: FurnitureBench) -> None:
    type_into(window.working.row("A new master"), "openings")
    assert _master(grid) == "openings"
    job = window.session.publication
    assert master_named(job, "openings").furniture == master_named(job, "three columns").furniture
    assert window.working.row("Takes its grid").row.value == "yes"
    choose_from(window.working.row("Takes its grid"), "no")
    QTest.keyClick(grid.furniture, Qt.Key.Key_G)
    type_into(window.working.row("Columns"), "4")
    job = window.session.publication
    assert master_named(job, "openings").grid.columns == 4
    assert master_named(job, "three columns").grid.columns == 6
    choose_from(window.working.row("Master"), "three columns")
    assert _master(grid) == "three columns"


# The type sheet ------------------------------------------------------------------------------------


@pytest.fixture
def sheet(grid: GridStation) -> TypeSheet:
    QTest.mouseClick(grid.tabs[2], LEFT)
    assert grid.view is grid.sheet
    QTest.qWait(20)
    return grid.sheet


def test_a_role_is_chosen_and_changed_and_what_follows_it_is_set_anew(window: Window, sheet: TypeSheet) -> None:
    QTest.mouseClick(sheet, LEFT, pos=sheet.place("list").center().toPoint())
    assert sheet.role == "list" and window.working.row("Size").row.working == "as body"
    type_into(window.working.row("Size"), "9")
    assert role_named(window.session.publication, "list").size.typed == "9pt"
    assert "its own" in window.working.row("Size").row.working
    row = window.working.row("Size")
    row.value.setFocus()
    QTest.keyClick(row.value, Qt.Key.Key_Return)
    assert row.editor is not None
    QTest.keyClick(row.editor, Qt.Key.Key_Delete)
    QTest.keyClick(row.editor, Qt.Key.Key_Return)
    assert role_named(window.session.publication, "list").size.typed == "10pt"
    sheet.setFocus()
    QTest.keyClick(sheet, Qt.Key.Key_Up)
    assert sheet.role != "list"
    sheet.grab()


def test_a_drop_cap_shows_its_solved_size(window: Window, sheet: TypeSheet) -> None:
    QTest.mouseClick(sheet, LEFT, pos=sheet.place("body").center().toPoint())
    type_into(window.working.row("Drop cap, lines"), "3")
    assert window.working.row("Drop cap, size").row.value == "49.82 pt"
    before = window.session.publication
    type_into(window.working.row("Drop cap, lines"), "99")
    assert window.session.publication is before


def test_the_scale_sets_every_role_in_one_edit(window: Window, sheet: TypeSheet) -> None:
    before = window.session.publication
    choose_from(window.working.row("Ratio"), "1.333")
    card = next(card for card in window.working.cards if card.card.title == "Every role at its nearest size")
    QTest.mouseClick(card.buttons[0], LEFT)
    size = role_named(window.session.publication, "headline").size.pt
    assert any(abs(size - 10 * 1.333**n) < 0.06 for n in range(8))
    ready(window)  # its menu went with the row it hung from
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is before


def test_a_new_role_and_a_font_of_ones_own(
    window: Window, grid: GridStation, sheet: TypeSheet, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    type_into(window.working.row("A new role"), "Side note")
    assert window.session.publication.roles[-1].based_on == "body"
    font_called("Vale Display", tmp_path / "vale.ttf")
    type_into_dialog(str(tmp_path / "vale.ttf"))
    grid.roles.ask_font()
    assert [f.family for f in window.session.publication.fonts] == ["Vale Display"]
    QTest.mouseClick(sheet, LEFT, pos=sheet.place("headline").center().toPoint())
    choose_listed(window.working.row("Family"), "Vale Display")
    assert role_named(window.session.publication, "headline").family == "Vale Display"
    window.grab()
    folder = tmp_path / "data" / "fonts"
    folder.mkdir(parents=True)
    font_called("Vale Text", folder / "text.ttf")
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    card = next(card for card in window.working.cards if card.card.title == "Fonts of your own")
    QTest.mouseClick(card.buttons[1], LEFT)
    wait_for(lambda: not grid.roles.scan.busy)
    choose_from(window.working.row("One of the system's"), "Vale Text")
    assert [f.family for f in window.session.publication.fonts] == ["Vale Display", "Vale Text"]
    font_called("Vale Text", tmp_path / "no.ttf", embedding=2)
    before = window.session.publication
    grid.roles.bring(tmp_path / "no.ttf")
    assert window.session.publication is before and "forbid embedding" in window.foot.sentence


def test_a_symbol_is_brought_in_put_into_a_story_by_the_menu_and_kept_while_it_is_used(
    window: Window, grid: GridStation, sheet: TypeSheet, tmp_path: Path
) -> None:
    drawing = '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><path d="M0 0H9V9H0Z"/></svg>'
    (tmp_path / "end-mark.svg").write_text(drawing)
    type_into_dialog(str(tmp_path / "end-mark.svg"))
    card = next(card for card in window.working.cards if card.card.title == "End marks, arrows, bullets")
    QTest.mouseClick(card.buttons[0], LEFT)
    assert [symbol.name for symbol in window.session.publication.symbols] == ["end mark"]
    assert "{end mark}" in window.foot.sentence and window.working.row("end mark").row.value == "{end mark}"
    window.open_station(4)
    drawer = window.station.open_drawer("stories") or window.station.drawer.stories  # type: ignore[attr-defined]
    QTest.mouseClick(drawer.menu, LEFT)
    menu = drawer.menu.menu_now
    action = next(each for each in menu.actions() if "end mark" in each.text())
    action.trigger()
    menu.close()
    assert any("\ue000" in p.text for story in window.session.publication.stories for p in story.paragraphs)
    assert "Symbols" in drawer.text.font().families()
    window.open_station(3)
    grid.roles.take_away("end mark")
    assert window.session.publication.symbols and "is used in the story" in window.foot.sentence
    window.session.undo()
    grid.roles.take_away("end mark")
    assert not window.session.publication.symbols


# Pencil lines ---------------------------------------------------------------------------------------


def _pointed(grid: GridStation, frame: PageFrame, x_mm: float, y_mm: float) -> QPoint:
    """A place on the bench, by millimetres from the page's upper left corner."""
    at = grid.bench.to_widget(Rect(frame.trim.left + x_mm * MM, y_mm * MM, frame.trim.left + x_mm * MM, y_mm * MM))
    return at.topLeft().toPoint()


def _said(grid: GridStation) -> str:
    return format_pencil(grid.master().grid.pencil)


def test_a_line_is_pencilled_at_the_pointer_dragged_and_rubbed_out(window: Window, grid: GridStation) -> None:
    bench, before = grid.bench, window.session.publication
    frame = bench.frames()[1][1]
    bench.setFocus()
    QTest.mouseMove(bench, _pointed(grid, frame, 61, 102))
    QTest.keyClick(bench, Qt.Key.Key_L)
    QTest.keyClick(bench, Qt.Key.Key_U)
    drawn = [(line.edge, line.at.mm) for line in grid.master().grid.pencil]
    assert [edge for edge, _ in drawn] == ["head", "fold"]
    assert [at for _, at in drawn] == pytest.approx([102, 61], abs=0.6)
    drag(bench, _pointed(grid, frame, 140, drawn[0][1]), _pointed(grid, frame, 140, 150))
    assert grid.master().grid.pencil[0].at.mm == pytest.approx(150, abs=0.6)
    assert grid.master().grid.pencil[0].number == 1
    drag(bench, _pointed(grid, frame, 140, 150), _pointed(grid, frame, 140, -4))
    assert [line.edge for line in grid.master().grid.pencil] == ["fold"], "off the page it is rubbed out"
    QTest.mouseMove(bench, _pointed(grid, frame, drawn[1][1], 90))
    QTest.keyClick(bench, Qt.Key.Key_Delete)
    assert grid.master().grid.pencil == ()
    for _ in range(5):
        QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is before


def test_lines_are_typed_and_show_on_the_spread(window: Window, grid: GridStation) -> None:
    type_into(window.working.row("Pencil lines"), "outside 30mm, head 20mm every 60mm")
    assert _said(grid) == "outside 30mm, head 20mm every 60mm"
    type_into(window.working.row("Pencil lines"), "spine 30mm")
    assert "spine 30mm" in window.foot.sentence and _said(grid) == "outside 30mm, head 20mm every 60mm"
    window.open_station(4)
    QTest.qWait(30)
    bench = window.station.bench  # type: ignore[attr-defined]  # of the Spreads station
    frame = bench.frames()[-1][1]
    spot = bench.to_widget(Rect(frame.trim.right - 30 * MM, 8 * MM, frame.trim.right, 8 * MM)).topLeft()
    image = bench.grab().toImage()
    blues = [image.pixelColor(round(spot.x()) + dx, round(spot.y())) for dx in (-1, 0, 1)]
    assert any(colour.blue() > colour.red() + 40 for colour in blues)

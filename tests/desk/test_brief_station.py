"""The Brief station by mouse and keyboard: the drawing, its dimensions, papers, dummies and printers."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QPushButton

from half_fold.core.brief.papers import own_papers
from half_fold.core.brief.printers import own_sheets
from half_fold.core.plan.settings import set_values
from half_fold.desk.stations.brief import BriefStation
from half_fold.desk.stations.brief.bench import BriefBench
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, choose_from, drag, type_into, wait_for

CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture(autouse=True)
def _own_data(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))


@pytest.fixture
def bench(window: Window) -> BriefBench:
    window.open_station(1)
    QTest.qWait(30)
    assert isinstance(window.station, BriefStation)
    return window.station.bench


def _at(bench: BriefBench, words: str) -> QPoint:
    placed = next(p for p in bench.drawing()[0].lettered if p.dimension.words.startswith(words))
    return bench.area_of(placed).center().toPoint()


def test_a_dimension_is_typed_on_the_drawing_and_follows_each_keystroke(window: Window, bench: BriefBench) -> None:
    before = window.session.publication
    QTest.mouseClick(bench, LEFT, pos=_at(bench, "front"))
    assert bench.figure is not None
    QTest.keyClicks(bench.figure, "21")
    QTest.keyClicks(bench.figure, "0")
    assert window.session.publication.brief.width.mm == 210  # drawn before Enter
    QTest.keyClicks(bench.figure, "mm")
    QTest.keyClick(bench.figure, Qt.Key.Key_Return)
    assert bench.figure is None and window.session.publication.brief.width.typed == "210mm"
    assert window.docket._facts["Trim"].value.startswith("210")
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is before


def test_escape_takes_back_what_was_typed_on_the_drawing(window: Window, bench: BriefBench) -> None:
    before = window.session.publication
    QTest.mouseClick(bench, LEFT, pos=_at(bench, "bleed"))
    assert bench.figure is not None
    QTest.keyClicks(bench.figure, "8mm")
    assert window.session.publication.brief.bleed.mm == 8
    QTest.keyClick(bench.figure, Qt.Key.Key_Escape)
    assert window.session.publication is before and bench.figure is None


def test_what_makes_no_sense_is_said_and_stays_open(window: Window, bench: BriefBench) -> None:
    before = window.session.publication
    QTest.mouseClick(bench, LEFT, pos=_at(bench, "285"))
    assert bench.figure is not None
    QTest.keyClicks(bench.figure, "tall")
    QTest.keyClick(bench.figure, Qt.Key.Key_Return)
    assert bench.figure is not None and "tall" in window.foot.sentence
    assert window.session.publication is before


def test_a_dimension_is_dragged_in_one_step_of_undo(window: Window, bench: BriefBench) -> None:
    before = window.session.publication
    start = _at(bench, "back")
    drag(bench, start, start + QPoint(20, 0))
    assert window.session.publication.brief.width.mm > before.brief.width.mm
    QTest.keyClick(window, Qt.Key.Key_Z, CONTROL)
    assert window.session.publication is before


def test_a_computed_dimension_opens_its_working(window: Window, bench: BriefBench) -> None:
    QTest.mouseClick(bench, LEFT, pos=_at(bench, "spine"))
    row = window.working.row("Spine")
    assert bench.figure is None and row.unfolded and row._parts[0].row.name == "Block"


def test_by_keys_alone(window: Window, bench: BriefBench) -> None:
    bench.setFocus()
    words = [placed.dimension.words for placed in bench.drawing()[0].lettered]
    for _ in range(words.index("285")):
        QTest.keyClick(bench, Qt.Key.Key_Right)
    QTest.keyClick(bench, Qt.Key.Key_Return)
    assert bench.figure is not None
    QTest.keyClicks(bench.figure, "300mm")
    QTest.keyClick(bench.figure, Qt.Key.Key_Return)
    assert window.session.publication.brief.height.typed == "300mm" and bench.hasFocus()


@pytest.mark.parametrize("binding", ["single", "saddle", "perfect", "burst", "sewn", "case", "coil", "boards"])
def test_every_binding_is_drawn_and_worked(window: Window, bench: BriefBench, binding: str) -> None:
    window.session.edit(lambda p: _set(p, f"binding={binding}"), binding)
    QTest.qWait(30)
    assert not bench.grab().isNull()
    has_spine = binding not in ("single", "saddle", "coil")
    assert (window.working.row("Spine").row.value != "none") == has_spine
    assert (window.docket._facts["Spine"].value != "none") == has_spine
    window.open_station(5)
    QTest.qWait(20)
    assert not window.grab().isNull()


def test_a_job_in_inches_is_told_in_inches(window: Window, bench: BriefBench) -> None:
    window.session.edit(lambda p: set_values(p, ["unit=in", "trim=8.5x11in"]), "in inches")
    QTest.qWait(20)
    spine, wrap = window.docket.buttons[1].line.state.removeprefix("spine ").split(" in, wrap ")
    assert 0.1 < float(spine) < 0.3 and float(wrap) == pytest.approx(17 + float(spine) + 6 / 25.4, abs=0.001)
    assert bench.size_words().startswith("8.5 × 11 × 0.") and " in, 48 pages" in bench.size_words()


def _set(publication: object, setting: str) -> object:
    from half_fold.core.plan.settings import set_values

    return set_values(publication, [setting])  # type: ignore[arg-type]


def test_a_wanted_spine_gives_the_extent(window: Window, bench: BriefBench) -> None:
    type_into(window.working.row("A spine of"), "8mm")
    card = next(view for view in window.working.cards if view.card.title == "Extent for that spine")
    QTest.mouseClick(card.buttons[0], LEFT)
    assert window.working.row("Spine").row.value == "8 mm" and len(window.session.publication.pages) == 80


def test_a_dummy_is_logged_changed_and_taken_out(window: Window, bench: BriefBench) -> None:
    type_into(window.working.row("Log a dummy"), "48, 4.6mm, 2026-11-20, from the binder")
    type_into(window.working.row("Log a dummy"), "96, 9.0mm")
    assert window.working.row("Text paper").row.working.startswith("188.")
    choose_from(window.working.row("Caliper by"), "the mill")
    assert window.working.row("Text paper").row.working.startswith("184.6")
    type_into(window.working.row("96 pages"), " ")
    assert [d.pages for d in window.session.publication.dummies] == [48]
    type_into(window.working.row("Log a dummy"), "many")
    assert "no dummy" in window.foot.sentence


def test_choosing_a_printer_says_what_changed_and_can_be_written_over(window: Window, bench: BriefBench) -> None:
    choose_from(window.working.row("Printer"), "Pedlar")
    assert window.session.publication.brief.bleed.typed == "1/8in"
    changed = [v.row.working for v in window.working.rows if "set by the sheet" in v.row.working]
    assert any("was 3mm" in working for working in changed)
    type_into(window.working.row("Its name"), "Our printer")
    type_into(window.working.row("Its bleed"), "4mm")
    assert window.session.publication.brief.bleed.typed == "4mm"
    type_into(window.working.row("Its bleed"), "wide")
    assert "wide" in window.foot.sentence and window.session.publication.brief.bleed.typed == "4mm"
    card = next(view for view in window.working.cards if view.card.title == "This printer's sheet")
    QTest.mouseClick(card.buttons[0], LEFT)
    assert [sheet.name for sheet in own_sheets()] == ["Our printer"]


def test_a_stated_paper_is_kept_for_other_jobs(window: Window, bench: BriefBench) -> None:
    type_into(window.working.row("Own text paper"), "ppi=420,grammage=89,name=Carr Cream")
    assert window.session.publication.brief.text_paper == "Carr Cream"
    button = next(b for b in window.working.findChildren(QPushButton) if b.text() == "Keep it for other jobs")
    QTest.mouseClick(button, LEFT)
    assert [paper.name for paper in own_papers()] == ["Carr Cream"]


def test_papers_are_compared(window: Window, bench: BriefBench) -> None:
    assert window.working.row("Marrow Silk 90").row.value.endswith("mm")
    choose_from(window.working.row("Compare"), "Sallow Bulk 70")
    assert "g, " in window.working.row("Sallow Bulk 70").row.working
    assert QApplication.activePopupWidget() is None


def test_the_cover_on_the_drawing_is_the_true_one_after_a_pause(window: Window, bench: BriefBench) -> None:
    """While values change the earlier picture stands in; at the pause it is drawn anew."""
    window.session.proxies.wait()
    QTest.qWait(300)
    shown = bench._cover
    window.session.edit(lambda p: _set(p, "paper.text=Sallow Bulk 70"), "paper")
    QTest.qWait(1)
    wait_for(lambda: bench._cover is not shown and bench._cover is not None)
    assert bench._cover is not None and bench._cover[0][0] is window.session.publication
    drawn, scale, _ = bench.drawing()
    fresh = bench._drawn_cover(drawn.flat, scale, bench.devicePixelRatioF()).toImage()
    assert bench._cover[1].toImage() == fresh

"""Pictures developed at the Spreads station: by rows, as they came while a key is held, looks, and sets."""

import shutil
import threading
from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.pictures.library import pyramid
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.pictures.library.pyramid import copies_folder
from half_fold.core.publication.records import HoldsPicture, Treatment
from half_fold.core.publication.surgery import block_named
from half_fold.core.spread.edits.edits import set_holds
from half_fold.core.spread.setting.captions import captions_of
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.stations.spreads.station import SpreadsStation
from half_fold.desk.window import Window
from tests.desk.conftest import LEFT, choose_from, spreads_at, type_into, wait_for


@pytest.fixture
def station(window: Window) -> SpreadsStation:
    """Spreads, at the picture across pages 14 and 15, which is chosen."""
    station = spreads_at(window, 14)
    station.bench.setFocus()
    window.session.view.select(_picture(window))
    QTest.qWait(400)
    window.session.proxies.wait()
    QTest.qWait(100)
    return station


def _picture(window: Window) -> str:
    return next(b.id for b in window.session.publication.pages[13].blocks if isinstance(b.holds, HoldsPicture))


def _treatment(window: Window) -> Treatment | None:
    return block_named(window.session.publication, _picture(window)).holds.treatment  # type: ignore[union-attr]


def _middle(window: Window, station: SpreadsStation) -> tuple[int, int, int]:
    """The colour in the middle of the left page's upper part."""
    QTest.qWait(30)
    window.session.proxies.wait()
    QTest.qWait(60)
    frame = station.bench.frames()[0][1]
    spot = station.bench.to_widget(frame.trim).center().toPoint()
    colour = station.bench.grab().toImage().pixelColor(spot.x(), spot.y() - 120)
    return colour.red(), colour.green(), colour.blue()


def test_a_picture_is_treated_by_rows_and_seen_as_it_came_while_e_is_held(
    window: Window, station: SpreadsStation
) -> None:
    before = _middle(window, station)
    said = window.working.row("Tones").row.value
    type_into(window.working.row("Exposure"), "1.5")
    type_into(window.working.row("Curve"), "25 40")
    assert _treatment(window) == Treatment(exposure=1.5, curve=((25.0, 40.0),))
    assert window.working.row("Tones").row.value != said
    after = _middle(window, station)
    assert sum(after) > sum(before) + 60
    station.bench.setFocus()
    QTest.keyPress(station.bench, Qt.Key.Key_E)
    assert _middle(window, station) == pytest.approx(before, abs=3)
    QTest.keyRelease(station.bench, Qt.Key.Key_E)
    assert _middle(window, station) == pytest.approx(after, abs=3)
    type_into(window.working.row("Curve"), "25 40, 25")
    assert "no place of a curve" in window.foot.sentence and _treatment(window) is not None
    window.working.unfold("Light and colour")
    card = next(card for card in window.working.cards if card.card.title == "Its file stays as it was")
    QTest.mouseClick(card.buttons[0], LEFT)
    assert _treatment(window) is None


def test_a_step_is_dragged_the_picture_follows_and_the_drag_is_one_edit(
    window: Window, station: SpreadsStation
) -> None:
    runner = window.working.row("Exposure").runner
    assert runner is not None and runner.at == 0
    before, spot = _middle(window, station), QPoint(runner.width() // 2, 9)
    QTest.mousePress(runner, LEFT, pos=spot)
    for on in range(0, 61, 10):
        QTest.mouseMove(runner, spot + QPoint(on, 0))
        QTest.qWait(10)
    treatment = _treatment(window)
    assert treatment is not None and treatment.exposure > 0.5  # already, while it is held
    QTest.mouseRelease(runner, LEFT, pos=spot + QPoint(60, 0))
    assert sum(_middle(window, station)) > sum(before) + 40
    assert window.working.row("Exposure").row.typed == f"{_treatment(window).exposure:g}"  # type: ignore[union-attr]
    QTest.keyClick(runner, Qt.Key.Key_Left)
    QTest.qWait(50)
    assert _treatment(window).exposure == pytest.approx(treatment.exposure, abs=1.5)  # type: ignore[union-attr]
    window.session.undo()
    window.session.undo()
    assert _treatment(window) is None


def test_a_treatment_is_kept_as_a_look(window: Window, station: SpreadsStation) -> None:
    type_into(window.working.row("Contrast"), "30")
    type_into(window.working.row("Keep it as a look"), "Cold store")
    block = block_named(window.session.publication, _picture(window))
    assert block.look == "Cold store" and _treatment(window) is None
    assert window.session.publication.looks[-1].treatment == Treatment(contrast=30.0)


def test_pictures_of_the_job_are_brought_to_one_as_one_edit(window: Window, station: SpreadsStation) -> None:
    before = window.session.publication
    choose_from(window.working.row("Bring others to this"), "all pictures")
    wait_for(lambda: window.session.publication is not before)
    changed = [
        block.id
        for page in window.session.publication.pages
        for block in page.blocks
        if isinstance(block.holds, HoldsPicture) and block.holds.treatment is not None
    ]
    assert len(changed) > 4 and _picture(window) not in changed
    assert "brought together" in window.foot.sentence
    window.session.undo()
    assert window.session.publication is before


def test_several_are_brought_to_their_middle_half_way(window: Window, station: SpreadsStation) -> None:
    window.session.view.go_to(2)
    on = [b.id for p in window.session.publication.pages[:5] for b in p.blocks if isinstance(b.holds, HoldsPicture)]
    window.session.view.choose(on[:3])
    type_into(window.working.row("As far as"), "50")
    before = window.session.publication
    choose_from(window.working.row("Bring them together"), "to their middle")
    wait_for(lambda: window.session.publication is not before)
    assert sum(block_named(window.session.publication, name).holds.treatment is not None for name in on[:3]) >= 2  # type: ignore[union-attr]


def test_a_picture_is_captioned_and_its_caption_keeps_to_its_side(window: Window, station: SpreadsStation) -> None:
    name = _picture(window)
    type_into(window.working.row("Caption"), "Four pears on the sill")
    type_into(window.working.row("Credit"), "Mara Holt")
    choose_from(window.working.row("Lay its caption"), "under")
    caption = captions_of(window.session.publication, name)[0]
    assert caption.beside == "under"
    below = block_box(window.session.publication, 14, caption).top
    type_into(window.working.row("Height"), "150mm")
    moved = block_box(window.session.publication, 14, captions_of(window.session.publication, name)[0]).top
    assert moved < below - 20, "it went up with the picture's foot"
    choose_from(window.working.row("Lay its caption"), "over")
    assert captions_of(window.session.publication, name)[0].beside == "over"
    texts = "".join("".join(m.texts) for m in leaves(station.session.marks().marks) if isinstance(m, Glyphs))
    assert "Mara Holt" in texts.replace("\xa0", " ")
    for _ in range(5):
        window.session.undo()
    assert not captions_of(window.session.publication, name)


def test_a_picture_of_which_no_copy_is_at_hand_is_read_beside_the_window(
    window: Window, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """To choose it once read it whole, on the interface thread: two seconds for one of a camera."""
    pixels = np.random.default_rng(5).integers(0, 255, (900, 1400, 3), np.uint8)
    Image.fromarray(pixels).save(tmp_path / "unread.png")
    folder = window.session.proxies.folder
    made, picture = bring_picture(window.session.publication, folder, tmp_path / "unread.png")
    shutil.rmtree(copies_folder() / picture.digest[:2], ignore_errors=True)
    there = block_named(made, _picture(window))
    assert isinstance(there.holds, HoldsPicture)
    holds = replace(there.holds, picture=picture.id, treatment=None)
    read_in: list[str] = []
    read = pyramid.load_pixels
    monkeypatch.setattr(
        pyramid, "load_pixels", lambda *told: (read_in.append(threading.current_thread().name), read(*told))[1]
    )
    station = spreads_at(window, 14)
    station.bench.setFocus()
    window.session.edit(lambda _: set_holds(made, there.id, holds), "another picture")
    window.session.view.select(there.id)
    wait_for(lambda: window.working.row("Tones").row.value not in ("being read", "not known"))
    assert read_in and threading.main_thread().name not in read_in

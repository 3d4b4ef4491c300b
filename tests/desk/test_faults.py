"""What was not foreseen is said once, the job is saved, a report can be copied, and the window lives on."""

import re
import sys
import weakref
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.settings import set_value
from half_fold.core.store.job import read
from half_fold.desk.application import Desk
from half_fold.desk.beside.child import resident
from tests.desk.conftest import ready, wait_for

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def caught(desk: Desk) -> Iterator[Desk]:
    """The desk with its net in place, as the application has it."""
    desk.faults.catch()
    yield desk
    desk.faults.release()


def _fails(*_: object, **__: object) -> None:
    raise RuntimeError("the test broke it")


def test_a_fault_in_a_slot_is_said_and_the_job_saved(caught: Desk, demo: Path) -> None:
    window = caught.open(demo)
    ready(window)
    window.session.edit(lambda p: set_value(p, "title", "Saved all the same"), "title")
    window.session.view.selected.connect(_fails)
    window.session.view.selected.emit()
    wait_for(lambda: "A fault of the program: RuntimeError (the test broke it)" in window.foot.sentence)
    window.session.view.selected.disconnect(_fails)
    window.session.autosave.flush()
    assert read(demo / "graftwood.halffold").title == "Saved all the same"
    assert window.foot.copy.isVisible()
    QTest.mouseClick(window.foot.copy, LEFT)
    clipboard = QApplication.clipboard()
    assert clipboard is not None
    report = clipboard.text()
    assert "Traceback" in report and "the test broke it" in report and "Half Fold" in report
    assert not window.foot.copy.isVisible() and "clipboard" in window.foot.sentence
    window.open_station(4)
    assert window.current == 4


def test_a_fault_at_every_repaint_is_said_once_and_the_rest_of_the_window_works(
    caught: Desk, demo: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = caught.open(demo)
    ready(window)
    window.open_station(4)
    ready(window)
    bench = window.station.bench  # type: ignore[attr-defined]
    said: list[str] = []
    caught.faults.fault.connect(said.append)
    monkeypatch.setattr(type(bench), "paint_over", _fails)
    for _ in range(30):
        bench.repaint()
        QApplication.processEvents()
    wait_for(lambda: bool(said))
    counted = re.search(r"(\d+) x RuntimeError", caught.faults.report)
    assert len(said) == 1 and counted is not None and int(counted[1]) >= 30  # the window may have painted on its own
    monkeypatch.undo()
    bench.repaint()
    before = window.session.view.page
    QTest.keyClick(bench, Qt.Key.Key_PageDown)
    window.session.view.go_by_spread(1)
    assert window.session.view.page != before
    window.open_station(6)
    assert window.station.isVisible()


def test_a_fault_lets_go_of_what_its_frames_held(caught: Desk) -> None:
    """Python keeps the last fault: a painter in its frames outlived its window, and took the program with it."""

    class Held:
        pass

    held: list[weakref.ref[Held]] = []

    def fails() -> None:
        painter = Held()
        held.append(weakref.ref(painter))
        raise RuntimeError("the test broke it")

    try:
        fails()
    except RuntimeError as error:
        kept = error
        assert held[0]() is not None
        sys.excepthook(type(error), error, error.__traceback__)
    assert kept.__traceback__ is not None and held[0]() is None


@pytest.mark.parametrize("where", ["check", "read_record", "reduced"])
@pytest.mark.checked
def test_a_fault_of_a_worker_ends_its_work_and_not_the_window(
    caught: Desk, demo: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, where: str
) -> None:
    from PIL import Image

    window = caught.open(demo)
    ready(window)
    said: list[str] = []
    caught.faults.fault.connect(said.append)
    Image.new("RGB", (60, 40)).save(tmp_path / "p.png")
    beside = "half_fold.desk.beside"
    place = {"check": f"{beside}.checker.resident", "read_record": f"{beside}.bringing.read_record"}
    monkeypatch.setattr(place.get(where, "half_fold.desk.paint.proxies.copy_of"), _fails)
    if where == "check":
        monkeypatch.setattr("half_fold.desk.beside.checker.resident", resident)
        monkeypatch.setattr("half_fold.desk.beside.child.difference_of", lambda now, was: ("whole", "no job"))
        window.session.check_now()
    elif where == "read_record":
        window.session.bring_pictures([tmp_path / "p.png"])
    else:
        window.session.proxies._held.clear()
        window.session.proxies._asked.clear()
        window.session.proxies.image(window.session.publication.pictures[0].id, 100)
    wait_for(lambda: bool(said))
    wait_for(lambda: not window.session.bringing.busy)
    monkeypatch.undo()
    window.session.is_checked = False
    window.session.check_now()
    wait_for(lambda: window.session.is_checked)
    window.session.bring_pictures([tmp_path / "p.png"])
    wait_for(lambda: any(p.file == "p.png" for p in window.session.publication.pictures))


def test_a_problem_that_nobody_caught_is_only_a_sentence(caught: Desk, demo: Path) -> None:
    window = caught.open(demo)
    ready(window)
    try:
        raise Problem("That cannot be; do this.")
    except Problem:
        sys.excepthook(*sys.exc_info())
    wait_for(lambda: window.foot.sentence == "That cannot be; do this.")
    assert not window.foot.copy.isVisible()


def test_saving_goes_on_after_a_fault_in_saving(caught: Desk, demo: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    from half_fold.core.store import autosave

    monkeypatch.setattr(autosave, "RETRY_S", 0.05)
    window = caught.open(demo)
    ready(window)
    monkeypatch.setattr("half_fold.core.store.job.encode", _fails)
    window.session.edit(lambda p: set_value(p, "title", "Once more"), "title")
    wait_for(lambda: "could not be saved" in window.foot.sentence)
    monkeypatch.undo()
    assert window.session.autosave.flush()
    assert read(demo / "graftwood.halffold").title == "Once more"


@pytest.mark.parametrize("geometry", ["zz", "é葉", "01d9d0cb0003", "ff" * 40, "0" * 9])
def test_odd_geometry_does_not_keep_the_window_from_opening(desk: Desk, demo: Path, geometry: str) -> None:
    from half_fold.desk.memory import Memory, recall, remember

    remember(Memory(geometry=geometry, recent=["\0", "/nowhere", "x" * 5000], folders={"text": "\0"}))
    window = desk.open(demo)
    ready(window)
    assert window.isVisible() and window.width() >= 1100
    assert recall().recent
    from half_fold.desk.memory import _file, last_folder, recent_jobs

    assert recent_jobs() and last_folder("text")
    _file().write_bytes(b"[" * 100_000)
    assert recall() == Memory()

"""What runs beside the window: checks, pictures, and the collector that must not follow them there."""

import gc
import os
import re
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from PIL import Image
from PyQt6.QtTest import QTest

import half_fold
from half_fold.core.plan.own_kinds import begin
from half_fold.core.store.codec import encode
from half_fold.core.store.job import read
from half_fold.desk.beside.collector import GIVES_BACK, Collector
from half_fold.desk.window import Window
from tests.desk.conftest import wait_for
from tests.trips import TRIPS


@pytest.mark.checked
def test_cycles_are_collected_on_the_interface_thread_alone(window: Window) -> None:
    seen: set[int] = set()

    def note(_phase: str, _info: dict[str, int]) -> None:
        seen.add(threading.get_ident())

    gc.callbacks.append(note)
    try:
        for _ in range(3):
            window.session.check_now()
            QTest.qWait(500)
    finally:
        gc.callbacks.remove(note)
    assert not gc.isenabled() and seen <= {threading.get_ident()} and seen


def test_what_a_thread_let_go_of_is_given_back_to_the_machine(window: Window) -> None:
    """The last piece stays, which keeps all that was freed below it from going by itself."""
    stays: list[bytes] = []

    def fill() -> None:
        pieces = [bytes(20_000) for _ in range(6_000)]
        stays.append(pieces[-1])

    def taken() -> int:
        return int(Path("/proc/self/statm").read_text().split()[1]) * 4096

    thread = threading.Thread(target=fill)
    thread.start()
    thread.join()
    before, collector = taken(), Collector()
    for _ in range(GIVES_BACK):
        collector.collect()
    assert before - taken() > 50_000_000


def test_a_job_may_be_let_go_of_before_it_is_saved(tmp_path: Path) -> None:
    """A signal does not hold whose it is: the thread that saves once told one that was gone, and ended the program."""
    code = """
import gc, sys
from pathlib import Path
from PyQt6.QtCore import QCoreApplication
from half_fold.core.plan.settings import set_value
from half_fold.core.store.job import open_job, read
from half_fold.desk.session import Session
application = QCoreApplication([])
file = Path(sys.argv[1])
for turn in range(2):
    session = Session(open_job(file))
    session.edit(lambda p: set_value(p, "title", f"Turn {turn}"), "title")
    autosave, job = session.autosave, session.job
    del session
    gc.collect()
    assert autosave.flush(timeout=600)
    job.close()
    application.processEvents()
    print(read(file).title, flush=True)
"""
    told = [sys.executable, "-c", code, str(begin("one-sheet", "A leaf", tmp_path / "leaf"))]
    freed = os.environ | {"PYTHONMALLOC": "debug", "MALLOC_PERTURB_": "165"}  # what is read of it is no accident
    done = subprocess.run(told, capture_output=True, text=True, check=False, env=freed)
    assert (done.returncode, done.stdout.split("\n")[-2]) == (0, "Turn 1"), done.stderr


def test_no_signal_is_given_to_a_thread() -> None:
    """Whoever is told from another thread is told by post: only of signals that are emitted at once it is known."""
    handed = re.compile(r"(?:Autosave|ask|Thread)\(.*\.emit\b(?!\()")
    source = Path(half_fold.__file__).parent
    assert not [path.name for path in source.rglob("*.py") if handed.search(path.read_text(encoding="utf-8"))]


def test_the_program_never_ends_under_a_thread_that_runs() -> None:
    """What has begun is waited for and what has not is given up, however the program ends."""
    code = """
import sys, time
from PyQt6.QtCore import QCoreApplication
from half_fold.desk.beside.workers import workers
application = QCoreApplication([])
pool = workers(1)
def work(name):
    time.sleep(0.4)
    print(name, flush=True)
pool.start(lambda: work("begun"))
pool.start(lambda: work("waiting"))
time.sleep(0.1)
sys.exit(0)
"""
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.split() == ["begun"]


def test_a_program_that_ends_as_it_should_says_nothing_of_it() -> None:
    code = """
from PyQt6.QtCore import QCoreApplication
from half_fold.desk.beside.workers import workers
def main():
    application = QCoreApplication([])
    pool = workers(1)
    pool.start(lambda: print("done", flush=True))
    pool.waitForDone()
main()
"""
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert (done.stdout, done.stderr) == ("done\n", "")


@pytest.mark.checked
def test_only_the_newest_check_counts(window: Window, demo: Path) -> None:
    trip = TRIPS["short of the bleed"][0]
    window.session.edit(lambda p: trip(p, demo), "trip")
    window.session.check_now()
    window.session.undo()
    window.session.check_now()
    told: list[int] = []
    window.session.checked.connect(lambda: told.append(len(window.session.findings)))
    wait_for(lambda: bool(told))
    QTest.qWait(200)
    assert set(told) == {0}


@pytest.mark.checked
def test_typing_goes_on_while_checks_run(window: Window) -> None:
    window.open_station(4)
    window.session.view.go_to(7)
    station = window.station
    station.open_drawer("stories")  # type: ignore[attr-defined]
    text = station.drawer.stories.text  # type: ignore[attr-defined]
    for letter in "the frost came down ":
        window.session.check_now()
        QTest.keyClicks(text, letter)
    assert window.session.publication.stories[0].paragraphs[0].text.startswith("the frost came down The ladders")
    wait_for(lambda: window.session.findings == [])


def test_pictures_come_in_the_order_asked_for(window: Window, tmp_path: Path) -> None:
    paths = []
    for number in range(4):
        paths.append(tmp_path / f"hedge{number}.png")
        Image.new("RGB", (300 - 60 * number, 200), (number, 90, 40)).save(paths[-1])
    (tmp_path / "broken.png").write_bytes(b"nonsense")
    window.session.bring_pictures([paths[0], tmp_path / "broken.png", *paths[1:], paths[0]])
    wait_for(lambda: len(window.session.publication.pictures) == 18)
    QTest.qWait(100)
    assert [p.file for p in window.session.publication.pictures[14:]] == [p.name for p in paths]
    assert len({p.id for p in window.session.publication.pictures}) == 18


@pytest.mark.checked
def test_closing_at_once_keeps_what_was_asked_for(window: Window, demo: Path, tmp_path: Path) -> None:
    path = tmp_path / "late.png"
    Image.new("RGB", (1500, 1500), (9, 90, 40)).save(path)
    window.session.bring_pictures([path])
    window.session.check_now()
    window.close()
    saved = read(demo / "graftwood.halffold")
    assert encode(saved) == encode(window.session.publication)
    assert saved.pictures[-1].file == "late.png"

"""Nothing that lies in a job's folder is ever run, however a process of ours is started."""

import os
import pickle
import random
import re
import subprocess
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path
from queue import Queue

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import QProcess
from PyQt6.QtWidgets import QApplication

from half_fold.answering import Answer, Asked, Checks
from half_fold.core.checks.finding import Finding
from half_fold.core.checks.run import check
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.own_kinds import begin
from half_fold.core.publication.records import Publication
from half_fold.core.publication.sending import difference_of as sent
from half_fold.core.publication.sending import made
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.codec import encode
from half_fold.core.store.job import read
from half_fold.desk.application import Desk
from half_fold.desk.beside.checker import Checker
from half_fold.desk.beside.child import Resident, command_line, resident
from tests.acts import ACTS
from tests.desk.conftest import ready, wait_for
from tests.trips import TRIPS

pytestmark = pytest.mark.checked

SOURCE = Path(__file__).parents[2] / "src/half_fold"
TRAP = "from pathlib import Path\nPath({marker!r}).write_text(__name__)\n"
NAMES = ("argparse", "json", "numpy", "sitecustomize", "usercustomize", "pikepdf", "half_fold", "enum")


SETTER = Setter()


@pytest.fixture
def leaf(tmp_path: Path) -> Path:
    """A small job's folder, which is looked through in no time."""
    return begin("magazine", "A leaf", tmp_path / "leaf", ["pages=96"]).parent


@pytest.fixture
def trapped(leaf: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A job whose folder holds modules that leave a mark when they are imported; it is the present folder."""
    for name in NAMES:
        (leaf / f"{name}.py").write_text(TRAP.format(marker=str(leaf / "ran")))
    monkeypatch.chdir(leaf)
    monkeypatch.setenv("PYTHONPATH", str(leaf))
    monkeypatch.setenv("PYTHONSTARTUP", str(leaf / "json.py"))
    return leaf


def test_a_child_of_the_window_imports_nothing_from_where_it_is_started(trapped: Path, tmp_path: Path) -> None:
    process = QProcess()
    process.start(*command_line("press", str(trapped), str(tmp_path / "x.pdf"), "--part", "cover"))
    assert process.waitForFinished(60_000) and process.exitCode() == 0
    assert (tmp_path / "x.pdf").exists() and not (trapped / "ran").exists()


def test_the_command_imports_nothing_from_where_it_is_started(trapped: Path, tmp_path: Path) -> None:
    command = Path(command_line()[0]).with_name("half-fold")
    environment = {name: value for name, value in os.environ.items() if not name.startswith("PYTHON")}
    subprocess.run([command, "press", trapped, tmp_path / "x.pdf"], check=True, capture_output=True, env=environment)
    assert not (trapped / "ran").exists()


def test_no_process_is_started_in_another_way() -> None:
    """A child is started by ``desk.child`` or forked: what starts one otherwise has to be tested here first."""
    starts = re.compile(
        r"sys\.executable|subprocess|QProcess\.(?:execute|startDetached)|os\.(?:exec|spawn|system|popen)"
    )
    found = {path.name for path in SOURCE.rglob("*.py") if starts.search(path.read_text(encoding="utf-8"))}
    assert found == {"child.py"}
    text = (SOURCE / "desk/beside/child.py").read_text(encoding="utf-8")
    assert text.count("subprocess.Popen(") == 1 and "[sys.executable, ISOLATED, " in text
    started = [
        path.name for path in SOURCE.rglob("*.py") if ".start(*command_line(" in path.read_text(encoding="utf-8")
    ]
    processes = [path.name for path in SOURCE.rglob("*.py") if "QProcess(" in path.read_text(encoding="utf-8")]
    assert sorted(started) == sorted(processes) == ["child.py", "making.py"]


def test_the_process_that_checks_imports_nothing_from_where_it_is_started(trapped: Path) -> None:
    beside = Resident()
    answers: Queue[Answer] = Queue()
    beside.ask(1, 1, trapped, read(trapped / "leaf.halffold"), answers.put)
    answer = answers.get()
    beside.end()
    assert answer.findings == [] and not answer.fault and not (trapped / "ran").exists()


@pytest.fixture(scope="module")
def beside() -> Iterator[Resident]:
    process = Resident()
    yield process
    process.end()


def _asked(beside: Resident, key: int, folder: Path, job: Publication, number: int = 1) -> Answer:
    answers: Queue[Answer] = Queue()
    beside.ask(number, key, folder, job, answers.put)
    return answers.get()


@pytest.mark.parametrize("rule", list(TRIPS)[3::19])
def test_findings_come_back_whole_with_fixes_that_mend(beside: Resident, demo: Path, rule: str) -> None:
    """By way of the other process; ``core`` trips every rule."""
    job, pictures = read(demo / "graftwood.halffold"), demo / "pictures"
    trip, stops, fixed = TRIPS[rule]
    tripped = trip(job, pictures)
    answer = _asked(beside, 7, demo, tripped)
    found = [each for each in answer.findings if each.rule == rule]
    assert found and found[0].stops_press == stops and (found[0].fix is not None) == fixed
    if found[0].fix is not None:
        assert found[0].fix.edit(tripped) is not tripped
        here = next(each for each in check(tripped, SETTER, pictures) if each.rule == rule)
        assert here.fix is not None and encode(here.fix.edit(tripped)) == encode(found[0].fix.edit(tripped))


def _told(finding: Finding) -> Finding:
    """A finding without its fix, which is another function each time it comes."""
    return replace(finding, fix=None)


def test_only_the_newest_question_of_a_job_is_answered_and_each_job_has_its_own(beside: Resident, leaf: Path) -> None:
    job = read(leaf / "leaf.halffold")
    other = replace(job, title="Another", pages=job.pages[:8])
    told: list[Answer] = []
    answers: Queue[Answer] = Queue()
    beside.ask(1, 20, leaf, job, told.append)
    beside.ask(2, 20, leaf, replace(job, title="Once more"), told.append)
    beside.ask(1, 21, leaf, other, answers.put)
    beside.ask(3, 20, leaf, job, answers.put)
    both = {answer.key: answer for answer in (answers.get(), answers.get())}
    assert both[20].findings == [] and any(each.rule == "copy thickness" for each in both[21].findings)
    assert all(answer.number < 3 for answer in told)
    beside.let_go(21)
    again = _asked(beside, 21, leaf, other, 9)
    assert list(map(_told, again.findings)) == list(map(_told, both[21].findings))


def test_what_is_asked_of_a_job_let_go_of_is_answered_in_whatever_order_they_come(leaf: Path) -> None:
    """Both lie in the queue before the first is come to, as on a busy machine."""
    job = sent(read(leaf / "leaf.halffold"), None)
    checks = Checks()
    coming = [Asked(8, 1, str(leaf), job), Asked(0, 1, "", None), Asked(9, 1, str(leaf), job)]
    for each in coming:
        checks.take(each)
    answers = [checks.answer(each) for each in coming]
    assert answers[:2] == [None, None] and answers[2] == Answer(9, 1, [])


def test_the_last_question_is_answered_however_they_press(beside: Resident, tmp_path: Path) -> None:
    """Jobs of one page, many times over, each let go of now and then: none is left without the answer to its last."""
    job = read(begin("one-sheet", "A leaf", tmp_path / "leaf"))
    for turn in range(60):
        answers: Queue[Answer] = Queue()
        for number in range(3 * turn, 3 * turn + 3):
            beside.ask(number, 30, tmp_path, job, answers.put)
            if turn % 5 == number % 3:
                beside.let_go(30)
                beside.ask(number, 30, tmp_path, job, answers.put)
        while answers.get().number != 3 * turn + 2:
            pass


def test_a_window_may_be_gone_before_what_it_asked_is_answered(dressed: None, tmp_path: Path) -> None:
    """What was its own was once taken down by the thread that brought the answer: that ended the program."""
    job, pictures = read(begin("one-sheet", "A leaf", tmp_path / "leaf")), tmp_path / "leaf/pictures"
    for _ in range(40):
        checker = Checker()
        checker.start(job, pictures)
        checker.wait()
        del checker
        QApplication.processEvents()
    last, found = Checker(), list[object]()
    last.found.connect(found.append)
    last.start(job, pictures)
    wait_for(lambda: bool(found))


def test_threads_begin_where_it_is_known_what_they_hold() -> None:
    """What a thread lets go of last is taken down there: none but these is started, and none holds a window's own."""
    begins = re.compile(r"(?:threading\.)?Thread\(target=")
    found = {path.name for path in SOURCE.rglob("*.py") if begins.search(path.read_text(encoding="utf-8"))}
    assert found == {"answering.py", "child.py", "application.py", "autosave.py"}


def test_what_is_not_known_beside_is_told_whole(leaf: Path) -> None:
    job = read(leaf / "leaf.halffold")
    beside = Resident()
    beside._sent[1] = replace(job, pages=job.pages[:4])  # as after a fault: here it is thought to be known there
    assert _asked(beside, 1, leaf, job).findings == []
    beside.end()
    assert not beside.is_there


def test_an_end_of_the_process_is_said_and_the_next_question_starts_another(desk: Desk, leaf: Path) -> None:
    desk.faults.catch()
    window = desk.open(leaf)
    ready(window)
    said: list[str] = []
    desk.faults.fault.connect(said.append)
    window.session.check_now()
    wait_for(lambda: bool(resident()._waiting))
    resident().end()
    wait_for(lambda: bool(said))
    window.session.is_checked = False
    window.session.check_now()
    wait_for(lambda: window.session.is_checked)
    desk.faults.release()


# What is sent ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("seed", range(12))
def test_what_an_edit_changed_is_made_again_and_what_it_left_stays_the_same(seed: int, demo: Path) -> None:
    rng = random.Random(seed)
    now = there = read(demo / "graftwood.halffold")
    for _ in range(25):
        before = now
        with suppress(Problem):
            now = rng.choice(ACTS)(rng, now)
        there = made(pickle.loads(pickle.dumps(sent(now, before))), there)
        assert encode(there) == encode(now)
        same = [one is other for one, other in zip(now.pages, before.pages, strict=False)]
        assert len(pickle.dumps(sent(now, before))) < 60_000 or not all(same)


def test_a_letter_is_told_in_few_octets_and_pages_stay_the_same(demo: Path) -> None:
    job = there = read(demo / "graftwood.halffold")
    story = job.stories[0]
    runs = (replace(story.paragraphs[0].runs[0], text="The frost"), *story.paragraphs[0].runs[1:])
    paragraphs = (replace(story.paragraphs[0], runs=runs), *story.paragraphs[1:])
    now = replace(job, stories=(replace(story, paragraphs=paragraphs), *job.stories[1:]))
    change = pickle.dumps(sent(now, job))
    again = made(pickle.loads(change), there)
    assert len(change) < 2000 and encode(again) == encode(now)
    assert again.pages is there.pages and again.stories[1] is there.stories[1]
    assert again.stories[0].paragraphs[1] is there.stories[0].paragraphs[1]

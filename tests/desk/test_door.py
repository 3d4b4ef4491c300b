"""One door for edits: what follows from an edit follows however it is made, and nothing saves a job beside it."""

import random
import re
import shutil
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QApplication

import half_fold
from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_paths, settings
from half_fold.core.publication.records import Block, Group, HoldsPicture, Publication
from half_fold.core.publication.surgery import block_named, every_block
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.edits.linked import link
from half_fold.core.spread.setting.developed import own_treatment
from half_fold.core.store.job import find_file, open_job, read
from half_fold.desk.session import Session
from tests.acts import ACTS, TYPED

SOURCE = Path(half_fold.__file__).parent
HEADS = ("block.", "group.", "page.", "brief.", "role.", "ink.", "master.", "cover.", "story.")


def _pictures(job: Publication) -> list[Block]:
    return [block for _, _, block in every_block(job) if isinstance(block.holds, HoldsPicture)]


def _with_links(folder: Path) -> None:
    """Two pictures of the job linked, the one holding what the other does."""
    job = open_job(folder)
    one, other = (block.id for block in _pictures(job.publication)[:2])
    job.save(link(job.publication, [one, other]))
    job.close()


def test_what_is_linked_follows_a_command_as_it_follows_the_window(demo: Path) -> None:
    """One of two linked pictures was mended on the command line, and the next edit of the other wiped that out."""
    _with_links(demo)
    one, other = (block.id for block in _pictures(read(find_file(demo)))[:2])
    assert main(["mend", str(demo), one, "40 40 60 40", "--wide", "4"]) == 0
    made = read(find_file(demo))
    mended = [own_treatment(block_named(made, name)) for name in (one, other)]
    assert mended[0] is not None and mended[0].patches and mended[0] == mended[1]
    assert main(["set", str(demo), f"block.{other}.opacity=90"]) == 0
    again = read(find_file(demo))
    for name in (one, other):
        kept = own_treatment(block_named(again, name))
        assert kept is not None and kept.patches == mended[0].patches


def test_nothing_saves_a_job_but_the_door() -> None:
    """A command saves by ``commands.jobs``, which goes through the door; the window's edits do, and autosave writes."""
    saves = re.compile(r"\b_?(?:job|opened)\.save\(")
    found = {path.name for path in SOURCE.rglob("*.py") if saves.search(path.read_text(encoding="utf-8"))}
    assert found == {"jobs.py", "autosave.py"}
    door = re.compile(r"\bapply_edit\(")
    calls = {path.name for path in SOURCE.rglob("*.py") if door.search(path.read_text(encoding="utf-8"))}
    assert calls == {"door.py", "jobs.py", "session.py"}
    # What comes before the door's own settling: each path of several, each fix of several, each side of a cover.
    follows = re.compile(r"keeping import settle\b")
    asked = {path.name for path in SOURCE.rglob("*.py") if follows.search(path.read_text(encoding="utf-8"))}
    assert asked == {"door.py", "all.py", "fixing.py", "sides.py"}


def _edit(rng: random.Random, job: Publication) -> str:
    """A path with what stands under another of its name, or with something typed."""
    every = [each for each in settings(job) if each.path.startswith(HEADS)]
    chosen = rng.choice(every)
    alike = [each.value for each in every if each.path.rpartition(".")[2] == chosen.path.rpartition(".")[2]]
    return f"{chosen.path}={rng.choice(alike if rng.random() < 0.7 else TYPED)}"


@pytest.mark.parametrize("seed", range(6))
def test_the_same_edits_end_in_the_same_file_by_the_window_and_by_commands(
    seed: int, demo: Path, tmp_path: Path, qapp: QApplication
) -> None:
    rng = random.Random(seed)
    _with_links(demo)
    job, done = open_job(demo), 0
    made = job.publication
    while done < 25:  # groups that keep something, links, captions
        try:
            made = rng.choice(ACTS)(rng, made)
        except Problem:
            continue
        done += 1
    job.save(made)
    job.close()
    assert any(isinstance(each, Group) or each.link for page in made.pages for each in every_thing(page.things))
    twin = Path(shutil.copytree(demo, tmp_path / "twin"))
    session = Session(open_job(demo))
    told = list[str]()
    session.said.connect(told.append)
    taken = 0
    for _ in range(30):
        asked = _edit(rng, session.publication)
        by_window = session.edit(lambda p, asked=asked: set_paths(p, [asked]), asked)
        assert main(["set", str(twin), asked]) == (0 if by_window else 2), (asked, told[-1:])
        taken += by_window
    session.autosave.flush()
    session.close()
    assert taken > 5 and find_file(demo).read_bytes() == find_file(twin).read_bytes()

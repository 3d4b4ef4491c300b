"""Start a job of a kind, or the next number of one."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import read_job
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import format_path

USAGE = (
    (
        "new KIND DIR [--set KEY=VALUE ...]",
        "start a job; KIND: magazine, book, catalogue, photo-book, one-sheet, one-spread, cover, screen-cover, "
        "or one that was kept",
    ),
    ("new --from JOB DIR [--set ...]", "the next number of a job: what stands stays, what was its own is gone"),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    parser.add_argument("kind")
    parser.add_argument("folder", type=Path, nargs="?")
    parser.add_argument("--from", dest="after", type=Path, metavar="JOB")
    parser.add_argument("--set", nargs="+", action="extend", default=[], metavar="KEY=VALUE")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.plan.own_kinds import begin
    from half_fold.core.plan.starters import title_of_folder

    if asked.after is not None:
        return _next(asked)
    if asked.folder is None:
        raise Problem("Say what kind of job, and where: half-fold new KIND DIR, or half-fold new --from JOB DIR.")
    print(begin(asked.kind, title_of_folder(format_path(Path(asked.folder.name))), asked.folder, asked.set))
    return 0


def _next(asked: argparse.Namespace) -> int:
    """The next number of a job, in the folder that is named."""
    from half_fold.core.plan.next_number import begin_next_number
    from half_fold.core.plan.settings import set_values
    from half_fold.core.store.next_job import create_next

    if asked.folder is not None or not asked.kind:
        raise Problem("Say where the next number goes: half-fold new --from JOB DIR.")
    before = read_job(asked.after)
    publication = set_values(begin_next_number(before.publication), asked.set)
    print(create_next(Path(asked.kind), publication, before.folder))
    return 0

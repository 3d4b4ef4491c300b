"""The running order out, or taken in."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import opened, save, takes_job
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import format_path

USAGE = (
    ("order JOB OUT.csv|.xlsx|.pdf", "the running order as a table, or as a plan for the wall"),
    ("order JOB --read FILE.csv|.xlsx", "take what a table says of the pages"),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path, nargs="?")
    parser.add_argument("--read", type=Path)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.press.wall_plan import write_wall_plan
    from half_fold.core.spread.running.order_table import take_table, write_table
    from half_fold.core.store.tables import read_table

    if (asked.out is None) == (asked.read is None):
        raise Problem("Name the file to write, or give --read FILE to take one in.")
    with opened(asked.job, to_write=asked.read is not None) as job:
        if asked.read is not None:
            publication, notes = take_table(job.publication, read_table(asked.read))
            save(job, publication)
            print("\n".join([f"{asked.read}: taken", *notes]))
        elif asked.out.suffix.lower() == ".pdf":
            write_wall_plan(job.publication, asked.out)
            print(format_path(asked.out))
        else:
            write_table(job.publication, asked.out)
            print(format_path(asked.out))
    return 0

"""The steps before the press date."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import read_job, takes_job
from half_fold.core.store.files import format_path

USAGE = (("schedule JOB OUT.csv|.ics", "the steps before the press date"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path)


def do(asked: argparse.Namespace) -> int:
    from datetime import date

    from half_fold.core.spread.running.schedule import write_schedule

    write_schedule(read_job(asked.job).publication, asked.out, date.today())
    print(format_path(asked.out))
    return 0

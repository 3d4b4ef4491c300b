"""Whether a file is one that was made of the job."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import opened, takes_job
from half_fold.core.store.files import format_path

USAGE = (
    (
        "prove JOB FILE.pdf [--output NAME]",
        "whether a file is one that was made of the job, whole and unchanged, when, and from which version; "
        "exit 2 with what differs",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path)
    parser.add_argument("--output", default="")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.press.proving.returned import returned

    with opened(asked.job, to_write=False) as job:
        print(f"{format_path(asked.out)}: {returned(job, asked.out, asked.output).sentence}")
        return 0

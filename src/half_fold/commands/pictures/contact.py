"""Contact sheets of the job's pictures."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import opened, takes_job
from half_fold.core.store.files import format_path

USAGE = (("contact JOB OUT.pdf", "contact sheets of the job's pictures (--one-of-each of near duplicates)"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path)
    parser.add_argument("--one-of-each", action="store_true")


def do(asked: argparse.Namespace) -> int:
    """Contact sheets of the pictures, but for those that are left out."""
    from half_fold.core.pictures.library.stacks import stacks
    from half_fold.core.pictures.library.told import told_of_all
    from half_fold.core.press.contact import write_contact

    with opened(asked.job, to_write=False) as job:
        pictures = [picture for picture in job.publication.pictures if picture.worth != "left out"]
        if asked.one_of_each:
            pictures = [stack[0] for stack in stacks(pictures, told_of_all(job.pictures, pictures))]
        proved = write_contact(job.publication, job.pictures, asked.out, pictures)
        print(f"{format_path(asked.out)}: {proved.sentence}")
        return 0

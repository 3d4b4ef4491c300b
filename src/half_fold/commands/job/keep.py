"""Keep a job as a kind of one's own to start from."""

import argparse

from half_fold.commands.jobs import read_job, takes_job
from half_fold.core.store.files import format_path

USAGE = (("keep JOB KIND", "keep a job as a kind of your own to start from; --drop takes it away"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("name")
    parser.add_argument("--drop", action="store_true")


def do(asked: argparse.Namespace) -> int:
    """A job as a kind of one's own, with its small picture; or that kind taken away."""
    from half_fold.core.plan.own_kinds import drop_kind, keep_kind

    if asked.drop:
        drop_kind(asked.name)
        return 0
    from half_fold.desk.paint.proof import write_small

    job = read_job(asked.job)
    kept = keep_kind(job.publication, job.folder, asked.name)
    write_small(job, kept.picture)
    print(format_path(kept.folder))
    return 0

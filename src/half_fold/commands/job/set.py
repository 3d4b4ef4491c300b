"""Change what can be set of a job, by its path."""

import argparse

from half_fold.commands.jobs import opened, save, takes_job

USAGE = (("set JOB PATH=VALUE ...", "change anything that can be set, by its path (brief keys are paths too)"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("settings", nargs="+", metavar="PATH=VALUE")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.cover.spine_moves import format_spine_moves
    from half_fold.core.paths.all import set_paths

    with opened(asked.job) as job:
        before = job.publication
        save(job, set_paths(before, asked.settings))
        words = format_spine_moves(before, job.publication)
        if words:
            print(words)
    return 0

"""Filler copy into a story."""

import argparse

from half_fold.commands.jobs import opened, save, stories_titled, takes_job

USAGE = (("fill JOB --story TITLE [--words N]", "filler copy to the foot of a story's blocks, or so many words of it"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--story", default="")
    parser.add_argument("--words", type=int)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.spread.edits.filling import fill_to_the_foot, fill_with
    from half_fold.core.spread.setting.compose import Setter

    with opened(asked.job) as job:
        story = stories_titled(job.publication, asked.story)[0].id
        if asked.words is None:
            save(job, fill_to_the_foot(job.publication, Setter(), story))
        else:
            save(job, fill_with(job.publication, story, asked.words))
    return 0

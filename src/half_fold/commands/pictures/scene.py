"""Pictures over both pages as one ground."""

import argparse

from half_fold.commands.jobs import opened, pictures_named, save, takes_job

USAGE = (
    ("scene JOB PAGE PICTURE ... [--wash INK]", "pictures over both pages as one ground, melting into each other"),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("page", type=int)
    parser.add_argument("picture", nargs="+")
    parser.add_argument("--wash", default="")


def do(asked: argparse.Namespace) -> int:
    """Pictures side by side over the spread of a page, melting into each other."""
    from half_fold.core.paths.all import page_number
    from half_fold.core.spread.edits.scenes import scene_of

    with opened(asked.job) as job:
        names = pictures_named(job, asked.picture)
        made, scene = scene_of(job.publication, page_number(job.publication, str(asked.page)), names, asked.wash)
        save(job, made)
        print(scene)
        return 0

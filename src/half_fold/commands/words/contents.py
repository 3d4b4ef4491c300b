"""Contents of what is laid."""

import argparse

from half_fold.commands.jobs import opened, save, takes_job
from half_fold.core.measure.problem import Problem

USAGE = (("contents JOB [--page N]", "contents of the stories and chapters laid; their folios follow the pages"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--page", type=int, default=1)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.publication.surgery import story_of
    from half_fold.core.spread.edits.placing import lay_through
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.core.spread.setting.contents import with_contents
    from half_fold.core.spread.setting.threads import thread

    setter = Setter()
    with opened(asked.job) as job:
        made, story = with_contents(job.publication, setter.threads)
        if not thread(made, story):
            if not 1 <= asked.page <= len(made.pages):
                raise Problem(f"There is no page {asked.page}; the job has {len(made.pages)}.")
            made = lay_through(made, setter, story, asked.page - 1)
        save(job, made, setter)
        print(*(paragraph.text.strip() for paragraph in story_of(job.publication, story).paragraphs), sep="\n")
    return 0

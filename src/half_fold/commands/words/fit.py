"""What would make a story fit its blocks."""

import argparse

from half_fold.commands.jobs import opened, save, stories_titled, takes_job
from half_fold.core.measure.problem import Problem

USAGE = (
    ("fit JOB --story TITLE [--take N]", "what would make a story fit its blocks, set for real, and what it costs"),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--story", default="")
    parser.add_argument("--take", type=int, default=0)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.arrange.giving_room import every_remedy
    from half_fold.core.spread.edits.fitting import format_fit_state
    from half_fold.core.spread.setting.compose import Setter

    with opened(asked.job, to_write=asked.take > 0) as job:
        publication, setter = job.publication, Setter()
        story = stories_titled(publication, asked.story)[0]
        found = every_remedy(publication, setter, story.id, job.pictures)
        if asked.take:
            if not 1 <= asked.take <= len(found):
                raise Problem("There is no remedy of that number; take one of them by its own.")
            save(job, found[asked.take - 1].publication, setter)
            print(f"Taken: {found[asked.take - 1].words}")
            return 0
        print(f"{story.title}: {format_fit_state(setter.threads.flow(publication, story.id))}")
        for number, each in enumerate(found, 1):
            print(f"{number:3}  {each.words:44} {each.cost}")
    return 0

"""Words that do not read, and what would do."""

import argparse

from half_fold.commands.jobs import opened, save, takes_job
from half_fold.core.measure.problem import Problem

USAGE = (
    ("legibility JOB [--page N] [--block ID [--take N]]", "words that do not read, the worst first; what would do"),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--page", type=int, default=0)
    parser.add_argument("--block", default="")
    parser.add_argument("--take", type=int, default=0)


def do(asked: argparse.Namespace) -> int:
    """Words that are risky or cannot be read, page by page and on the cover; or the remedies of a block."""
    from half_fold.core.cover.masthead import masthead_of
    from half_fold.core.cover.mending import ways_to_read_of
    from half_fold.core.cover.surfaces import surfaces_of
    from half_fold.core.spread.setting.compose import Setter

    with opened(asked.job, to_write=asked.take > 0) as job:
        if asked.block:
            sheet, found = ways_to_read_of(job.publication, job.pictures, asked.block, Setter())
            if asked.take:
                if not 1 <= asked.take <= len(found):
                    raise Problem("There is no remedy of that number; take one of them by its own.")
                save(job, sheet.changed(found[asked.take - 1].publication).job)
                print(f"Taken: {found[asked.take - 1].words}")
                return 0
            for number, each in enumerate(found, 1):
                print(f"{number:3}  {each.words:48} {each.then}")
            if not found:
                print("Nothing has to be done, or nothing was found that would do.")
            return 0
        for where, found_words in surfaces_of(job.publication, job.pictures, asked.page, Setter()):
            name = masthead_of(found_words.sheet)
            if name is not None and name.verdict != "good":
                hidden = (
                    f"{100 * name.hidden:.0f} % of it is hidden, of “{name.worst.text}” {100 * name.worst.hidden:.0f} %"
                )
                print(f"{where}: the masthead {name.block}: {hidden}, {name.verdict}")
            for word in found_words.worst:
                print(f"{where}: “{word.text}” of {word.block or 'furniture'}: {word.score:.1f}, {word.verdict}")
    return 0

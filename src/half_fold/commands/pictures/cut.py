"""Cut a subject out of a picture."""

import argparse
import sys

from half_fold.commands.jobs import opened, save, takes_job

USAGE = (
    (
        'cut JOB --picture FILE --box "LEFT TOP RIGHT BOTTOM" [--this "X Y ..."] [--not "X Y ..."] [--soft]',
        "cut a subject out, by a box and strokes in per cent of the picture",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--picture", required=True)
    parser.add_argument("--box", required=True)
    parser.add_argument("--this", nargs="+", action="extend", default=[])
    parser.add_argument("--not", dest="not_this", nargs="+", action="extend", default=[])
    parser.add_argument("--soft", action="store_true")


def do(asked: argparse.Namespace) -> int:
    """A subject cut out of a picture of the job, as a picture of its own among them."""
    from half_fold.core.pictures.library.cut_command import cut_by_words

    with opened(asked.job) as job:
        told = asked.box, asked.this, asked.not_this, asked.soft
        made, name, words = cut_by_words(job.publication, job.pictures, asked.picture, *told)
        save(job, made)
        print(name)
        if words:
            print(words, file=sys.stderr)
        return 0

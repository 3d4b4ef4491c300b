"""A stray thing painted away from a picture."""

import argparse

from half_fold.commands.jobs import opened, save, takes_job
from half_fold.core.measure.problem import Problem

USAGE = (('mend JOB BLOCK "X Y X Y ..." [--wide 4]', "what strokes go over painted away from the picture of a block"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("block")
    parser.add_argument("stroke", nargs="+")
    parser.add_argument("--wide", type=float, default=4.0)


def do(asked: argparse.Namespace) -> int:
    """A stray thing painted away from a laid picture, by strokes in per cent of it."""
    from half_fold.core.pictures.library.cut_command import parse_stroke
    from half_fold.core.spread.framing.retouching import mend_over

    with opened(asked.job) as job:
        if not 0.1 <= asked.wide <= 50:
            raise Problem(f"A brush {asked.wide:g} % wide cannot be; give from 0.1 to 50 % of the longer side.")
        strokes = [parse_stroke(each) for each in asked.stroke]
        save(job, mend_over(job.publication, job.pictures, asked.block, strokes, asked.wide / 100))
        print(f"{asked.block}: mended")
        return 0

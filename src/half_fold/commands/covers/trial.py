"""The cover as it is seen."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import opened, takes_job
from half_fold.core.measure.problem import Problem

USAGE = (("trial JOB OUT.png [--as rack]", "the cover as it is seen: rack, list, shop, shelf, lying, ..."),)
LEAST_TRIAL, MOST_TRIAL = 320, 4000


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path)
    parser.add_argument("--as", dest="how", default="rack")
    parser.add_argument("--wide", type=int, default=1280)


def do(asked: argparse.Namespace) -> int:
    """The cover on a rack, small, from afar, as a copy: a PNG, and what can be said of it."""
    from half_fold.core.cover.trials.trial import keep_trial
    from half_fold.core.spread.setting.compose import Setter

    if not LEAST_TRIAL <= asked.wide <= MOST_TRIAL:
        raise Problem(f"A trial {asked.wide} pixels wide cannot be; give from {LEAST_TRIAL} to {MOST_TRIAL}.")
    with opened(asked.job, to_write=False) as job:
        wide, high = asked.wide, round(asked.wide * 5 / 8)
        made = keep_trial(job.publication, job.pictures, Setter(), asked.how, asked.out, wide, high)
    for name, value, how in made.figures:
        print(f"{name}: {value} ({how})")
    return 0

"""What the commands that make files for the printer have in common."""

import argparse
import sys
from pathlib import Path
from typing import TYPE_CHECKING

from half_fold.commands.jobs import takes_job
from half_fold.core.measure.problem import Problem

if TYPE_CHECKING:
    from collections.abc import Callable

    from half_fold.core.checks.finding import Finding
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.core.store.job import Job


def takes_making(parser: argparse.ArgumentParser) -> None:
    """The job, where what is made of it goes, and how it is made; what is more is added behind."""
    takes_job(parser)
    parser.add_argument("out", type=Path)
    parser.add_argument("--progress", action="store_true")
    parser.add_argument("--strict", action="store_true")


def teller(asked: argparse.Namespace) -> "Callable[[int, int, str], None] | None":
    """What says on standard output how far the work is, where that is asked for."""
    return (lambda done, count, words: print(f"{done} {count} {words}", flush=True)) if asked.progress else None


def record(job: "Job", made: dict[str, object]) -> None:
    """Note what was made, and of which state of the job."""
    from half_fold.core.press.proving.returned import state_of

    try:
        job.record_pressed({**made, "state": state_of(job.publication)})
    except Problem as problem:
        print(f"Made, but not recorded: {problem}", file=sys.stderr)


def look_through(job: "Job", setter: "Setter") -> "list[Finding]":
    """What the rules find in a job, after saying what of it would stop the press."""
    from half_fold.core.checks.finding import would_stop
    from half_fold.core.checks.run import check

    findings = check(job.publication, setter, job.pictures)
    for finding in would_stop(findings):
        print(f"Would stop the press: {finding.where}: {finding.message}. {finding.why}", file=sys.stderr)
    return findings


def is_stopped(asked: argparse.Namespace, job: "Job", setter: "Setter") -> bool:
    """Whether nothing is to be made: so it was asked, and something would stop the press."""
    from half_fold.core.checks.finding import would_stop

    return bool(asked.strict and would_stop(look_through(job, setter)))

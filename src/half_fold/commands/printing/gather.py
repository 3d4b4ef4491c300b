"""All that the printer needs, in one archive."""

import argparse

from half_fold.commands import making
from half_fold.commands.jobs import opened
from half_fold.commands.making import record, takes_making, teller
from half_fold.core.store.files import format_path

USAGE = (
    (
        "gather JOB OUT.zip",
        "every part pressed and proved, and the job ticket, in one archive; with --strict, which press and outputs "
        "take too, nothing is made (exit 1) where a check stops it",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_making(parser)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.checks.finding import would_stop
    from half_fold.core.press.gather import gather
    from half_fold.core.spread.setting.compose import Setter

    with opened(asked.job, to_write=False) as job:
        setter = Setter()
        findings = making.look_through(job, setter)
        if asked.strict and would_stop(findings):
            return 1
        gathered = gather(job.publication, job.pictures, asked.out, findings, teller(asked), setter)
        files = [{"file": name, "part": part, "as": "pages", **proved.record} for name, part, proved in gathered.files]
        made = {"file": format_path(asked.out), "part": "everything", "as": "pages", "proved": gathered.words}
        record(job, {**made, "files": files})
        print(f"{format_path(asked.out)}: proved: {gathered.words}")
        return 0

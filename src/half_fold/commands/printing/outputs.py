"""Every output that is kept, made."""

import argparse

from half_fold.commands import making
from half_fold.commands.jobs import opened
from half_fold.commands.making import is_stopped, record, takes_making, teller
from half_fold.core.store.files import format_path

USAGE = (("outputs JOB DIR", "every output that is kept (output.NAME), each a file in DIR"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_making(parser)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.press.outputs import make_outputs
    from half_fold.core.press.proving.returned import made_of
    from half_fold.core.spread.setting.compose import Setter

    with opened(asked.job, to_write=False) as job:
        setter = Setter()
        if is_stopped(asked, job, setter):
            return 1
        for name, output, proved in make_outputs(job.publication, job.pictures, asked.out, teller(asked), setter):
            record(job, made_of(asked.out / name, output, proved))
            print(f"{format_path(asked.out / name)}: {output.name}: proved: {proved.sentence}")
        if not asked.strict:  # which has looked
            making.look_through(job, setter)
        return 0

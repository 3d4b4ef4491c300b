"""A part of a job as a file for the printer."""

import argparse
from pathlib import Path
from typing import TYPE_CHECKING

from half_fold.commands import making
from half_fold.commands.jobs import opened
from half_fold.commands.making import is_stopped, record, takes_making, teller
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import format_path

if TYPE_CHECKING:
    from half_fold.core.publication.records import Output
    from half_fold.core.store.job import Job

USAGE = (
    (
        "press JOB OUT.pdf [--part PART] [--as pages|spreads|sheets] [--marks] [--to-read] [--output NAME] "
        "[--profile FILE]",
        'PART: pages (or some, "1, 6-9"), cover, front, section.NAME, insert.ID',
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    from half_fold.core.publication.records import OUTPUT_FORMS

    takes_making(parser)
    parser.add_argument("--output", default="")
    parser.add_argument("--part", default="")
    parser.add_argument("--as", dest="form", choices=OUTPUT_FORMS)
    parser.add_argument("--marks", action="store_true")
    parser.add_argument("--to-read", dest="to_read", action="store_true")
    parser.add_argument("--profile", type=Path)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.pictures.colour.colour import read_profile
    from half_fold.core.press.outputs import make_output
    from half_fold.core.press.proving.returned import made_of
    from half_fold.core.spread.setting.compose import Setter

    with opened(asked.job, to_write=False) as job:
        output = _output(job, asked)
        profile = read_profile(asked.profile) if asked.profile else None
        setter = Setter()  # which has the job set for the checks as well
        if is_stopped(asked, job, setter):
            return 1
        proved = make_output(job.publication, job.pictures, asked.out, output, profile, teller(asked), setter)
        record(job, made_of(asked.out, output, proved))
        if not asked.strict:  # which has looked
            making.look_through(job, setter)
        print(f"{format_path(asked.out)}: proved: {proved.sentence}")
        return 0


def _output(job: "Job", asked: argparse.Namespace) -> "Output":
    """How it is made: as it was kept, or as is said."""
    from half_fold.core.press.outputs import output_named
    from half_fold.core.press.parts import parts_of
    from half_fold.core.publication.records import Output

    if not asked.output:
        part = asked.part or parts_of(job.publication)[0].key
        return Output(name="", part=part, form=asked.form or "pages", marks=asked.marks, to_read=asked.to_read)
    if asked.part or asked.form or asked.marks or asked.to_read:
        raise Problem("An output says itself how it is made; leave out --part, --as, --marks and --to-read.")
    return output_named(job.publication, asked.output)

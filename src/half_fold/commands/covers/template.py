"""The cover flat as a working drawing."""

import argparse
from pathlib import Path

from half_fold.commands.jobs import read_job, takes_job
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import format_path

USAGE = (("template JOB OUT.pdf|.svg|.png", "the cover flat at true size, every dimension lettered"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path)


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.cover.template import working_drawing
    from half_fold.core.press.template import SUFFIXES, write_template_pdf, write_template_svg
    from half_fold.core.typesetting.lines.composer import Composer

    suffix = asked.out.suffix.lower()
    if suffix not in SUFFIXES:
        raise Problem(f"“{asked.out}” is no kind of template; name a file that ends in {', '.join(SUFFIXES)}.")
    job = read_job(asked.job)
    drawn = working_drawing(Composer(), job.publication)
    if suffix == ".pdf":
        write_template_pdf(job.publication, drawn, asked.out)
    elif suffix == ".svg":
        write_template_svg(drawn, asked.out)
    else:
        from half_fold.desk.paint.proof import write_drawing

        write_drawing(job, drawn.drawing, asked.out, 300)
    print(format_path(asked.out))
    return 0

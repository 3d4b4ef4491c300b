"""A proof of a spread, a page or the cover as a picture."""

import argparse
import sys
from pathlib import Path

from half_fold.commands.jobs import read_job, takes_job
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import format_path

USAGE = (
    (
        "proof JOB OUT.png|.jpg (--spread N | --page N | --cover | --front) [--dpi 144] [--on-paper]",
        "a proof as a picture; --on-paper shows it as it prints on its paper",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("out", type=Path)
    parser.add_argument("--spread", type=int)
    parser.add_argument("--page", type=int)
    parser.add_argument("--cover", action="store_true")
    parser.add_argument("--front", action="store_true")
    parser.add_argument("--dpi", type=float)
    parser.add_argument("--on-paper", action="store_true")


def do(asked: argparse.Namespace) -> int:
    if sum((asked.spread is not None, asked.page is not None, asked.cover, asked.front)) != 1:
        raise Problem("Say which proof: --spread N, --page N, --cover or --front.")
    if asked.dpi is not None and not 10 <= asked.dpi <= 1200:
        raise Problem(f"A proof at {asked.dpi:g} dpi cannot be; give from 10 to 1200.")
    job = read_job(asked.job)
    from half_fold.core.brief.allowances import pixels
    from half_fold.desk.paint.proof import USUAL_DPI, write_proof

    dpi = asked.dpi or (pixels(job.publication)[2] if asked.front else USUAL_DPI)
    said = write_proof(job, asked.out, asked.spread, asked.page, asked.cover, dpi, asked.front, asked.on_paper)
    print(format_path(asked.out))
    if said:
        print(said, file=sys.stderr)
    return 0

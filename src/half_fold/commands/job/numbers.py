"""Every derived number of a job, with its working."""

import argparse
import json

from half_fold.commands.jobs import read_job, takes_job

USAGE = (("numbers JOB [--json]", "every derived number with its working"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--json", action="store_true")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.brief.allowances import PRINTER_WINS
    from half_fold.core.brief.bindings import binding_named
    from half_fold.core.brief.spine import spine
    from half_fold.core.numbers.all import all_numbers

    publication = read_job(asked.job).publication
    numbers = all_numbers(publication)
    if asked.json:
        rows = [{"key": n.key, "label": n.name, "value": n.value, "unit": n.unit, "working": n.how} for n in numbers]
        print(json.dumps(rows, ensure_ascii=False, indent=1))
        return 0
    for number in numbers:
        print(f"{number.key:32} {number.text:>14}   {number.how}")
    without = binding_named(publication.brief.binding).no_spine
    if without and spine(publication) is None:
        print(f"No spine: {without}.")
    print(PRINTER_WINS)
    return 0

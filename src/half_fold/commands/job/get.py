"""Read what can be set of a job."""

import argparse
import json

from half_fold.commands.jobs import read_job, takes_job

USAGE = (("get JOB [PATH] [--json]", "read it: one path, all under one that ends in .*, or all there are"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("path", nargs="?", default="")
    parser.add_argument("--json", action="store_true")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.paths.all import found, setting_as_json

    settings = found(read_job(asked.job).publication, asked.path)
    if asked.json:
        print(json.dumps([setting_as_json(each) for each in settings], ensure_ascii=False))
        return 0
    for each in settings:
        print(f"{each.path}={each.value}")
    return 0

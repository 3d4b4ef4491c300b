"""What would go wrong with a job, and its fixes taken."""

import argparse
import json

from half_fold.commands.jobs import opened, save, takes_job

USAGE = (
    (
        "check JOB [--json] [--fix WORDS|all]",
        "what would go wrong; exit 1 if something would stop the press; with --fix the fixes so worded (those in "
        "brackets) are taken first",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--fix", default="", metavar="WORDS")


def do(asked: argparse.Namespace) -> int:
    from half_fold.core.checks.finding import would_stop
    from half_fold.core.checks.fixing import fix_findings
    from half_fold.core.checks.run import check
    from half_fold.core.spread.setting.compose import Setter

    setter = Setter()
    with opened(asked.job, to_write=bool(asked.fix)) as job:
        found = check(job.publication, setter, job.pictures)
        if asked.fix:
            made = fix_findings(job.publication, found, asked.fix)
            save(job, made, setter)
            found = check(job.publication, setter, job.pictures)
    if asked.json:
        rows = [
            {
                "rule": f.rule,
                "severity": f.severity,
                "where": f.where,
                "message": f.message,
                "why": f.why,
                "fix": f.fix.words if f.fix else None,
            }
            for f in found
        ]
        print(json.dumps(rows, ensure_ascii=False, indent=1))
    for group in dict.fromkeys(f.consequence for f in found) if not asked.json else ():
        print(f"{group[0].upper()}{group[1:]}")
        for f in found:
            if f.consequence == group:
                fix = f" [{f.fix.words}]" if f.fix else ""
                print(f"  {f.where}: {f.message}{' (would stop the press)' if f.stops_press else ''}. {f.why}{fix}")
    if not found and not asked.json:
        print("Nothing found.")
    return 1 if would_stop(found) else 0

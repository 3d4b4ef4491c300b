"""The focus of laid pictures, proposed."""

import argparse

from half_fold.commands.jobs import opened, save, takes_job

USAGE = (("focus JOB [PICTURE ...]", "the focus of laid pictures proposed: on what stands out in them"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("picture", nargs="*")


def do(asked: argparse.Namespace) -> int:
    """The focus of pictures on their subjects, as far as they can be found; told for each."""
    from half_fold.core.spread.framing.subjects import aim_all_at_subjects

    with opened(asked.job) as job:
        made, found = aim_all_at_subjects(job.publication, job.pictures, asked.picture)
        if made is not job.publication:
            save(job, made)
        if not found:
            print("No picture is laid that could be moved; nothing has changed.")
        for file, (across, down) in found.items():
            print(f"{file}: {across * 100:.0f} % from the left, {down * 100:.0f} % from the head")
        return 0

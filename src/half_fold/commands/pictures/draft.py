"""A photo book drafted from the job's pictures."""

import argparse

from half_fold.commands.jobs import opened, save, takes_job

USAGE = (
    (
        "draft JOB [--pages N] [--pace 50] [--bleed 0] [--match 0] [--frame 4mm] [--no-openers] [--no-captions] "
        "[--look]",
        "a photo book drafted from the job's pictures; --look says what it would be",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--pages", type=int, default=0)
    for share, usual in (("pace", 50.0), ("bleed", 0.0), ("match", 0.0)):
        parser.add_argument(f"--{share}", type=float, default=usual)
    parser.add_argument("--frame", default="none")
    for flag in ("no-openers", "no-captions", "look"):
        parser.add_argument(f"--{flag}", action="store_true")


def do(asked: argparse.Namespace) -> int:
    """A photo book drafted from all pictures that are laid nowhere yet; or only what it would be."""
    from half_fold.core.arrange.draft import Wishes, draft_book, match_draft, planned
    from half_fold.core.arrange.manner import set_manner
    from half_fold.core.measure.number import number_between
    from half_fold.core.pictures.library.told import told_of_all

    with opened(asked.job, to_write=not asked.look) as job:
        pace = number_between(f"{asked.pace:g}", 0, 100, "pace")
        bleed, match = (
            number_between(f"{asked.bleed:g}", -100, 100, "lean"),
            number_between(f"{asked.match:g}", 0, 100, "match"),
        )
        frame = set_manner(job.publication, "frame", asked.frame).manner.frame
        wishes = Wishes(asked.pages, pace, bleed, not asked.no_openers, not asked.no_captions, match, frame)
        told = told_of_all(job.pictures, job.publication.pictures)
        plan = planned(job.publication, told, wishes)
        print(plan.words)
        if asked.look:
            for turn, spread in enumerate(plan.spreads, 1):
                print(
                    f"{turn:3}  {spread.words}: {', '.join(picture.file for picture in spread.pictures)}".rstrip(": ")
                )
            for picture, reason in plan.left_out:
                print(f"left out: {picture.file}, {reason}")
            return 0
        made = draft_book(job.publication, told, plan, wishes)
        save(job, match_draft(made, plan, job.pictures, match) if match else made)
        return 0

"""What a cover of its kind needs."""

import argparse

from half_fold.commands.jobs import opened, takes_job

USAGE = (("parts JOB", "what a cover of its kind needs, and where each part is"),)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)


def do(asked: argparse.Namespace) -> int:
    """What a cover needs, each part with where it was found."""
    from half_fold.core.apart.covers import require_cover
    from half_fold.core.brief.bindings import binding_named
    from half_fold.core.cover.parts import cover_parts

    with opened(asked.job, to_write=False) as job:
        require_cover(job.publication)
        for part in cover_parts(job.publication):
            print(f"{part.name}: {part.where or 'lacking'} ({part.how})")
        if binding_named(job.publication.brief.binding).elsewhere and not job.publication.cover_of:
            print("Say what it is the cover of, and more is asked of it: half-fold set JOB cover-of=book.")
    return 0

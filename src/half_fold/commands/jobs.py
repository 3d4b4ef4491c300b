"""Jobs as commands open and save them, and what they name in them."""

import argparse
import sys
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

from half_fold.core.measure.problem import Problem

if TYPE_CHECKING:
    from half_fold.core.publication.records import Publication, Story
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.core.store.job import Job


def takes_job(parser: argparse.ArgumentParser) -> None:
    """The job is given first: its folder, or its file."""
    parser.add_argument("job", type=Path)


@contextmanager
def opened(path: Path, to_write: bool = True) -> "Iterator[Job]":
    """The job, with its own fonts known; let go of at the end. Problem where it cannot be opened."""
    from half_fold.core.store.job import open_job
    from half_fold.core.typesetting.faces.fonts import join_fonts

    job = open_job(path, to_write)
    try:
        if job.told_swept:
            print(job.told_swept, file=sys.stderr)
        join_fonts(job.publication, job.folder)
        yield job
    finally:
        job.close()


def read_job(path: Path) -> "Job":
    """The job as it stands, to be looked at alone. Problem where it cannot be opened."""
    with opened(path, to_write=False) as job:
        return job


def save(job: "Job", publication: "Publication", setter: "Setter | None" = None) -> None:
    """Save the job as a command made it, with all that follows from that, as in the window. Problem where it cannot be.

    A ``setter`` that has set the job already spares setting it again.
    """
    from half_fold.core.editing.door import apply_edit
    from half_fold.core.spread.setting.compose import Setter

    job.save(apply_edit(job.publication, lambda _: publication, job.pictures, setter or Setter()))


def stories_titled(publication: "Publication", title: str) -> "list[Story]":
    """The stories of that title, or all; at least one. Problem names those there are."""
    stories = [story for story in publication.stories if title in ("", story.title)]
    if not stories:
        known = ", ".join(f"“{story.title}”" for story in publication.stories) or "none"
        raise Problem(f"There is no story “{title}” in this job; there are {known}.")
    return stories


def pictures_named(job: "Job", files: Sequence[str]) -> list[str]:
    """The ids of pictures by their files. Problem where there is none such."""
    names = []
    for file in files:
        found = next((p for p in job.publication.pictures if file in (p.file, p.id)), None)
        if found is None:
            raise Problem(f"There is no picture “{file}” in this job; bring it in first.")
        names.append(found.id)
    return names

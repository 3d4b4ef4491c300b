"""Arrangements of pictures, ranked."""

import argparse
from collections.abc import Sequence
from typing import TYPE_CHECKING

from msgspec.structs import replace

from half_fold.commands.jobs import opened, pictures_named, save, takes_job
from half_fold.core.measure.problem import Problem

if TYPE_CHECKING:
    from half_fold.core.store.job import Job

USAGE = (
    (
        "arrange JOB PAGES [PICTURE ...] [--page] [--pin BLOCK=place|size] [--go-on WORDS] [--take N]",
        "arrangements of pictures over a spread, or over a page alone, ranked; with --story TITLE a story and "
        "pictures laid over all those pages",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("page")
    parser.add_argument("picture", nargs="*")
    parser.add_argument("--page", dest="alone", action="store_true")
    parser.add_argument("--story", default="")
    parser.add_argument("--go-on", nargs="+", action="extend", default=[])
    parser.add_argument("--pin", nargs="+", action="extend", default=[], metavar="BLOCK=place|size")
    parser.add_argument("--take", type=int, default=0)


def do(asked: argparse.Namespace) -> int:
    """Arrangements of pictures over a spread, or a page alone, the best first; one of them taken."""
    from half_fold.core.arrange.ask import arrangements_on, pins_of, take_arrangement
    from half_fold.core.arrange.manner import nudged
    from half_fold.core.arrange.reasons import arrangement_name, worked_cost
    from half_fold.core.plan.page_ranges import page_range

    with opened(asked.job, to_write=asked.take > 0 or bool(asked.story)) as job:
        pages = page_range(asked.page, len(job.publication.pages))
        if asked.story:
            return _feature(job, asked, pages)
        number = pages[0]
        publication = job.publication
        for words in asked.go_on:
            publication = replace(publication, manner=nudged(publication.manner, words))
        pictures = pictures_named(job, asked.picture)
        pins = pins_of(publication, number, asked.alone, dict(map(_pin, asked.pin)))
        found = arrangements_on(publication, job.pictures, number, (), pictures, asked.alone, pins)
        if asked.take:
            if asked.take > len(found):
                raise Problem("There is no arrangement of that number; take one of them by its own.")
            save(job, take_arrangement(job.publication, found[asked.take - 1])[0])  # its manner stays as it was
            print(arrangement_name(found[asked.take - 1]))
            return 0
        for turn, each in enumerate(found, 1):
            cost = worked_cost(each)
            print(f"{turn:2}  loses {cost.number}  {arrangement_name(each)}")
            for part in cost.parts or (cost,):
                print(f"      {part.name.lower()} {part.number}  {part.how}".rstrip())
        return 0


def _pin(words: str) -> tuple[str, str]:
    block, _, what = words.partition("=")
    if what not in ("place", "size"):
        raise Problem(f"“{words}” pins nothing; say BLOCK=place, or BLOCK=size.")
    return block, what


def _feature(job: "Job", asked: argparse.Namespace, pages: Sequence[int]) -> int:
    """A story and pictures over the spreads of some pages."""
    from half_fold.core.arrange.feature import fill_feature
    from half_fold.core.pictures.library.told import told_of_all
    from half_fold.core.publication.surgery import picture_of
    from half_fold.core.spread.setting.compose import Setter

    publication = job.publication
    story = next((s for s in publication.stories if asked.story in (s.title, s.id)), None)
    if story is None:
        raise Problem(f"There is no story “{asked.story}” in this job; bring it in first, or give its title.")
    pictures = pictures_named(job, asked.picture)
    told = told_of_all(job.pictures, [picture_of(publication, name) for name in pictures])
    made, words = fill_feature(publication, Setter(), pages, story.id, pictures, told)
    save(job, made)
    print(words)
    return 0

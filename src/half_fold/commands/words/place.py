"""Bring stories, pictures, faces and symbols into a job."""

import argparse
import sys
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from half_fold.commands.jobs import opened, save, takes_job
from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import in_one_line

if TYPE_CHECKING:
    from half_fold.core.publication.records import Publication
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.core.store.job import Job

USAGE = (
    (
        "place JOB --text FILE | --picture FILE | --font FILE | --symbol FILE.svg [...]",
        "bring in stories, pictures, faces and symbols",
    ),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--text", type=Path, nargs="+", action="extend", default=[])
    parser.add_argument("--picture", type=Path, nargs="+", action="extend", default=[])
    parser.add_argument("--font", type=Path, nargs="+", action="extend", default=[])
    parser.add_argument("--symbol", type=Path, nargs="+", action="extend", default=[])


def do(asked: argparse.Namespace) -> int:
    """What can be read comes in; each file that cannot is said, and keeps no other out."""
    from half_fold.core.pictures.library.folders import with_folders
    from half_fold.core.spread.setting.compose import Setter

    if not (asked.text or asked.picture or asked.font or asked.symbol):
        raise Problem("Nothing to place; give --text FILE, --picture FILE, --font FILE or --symbol FILE.svg.")
    said, refused = list[str](), list[str]()
    with opened(asked.job) as job:
        publication, setter = job.publication, Setter()
        for bring, paths in (
            (_place_font, asked.font),
            (_place_symbol, asked.symbol),
            (partial(_place_text, setter), asked.text),
            (_place_picture, with_folders(asked.picture)),
        ):
            for path in paths:
                try:
                    publication, words = bring(job, publication, path)
                    said += words
                except Problem as problem:
                    refused.append(in_one_line(f"half-fold: {problem}"))
        if publication is not job.publication:
            save(job, publication)
    print(*said, sep="\n", end="\n" if said else "")
    print(*refused, sep="\n", end="\n" if refused else "", file=sys.stderr)
    return 2 if refused else 0


def _place_font(job: "Job", publication: "Publication", path: Path) -> tuple["Publication", list[str]]:
    from half_fold.core.typesetting.faces.fonts import bring_font

    publication, font = bring_font(publication, job.folder, path)
    return publication, [f"{font.family} {font.style}: can be chosen for a role"]


def _place_symbol(job: "Job", publication: "Publication", path: Path) -> tuple["Publication", list[str]]:
    from half_fold.core.pictures.vector.symbols import add_symbol

    publication, symbol = add_symbol(publication, job.folder, path)
    return publication, [f"{symbol.name}: in words {{{symbol.name}}}, as a letter U+{ord(symbol.letter):04X}"]


def _place_text(
    setter: "Setter", _job: "Job", publication: "Publication", path: Path
) -> tuple["Publication", list[str]]:
    from half_fold.core.plan.order import pages_told
    from half_fold.core.spread.edits.placing import format_unlaid, has_pages_for_text, place_story
    from half_fold.core.typesetting.texts.reading import role_table
    from half_fold.core.typesetting.texts.text_in import read_text_file

    reading = read_text_file(path, role_table(publication), publication.language)
    publication, story = place_story(publication, setter, reading.title, tuple(reading.paragraphs))
    pages = sorted({column.page for column in setter.threads.flow(publication, story).columns})
    notes = [f"  {note}" for note in dict.fromkeys(reading.notes)]
    if not pages and not has_pages_for_text(publication):
        where = format_unlaid(publication, publication.stories[-1].title)
    else:
        where = pages_told(pages) if pages else "on no page yet, for its first line finds no room"
    return publication, [f"{reading.title}: {where}", *notes]


def _place_picture(job: "Job", publication: "Publication", path: Path) -> tuple["Publication", list[str]]:
    from half_fold.core.pictures.library.bring import bring_picture

    publication, picture = bring_picture(publication, job.pictures, path)
    size = "outlines" if picture.art else f"{picture.width} × {picture.height} px"
    left_out = f"; left out: {picture.left_out}" if picture.left_out else ""
    return publication, [f"{picture.file}: {size}, in the picture drawer{left_out}"]

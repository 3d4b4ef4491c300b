"""The ink list shown, taken in and given out, and palettes of pictures."""

import argparse
import json
from pathlib import Path

from half_fold.commands.jobs import opened, save, takes_job
from half_fold.core.inks.edits import said, uses_of_ink, with_new_inks
from half_fold.core.inks.exchange import give_inks, read_inks, take_inks
from half_fold.core.inks.numbers import ink_total
from half_fold.core.inks.palette import palette_of, readable_pairs
from half_fold.core.legibility.picking import add_picked, in_words, pick
from half_fold.core.legibility.reading import Surface
from half_fold.core.measure.length import counted, length
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import page_number
from half_fold.core.pictures.colour.colour import to_screen
from half_fold.core.pictures.library.bring import load_pixels, picture_file
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.records import Picture, Publication
from half_fold.core.publication.surgery import cover_blocks
from half_fold.core.spread.where.frames import page_frame_of
from half_fold.core.store.job import Job

PIXELS = 800  # the long way, that are read of a picture: a palette looks at fewer
COVER, EVERY = "cover", "all"
USAGE = (
    ("inks JOB [--json]", "the ink list; --give FILE.csv|.gpl writes it, --take FILE takes one in"),
    ("inks JOB --palette PICTURE|cover|all [--keep]", "inks found in pictures, and put into the list"),
    ("inks JOB --seen PAGE ACROSS DOWN [--keep]", "the ink of a place of a page, from its left and its head"),
)


def takes(parser: argparse.ArgumentParser) -> None:
    """What it is given behind its name."""
    takes_job(parser)
    parser.add_argument("--take", type=Path)
    parser.add_argument("--give", type=Path)
    parser.add_argument("--palette", default="")
    parser.add_argument("--seen", nargs=3, metavar=("PAGE", "ACROSS", "DOWN"))
    parser.add_argument("--circle", default="1mm")
    parser.add_argument("--keep", action="store_true")
    parser.add_argument("--json", action="store_true")


def do(asked: argparse.Namespace) -> int:
    """Do what is asked of a job's ink list; gives the exit status."""
    with opened(asked.job, to_write=asked.keep or asked.take is not None) as job:
        if asked.take is not None:
            save(job, take_inks(job.publication, read_inks(job.publication, asked.take)))
        if asked.palette:
            return _palette(job, asked)
        if asked.seen is not None:
            return _seen(job, asked)
        if asked.give is not None:
            give_inks(job.publication, asked.give)
            print(asked.give)
        elif asked.take is None:
            _list(job.publication, asked.json)
        return 0


def _list(publication: Publication, as_json: bool) -> None:
    uses = [len(list(uses_of_ink(publication, i.name))) for i in publication.inks]
    rows = [
        {"name": i.name, "stated": said(i), "total": ink_total(i), "used": used}
        for i, used in zip(publication.inks, uses, strict=True)
    ]
    if as_json:
        print(json.dumps(rows, ensure_ascii=False, indent=1))
        return
    for row, used in zip(rows, uses, strict=True):
        print(f"{row['name']:20} {row['stated']:22} {row['total']:5g} %  used in {counted(used, 'place')}")


def _pictures(publication: Publication, asked: str) -> list[Picture]:
    if asked == EVERY:
        return list(publication.pictures)
    if asked == COVER:
        held = {getattr(block.holds, "picture", "") for block in cover_blocks(publication)}
        return [picture for picture in publication.pictures if picture.id in held]
    found = [picture for picture in publication.pictures if picture.file == asked]
    if not found:
        raise Problem(f"There is no picture “{asked}” in this job; give the name of one, “{COVER}” or “{EVERY}”.")
    return found


def _palette(job: Job, asked: argparse.Namespace) -> int:
    """Show the palette of pictures, or put it into the list."""
    publication = job.publication
    images = [
        to_screen(load_pixels(picture_file(job.pictures, p), PIXELS)) for p in _pictures(publication, asked.palette)
    ]
    found = palette_of(publication, images)
    if asked.json:
        rows = [{"name": p.ink.name, "stated": said(p.ink), "area": round(p.area, 4)} for p in found]
        pairs = [
            {"one": one, "other": other, "contrast": round(ratio, 2)} for one, other, ratio in readable_pairs(found)
        ]
        print(json.dumps({"inks": rows, "readable": pairs}, ensure_ascii=False, indent=1))
    else:
        for proposal in found:
            print(f"{proposal.ink.name:20} {said(proposal.ink):16} {100 * proposal.area:4.0f} % of it")
    if asked.keep:
        save(job, with_new_inks(publication, [proposal.ink for proposal in found]))
    return 0


def _seen(job: Job, asked: argparse.Namespace) -> int:
    """Show what ink lies at a place of a page, or put it into the list."""
    publication = job.publication
    number, unit = page_number(publication, asked.seen[0]), publication.brief.unit
    across, down, circle = (length(each, unit).pt for each in (*asked.seen[1:], asked.circle))
    sheet = Surface(publication, job.pictures, spread_of(publication, number))
    place = page_frame_of(publication, number).trim.left + across, down
    found = pick(sheet, place, circle / 2)
    if asked.json:
        near = [{"name": each.name, "difference": each.difference} for each in found.near]
        own = {"name": found.name, "tint": found.tint, "bare": found.is_bare, "as_new": found.ink.name}
        print(json.dumps({**own, "stated": said(found.ink), "near": near}, ensure_ascii=False, indent=1))
    else:
        print(in_words(found))
        for each in found.near:
            print(f"  {each.name:20} {each.difference:5g} from it")
    if asked.keep:
        save(job, add_picked(publication, found)[0])
    return 0

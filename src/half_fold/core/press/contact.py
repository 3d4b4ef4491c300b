"""Contact sheets: a job's pictures small, in rows, each with its name and how large it prints, as a PDF."""

from collections.abc import Iterator, Sequence
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.brief.allowances import picture_ppi
from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import length, length_roughly
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.press.proving.prove import Proved
from half_fold.core.publication.places import Anchor, Floating, Stop
from half_fold.core.publication.records import (
    Block,
    Holds,
    HoldsDisplay,
    HoldsPicture,
    Page,
    Paragraph,
    Picture,
    Publication,
    Run,
)
from half_fold.core.publication.used import format_picture

ACROSS, DOWN = 4, 5  # pictures on an A4 sheet
LEFT_MM, TOP_MM, WIDE_MM, HIGH_MM = 14.0, 22.0, 42.0, 34.0
STEP_X_MM, STEP_Y_MM, UNDER_MM = 46.5, 51.0, 2.0
CONTACT_PPI = 200.0


def contact_job(publication: Publication, pictures: Sequence[Picture]) -> Publication:
    """A job of sheets with those pictures, as many to a sheet as there is room for. Problem where there are none."""
    if not pictures:
        raise Problem("There are no pictures to make a contact sheet of; bring some in first.")
    bare = start("one-sheet", publication.title)
    sheets = [pictures[at : at + ACROSS * DOWN] for at in range(0, len(pictures), ACROSS * DOWN)]
    pages = tuple(
        Page(id=f"p{number}", master=bare.masters[0].name, things=tuple(_sheet(publication, number, some, len(sheets))))
        for number, some in enumerate(sheets, 1)
    )
    return replace(bare, pages=pages, pictures=publication.pictures)


def write_contact(publication: Publication, folder: Path, out: Path, pictures: Sequence[Picture]) -> Proved:
    """Write the contact sheets; gives what was read back out of the file."""
    return press(contact_job(publication, pictures), folder, out, "pages", ppi=CONTACT_PPI)


def _sheet(publication: Publication, number: int, pictures: Sequence[Picture], of: int) -> Iterator[Block]:
    title = f"{publication.title}: pictures, {number} of {of}"
    yield _block(f"t{number}", LEFT_MM, 9.0, 180.0, 8.0, _words(title))
    for at, picture in enumerate(pictures):
        left, top = LEFT_MM + at % ACROSS * STEP_X_MM, TOP_MM + at // ACROSS * STEP_Y_MM
        yield _block(f"b{number}x{at}", left, top, WIDE_MM, HIGH_MM, HoldsPicture(picture=picture.id, scale="fit"))
        well = picture.width / picture_ppi(publication)[0] * 25.4
        size = "outlines" if picture.art else length_roughly(well * MM, publication.brief.unit)
        said = ", ".join(filter(None, (picture.worth, size)))
        under = top + HIGH_MM + UNDER_MM
        yield _block(f"n{number}x{at}", left, under, WIDE_MM, 9.0, _words(format_picture(picture), said))


def _block(name: str, left: float, top: float, wide: float, high: float, holds: Holds) -> Block:
    across = Anchor(stop=Stop(kind="trim", off=length(f"{-left:g}mm")))
    down = Anchor(stop=Stop(kind="trim", off=length(f"{-top:g}mm")))
    place = Floating(across=across, down=down, width=length(f"{wide:g}mm"), height=length(f"{high:g}mm"))
    return Block(id=name, place=place, holds=holds)


def _words(*lines: str) -> HoldsDisplay:
    return HoldsDisplay(paragraphs=tuple(Paragraph(role="caption", runs=(Run(text=line),)) for line in lines))

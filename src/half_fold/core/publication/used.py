"""What is used of a job: the pictures that lie anywhere, in which inks."""

from collections.abc import Iterable
from itertools import chain

from msgspec.structs import replace

from half_fold.core.measure.kept import kept
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import (
    Block,
    Cover,
    HoldsPicture,
    Insert,
    Look,
    Master,
    Page,
    Picture,
    Publication,
)
from half_fold.core.publication.surgery import blocks_of_cards, blocks_of_cover


def used_pictures(publication: Publication) -> set[str]:
    """The ids of the pictures that lie on a page or on the cover."""
    return _used(publication.pages, publication.cover, publication.inserts, publication.looks)


def _used(pages: tuple[Page, ...], cover: Cover, inserts: tuple[Insert, ...], looks: tuple[Look, ...]) -> set[str]:
    blocks = chain((block for page in pages for block in page.blocks), blocks_of_cards(inserts))
    return _held(blocks) | _of_cover(cover) | {look.picture for look in looks if look.picture}


def _held(blocks: Iterable[Block]) -> set[str]:
    """The ids of the pictures that blocks hold."""
    return {block.holds.picture for block in blocks if isinstance(block.holds, HoldsPicture)}


def _of_cover(cover: Cover) -> set[str]:
    """The ids of the pictures in its blocks and on its spine."""
    used = _held(blocks_of_cover(cover))
    used |= {piece.picture for piece in cover.pieces} | {cover.row_picture}
    return used - {""}


def laid_pictures(publication: Publication) -> tuple[Picture, ...]:
    """The pictures that lie on pages, in furniture or on the cover: the same tuple as long as these stay the same.

    What is drawn follows from them; pictures that only wait in the drawer change nothing.
    """
    looks, cover, inserts = publication.looks, publication.cover, publication.inserts
    return _once(*_laid(publication.pages, publication.masters, cover, inserts, looks, publication.pictures))


@kept(8)
def _laid(
    pages: tuple[Page, ...],
    masters: tuple[Master, ...],
    cover: Cover,
    inserts: tuple[Insert, ...],
    looks: tuple[Look, ...],
    pictures: tuple[Picture, ...],
) -> tuple[Picture, ...]:
    used = _used(pages, cover, inserts, looks)
    used |= {piece.picture for master in masters for piece in master.furniture}
    return tuple(picture for picture in pictures if picture.id in used)


@kept(8)
def _once(*pictures: Picture) -> tuple[Picture, ...]:
    return pictures


PICTURE_INKS = ("", "black", "four", "kept", "converted", "held")


def with_inks(publication: Publication, file: str, inks: str) -> Publication:
    """The picture of that file, and what was cut out of it, printing as said. Problem where there is none."""
    if inks not in PICTURE_INKS:
        raise Problem(f"“{inks}” is no way to print a picture; there are {', '.join(PICTURE_INKS[1:])}, or nothing.")
    found = [picture for picture in publication.pictures if picture.file == file]
    if not found:
        raise Problem(f"There is no picture “{file}” in this job; bring it in first.")
    if all(picture.inks == inks for picture in found):
        return publication
    changed = (replace(p, inks=inks) if p.file == file else p for p in publication.pictures)
    return replace(publication, pictures=tuple(changed))


def usual_ink(publication: Publication, wanted: str) -> str:
    """An ink for what is newly made: the one of that name, or the first there is."""
    return wanted if any(ink.name == wanted for ink in publication.inks) else publication.inks[0].name


def format_picture(picture: Picture) -> str:
    """What a picture is called: its file, and whether it is a cut-out of that."""
    return f"{picture.file}, cut out" if picture.mask else picture.file

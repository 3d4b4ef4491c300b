"""Captions: words that know their picture, say what is told of it, and keep to its side; and the list of credits."""

from collections.abc import Iterator
from typing import get_args

from msgspec.structs import replace

from half_fold.core.measure.entry import MM
from half_fold.core.measure.kept import Keeper
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.plan.page_ranges import format_range
from half_fold.core.plan.spreads import spread_of
from half_fold.core.publication.places import ANYWHERE
from half_fold.core.publication.records import (
    Block,
    HoldsDisplay,
    HoldsPicture,
    Paragraph,
    Picture,
    Publication,
    Run,
    Side,
)
from half_fold.core.publication.surgery import (
    every_block,
    fresh_id,
    page_of_block,
    picture_of,
    thing_ids,
    with_thing_anywhere,
    with_things,
)
from half_fold.core.publication.used import laid_pictures
from half_fold.core.spread.setting.gathered import gathered
from half_fold.core.spread.where.frames import block_box, frames_of, page_frame_of, thing_hull, things_on
from half_fold.core.spread.where.reaching import in_rect, put_in

SIDES: tuple[Side, ...] = get_args(Side)
GAP_MM, DEEP_MM, WIDE_MM, NEAR_MM = 1.5, 11.0, 38.0, 0.01  # off the picture; how deep one lies; how wide one beside it
_kept: Keeper[Block] = Keeper(400)


def picture_block(publication: Publication, block: Block) -> Block | None:
    """The block of the picture that words are the caption of; None where they are of none, or that has gone."""
    if not block.of:
        return None
    found = next((each for _, _, each in every_block(publication) if each.id == block.of), None)
    return found if found is not None and isinstance(found.holds, HoldsPicture) else None


def asks_for_captions(block: Block) -> bool:
    """Whether words are to be filled in with what is said of pictures."""
    return isinstance(block.holds, HoldsDisplay) and any("{c" in each.text for each in block.holds.paragraphs)


def captioned(publication: Publication, block: Block) -> Block:
    """The block with {caption} and {credit} said of the picture it is the caption of; itself where it asks for none.

    {captions} are those of the whole spread, told by where they lie; {credits} those of the job.
    """
    if not asks_for_captions(block):
        return block
    of = picture_block(publication, block)
    holds = of.holds if of is not None else None
    picture = picture_of(publication, holds.picture) if isinstance(holds, HoldsPicture) else None
    follows = block, picture, publication.pages, laid_pictures(publication), publication.brief, publication.masters
    return _kept.of(follows, lambda: _said(publication, block, picture))


def _said(publication: Publication, block: Block, picture: Picture | None) -> Block:
    words = {
        "{caption}": picture.caption if picture is not None else "",
        "{credit}": picture.credit if picture is not None else "",
        "{credits}": credits(publication),
        "{captions}": gathered(publication, block),
    }
    assert isinstance(block.holds, HoldsDisplay)
    made = []
    for paragraph in block.holds.paragraphs:
        runs = tuple(_filled(run, words) for run in paragraph.runs)
        if any(run.text for run in runs) or not any(name in paragraph.text for name in words):
            made.append(replace(paragraph, runs=runs))
    return replace(block, holds=replace(block.holds, paragraphs=tuple(made)))


def _filled(run: Run, words: dict[str, str]) -> Run:
    text = run.text
    for name, value in words.items():
        text = text.replace(name, value)
    return replace(run, text=text)


def credits(publication: Publication) -> str:
    """Who is credited for the pictures that are laid, by name, with the pages: ``Mara Holt 4, 12-13; Ivo Penn 7``."""
    pages: dict[str, set[int]] = {}
    for index, _, block in every_block(publication):
        if isinstance(block.holds, HoldsPicture):
            credit = picture_of(publication, block.holds.picture).credit
            if credit:
                pages.setdefault(credit, set()).add(index + 1)
    return "; ".join(f"{name} {format_range(tuple(sorted(on)))}" for name, on in sorted(pages.items()))


def tell_of_picture(publication: Publication, picture: str, field: str, text: str) -> Publication:
    """A picture with another ``caption`` or ``credit``, wherever it lies. Problem where it has no such field."""
    if field not in ("caption", "credit"):
        raise Problem(f"A picture has no “{field}” of its own.")
    words = " ".join(text.split())
    pictures = tuple(replace(p, **{field: words}) if p.id == picture else p for p in publication.pictures)
    return replace(publication, pictures=pictures) if pictures != publication.pictures else publication


# Where a caption lies -------------------------------------------------------------------------------


def captions_of(publication: Publication, name: str) -> list[Block]:
    """The blocks that are captions of a picture block."""
    return [block for _, _, block in every_block(publication) if block.of == name]


def give_caption(publication: Publication, name: str, side: str = "") -> tuple[Publication, str]:
    """A caption for a picture block, on a side of it or where there is room; gives its id.

    Problem where the block holds no picture.
    """
    index, page, block = page_of_block(publication, name)
    if not isinstance(block.holds, HoldsPicture):
        raise Problem("Only a picture has a caption; choose one.")
    chosen = next((each for each in SIDES if each == side and each), None) or _free_side(publication, index + 1, block)
    paragraphs = (
        Paragraph(role="caption", runs=(Run(text="{caption}"),)),
        Paragraph(role="credit", runs=(Run(text="{credit}"),)),
    )
    made = Block(
        id=fresh_id("b", thing_ids(publication)),
        place=in_rect(
            ANYWHERE, caption_place(publication, index + 1, block, chosen), frames_of(publication, index + 1)
        ),
        holds=HoldsDisplay(paragraphs=paragraphs),
        of=name,
        beside=chosen,
    )
    return with_things(publication, page.id, lambda things: (*things, made)), made.id


def caption_place(publication: Publication, number: int, block: Block, side: Side, size: Rect | None = None) -> Rect:
    """Where a caption lies on a side of a picture on page ``number``: as long as that, or of a ``size`` of its own."""
    box, frame = block_box(publication, number, block), page_frame_of(publication, number)
    gap, deep, wide = GAP_MM * MM, DEEP_MM * MM, WIDE_MM * MM
    if size is not None:
        deep, wide = size.height, size.width
    left, right = max(box.left, frame.area.left), min(box.right, max(frame.area.right, box.left + wide))
    if side in ("under", "over"):
        top = box.bottom + gap if side == "under" else box.top - gap - deep
        return Rect(left, top, left + wide if size is not None else max(right, left + 10 * MM), top + deep)
    at = box.right + gap if side == "right" else box.left - gap - wide
    top = box.bottom - (size.height if size is not None else min(box.height, 3 * deep))
    return Rect(at, top, at + wide, box.bottom)


def _free_side(publication: Publication, number: int, block: Block) -> Side:
    """The side with room inside the trim and least in its way; under it where all are alike."""
    trim = page_frame_of(publication, number).trim.grown(-publication.brief.safe.pt)
    others = [
        thing_hull(publication, on, thing)
        for on, thing in things_on(publication, spread_of(publication, number))
        if thing.id != block.id
    ]

    def cost(side: Side) -> float:
        box = caption_place(publication, number, block, side)
        outside = 0.0 if box.clipped(trim) == box else box.width * box.height
        return outside * 10 + sum(max(0.0, c.width) * max(0.0, c.height) for c in map(box.clipped, others))

    ways: tuple[Side, ...] = ("under", "right", "left", "over")
    return min(ways, key=cost)


def _moved(publication: Publication, caption: Block) -> Publication:
    """A caption on its side of the picture again."""
    of = picture_block(publication, caption)
    if of is None or not caption.beside or caption.locked:
        return publication
    index, _, _ = page_of_block(publication, of.id)
    own_index, _, _ = page_of_block(publication, caption.id)
    now = block_box(publication, own_index + 1, caption)
    wanted = caption_place(publication, index + 1, of, caption.beside, now)
    if max(abs(a - b) for a, b in zip(now, wanted, strict=True)) < NEAR_MM * MM:
        return publication
    return put_in(publication, caption.id, wanted)


def set_side(publication: Publication, name: str, side: str) -> Publication:
    """A caption on another side of its picture, or ("") where the hand puts it. Problem where there is no such side."""
    _, _, block = page_of_block(publication, name)
    chosen = next((each for each in SIDES if each == side), None)
    if chosen is None:
        raise Problem(f"A caption lies {', '.join(each for each in SIDES if each)}, or where the hand puts it.")
    made = with_thing_anywhere(publication, replace(block, beside=chosen))
    return _moved(made, page_of_block(made, name)[2])


def keep_captions(before: Publication, after: Publication) -> Publication:
    """The document with captions on their sides of pictures that were changed by an edit."""
    for caption in list(_asked(before, after)):
        try:
            after = _moved(after, caption)
        except Problem:  # there is no room on that side: it stays where it was
            continue
    return after


def _asked(before: Publication, after: Publication) -> Iterator[Block]:
    """The captions on pages that are not what they were, and of all where what places follow from has changed."""
    if after.pages is before.pages and (after.brief, after.masters) == (before.brief, before.masters):
        return
    same = after.brief is before.brief and after.masters is before.masters and after.roles is before.roles
    was = {page.id: page for page in before.pages}
    for page in after.pages:
        if not (same and was.get(page.id) is page):
            yield from (block for block in page.blocks if block.of and block.beside)

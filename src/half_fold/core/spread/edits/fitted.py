"""Blocks made as deep as the words in them."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.measure.length import of_points
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, HoldsDisplay, Publication
from half_fold.core.publication.surgery import block_named, page_of_block
from half_fold.core.spread.setting.display_text import display_marks
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.where.frames import block_box
from half_fold.core.spread.where.reaching import set_measure
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.lines.composer import Composer

DEEP = 20_000.0  # points: so deep that no words are left over
NEAR = 0.02  # points that a depth is told to


def fit_to_words(publication: Publication, composer: Composer, names: Sequence[str]) -> Publication:
    """Each of those blocks as deep as its words, its upper edge and its width as they are.

    Problem where none of them holds words by themselves, or where they lie letter under letter.
    """
    words = [name for name in names if isinstance(block_named(publication, name).holds, HoldsDisplay)]
    if not words:
        raise Problem("Only words that stand by themselves have a depth to fit; choose some.")
    for name in words:
        index, _, block = page_of_block(publication, name)
        box = block_box(publication, index + 1, block)
        depth = depth_of_words(composer, publication, block, box)
        if abs(depth - box.height) > NEAR:
            publication = set_measure(publication, name, "height", of_points(depth).typed)
    return publication


def depth_of_words(composer: Composer, publication: Publication, block: Block, box: Rect) -> float:
    """How deep the words of a block are set in its width, with its inset, in points: to the descenders of the last."""
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    if holds.lies == "letter under letter":
        raise Problem("Letters one under another fill the block that they have; draw its edge instead.")
    inset = block.inset.pt if block.inset is not None else 0.0
    at_head = replace(block, holds=replace(holds, stands="head"))
    deep = box._replace(bottom=box.top + DEEP)
    marks = list(display_marks(composer, publication, at_head, deep).marks)
    if not marks:
        raise Problem("There are no words in it yet; write some first.")
    if holds.even or holds.lies != "straight":
        return ink_of(marks).bottom - box.top + inset
    lowest = max(float(mark.baseline - face(mark.face).descender * mark.size) for mark in marks)
    return lowest - box.top + inset

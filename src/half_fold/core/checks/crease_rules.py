"""Words that lie on a crease of the cover, of its flaps or of a bound-in leaf, or on a line along which one is torn."""

from collections.abc import Iterator

from half_fold.core.apart.cards import card_of
from half_fold.core.apart.sides import Side, page_name, side_of, sides_of, spread_of_side
from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import FOLD, Finding
from half_fold.core.cover.flat import side_flat
from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.measure.entry import MM
from half_fold.core.plan.inserts import faces
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import page_of_block
from half_fold.core.spread.setting.evened import ink_of
from half_fold.core.spread.where.frames import block_box

Line = tuple[float, str]  # where it lies across its side (points), and what it is
_TOUCHES = 0.02 * MM


def words_on_a_crease(context: Context) -> Iterator[Finding]:
    """Letters across a crease, a cut or a perforation, told once a block.

    What runs over the fold that two pages share is found as it is in the copy.
    """
    for side in sides_of(context.publication):
        lines = creases(context.publication, side)
        if lines:
            yield from _on_side(context, side, lines)


def creases(publication: Publication, side: Side) -> list[Line]:
    """The lines across a side at which it is folded, cut or torn, but for the fold between its two pages."""
    card, flat = card_of(publication, side), side_flat(publication, side)
    if card is None or flat.back is None:
        middle = {flat.spine.left, flat.spine.right} if flat.spine is not None else set()
        told = [(x, "the fold of the spine" if x in middle else "the fold of a flap") for x in flat.folds]
        return [(x, what) for x, what in told if abs(x) > _TOUCHES]
    found = []
    for trim, face in zip((flat.front, flat.back), faces(publication, card), strict=True):
        for x in face.lines:
            what = "the fold of the leaf" if x == face.fold else "the cut" if x == face.cut else "a perforation"
            found.append((trim.left + x * MM, what))
    return found


def _on_side(context: Context, side: Side, lines: list[Line]) -> Iterator[Finding]:
    own = side_of(context.publication, side)
    named = {block.id for page in own.pages for block in page.blocks}
    runs: dict[str, list[Glyphs]] = {}
    for mark in leaves(context.setter.spread(own, spread_of_side(context.publication, side)).marks):
        if isinstance(mark, Glyphs) and len(mark.gids) and mark.origin.block in named:
            runs.setdefault(mark.origin.block, []).append(mark)
    for block, said in runs.items():
        over = next((what for x, what in lines if any(_lies_on(run, x) for run in said)), None)
        if over is not None:
            yield _finding(context.publication, own, side, block, over)


def _lies_on(run: Glyphs, x: float) -> bool:
    ink = ink_of([run])
    return ink.left < x - _TOUCHES and ink.right > x + _TOUCHES


def _finding(publication: Publication, own: Publication, side: Side, name: str, what: str) -> Finding:
    index, _, block = page_of_block(own, name)
    why = "Ink cracks along it, and letters are read in two halves" if "fold" in what else "Letters are parted there"
    return Finding(
        "words on a crease",
        FOLD,
        f"Words lie on {what}",
        f"{why}; draw their block to one side of it.",
        False,
        index + 1,
        name,
        block_box(own, index + 1, block),
        side=side,
        place=page_name(publication, side, index + 1),
    )

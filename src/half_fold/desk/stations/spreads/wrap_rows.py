"""The rows of how text keeps off a block."""

from collections.abc import Callable

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Block, HoldsPicture, HoldsStory, Publication, Wrap
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.edits import set_wrap
from half_fold.desk.kit.rows import Edit, Row, Section
from half_fold.desk.workpiece import Workpiece

SHAPES = [("none", "runs under it"), ("box", "round its box"), ("ellipse", "round an ellipse")]
OUTLINE = ("outline", "round its cut-out")
SIDES = [("larger", "the wider side"), ("left", "left of it"), ("right", "right of it"), ("both", "both sides")]


def wrap_section(session: Workpiece, block: Block) -> list[Section]:
    """How text of stories runs past a block; a block of a story has no such rows itself."""
    if isinstance(block.holds, HoldsStory) or not session.takes_stories:
        return []
    wrap, shapes = block.wrap, list(SHAPES)
    if isinstance(block.holds, HoldsPicture) and picture_of(session.publication, block.holds.picture).outline:
        shapes.append(OUTLINE)
    now = wrap.shape if wrap is not None else "none"

    def put(make: Callable[[Wrap, str], Wrap | None], said: str) -> Edit:
        def change(publication: Publication, text: str) -> Publication:
            return set_wrap(publication, block.id, make(wrap or Wrap(), text))

        return lambda text: session.edit(lambda p: change(p, text), said)

    def shape(old: Wrap, text: str) -> Wrap | None:
        return None if text == "none" else replace(old, shape=text)

    def offset(old: Wrap, text: str) -> Wrap:
        away = length(text, session.unit)
        if away.pt < 0:
            raise Problem("Text cannot be kept off by less than nothing; type a measure of 0 or more.")
        return replace(old, offset=away)

    rows = [Row("Text", dict(shapes).get(now, now), "of stories on this spread", "", now, put(shape, "wrap"), shapes)]
    if wrap is not None:
        side = put(lambda old, text: replace(old, side=text), "side of the wrap")
        rows.append(Row("Runs", dict(SIDES)[wrap.side], "", "", wrap.side, side, SIDES))
        rows.append(Row("Kept off by", wrap.offset.typed, "", "", wrap.offset.typed, put(offset, "offset of the wrap")))
    return [Section("Text round it", "", rows)]

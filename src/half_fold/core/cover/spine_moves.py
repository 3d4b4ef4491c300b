"""What another spine does to a cover: said once an edit has changed it, since nobody looks at the cover meanwhile."""

from half_fold.core.apart.sides import side_of, spread_of_side
from half_fold.core.brief.spine import spine
from half_fold.core.brief.wrap import cover_panels, has_cover
from half_fold.core.cover.over_folds import over_folds
from half_fold.core.cover.spine_text import spine_text
from half_fold.core.measure.entry import MM, unit_name
from half_fold.core.measure.length import figure, format_length
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Publication
from half_fold.core.spread.where.frames import blocks_on, hull_of
from half_fold.core.typesetting.lines.composer import Composer

NEAR = 0.01  # points


def format_spine_moves(before: Publication, after: Publication) -> str:
    """What an edit that changed the spine did to what lies on the cover, in a sentence; "" where it did not."""
    if before.brief is after.brief and before.pages is after.pages and before.cover is after.cover:
        return ""
    if not (has_cover(before) and has_cover(after)) or cover_panels(before).what != cover_panels(after).what:
        return ""
    was, now = spine(before), spine(after)
    unit = after.brief.unit
    if was is None or now is None or abs(was.value - now.value) < NEAR / MM:
        return ""
    parts = [f"The spine is {now.to(unit).text} instead of {was.to(unit).text}"]
    then, there = _places(before), _places(after)
    moves = [_apart(then[name], box) for name, box in there.items() if name in then]
    moved = [by for by in moves if by > NEAR]
    if moved:
        parts.append(f"{_counted(len(moved))} of the cover moved with it by {_far(moved, unit)}")
    composer = Composer()
    sizes = spine_text(composer, before).size, spine_text(composer, after).size
    if all(sizes) and abs(sizes[0] - sizes[1]) > 0.05:
        parts.append(f"its words are set in {figure(sizes[1], 1)} pt instead of {figure(sizes[0], 1)}")
    over = _over_folds(after) - _over_folds(before)
    parts.append(f"now {', '.join(sorted(over))} lies over a fold" if over else "nothing lies over a fold that did not")
    return f"{'; '.join(parts)}."


def _counted(count: int) -> str:
    return "one thing" if count == 1 else f"{count} things"


def _apart(one: Rect, other: Rect) -> float:
    """How far the edges that went farthest are from one another."""
    return max(abs(one.left - other.left), abs(one.right - other.right))


def _far(moves: list[float], unit: str) -> str:
    """How far, in a unit: one figure where all went as far."""
    low, high = format_length(min(moves), unit), format_length(max(moves), unit)
    return high if low == high else f"{low.removesuffix(f' {unit_name(unit)}')} to {high}"


def _places(publication: Publication) -> dict[str, Rect]:
    """Where everything of the outside lies, from the left fold of the spine on."""
    side = side_of(publication, "outside")
    return {block.id: hull_of(side, number, block) for number, _, block in blocks_on(side, spread_of_side(publication))}


def _over_folds(publication: Publication) -> set[str]:
    """What runs over a fold of the spine."""
    return {name for each in over_folds(publication) for name in each.what}

"""Rules about what lies on what: words on words, things behind others, and words in the ink of their ground."""

from collections.abc import Iterator, Sequence
from itertools import combinations

import numpy as np
import numpy.typing as npt

from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import REFUSED, UNREAD, Finding
from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import Glyphs, Mark, MarkGroup, Origin, Path, PictureMark, Shape, Veil, leaves
from half_fold.core.drawing.tone import WHITE, Tone, tones
from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import counted
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import ink_in_lab
from half_fold.core.pictures.colour.treat import parse_drawn_key
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.surgery import picture_of

LETTER_HIGH = 0.45  # of the size: the height of small letters, within which two lines of words surely collide
LEAST_OVERLAP = 0.5  # points
LEAST_DIFFERENCE = 12.0  # CIE 1976 difference of two inks: below it words cannot be told from their ground
Quads = npt.NDArray[np.float64]


def _words_box(run: Glyphs) -> tuple[float, float, float, float]:
    left, right = run.reach
    return left, run.baseline - LETTER_HIGH * run.size, right + LETTER_HIGH * run.size, run.baseline


def _says(run: Mark) -> bool:
    return isinstance(run, Glyphs) and run.turn is None and _has_words(run)


def _has_words(run: Glyphs) -> bool:
    return bool("".join(run.texts).strip())


def _corners(run: Glyphs) -> list[tuple[float, float]]:
    """The four corners of its words, round about, where they lie."""
    left, top, right, bottom = _words_box(run)
    corners = [(left, top), (right, top), (right, bottom), (left, bottom)]
    return corners if run.turn is None else [run.turn.of(x, y) for x, y in corners]


def words_of(run: Glyphs) -> Rect | None:
    """The upright rectangle round the words of a run, where they lie; None where it has none."""
    if not _has_words(run):
        return None
    corners = np.array(_corners(run))
    return Rect(*map(float, (*corners.min(0), *corners.max(0))))


def _by_origin(marks: Sequence[Mark]) -> dict[Origin, Quads]:
    """The words of each block as quadrangles, an array of shape (runs, 4, 2); of furniture too."""
    found: dict[Origin, list[list[tuple[float, float]]]] = {}
    for mark in leaves(marks):
        if isinstance(mark, Glyphs) and _has_words(mark):
            found.setdefault(mark.origin, []).append(_corners(mark))
    return {origin: np.array(each) for origin, each in found.items()}


def _collide(some: Quads, others: Quads) -> bool:
    """Whether a quadrangle of one overlaps one of the others by more than a hair.

    Two that do not overlap are parted by a line along a side of one of them.
    """
    low = np.maximum(some.min(1)[:, None], others.min(1)[None])
    high = np.minimum(some.max(1)[:, None], others.max(1)[None])
    near = np.argwhere(((high - low) > LEAST_OVERLAP).all(2))
    one, other = some[near[:, 0]], others[near[:, 1]]
    sides = np.stack([quads[:, end] - quads[:, 0] for quads in (one, other) for end in (1, 3)], 1)
    ways = sides / np.maximum(np.linalg.norm(sides, axis=2, keepdims=True), 1e-9)
    along, across = ways @ one.transpose(0, 2, 1), ways @ other.transpose(0, 2, 1)
    depth = np.minimum(along.max(2), across.max(2)) - np.maximum(along.min(2), across.min(2))
    return bool((depth > LEAST_OVERLAP).all(1).any())


def words_on_words(context: Context) -> Iterator[Finding]:
    """Words of one block that lie on the words of another, or on furniture."""
    for _, marks in context.lists:
        for (one, some), (other, others) in combinations(_by_origin(marks).items(), 2):
            blocks = [each.block for each in (other, one) if each.block in context.page_of]
            if not blocks or not _collide(some, others):
                continue
            name, what = blocks[0], "another block" if len(blocks) > 1 else "furniture"
            why = "Neither can be read; move one, or let the text run round it."
            where = context.page_of[name], name, context.box_of[name]
            yield Finding("words on words", UNREAD, f"Words lie on those of {what}", why, False, *where)


def _covers(context: Context, mark: Mark) -> Rect | None:
    """What a mark hides of all that lies behind it."""
    if isinstance(mark, PictureMark):
        is_whole = mark.affine is None and mark.outline is None
        name, treatment = parse_drawn_key(mark.picture)
        is_partly_seen = treatment is not None and treatment.seen is not None
        sees_through = is_partly_seen or picture_of(context.publication, name).has_alpha
        return mark.seen if is_whole and not sees_through else None
    return mark.rect if isinstance(mark, Shape) and mark.fill is not None else None


def hidden(context: Context) -> Iterator[Finding]:
    """Words, a code or a picture behind what is laid in front of it."""
    for _, marks in context.lists:
        covers: list[tuple[Rect, Origin]] = []
        lost: dict[str, int] = {}
        seen: set[str] = set()
        for mark in reversed(marks):
            box = _box_of(mark)
            behind = box is not None and any(cover.clipped(box) == box for cover, by in covers if by != mark.origin)
            block = mark.origin.block
            if block in context.page_of and box is not None:
                lost.update({block: lost.get(block, 0) + _words(mark)}) if behind else seen.add(block)
            cover = _covers(context, mark)
            if cover is not None:
                covers.append((cover, mark.origin))
        for block, words in lost.items():
            if words or block not in seen:
                yield _behind(context, block, words, block not in seen)


def _box_of(mark: Mark) -> Rect | None:
    if isinstance(mark, Glyphs):
        return Rect(*_words_box(mark)) if _says(mark) else None
    if isinstance(mark, PictureMark):
        return mark.seen
    return mark.rect if isinstance(mark, Shape) else None


def _words(mark: Mark) -> int:
    return len("".join(mark.texts).split()) if isinstance(mark, Glyphs) else 0


def _behind(context: Context, block: str, words: int, wholly: bool) -> Finding:
    number, box = context.page_of[block], context.box_of[block]
    if kind_of(context.holds_of[block]).is_scanned:
        why = "What lies in front of it hides it from the scanner; bring it nearer."
        return Finding("hidden", REFUSED, "The barcode lies behind something", why, True, number, block, box)
    what = counted(words, "word") if words else "It"
    verb = "lie" if words > 1 else "lies"
    message = f"{what} {verb} behind what is in front" if words or wholly else ""
    why = "It would be set and never seen; bring the block nearer, or move what covers it."
    return Finding("hidden", UNREAD, message, why, bool(words), number, block, box)


def words_in_their_ground(context: Context) -> Iterator[Finding]:
    """Words in an ink that cannot be told from what they stand on: white on white paper, or an ink on itself."""
    for spread, marks in context.lists:
        told: set[Origin] = set()
        behind: list[Mark] = []
        for mark in marks:
            if not isinstance(mark, Glyphs):
                behind.append(mark)
                continue
            if mark.origin in told or not _says(mark):
                continue
            ground = _ground(behind, Rect(*_words_box(mark)), context.ground)
            if ground is not None and all(_difference(tone, ground) < LEAST_DIFFERENCE for tone in tones(mark.colour)):
                told.add(mark.origin)
                yield _lost(context, spread, mark, ground)


def _ground(behind: Sequence[Mark], box: Rect, bare: Tone | None) -> Tone | None:
    """The one ink that words in ``box`` stand on; None where that is a picture, or more than one."""
    for mark in reversed(behind):
        if isinstance(mark, PictureMark | Path | MarkGroup | Veil) and bounds(mark).meets(box):
            return None
        if isinstance(mark, Shape) and mark.fill is not None and mark.rect.meets(box):
            return mark.fill if mark.rect.clipped(box) == box else None
    return bare


@kept(400)
def _difference(one: Tone, other: Tone) -> float:
    return float(np.linalg.norm(np.subtract(ink_in_lab(one), ink_in_lab(other))))


def _lost(context: Context, spread: Spread, run: Glyphs, ground: Tone) -> Finding:
    on = "bare paper" if ground == WHITE else "a panel of nearly the same ink"
    message = f"Words stand on {on} and cannot be told from it"
    why = "Give them an ink that stands off from their ground."
    block = run.origin.block
    number = context.page_of.get(block, spread.numbers[0])
    return Finding("words in their ground", UNREAD, message, why, True, number, block, context.box_of.get(block))

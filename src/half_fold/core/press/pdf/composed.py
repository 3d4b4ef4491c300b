"""What a page is composed of, in the terms in which a reader of the file finds it: to be held against that."""

from collections.abc import Callable, Sequence
from itertools import compress, groupby, pairwise
from operator import itemgetter
from typing import NamedTuple
from zlib import crc32

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import (
    Floats,
    Glyphs,
    Line,
    Mark,
    MarkGroup,
    Origin,
    Path,
    PictureMark,
    Shape,
    Stroke,
    Veil,
    passes,
)
from half_fold.core.drawing.overprint import USUAL, Overprint
from half_fold.core.drawing.said import figure_of, figures_of, text_of_all
from half_fold.core.drawing.tone import Gradient, Paint, Tone
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.press.pdf.content import MASKED, state_name, veil_name
from half_fold.core.press.pdf.paints import shading, spot_name
from half_fold.core.press.pdf.reach import ABOVE, AFTER, BEFORE, BELOW, touched_area
from half_fold.core.press.pdf.text_groups import TextGroup, part_by_clip

Drawn = tuple[str, list[float]]
Named = Callable[[PictureMark | MarkGroup, Rect], tuple[str, PictureMark | MarkGroup]]
AREA, EDGE, RULE, PICTURE, PATH, STATE, FORM = "area", "edge", "rule", "picture", "path", "state", "form"
SOFT = "veil"
NO_INK = Tone()
BOX = "\uffff"  # stands for a letter that the face has not


START, FACTOR, BITS = 2166136261, 16777619, 0x7FFFFFFF


def hashed(name: str) -> int:
    """A figure that stands for a name."""
    value = START
    for octet in name.encode():
        value = ((value ^ octet) * FACTOR) & BITS
    return value


class Unproved(Problem):
    """What was made is not what was set: a fault of the program, not of the job."""

    def __init__(self, where: str, what: str) -> None:
        self.where, self.what = where, what.replace("\n", " ")
        super().__init__(
            f"The PDF was not kept: {where} is not what was set ({what}); nothing was left in its place. "
            "Please report this as a fault of the program."
        )


class Composed(Struct, frozen=True, array_like=True):
    """A page as it was composed, back to front; places in points from the left foot of its sheet.

    ``text`` is what its glyphs say, a line end between lines; ``gids`` and ``places`` (x and y of each) are octets of
    arrays. ``inks`` are counts of glyphs in a row with their ``shares``. ``drawn`` is all else,
    each with its place, its ink and its weight. ``digest`` is the checksum of the content that was written of it;
    ``boxed`` is how many of its words have a letter that the face has not.
    """

    text: str
    gids: bytes
    places: bytes
    inks: list[tuple[int, list[float]]]
    drawn: list[Drawn]
    digest: int
    boxed: int = 0

    @property
    def words(self) -> int:
        """How many words a reader would count; one that is parted by a hyphen of ours is one.

        None of those in which a letter is not in the face: they print as empty boxes.
        """
        return len(self.text.replace("\u00ad\n", "").split()) - self.boxed

    @property
    def pictures(self) -> int:
        """How many pictures are laid on it."""
        return sum(kind.startswith(PICTURE) for kind, _ in self.drawn)


def shares(colour: Paint, media: Rect) -> list[float]:
    """A paint: shares of cyan, magenta, yellow, black and of what is named, and which that is (0 for nothing)."""
    if isinstance(colour, Gradient):
        return [0.0] * 5 + [float(hashed(shading(colour, media).name))]
    if colour.spot is not None:
        return [0.0] * 4 + [colour.s, float(hashed(spot_name(colour.spot)))]
    return [colour.c, colour.m, colour.y, colour.k, 0.0, 0.0]


class _Seen(NamedTuple):
    """Runs that are seen, of one block: their inks, how many glyphs each has, on which baseline; and all glyphs."""

    colours: list[Paint]
    origin: Origin
    counts: npt.NDArray[np.int64]
    baselines: Floats
    gids: npt.NDArray[np.uint16]
    said: npt.NDArray[np.int64]
    xs: Floats
    ys: Floats


def composed(
    marks: Sequence[Mark],
    groups: Sequence[TextGroup | Mark],
    clip_of: Callable[[Mark], Rect],
    media: Rect,
    content: bytes,
    named: Named,
    where: str,
    black: Overprint = USUAL,
) -> Composed:
    """What the marks, each clipped to ``clip_of`` it, make of a page whose sheet is ``media``; ``groups`` are the same.

    ``content`` is what was written of them, as ``black`` overprints; ``named`` gives the name in the file of a picture
    or a group that is clipped so, and what is laid under it. Raises Unproved, which says ``where``, if the groups are
    not the same.
    """
    _hold_all(marks, groups, where)
    texts: list[_Seen] = []
    drawn: list[Drawn] = []
    for group in groups:
        if isinstance(group, TextGroup):
            for part, clip in part_by_clip(group, clip_of):
                texts += _upright(part, clip)
        elif isinstance(group, Glyphs):
            texts += _turned(group, clip_of(group))
        elif is_seen(group, clip_of(group)):
            drawn += _drawn(group, clip_of(group), media, named, black)
    gids = np.concatenate([np.empty(0, np.uint16), *(text.gids for text in texts)])
    places, boxed = _places(texts, media).tobytes(), 0 if gids.all() else _boxed(texts)
    return Composed(_text(texts), gids.tobytes(), places, _inks(texts, media), drawn, crc32(content), boxed)


def is_seen(mark: Mark, clip: Rect) -> bool:
    """Whether something of a mark may reach into its clip."""
    if isinstance(mark, MarkGroup):
        return not touched_area(mark).clipped(clip).is_empty()
    return not (isinstance(mark, Glyphs) and not len(mark.gids)) and touched_area(mark).meets(clip)


def _hold_all(marks: Sequence[Mark], groups: Sequence[TextGroup | Mark], where: str) -> None:
    """What is written by groups is every mark in its order, but for runs that say nothing."""
    grouped = [mark for group in groups for mark in (group.marks if isinstance(group, TextGroup) else (group,))]
    if grouped != [mark for mark in marks if not isinstance(mark, Glyphs) or mark.turn or len(mark.gids)]:
        raise Unproved(where, "marks were lost when they were grouped")


def _upright(group: TextGroup, clip: Rect) -> list[_Seen]:
    """The runs of a group whose letters may reach into their clip: judged here by itself, not as the writer does."""
    runs, mark = group.runs, group.marks[0]
    size, baselines = runs.sizes[runs.looks], runs.baselines
    seen = (runs.lows - BEFORE * size < clip.right) & (clip.left < runs.highs + AFTER * size)
    seen &= (baselines - ABOVE * size < clip.bottom) & (clip.top < baselines + BELOW * size)
    if clip.is_empty() or not seen.any():
        return []
    counts, gids, said, xs = runs.counts, runs.gids, runs.said, runs.xs
    colours = [each.colour for each in group.marks]
    if not seen.all():
        colours = list(compress(colours, seen.tolist()))
        letters = seen.repeat(counts)
        counts, baselines = counts[seen], baselines[seen]
        gids, said, xs = gids[letters], said[letters], xs[letters]
    return [_Seen(colours, mark.origin, counts, baselines, gids, said, xs, baselines.repeat(counts))]


def _turned(mark: Glyphs, clip: Rect) -> list[_Seen]:
    if not len(mark.gids) or mark.turn is None or not touched_area(mark).meets(clip):
        return []
    places = np.array([mark.turn.of(x, mark.baseline) for x in mark.xs.tolist()])
    counts, baselines = np.array([len(mark.gids)]), np.array([mark.baseline])
    return [_Seen([mark.colour], mark.origin, counts, baselines, mark.gids, figures_of(mark.texts), *places.T)]


def _inks(texts: Sequence[_Seen], media: Rect) -> list[tuple[int, list[float]]]:
    """How many glyphs in a row have which ink."""
    runs = (run for text in texts for run in zip(text.colours, text.counts.tolist(), strict=True))
    alike = groupby(runs, key=itemgetter(0))
    return [(sum(count for _, count in some), shares(colour, media)) for colour, some in alike]


def _text(texts: Sequence[_Seen]) -> str:
    """What the glyphs say, a line end wherever the baseline or the block they are of is another."""
    if not texts:
        return ""
    said, baselines, counts = (np.concatenate([text[at] for text in texts]) for at in (5, 3, 2))
    changes = np.diff(baselines) != 0
    first = 0
    for one, other in pairwise(texts):
        first += len(one.counts)
        changes[first - 1] |= one.origin != other.origin
    return text_of_all(np.insert(said, counts.cumsum()[:-1][changes], figure_of("\n")))


def _boxed(texts: Sequence[_Seen]) -> int:
    """How many words print a letter as an empty box."""
    boxes = [text._replace(said=np.where(text.gids == 0, figure_of(BOX), text.said)) for text in texts]
    return sum(BOX in word for word in _text(boxes).replace("\u00ad\n", "").split())


def _places(texts: Sequence[_Seen], media: Rect) -> Floats:
    """Where each glyph stands, an array of shape (2, glyphs)."""
    if not texts:
        return np.empty((2, 0))
    xs, ys = (np.concatenate([text[at] for text in texts]) for at in (6, 7))
    return np.array([xs - media.left, media.bottom - ys])


def _drawn(mark: Mark, clip: Rect, media: Rect, named: Named, black: Overprint) -> list[Drawn]:
    """A mark without glyphs: what it is drawn as, with the figures of each."""
    if isinstance(mark, PictureMark):
        name, laid = named(mark, clip)
        assert isinstance(laid, PictureMark)
        return [(f"{PICTURE} {name}", _matrix(laid, media))]
    if isinstance(mark, MarkGroup):
        stated: list[Drawn] = [(f"{STATE} {state_name(mark.opacity, mark.blend)}", [])]
        if mark.mask is not None:
            stated.append((f"{STATE} {MASKED}{named(mark.mask, clip)[0]}", []))
        return [*stated, (f"{FORM} {named(mark, clip)[0]}", _form_matrix(mark.affine or Affine(), media))]
    if isinstance(mark, Veil):
        return [(f"{SOFT} {veil_name(mark)}", _matrix(mark, media))]
    if isinstance(mark, Path):
        return [(PATH, _path(each, media)) for each, _ in passes(mark, black) if isinstance(each, Path)]
    if isinstance(mark, Line):
        (x0, y0), (x1, y1) = mark.start, mark.end
        ends = [x0 - media.left, media.bottom - y0, x1 - media.left, media.bottom - y1]
        return [(RULE, [*ends, *shares(mark.colour, media), mark.weight])]
    assert isinstance(mark, Shape)
    out: list[Drawn] = []
    if mark.fill is not None:
        out.append((AREA, [*_box(mark.rect, media), *shares(mark.fill, media)]))
    if mark.stroke is not None:
        inner = mark.rect.grown(-mark.weight / 2)
        out.append((EDGE, [*_box(inner, media), *shares(mark.stroke, media), mark.weight]))
    return out


def _form_matrix(affine: Affine, media: Rect) -> list[float]:
    """With y upwards from the left foot of the sheet: the flip there, the affine, and the flip back."""
    a, b, c, d, e, f = affine
    left, foot = media.left, media.bottom
    return [a, -b, -c, d, a * left + c * foot + e - left, foot - (b * left + d * foot + f)]


def _matrix(mark: PictureMark | Veil, media: Rect) -> list[float]:
    """How the unit square, y upwards, comes to lie: from where three corners of the picture lie."""
    (left, top), (right, level), (foot_x, foot_y) = mark.corners
    return [right - left, top - level, left - foot_x, foot_y - top, foot_x - media.left, media.bottom - foot_y]


def _path(mark: Path, media: Rect) -> list[float]:
    """Inks, weight, what is drawn (1 filled, 2 stroked), round ends, dashes with their count; operators; places."""
    stroke = mark.stroke or Stroke(NO_INK, 0.0)
    drawn = (mark.fill is not None) + 2 * (mark.stroke is not None)
    places = (mark.outline.points * (1, -1) + (-media.left, media.bottom)).ravel().tolist()
    fill = shares(mark.fill, media) if mark.fill is not None else [0.0] * 6
    told = [
        *fill,
        *shares(stroke.tone, media),
        stroke.weight,
        float(drawn),
        float(stroke.is_round),
        float(len(stroke.dashes)),
    ]
    return [*told, *stroke.dashes, *map(float, mark.outline.ops), *places]


def _box(rect: Rect, media: Rect) -> list[float]:
    return [rect.left - media.left, media.bottom - rect.bottom, rect.width, rect.height]

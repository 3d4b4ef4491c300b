"""What a page is composed of, in the terms in which a reader of the file finds it: to be held against that."""

from collections.abc import Callable, Sequence
from zlib import crc32

import msgspec
import numpy as np
import numpy.typing as npt

from half_fold.core.drawing.marks import Colour, Glyphs, Line, Mark, Picture, Shape
from half_fold.core.drawing.said import figure_of, figures_of, text_of_all
from half_fold.core.measure.rect import Rect
from half_fold.core.press.content import ABOVE, AFTER, BEFORE, BELOW, bounds

Drawn = tuple[str, list[float]]
AREA, EDGE, RULE, PICTURE = "area", "edge", "rule", "picture"
EVERY_INK = [1.0, 1.0, 1.0, 1.0]


class Composed(msgspec.Struct, frozen=True, array_like=True):
    """A page as it was composed, back to front; places in points from the left foot of its sheet.

    ``text`` is what its glyphs say, a line end between lines; ``gids`` and ``places`` (x and y of each) are octets of
    arrays. ``inks`` are counts of glyphs in a row with their shares of the four process inks. ``drawn`` is all else,
    each with its place, its ink and its weight. ``digest`` is the checksum of the content that was written of it.
    """

    text: str
    gids: bytes
    places: bytes
    inks: list[tuple[int, list[float]]]
    drawn: list[Drawn]
    digest: int

    @property
    def words(self) -> int:
        """How many words a reader would count; one that is parted by a hyphen of ours is one."""
        return len(self.text.replace("\u00ad\n", "").split())

    @property
    def pictures(self) -> int:
        """How many pictures are laid on it."""
        return sum(kind.startswith(PICTURE) for kind, _ in self.drawn)


def shares(colour: Colour) -> list[float]:
    """An ink as shares of cyan, magenta, yellow and black."""
    return [colour.c, colour.m, colour.y, colour.k]


def composed(
    marks: Sequence[Mark], clip_of: Callable[[Mark], Rect], media: Rect, content: bytes, name_of: Callable[[str], str]
) -> Composed:
    """What the marks, each clipped to ``clip_of`` it, make of a page whose sheet is ``media``.

    ``content`` is what was written of them; ``name_of`` gives the name of a picture in the file.
    """
    runs = _seen_runs([mark for mark in marks if isinstance(mark, Glyphs) and len(mark.gids)], clip_of)
    inks: list[tuple[int, list[float]]] = []
    for run in runs:
        ink = shares(run.colour)
        if inks and inks[-1][1] == ink:
            inks[-1] = inks[-1][0] + len(run.gids), ink
        else:
            inks.append((len(run.gids), ink))
    gids = np.concatenate([np.empty(0, np.uint16), *(run.gids for run in runs)])
    others = (mark for mark in marks if not isinstance(mark, Glyphs) and bounds(mark).meets(clip_of(mark)))
    drawn = [each for mark in others for each in _drawn(mark, media, name_of)]
    return Composed(_text(runs), gids.tobytes(), _places(runs, media).tobytes(), inks, drawn, crc32(content))


def _seen_runs(runs: Sequence[Glyphs], clip_of: Callable[[Mark], Rect]) -> list[Glyphs]:
    """The runs whose letters may reach into their clips."""
    if not runs:
        return []
    xs, counts = np.concatenate([run.xs for run in runs]), np.array([len(run.xs) for run in runs])
    sizes, baselines = np.array([run.size for run in runs]), np.array([run.baseline for run in runs])
    begins = np.cumsum(counts) - counts
    left = np.minimum.reduceat(xs, begins) - BEFORE * sizes
    right = np.maximum.reduceat(xs, begins) + AFTER * sizes
    top, bottom = baselines - ABOVE * sizes, baselines + BELOW * sizes
    clips = np.array([clip_of(run) for run in runs]).T
    seen = (left < clips[2]) & (clips[0] < right) & (top < clips[3]) & (clips[1] < bottom)
    seen &= (clips[0] < clips[2]) & (clips[1] < clips[3])  # nothing is seen in a clip of nothing, wherever that lies
    turned = ((run, bounds(run).meets(clip_of(run))) for run in runs if run.turn is not None)
    met = {id(run): meets for run, meets in turned}
    return [run for run, is_seen in zip(runs, seen.tolist(), strict=True) if met.get(id(run), is_seen)]


def _text(runs: Sequence[Glyphs]) -> str:
    line_end = np.array([figure_of("\n")])
    said: list[npt.NDArray[np.int64]] = []
    for at, run in enumerate(runs):
        if at and (run.baseline != runs[at - 1].baseline or run.block != runs[at - 1].block):
            said.append(line_end)
        said.append(figures_of(run.texts))
    return text_of_all(np.concatenate(said)) if said else ""


def _places(runs: Sequence[Glyphs], media: Rect) -> npt.NDArray[np.float64]:
    """Where each glyph stands, an array of shape (2, glyphs)."""
    if not runs:
        return np.empty((2, 0))
    xs = np.concatenate([run.xs for run in runs])
    ys = np.repeat([run.baseline for run in runs], [len(run.gids) for run in runs])
    at = 0
    for run in runs:
        if run.turn is not None:
            turned = [run.turn.of(x, run.baseline) for x in run.xs.tolist()]
            xs[at : at + len(turned)], ys[at : at + len(turned)] = zip(*turned, strict=True)
        at += len(run.gids)
    return np.array([xs - media.left, media.bottom - ys])


def _drawn(mark: Mark, media: Rect, name_of: Callable[[str], str]) -> list[Drawn]:
    """A mark without glyphs: what it is drawn as, with the figures of each."""
    if isinstance(mark, Picture):
        where = mark.placed
        left, foot = where.left - media.left, media.bottom - where.bottom
        return [(f"{PICTURE} {name_of(mark.picture)}", [where.width, 0.0, 0.0, where.height, left, foot])]
    if isinstance(mark, Line):
        (x0, y0), (x1, y1) = mark.start, mark.end
        ends = [x0 - media.left, media.bottom - y0, x1 - media.left, media.bottom - y1]
        return [(RULE, [*ends, *(EVERY_INK if mark.registration else shares(mark.colour)), mark.weight])]
    assert isinstance(mark, Shape)
    out: list[Drawn] = []
    if mark.fill is not None:
        out.append((AREA, [*_box(mark.rect, media), *shares(mark.fill)]))
    if mark.stroke is not None:
        inner = mark.rect.grown(-mark.weight / 2)
        out.append((EDGE, [*_box(inner, media), *shares(mark.stroke), mark.weight]))
    return out


def _box(rect: Rect, media: Rect) -> list[float]:
    return [rect.left - media.left, media.bottom - rect.bottom, rect.width, rect.height]

"""A display list as a PDF content stream."""

import math
from bisect import bisect_left
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field

from half_fold.core.drawing.marks import Colour, Glyphs, Line, Mark, Picture, Shape
from half_fold.core.measure.rect import Rect
from half_fold.core.press.fonts import FontUse

OVERPRINT, KNOCK_OUT = "GOver", "GKnock"
REGISTRATION = "CAll"
LARGEST_OVERPRINTED_TEXT = 24.0


@dataclass
class Resources:
    """What the pages of one file share: its fonts and pictures, found or made on first use."""

    fonts: dict[str, FontUse] = field(default_factory=dict)
    pictures: dict[str, str] = field(default_factory=dict)

    def font(self, key: str) -> FontUse:
        if key not in self.fonts:
            self.fonts[key] = FontUse(key, f"F{len(self.fonts) + 1}")
        return self.fonts[key]

    def picture(self, key: str) -> str:
        return self.pictures.setdefault(key, f"P{len(self.pictures) + 1}")


def _n(value: float) -> str:
    return f"{value:.4f}".rstrip("0").rstrip(".") or "0"


class Content:
    """Writes the marks of one page; ``media`` is its sheet in the marks' own coordinates."""

    def __init__(self, media: Rect, resources: Resources) -> None:
        self.media, self.resources = media, resources
        self.out: list[str] = []
        self.fonts: set[str] = set()
        self.pictures: set[str] = set()

    def bytes(self) -> bytes:
        return "\n".join(self.out).encode("ascii")

    def x(self, x: float) -> str:
        return _n(x - self.media.left)

    def y(self, y: float) -> str:
        return _n(self.media.bottom - y)

    def draw(self, marks: Iterable[Mark], clip_of: Callable[[Mark], Rect]) -> None:
        """Draw marks, each clipped to ``clip_of`` it where it might pass that."""
        for mark in marks:
            clip, box = clip_of(mark), bounds(mark)
            seen = box.clipped(clip)
            if seen.is_empty():
                continue
            inside = seen == box
            self.out.append("q")
            if not inside:
                self.out.append(f"{self._rect(clip)} W n")
            self._mark(mark)
            self.out.append("Q")

    def _rect(self, rect: Rect) -> str:
        return f"{self.x(rect.left)} {self.y(rect.bottom)} {_n(rect.width)} {_n(rect.height)} re"

    def _mark(self, mark: Mark) -> None:
        if isinstance(mark, Glyphs):
            self._glyphs(mark)
        elif isinstance(mark, Shape):
            self._shape(mark)
        elif isinstance(mark, Line):
            self._line(mark)
        else:
            self._picture(mark)

    def _ink(self, colour: Colour, stroke: bool = False) -> str:
        return f"{_n(colour.c)} {_n(colour.m)} {_n(colour.y)} {_n(colour.k)} {'K' if stroke else 'k'}"

    def _shape(self, mark: Shape) -> None:
        self.out.append(f"/{KNOCK_OUT} gs")
        if mark.fill is not None:
            self.out.append(f"{self._ink(mark.fill)} {self._rect(mark.rect)} f")
        if mark.stroke is not None:
            inner = mark.rect.grown(-mark.weight / 2)
            self.out.append(f"{self._ink(mark.stroke, True)} {_n(mark.weight)} w {self._rect(inner)} S")

    def _line(self, mark: Line) -> None:
        ink = f"/{REGISTRATION} CS 1 SCN" if mark.registration else self._ink(mark.colour, True)
        (x0, y0), (x1, y1) = mark.start, mark.end
        gs = KNOCK_OUT if not mark.registration else OVERPRINT
        path = f"{self.x(x0)} {self.y(y0)} m {self.x(x1)} {self.y(y1)} l S"
        self.out.append(f"/{gs} gs {ink} {_n(mark.weight)} w {path}")

    def _picture(self, mark: Picture) -> None:
        name = self.resources.picture(mark.picture)
        self.pictures.add(mark.picture)
        where = mark.placed
        matrix = f"{_n(where.width)} 0 0 {_n(where.height)} {self.x(where.left)} {self.y(where.bottom)} cm"
        self.out.append(f"/{KNOCK_OUT} gs {self._rect(mark.clip)} W n {matrix} /{name} Do")

    def _glyphs(self, mark: Glyphs) -> None:
        font = self.resources.font(mark.face)
        self.fonts.add(mark.face)
        overprints = mark.colour == Colour(k=1.0) and mark.size <= LARGEST_OVERPRINTED_TEXT
        self.out.append(f"/{OVERPRINT if overprints else KNOCK_OUT} gs {self._ink(mark.colour)}")
        start = self._text_matrix(mark)
        self.out.append(f"BT /{font.resource} {_n(mark.size)} Tf {start}")
        shown = _shown(mark, font)
        for text, glyphs in _said(mark, font):
            if text is None:
                self.out.append(f"[{shown(glyphs)}] TJ")
            else:
                actual = ("\ufeff" + text).encode("utf-16-be").hex().upper()
                self.out.append(f"/Span <</ActualText <{actual}>>> BDC [{shown(glyphs)}] TJ EMC")
        self.out.append("ET")

    def _text_matrix(self, mark: Glyphs) -> str:
        """Where the run begins, and which way it runs."""
        x, y = float(mark.xs[0]), mark.baseline
        if mark.turn is None:
            return f"1 0 0 1 {self.x(x)} {self.y(y)} Tm"
        x, y = mark.turn.of(x, y)
        sine, cosine = math.sin(math.radians(mark.turn.degrees)), math.cos(math.radians(mark.turn.degrees))
        return f"{_n(cosine)} {_n(-sine)} {_n(sine)} {_n(cosine)} {self.x(x)} {self.y(y)} Tm"


def _shown(mark: Glyphs, font: FontUse) -> Callable[[range], str]:
    """What shows a stretch of glyphs: their codes, with the kerning that brings each to its own place.

    Kerning is in thousandths of the em, to two decimals; rounded is their sum, so that errors never
    add up.
    """
    codes = mark.gids.astype(">u2").tobytes().hex().upper()
    xs, gids = mark.xs, mark.gids
    off = font.advances[gids[:-1]] - (xs[1:] - xs[:-1]) * (1000 / mark.size)
    told = off.cumsum().round(2)
    told[1:] -= told[:-1].copy()
    moved = (abs(told) > 0.004).nonzero()[0]
    places, kerns = (moved + 1).tolist(), told[moved].tolist()  # before the glyph after each

    def of(glyphs: range) -> str:
        parts, at = [], glyphs.start
        low = bisect_left(places, glyphs.start)
        for place, kern in zip(places[low:], kerns[low:], strict=True):
            if place >= glyphs.stop:
                break
            parts.append(f"<{codes[4 * at : 4 * place]}>{kern:.2f}" if place > at else f"{kern:.2f}")
            at = place
        return f"{''.join(parts)}<{codes[4 * at : 4 * glyphs.stop]}>"

    return of


def _said(mark: Glyphs, font: FontUse) -> Iterator[tuple[str | None, range]]:
    """Runs of glyphs with None where the font's Unicode map says it right, else the actual text."""
    gids, texts = mark.gids.tolist(), mark.texts
    count, plain, known = len(gids), 0, font.texts
    if "" not in texts and list(map(known.get, gids)) == list(texts):
        yield None, range(count)
        return
    odd = [i for i, (gid, text) in enumerate(zip(gids, texts, strict=True)) if known.get(gid) != text or not text]
    after = 0
    for i in odd:
        if i < after:
            continue
        start = i - 1 if not texts[i] and i else i  # what an earlier glyph said stands for this one too
        while start > plain and not texts[start]:
            start -= 1
        end = i + 1
        while end < count and not texts[end]:
            end += 1
        after = end
        if end == start + 1 and font.use(gids[start], texts[start]):
            continue
        for k in range(start, end):
            known.setdefault(gids[k], "")
        if plain < start:
            yield None, range(plain, start)
        yield texts[start], range(start, end)
        plain = end
    if plain < count:
        yield None, range(plain, count)


def bounds(mark: Mark) -> Rect:
    """The area a mark may touch, never too small."""
    if isinstance(mark, Glyphs):
        if not len(mark.xs):
            return Rect(0, 0, 0, 0)
        left, right = mark.reach
        upright = Rect(
            left - mark.size, mark.baseline - 1.2 * mark.size, right + 1.5 * mark.size, mark.baseline + mark.size
        )
        return upright if mark.turn is None else mark.turn.around(upright)
    if isinstance(mark, Shape):
        return mark.rect
    if isinstance(mark, Picture):
        return mark.clip.clipped(mark.placed)
    (x0, y0), (x1, y1) = mark.start, mark.end
    half = mark.weight / 2
    return Rect(min(x0, x1) - half, min(y0, y1) - half, max(x0, x1) + half, max(y0, y1) + half)

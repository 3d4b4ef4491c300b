"""Words that do not lie on a straight line: along an arc or a wave, or letter under letter."""

import math
from collections.abc import Iterator, Sequence
from functools import cached_property
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Glyphs, from_block
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, HoldsDisplay, Publication
from half_fold.core.publication.surgery import role_in
from half_fold.core.spread.setting.evened import SetLine, ink_of, one_line
from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.lines.roles import leading_of

STEP_DOWN = 1.3  # of the height of capitals, from a letter to the one under it
WAVE_STEEP = 4.0  # of its bend, that a wave is steep where it is steepest
OVER = 0.05  # of the size, by which a line may be longer than its way
STEPS = 400  # of a wave, along which its length is measured

Place = tuple[float, float]
Floats = npt.NDArray[np.float64]


class _Letter(Struct, frozen=True):
    """A glyph with what belongs to it, its pen at 0: how far along the line it begins and how wide it is, in points."""

    marks: tuple[Glyphs, ...]
    at: float
    width: float


class Lying(NamedTuple):
    """Lines laid out, and how many of them (of how many words) are longer than their way."""

    lines: tuple[SetLine, ...]
    over_lines: int
    over_words: int


def lying_lines(composer: Composer, publication: Publication, block: Block, box: Rect) -> Lying:
    """The words of a display block, laid as it says; each paragraph is a line of its own.

    Under one another along an arc, lines lie on circles round one middle.
    """
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    out: list[SetLine] = []
    over_lines = over_words = 0
    from_foot = holds.lies == "arched down"
    down = 0.0
    for paragraph in reversed(holds.paragraphs) if from_foot else holds.paragraphs:
        way = _Way(holds, box, down)
        role = role_in(publication, holds, paragraph.role)
        size = holds.size.pt if holds.size is not None else role.size.pt
        if holds.even:
            size *= way.filling(one_line(composer, publication, paragraph, size, holds.ink, role))
        line = [
            replace(mark, origin=from_block(block.id))
            for mark in one_line(composer, publication, paragraph, size, holds.ink, role)
        ]
        letters = list(_letters(line))
        cap = face(line[0].face).cap_height * size if line else 0.0
        if letters and not holds.even and letters[-1].at + letters[-1].width > way.room(cap) + OVER * size:
            over_lines, over_words = over_lines + 1, over_words + len(paragraph.text.split())
        out.append(SetLine(paragraph.role, size, tuple(way.laid(letters, holds.side or role.align, cap))))
        down += leading_of(role, size)
    return Lying(tuple(reversed(out) if from_foot else out), over_lines, over_words)


class _Way:
    """Where a line lies whose letters stand ``down`` points under those of the first (or over those of the last)."""

    def __init__(self, holds: HoldsDisplay, box: Rect, down: float) -> None:
        self.holds, self.box, self.down = holds, box, down
        self.bend = math.radians(holds.bend)
        # As wide as the box: its chord, or the whole circle from a half of that on.
        self.radius = box.width / 2 / math.sin(min(self.bend, math.pi) / 2)

    def _inner(self, cap: float) -> float:
        """The radius that letters with capitals so high stand on."""
        under = self.down + cap if self.holds.lies == "arched up" else self.down
        return max(1.0, self.radius - under)

    def room(self, cap: float) -> float:
        """How long the way is, in points."""
        if self.holds.lies == "letter under letter":
            return math.inf
        return float(self.wave[1][-1]) if self.holds.lies == "wave" else self.bend * self._inner(cap)

    def filling(self, line: Sequence[Glyphs]) -> float:
        """How many times as large words run from one end of their way to the other."""
        wide = ink_of(list(line)).width
        if wide <= 0 or not line:
            return 1.0
        if self.holds.lies == "letter under letter":
            cap = face(line[0].face).cap_height * line[0].size
            steps = sum(_steps(list(_letters(line)))) - 1
            return self.box.height / (cap * (1 + STEP_DOWN * steps)) if steps >= 0 else 1.0
        if self.holds.lies == "wave":
            return self.room(0.0) / wide
        cap = face(line[0].face).cap_height * line[0].size if self.holds.lies == "arched up" else 0.0
        return self.bend * max(1.0, self.radius - self.down) / (wide + self.bend * cap)

    @cached_property
    def wave(self) -> tuple[Floats, Floats]:
        """Places along a wave of one length over the box, an array of shape (steps, 2), and how far along they are."""
        steep = math.tan(math.radians(min(self.holds.bend, 300.0) / WAVE_STEEP))
        x = np.linspace(0, self.box.width, STEPS)
        y = -steep * self.box.width / (2 * math.pi) * np.sin(2 * math.pi * x / self.box.width)
        places = np.column_stack([x, y])
        return places, np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(places, axis=0).T))])

    def laid(self, letters: Sequence[_Letter], side: str, cap: float) -> list[Glyphs]:
        """Letters at their places."""
        if not letters:
            return []
        if self.holds.lies == "letter under letter":
            return self._under(letters, cap)
        long, room = letters[-1].at + letters[-1].width, self.room(cap)
        start = {"left": 0.0, "right": room - long}.get(side, (room - long) / 2)
        place = self._on_wave if self.holds.lies == "wave" else self._on_arc
        return [mark for each in letters for mark in _standing(each, *place(start + each.at + each.width / 2, cap))]

    def _on_arc(self, at: float, cap: float) -> tuple[Place, float]:
        """Along an arc whose crown touches the head of the box, or whose lowest place its foot."""
        inner, (x, _) = self._inner(cap), self.box.centre
        turn = (at - self.bend * inner / 2) / inner
        if self.holds.lies == "arched up":
            return (x + inner * math.sin(turn), self.box.top + self.radius - inner * math.cos(turn)), turn
        return (x + inner * math.sin(turn), self.box.bottom - self.radius + inner * math.cos(turn)), -turn

    def _on_wave(self, at: float, cap: float) -> tuple[Place, float]:
        """Along the wave; straight on from its ends."""
        places, along = self.wave
        head = self.box.top + self.down + cap - float(places[:, 1].min())
        here = min(max(at, 0.0), float(along[-1]))
        step = min(max(int(np.searchsorted(along, here)), 1), len(along) - 1)
        way = places[step] - places[step - 1]
        way = way / np.hypot(*way)
        x, y = places[step - 1] + way * (at - along[step - 1])
        return (self.box.left + float(x), head + float(y)), math.atan2(float(way[1]), float(way[0]))

    def _under(self, letters: Sequence[_Letter], cap: float) -> list[Glyphs]:
        """Each letter upright in the middle of the box, under the one before; a space is half a step."""
        steps = _steps(letters)
        spare = max(0.0, self.box.height - cap * (1 + STEP_DOWN * (sum(steps) - steps[-1])))
        y = self.box.top + cap + {"head": 0.0, "middle": 0.5, "foot": 1.0}[self.holds.stands] * spare + self.down
        out: list[Glyphs] = []
        for letter, step in zip(letters, steps, strict=True):
            out += _standing(letter, (self.box.centre[0], y), 0.0)
            y += step * cap * STEP_DOWN
        return out


def _steps(letters: Sequence[_Letter]) -> list[float]:
    return [1.0 if "".join(letter.marks[0].texts).strip() else 0.5 for letter in letters]


def _letters(line: Sequence[Glyphs]) -> Iterator[_Letter]:
    """The letters of a line, each with the marks over and under it."""
    for mark in line:
        drawn = face(mark.face)
        starts = [at for at, text in enumerate(mark.texts) if text or at == 0]
        for start, end in zip(starts, [*starts[1:], len(mark.texts)], strict=True):
            pens = mark.xs[start:end]
            gids = mark.gids[start:end]
            wide = float(pens[-1] - pens[0]) + drawn.advance(int(gids[-1])) * mark.size
            one = replace(mark, gids=gids, xs=pens - pens[0], texts=tuple(mark.texts[start:end]))
            yield _Letter((one,), float(pens[0]), wide)


def _standing(letter: _Letter, place: Place, angle: float) -> list[Glyphs]:
    """A letter whose middle stands on a place, turned by ``angle`` (radians, clockwise)."""
    sine, cosine = math.sin(angle), math.cos(angle)
    half = letter.width / 2
    turn = Affine(cosine, sine, -sine, cosine, place[0] - half * cosine, place[1] - half * sine)
    return [replace(mark, turn=turn) for mark in letter.marks]

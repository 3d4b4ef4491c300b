"""Words that do not lie on a straight line: along an arc or a wave, or letter under letter."""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.marks import Glyphs
from half_fold.core.measure.rect import Rect
from half_fold.core.publication.records import Block, HoldsDisplay, Publication
from half_fold.core.publication.surgery import role_named
from half_fold.core.spread.evened import SetLine, ink_of, one_line
from half_fold.core.typesetting.composer import Composer
from half_fold.core.typesetting.faces import face

STEP_DOWN = 1.3  # of the height of capitals, from a letter to the one under it
WAVE_STEEP = 4.0  # of its bend, that a wave is steep where it is steepest
STEPS = 400  # of a wave, along which its length is measured


@dataclass(frozen=True, slots=True)
class _Letter:
    """A glyph with what belongs to it, its pen at 0: how far along the line it begins and how wide it is, in points."""

    marks: tuple[Glyphs, ...]
    at: float
    width: float


def lying_lines(composer: Composer, publication: Publication, block: Block, box: Rect) -> list[SetLine]:
    """The words of a display block, laid as it says; each paragraph is a line of its own."""
    holds = block.holds
    assert isinstance(holds, HoldsDisplay)
    out: list[SetLine] = []
    down = 0.0
    for paragraph in holds.paragraphs:
        role = role_named(publication, paragraph.role)
        size = holds.size.pt if holds.size is not None else role.size.pt
        leading = role.leading.pt * size / role.size.pt
        if holds.even:
            size *= _evening(one_line(composer, publication, paragraph, size, holds.ink), holds, box)
            leading = role.leading.pt * size / role.size.pt
        line = [replace(mark, block=block.id) for mark in one_line(composer, publication, paragraph, size, holds.ink)]
        cap = face(line[0].face).cap_height * size if line else size
        letters = list(_letters(line))
        side = holds.side or role.align
        marks = _laid(letters, holds, box, side, down + cap, cap)
        out.append(SetLine(paragraph.role, size, tuple(marks)))
        down += leading
    return out


def _evening(line: Sequence[Glyphs], holds: HoldsDisplay, box: Rect) -> float:
    """How many times as large words run from one end of their way to the other."""
    ink = ink_of(list(line))
    room = box.height if holds.lies == "letter under letter" else _length(holds, box)
    return room / ink.width if ink.width > 0 else 1.0


def _length(holds: HoldsDisplay, box: Rect) -> float:
    """How long an arc or a wave is, in points."""
    if holds.lies == "wave":
        return float(_wave(holds, box)[1][-1])
    return math.radians(holds.bend) * _radius(holds, box)


def _radius(holds: HoldsDisplay, box: Rect) -> float:
    """The radius of the arc that is as wide as the box: of its chord, or of the circle from a half of that on."""
    return box.width / 2 / math.sin(math.radians(min(holds.bend, 180.0)) / 2)


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


def _laid(
    letters: Sequence[_Letter], holds: HoldsDisplay, box: Rect, side: str, down: float, cap: float
) -> list[Glyphs]:
    if not letters:
        return []
    long = letters[-1].at + letters[-1].width
    if holds.lies == "letter under letter":
        return _under(letters, holds, box, down, cap)
    room = _length(holds, box)
    start = {"left": 0.0, "right": room - long}.get(side, (room - long) / 2)
    if holds.lies == "wave":
        return _waving(letters, holds, box, start, down)
    return _arched(letters, holds, box, start - room / 2, down)


def _arched(letters: Sequence[_Letter], holds: HoldsDisplay, box: Rect, start: float, down: float) -> list[Glyphs]:
    """Along an arc whose crown touches the head of the box, or whose lowest place its foot."""
    radius, (x, _) = _radius(holds, box), box.centre
    up = holds.lies == "arched up"
    inner = radius - down if up else radius
    out = []
    for letter in letters:
        turn = (start + letter.at + letter.width / 2) / radius
        if up:
            place, angle = (x + inner * math.sin(turn), box.top + radius - inner * math.cos(turn)), turn
        else:
            lower = box.bottom - radius
            place, angle = (x + inner * math.sin(turn), lower + inner * math.cos(turn)), -turn
        out += _standing(letter, place, angle)
    return out


def _wave(holds: HoldsDisplay, box: Rect) -> tuple[np.ndarray, np.ndarray]:
    """Places along a wave of one length over the box, an array of shape (steps, 2), and how far along it they are."""
    steep = math.tan(math.radians(min(holds.bend, 300.0) / WAVE_STEEP))
    x = np.linspace(0, box.width, STEPS)
    y = -steep * box.width / (2 * math.pi) * np.sin(2 * math.pi * x / box.width)
    places = np.column_stack([x, y])
    return places, np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(places, axis=0).T))])


def _waving(letters: Sequence[_Letter], holds: HoldsDisplay, box: Rect, start: float, down: float) -> list[Glyphs]:
    places, along = _wave(holds, box)
    head = box.top + down - float(places[:, 1].min())
    out = []
    for letter in letters:
        at = start + letter.at + letter.width / 2
        here, after = (np.array([np.interp(s, along, places[:, axis]) for axis in (0, 1)]) for s in (at, at + 0.5))
        before = np.array([np.interp(at - 0.5, along, places[:, axis]) for axis in (0, 1)])
        angle = math.atan2(float(after[1] - before[1]), float(after[0] - before[0]))
        out += _standing(letter, (box.left + float(here[0]), head + float(here[1])), angle)
    return out


def _under(letters: Sequence[_Letter], holds: HoldsDisplay, box: Rect, down: float, cap: float) -> list[Glyphs]:
    """Each letter upright in the middle of the box, under the one before; a space is half a step."""
    steps = [0.5 if not "".join(letter.marks[0].texts).strip() else 1.0 for letter in letters]
    high = cap * (1 + STEP_DOWN * (sum(steps) - steps[-1]))
    spare = max(0.0, box.height - high)
    y = box.top + cap + {"head": 0.0, "middle": 0.5, "foot": 1.0}[holds.stands] * spare + (down - cap)
    out: list[Glyphs] = []
    for letter, step in zip(letters, steps, strict=True):
        out += _standing(letter, (box.centre[0], y), 0.0)
        y += step * cap * STEP_DOWN
    return out


def _standing(letter: _Letter, place: tuple[float, float], angle: float) -> list[Glyphs]:
    """A letter whose middle stands on a place, turned by ``angle`` (radians, clockwise)."""
    sine, cosine = math.sin(angle), math.cos(angle)
    half = letter.width / 2
    turn = Affine(cosine, sine, -sine, cosine, place[0] - half * cosine, place[1] - half * sine)
    return [replace(mark, turn=turn) for mark in letter.marks]

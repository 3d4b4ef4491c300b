"""Whether words can be read where they stand: how far each letter's ink stands off its ground, against its unrest.

Of a letter: d = (L* of the ink - mean L* round it) / root(SD^2 + 5^2), in a window of 0.6 by 0.8 em, in the direction
that most of its word has. A word takes the 10th percentile of its letters, for one that is lost makes another word,
times its stems by a tenth of an em where they are thinner: from afar a stroke is as faint as it is thin.
``./run bench reading`` holds it against words that are read by machine, sharp and as from afar.
"""

from collections.abc import Iterable, Iterator, Sequence
from functools import lru_cache
from itertools import pairwise
from typing import Literal

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.drawing.changes import bounds
from half_fold.core.drawing.marks import DisplayList, Glyphs, Mark, MarkGroup, Path, Shape, leaves
from half_fold.core.drawing.tone import Gradient, Tone
from half_fold.core.legibility.grounds import SeenGround
from half_fold.core.measure.length import counted, figure
from half_fold.core.measure.rect import Rect
from half_fold.core.measure.worked import Worked, given
from half_fold.core.pictures.colour.colour import lab_of_inks
from half_fold.core.typesetting.faces.directions import as_read
from half_fold.core.typesetting.faces.faces import face

WIDE, HIGH = 0.6, 0.8  # ems, of the window round a letter
MIDDLE = 0.33  # ems over the baseline: where it has its middle
UNREST = 5.0  # L*: what the eye takes for calm
WORST = 0.1  # of a word's letters
STEM = 0.1  # ems
CAPITAL, HAIR = 0.62, 0.5  # ems over the baseline that a bar has to hold of a letter; points it may be short of one
UNREADABLE, GOOD, SOLVED = 2.0, 4.5, 6.0  # where words cannot be read, can, and what remedies go for
SPACE = 0.18  # ems between two letters of one baseline, from which on they are two words

Reals = npt.NDArray[np.float64]
Counts = npt.NDArray[np.int64]
Verdict = Literal["good", "risky", "not to be read"]


class Word(Struct, frozen=True, eq=False):
    """A word on a page: its letters' boxes (left, top, right, bottom in points) and how far each stands off.

    ``ink`` is L* of its letters, ``light`` and ``unrest`` the mean and the deviation of the ground under them, ``thin``
    what its stems take off. ``score`` is how well it reads: below 2 not, from 4.5 on well.
    """

    text: str
    block: str
    boxes: Reals
    ink: float
    light: float
    unrest: float
    thin: float
    letters: Reals
    size: float
    score: float

    @property
    def area(self) -> Rect:
        """What it reaches."""
        left, top = self.boxes[:, :2].min(axis=0)
        right, bottom = self.boxes[:, 2:].max(axis=0)
        return Rect(float(left), float(top), float(right), float(bottom))

    @property
    def verdict(self) -> Verdict:
        return verdict_of(self.score)

    @property
    def weak(self) -> tuple[Rect, ...]:
        """The boxes of the letters that do not stand off well."""
        return tuple(Rect(*map(float, box)) for box in self.boxes[self.letters * self.thin < GOOD])

    @property
    def worked(self) -> Worked:
        """The score with its working."""
        parts = (
            given(self.ink, "", "Ink", how="L* of the letters as they print"),
            given(self.light, "", "SeenGround", how="mean L* under them"),
            given(self.unrest, "", "Unrest", how="how far L* of the ground varies round a letter, in the mean"),
        )
        how = f"worst tenth of {counted(len(self.letters), 'letter')}: |ink - ground| ÷ root(unrest² + {UNREST:g}²)"
        if self.thin < 0.995:
            how += f", × {figure(self.thin, 2)} for thin stems"
        return Worked(round(self.score, 2), "", f"“{self.text}”", f"{self.verdict}: {how}", parts)


def verdict_of(score: float) -> Verdict:
    """The verdict on a score."""
    return "good" if score >= GOOD else "risky" if score >= UNREADABLE else "not to be read"


class Letters(Struct, frozen=True, eq=False):
    """The letters of a word before they are judged: boxes of their windows, and what they are printed in."""

    text: str
    block: str
    boxes: Reals
    colour: tuple[Tone, ...]
    size: float
    stem: float


def words_seen(marks: DisplayList) -> list[Letters]:
    """The words of a display list, in the order they are drawn."""
    found: list[Letters] = []
    floors: list[Rect] = []
    for mark in leaves(_seen(marks.marks)):
        if isinstance(mark, Glyphs) and len(mark.gids):
            found += _words(mark, floors)
        elif isinstance(mark, Shape | Path) and mark.fill is not None:
            floors.append(bounds(mark))
    return found


def _seen(marks: Iterable[Mark]) -> Iterator[Mark]:
    """What is not drawn unseen, as words are through which a picture shows."""
    return (mark for mark in marks if not isinstance(mark, MarkGroup) or mark.opacity > 0)


def _words(mark: Glyphs, floors: Sequence[Rect]) -> Iterator[Letters]:
    """Parted where a space was set, or where letters are so far apart; ``floors`` are the areas drawn under them."""
    tones = tuple(stop.tone for stop in mark.colour.stops) if isinstance(mark.colour, Gradient) else (mark.colour,)
    told, gids, stem = face(mark.face), mark.gids.tolist(), stem_of(mark.face)
    advances = np.array([told.advance(gid) for gid in gids]) * mark.size
    is_seen = np.array([any(told.ink_of(gid)) for gid in gids])
    boxes = _on_their_floors(mark, advances, _windows(mark, mark.xs + advances / 2), floors)
    is_space = np.array([bool(text) and not text.strip() for text in mark.texts[:-1]], bool)
    starts = 1 + np.flatnonzero((np.diff(mark.xs) - advances[:-1] > SPACE * mark.size) | is_space)
    for first, last in pairwise([0, *starts.tolist(), len(gids)]):
        text = as_read(mark.texts[first:last]).strip()
        if text and is_seen[first:last].any():
            yield Letters(text, mark.origin.block, boxes[first:last][is_seen[first:last]], tones, mark.size, stem)


def _windows(mark: Glyphs, middles: Reals) -> Reals:
    """The box round each letter of a run, from where its middle lies on the baseline."""
    places = np.column_stack([middles, np.full_like(middles, mark.baseline - MIDDLE * mark.size)])
    if mark.turn is not None:
        places = mark.turn.of_all(places)
    half = np.array([WIDE, HIGH]) / 2 * mark.size
    return np.hstack([places - half, places + half])


def _on_their_floors(mark: Glyphs, advances: Reals, windows: Reals, floors: Sequence[Rect]) -> Reals:
    """The windows cut to the area that holds all of their letter, the uppermost of those: its edge is no unrest."""
    if mark.turn is not None or not floors:
        return windows
    high, low = mark.baseline - CAPITAL * mark.size, mark.baseline
    inked = mark.xs, mark.xs + advances
    left, right = float(inked[0].min()), float(inked[1].max())
    made, waits = windows.copy(), np.ones(len(windows), bool)
    for floor in reversed(floors):
        if floor.top > high or floor.bottom < low or floor.right < left or floor.left > right:
            continue
        on = waits & (inked[0] >= floor.left - HAIR) & (inked[1] <= floor.right + HAIR)
        made[on, :2] = np.maximum(windows[on, :2], (floor.left, floor.top))
        made[on, 2:] = np.minimum(windows[on, 2:], (floor.right, floor.bottom))
        waits &= ~on
        if not waits.any():
            break
    return made


@lru_cache(256)
def stem_of(key: str) -> float:
    """How thick the upright of an l is, in ems, at a third of its height; a tenth where the face has none."""
    told = face(key)
    gids = told.shape("l").gids
    if len(gids) != 1:
        return STEM
    crossings = []
    for part in told.outline(int(gids[0])).flattened(0.002):
        closed = np.vstack([part, part[:1]])
        for (x0, y0), (x1, y1) in pairwise(closed):
            if (y0 + MIDDLE) * (y1 + MIDDLE) < 0:
                crossings.append(float(x0 + (x1 - x0) * (-MIDDLE - y0) / (y1 - y0)))
    return max(crossings) - min(crossings) if len(crossings) >= 2 else STEM


def judge_words(words: Sequence[Letters], ground: SeenGround, profile: bytes) -> list[Word]:
    """The words on a ground, each with its verdict."""
    if not words:
        return []
    means, unrests = ground.around(np.concatenate([each.boxes for each in words]))
    inks = np.array([sum(light_of(tone, profile) for tone in each.colour) / len(each.colour) for each in words])
    thin = np.minimum(1.0, [each.stem / STEM for each in words])
    counts = np.array([len(each.boxes) for each in words])
    firsts = np.concatenate([[0], counts.cumsum()[:-1]])
    off = (inks.repeat(counts) - means) / np.sqrt(unrests**2 + UNREST**2)
    way = np.where(_of_each(off, firsts, counts, 0.5) >= 0, 1.0, -1.0)
    off *= way.repeat(counts)
    scores = _of_each(off, firsts, counts, WORST) * thin
    light, unrest = (np.add.reduceat(each, firsts) / counts for each in (means, unrests))
    figures = zip(*(each.tolist() for each in (inks, light, unrest, thin, scores)), strict=True)
    return [
        Word(each.text, each.block, each.boxes, ink, mean, varies, thins, letters, each.size, score)
        for each, (ink, mean, varies, thins, score), letters in zip(
            words, figures, np.split(off, firsts[1:]), strict=True
        )
    ]


def _of_each(values: Reals, firsts: Counts, counts: Counts, share: float) -> Reals:
    """The quantile of each run of values, of so many from its first on; between two of them, in proportion."""
    rising = values[np.lexsort((values, np.arange(len(firsts)).repeat(counts)))]
    at = share * (counts - 1)
    low = np.floor(at).astype(np.int64)
    below, above = rising[firsts + low], rising[firsts + np.minimum(low + 1, counts - 1)]
    return np.asarray(below + (at - low) * (above - below))


def light_of(tone: Tone, profile: bytes) -> float:
    """L* of an ink as it looks in print."""
    return _light(tuple(round(100 * share, 2) for share in tone.process), profile)


@lru_cache(512)
def _light(shares: tuple[float, ...], profile: bytes) -> float:
    return lab_of_inks(shares, profile)[0]

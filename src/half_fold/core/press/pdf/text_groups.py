"""Runs of glyphs that are shown as one, where they lie on one line in one dress."""

from collections.abc import Callable, Iterable, Iterator
from itertools import groupby
from operator import itemgetter

import numpy as np
import numpy.typing as npt

from half_fold.core.drawing.marks import (
    Glyphs,
    Mark,
)
from half_fold.core.measure.rect import Rect
from half_fold.core.press.pdf.reach import ABOVE, AFTER, BEFORE, BELOW
from half_fold.core.press.pdf.shown import ShownRuns


class TextGroup:
    """Upright glyphs of one block, which are shown together."""

    def __init__(self, marks: list[Glyphs]) -> None:
        self.marks, self.runs = marks, ShownRuns(marks)
        size, baselines = self.runs.sizes[self.runs.looks], self.runs.baselines
        self._sides = self.runs.lows - BEFORE * size, self.runs.highs + AFTER * size
        self._ends = baselines - ABOVE * size, baselines + BELOW * size
        (left, right), (top, bottom) = self._sides, self._ends
        self._hull = Rect(float(left.min()), float(top.min()), float(right.max()), float(bottom.max()))
        self._none, self._all = np.zeros(len(marks), np.bool_), np.ones(len(marks), np.bool_)

    def seen_in(self, clip: Rect) -> tuple[npt.NDArray[np.bool_], npt.NDArray[np.bool_]]:
        """Which of its marks may touch the clip, and which lie all inside."""
        if not self._hull.meets(clip):
            return self._none, self._none
        if self._hull.clipped(clip) == self._hull:
            return self._all, self._all
        (left, right), (top, bottom) = self._sides, self._ends
        seen = (left < clip.right) & (clip.left < right) & (top < clip.bottom) & (clip.top < bottom)
        inside = (clip.left <= left) & (right <= clip.right) & (clip.top <= top) & (bottom <= clip.bottom)
        return seen, inside


def part_by_clip(group: TextGroup, clip_of: Callable[[Mark], Rect]) -> Iterator[tuple[TextGroup, Rect]]:
    """A group in parts of one clip each, as the cards of a leaf have their own; most are of one part."""
    clips = [clip_of(mark) for mark in group.marks]
    if clips.count(clips[0]) == len(clips):
        yield group, clips[0]
        return
    for clip, several in groupby(zip(clips, group.marks, strict=True), key=itemgetter(0)):
        yield TextGroup([mark for _, mark in several]), clip


def grouped(marks: Iterable[Mark]) -> Iterator[TextGroup | Mark]:
    """The marks in their order, upright glyphs of one block together."""
    for is_text, run in groupby(marks, lambda mark: isinstance(mark, Glyphs) and mark.turn is None):
        if not is_text:
            yield from run
            continue
        together: list[Glyphs] = []
        for mark in run:
            assert isinstance(mark, Glyphs)
            if together and mark.origin != together[-1].origin:
                yield TextGroup(together)
                together = []
            if len(mark.gids):
                together.append(mark)
        if together:
            yield TextGroup(together)

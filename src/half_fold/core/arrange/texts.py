"""Words among pictures: how much room they ask for, and how well a rectangle would serve them."""

import numpy as np
import numpy.typing as npt
from msgspec import Struct

from half_fold.core.arrange.judging import FORBIDDEN
from half_fold.core.arrange.room import Room
from half_fold.core.publication.records import Block, HoldsDisplay, HoldsStory, Publication
from half_fold.core.publication.surgery import master_of, page_of_block, role_in, role_named, story_of
from half_fold.core.typesetting.lines.measure_text import average_width
from half_fold.core.typesetting.lines.roles import Style, style_of

Reals = npt.NDArray[np.float64]
LEAST_LETTERS, MOST_LETTERS = 38, 68  # characters of a line of running text
SHORT, LONG = 8, 32  # and of words set large
RAGGED = 12  # letters that words set large lose at the ends of their lines
MOST_COLUMNS = 6
LOOSE = 1.08  # a text takes so much more than its letters, for lines that end short
LEAST_FULL = 0.55  # words that fill less of their place than that lie lost in it


class Text(Struct, frozen=True):
    """Words to be laid: the ``area`` they take (square points), and from what to what measure they read well (points).

    Running text stands in columns with a ``gutter``; one that ``goes_on`` may have less room than it takes.
    """

    area: float
    least: float
    most: float
    gutter: float = 0.0
    goes_on: bool = False

    @property
    def runs(self) -> bool:
        """Whether it is running text."""
        return self.gutter > 0


def text_asked(publication: Publication, block: Block, area: float = 0.0) -> Text | None:
    """What the words of a block ask for; of a story what its block has now, or an ``area``. None where it has none."""
    holds = block.holds
    if isinstance(holds, HoldsDisplay):
        return _words(publication, holds)
    if isinstance(holds, HoldsStory):
        story = story_of(publication, holds.story)
        style = style_of(role_named(publication, "body"), story.language)
        _, page, _ = page_of_block(publication, block.id)
        gutter = (page.grid or master_of(publication, page).grid).gutter.pt
        letter = average_width(style)
        whole = area or area_of_story(publication, holds.story)
        return Text(whole, LEAST_LETTERS * letter, MOST_LETTERS * letter, max(gutter, 1.0), not area)
    return None


def _words(publication: Publication, holds: HoldsDisplay) -> Text | None:
    """What words set large ask for, at the size they have."""
    language = publication.language
    paragraphs = [(style_of(role_in(publication, holds, p.role), language), p.text) for p in holds.paragraphs]
    if not paragraphs:
        return None
    first = paragraphs[0][0].size
    larger = holds.size.pt / first if holds.size is not None else 1.0
    widest = max((style for style, _ in paragraphs), key=lambda style: style.size)
    letter = average_width(widest) * larger
    longest = max((len(word) for _, text in paragraphs for word in text.split()), default=1)
    area = sum(_area(style, len(text) + RAGGED) for style, text in paragraphs) * larger**2
    return Text(area, max(SHORT, longest) * letter, max(LONG, longest * 1.2) * letter)


def area_of_story(publication: Publication, story: str) -> float:
    """The square points that a whole story takes in the body role."""
    style = style_of(role_named(publication, "body"), story_of(publication, story).language)
    return sum(_area(style, len(paragraph.text) + 20) for paragraph in story_of(publication, story).paragraphs)


def _area(style: Style, letters: int) -> float:
    return average_width(style) * letters * LOOSE * style.leading


def columns_in(text: Text, width: float) -> int:
    """In how many columns running text is set best that is so wide (points)."""
    return int(_measures(text, np.array([width]))[1][0])


def _measures(text: Text, widths: Reals) -> tuple[Reals, npt.NDArray[np.int64]]:
    """How far the measure is from reading well, as a logarithm, in the best count of columns; and that count."""
    counts = np.arange(1, MOST_COLUMNS + 1) if text.runs else np.array([1])
    measures = np.maximum((widths[:, None] - (counts - 1) * text.gutter) / counts, 1.0)
    off = np.maximum(np.log(text.least / measures), 0) * 2 + np.maximum(np.log(measures / text.most), 0)
    best = off.argmin(axis=1)
    return off[np.arange(len(widths)), best], counts[best]


def cost_of(room: Room, text: Text) -> Reals:
    """What it costs to lay words on each rectangle: by their measure, and by how full they make it.

    They keep to the margins and to one page: FORBIDDEN else, and where they do not go in.
    """
    width = room.seen[:, 2] - room.seen[:, 0]
    off, _ = _measures(text, width)
    full = text.area / room.areas
    cost = 3 * off**2 + 0.5 * off
    if text.goes_on:
        third = room.area.width * room.area.height / 3
        cost += 0.5 * np.maximum(0, np.log(min(third, text.area) / room.areas)) ** 2 + _empty(full)
    elif text.runs:
        cost += 4 * np.abs(np.log(full)) ** 1.5  # this much of a story is to lie here, neither more nor less
    else:
        cost += _empty(full) + np.where(full > 1, FORBIDDEN, 0)
    cost = np.where(width < text.least * (0.6 if text.runs else 1.0), FORBIDDEN, cost)
    return np.where((room.rects[:, 4] == 1) | room.over_fold, FORBIDDEN, cost)


def _empty(full: Reals) -> Reals:
    return 1.5 * np.maximum(0, LEAST_FULL - full)

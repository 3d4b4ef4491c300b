"""The words of runs, each in pieces of one style that run one way."""

import re
from collections.abc import Sequence
from itertools import groupby

from half_fold.core.publication.records import Run
from half_fold.core.typesetting.faces.directions import begins_right, has_turns, levels_of, reads_leftwards
from half_fold.core.typesetting.faces.faces import face_key
from half_fold.core.typesetting.faces.words import SPACES, Piece, Word
from half_fold.core.typesetting.lines.lit import kept_light
from half_fold.core.typesetting.lines.tokens import TokenTable

_SPACED = re.compile(f"({SPACES.pattern})")


def is_plain_style(run: Run) -> bool:
    """Whether a run is in the role's own style."""
    styled = run.bold or run.italic or run.small_caps or run.rise or run.ink
    return not (styled or run.face or run.size != 100.0 or run.tracking or run.light)


def tokenise(runs: Sequence[Run], table: TokenTable) -> list[int]:
    """The token of every word; a word that changes style inside is one token of several pieces."""
    return [table.id_of_styled(word) for word in words_of_runs(runs, table.setting.language)]


def words_of_runs(runs: Sequence[Run], language: str) -> list[Word]:
    """The words of a paragraph's runs, each in pieces of one style that run one way."""
    text = "".join(run.text for run in runs)
    levels = levels_of(text, language) if reads_leftwards(language) or has_turns(text) else None
    words: list[list[Piece]] = [[]]
    at, gap = 0, int(levels is not None and begins_right(text, language))
    for run in runs:
        piece = piece_of(run)
        for index, part in enumerate(_SPACED.split(run.text)):
            if index % 2:
                words.append([])
                gap = levels[at] if levels is not None else 0
            elif levels is None and part:
                words[-1].append(piece._replace(text=part))
            elif levels is not None:
                words[-1] += _by_level(piece, part, gap, levels[at : at + len(part)])
            at += len(part)
    return [tuple(word) for word in words if word]


def piece_of(run: Run) -> Piece:
    """A piece without letters in a run's style."""
    face, grown, tracked = run.face and _known(run.face), run.size / 100 - 1, run.tracking / 1000
    own = run.bold, run.italic, run.small_caps, run.rise, run.ink
    return Piece("", *own, 0, 0, face, grown, tracked, kept_light(run))


def _known(key: str) -> str:
    """The key of a run's own face, or of what stands in for it."""
    family, _, style = key.partition("/")
    return face_key(family, style)


def _by_level(piece: Piece, text: str, gap: int, levels: Sequence[int]) -> list[Piece]:
    """A text in pieces as ``piece`` is that run one way each, given the level of every letter of it."""
    if text and levels.count(levels[0]) == len(levels):  # as nearly all are
        return [piece._replace(text=text, level=levels[0], gap=gap)]
    out, at = list[Piece](), 0
    for level, letters in groupby(levels):
        count = len(list(letters))
        out.append(piece._replace(text=text[at : at + count], level=level, gap=gap))
        at += count
    return out

"""Which way text reads: Unicode's bidirectional algorithm (UAX 9), as the library FriBidi works it out.

A level says of a letter how deep it is nested and which way it runs: even ones to the right, odd ones to the left.
"""

import ctypes
import re
import unicodedata
from collections.abc import Sequence
from functools import cache, lru_cache
from typing import Any

from half_fold.core.measure.problem import Problem

LEFTWARDS = frozenset({"ar", "arc", "ckb", "dv", "fa", "he", "ps", "sd", "syr", "ug", "ur", "yi"})
_LIBRARY = "libfribidi.so.0"
_PARAGRAPH_RIGHTWARDS, _PARAGRAPH_LEFTWARDS = 0x110, 0x111
# Letters that run to the left, their figures, and the signs that turn the order.
_TURNS = re.compile(
    "[\u0590-\u08ff\u200f\u202a-\u202e\u2066-\u2069\ufb1d-\ufdff\ufe70-\ufefc\U00010800-\U00010fff\U0001e800-\U0001efff]"
)


def reads_leftwards(language: str) -> bool:
    """Whether lines of that language run from right to left."""
    return language[:3].split("_")[0].split("-")[0] in LEFTWARDS


def has_turns(text: str) -> bool:
    """Whether anything of a text may run to the left."""
    return not text.isascii() and _TURNS.search(text) is not None


@lru_cache(4096)
def begins_right(text: str, language: str) -> bool:
    """Whether a paragraph's lines begin at the right: where its language does, or where most of its letters do."""
    if reads_leftwards(language):
        return True
    if not has_turns(text):
        return False
    kinds = [unicodedata.bidirectional(letter) for letter in text]
    return sum(kind in ("R", "AL") for kind in kinds) > sum(kind == "L" for kind in kinds)


def language_of(text: str, otherwise: str) -> str:
    """The language a text is taken for: ``otherwise``, unless its letters run to the left and that does not."""
    if reads_leftwards(otherwise) or not begins_right(text, otherwise):
        return otherwise
    kinds = [unicodedata.bidirectional(letter) for letter in text]
    return "ar" if kinds.count("AL") > kinds.count("R") else "he_IL"


@lru_cache(4096)
def levels_of(text: str, language: str) -> tuple[int, ...]:
    """The level of every letter of a paragraph in that language. Problem where the system lacks FriBidi."""
    library, count = _library(), len(text)
    letters = (ctypes.c_uint32 * count).from_buffer_copy(text.encode("utf-32-le", "surrogatepass"))
    kinds, brackets = (ctypes.c_uint32 * count)(), (ctypes.c_uint32 * count)()
    levels = (ctypes.c_int8 * count)()
    base = ctypes.c_uint32(_PARAGRAPH_LEFTWARDS if begins_right(text, language) else _PARAGRAPH_RIGHTWARDS)
    library.fribidi_get_bidi_types(letters, count, kinds)
    library.fribidi_get_bracket_types(letters, count, kinds, brackets)
    library.fribidi_get_par_embedding_levels_ex(kinds, brackets, count, ctypes.byref(base), levels)
    return tuple(levels)


@cache
def _library() -> Any:
    try:
        return ctypes.CDLL(_LIBRARY)
    except OSError as error:
        raise Problem(
            "Text that reads from the right needs the system's library FriBidi; install the package libfribidi0."
        ) from error


def as_read(texts: Sequence[str]) -> str:
    """What glyphs say that are given from left to right, in the order in which it is read.

    Their levels are judged by the letters alone: enough to name words by.
    """
    said = "".join(texts)
    if not has_turns(said):
        return said
    ways = [_way_of(text) for text in texts]
    from_right = ways.count("R") > ways.count("L")
    before, after = _strong(ways), _strong(ways[::-1])[::-1]
    levels = []
    for way, one, other in zip(ways, before, after, strict=True):
        way = way or (one if one == other else "R" if from_right else "L")
        turned = from_right or "R" in (one, other)
        levels.append(1 if way == "R" else 2 if from_right or (way == "N" and turned) else 0)
    return "".join(texts[at] for at in in_sight_order(levels))


def _way_of(text: str) -> str:
    """R or L as letters run, N for figures, "" for what goes with what stands beside it."""
    kinds = {unicodedata.bidirectional(letter) for letter in text}
    return "R" if kinds & {"R", "AL"} else "L" if "L" in kinds else "N" if kinds & {"EN", "AN"} else ""


def _strong(ways: Sequence[str]) -> list[str]:
    """For each the way of the last that has one, itself included."""
    out, last = list[str](), ""
    for way in ways:
        last = way or last
        out.append(last)
    return out


def in_sight_order(levels: Sequence[int]) -> list[int]:
    """The places of a line's parts, given with their levels, as they are seen from left to right (rule L2)."""
    order = list(range(len(levels)))
    for level in range(max(levels, default=0), 0, -1):
        at = 0
        while at < len(order):
            end = at
            while end < len(order) and levels[order[end]] >= level:
                end += 1
            order[at:end] = order[at:end][::-1]
            at = max(end, at + 1)
    return order

"""Hyphenation and letter frequencies by language."""

import contextlib
from functools import cache
from pathlib import Path

import msgspec
import pyphen
from msgspec import Struct
from platformdirs import user_cache_path

from half_fold.core.measure.problem import Problem
from half_fold.core.store.atomic import write_whole

SHORTEST_HYPHENATED = 5


@cache
def _dictionary(language: str) -> pyphen.Pyphen | None:
    known = pyphen.language_fallback(language)
    if known is None:
        return None
    file = pyphen.LANGUAGES[known]
    if file not in pyphen.hdcache:
        pyphen.hdcache[file] = _parsed_before(known) or _parse(known, file)
    return pyphen.Pyphen(lang=known, left=2, right=3)


class _Patterns(Struct, array_like=True):
    """Patterns by their letters, and which of the few rows (where it begins, values) each has."""

    letters: list[str]
    which: list[int]
    rows: list[tuple[int, tuple[int, ...]]]


def _kept_file(language: str) -> Path:
    return user_cache_path("half-fold") / f"hyphenation-{language}-{pyphen.__version__}.patterns"


def _parsed_before(language: str) -> pyphen.HyphDict | None:
    """The patterns as an earlier run parsed them: reading those takes a sixth of the time."""
    try:
        kept = msgspec.msgpack.decode(_kept_file(language).read_bytes(), type=_Patterns)
        patterns = dict(zip(kept.letters, map(kept.rows.__getitem__, kept.which), strict=True))
    except (OSError, msgspec.DecodeError, LookupError, ValueError):
        return None
    made = pyphen.HyphDict.__new__(pyphen.HyphDict)
    made.patterns, made.cache = patterns, {}
    made.maxlen = max(map(len, patterns), default=0)
    return made


def _parse(language: str, file: Path) -> pyphen.HyphDict:
    made = pyphen.HyphDict(file)
    if all(type(values) is tuple for values in made.patterns.values()):
        with contextlib.suppress(OSError, TypeError, Problem):
            kept = _kept_file(language)
            kept.parent.mkdir(parents=True, exist_ok=True)
            rows = list(dict.fromkeys(made.patterns.values()))
            which = {row: index for index, row in enumerate(rows)}
            told = _Patterns(list(made.patterns), [which[row] for row in made.patterns.values()], rows)
            write_whole(kept, msgspec.msgpack.encode(told))
    return made


def hyphen_points(word: str, language: str) -> list[int]:
    """Where ``word`` (letters only) may be broken: indices into it. None for short words or other scripts."""
    dictionary = _dictionary(language)
    if dictionary is None or len(word) < SHORTEST_HYPHENATED:
        return []
    return [int(point) for point in dictionary.positions(word)]

"""Faces that stand in, by script, for letters that a face has not got."""

from collections.abc import Collection, Iterable, Iterator
from functools import cache, lru_cache
from itertools import islice
from typing import NamedTuple

from half_fold.core.measure.problem import Problem
from half_fold.core.typesetting.faces.faces import Face, face, face_key, families, ships
from half_fold.core.typesetting.faces.words import Piece

Fallbacks = tuple[tuple[str, str], ...]  # (script or SIGNS, family)
SIGNS = "Signs"  # what belongs to no script
COMMON = ("Zyyy", "Zinh", "Zzzz")


class Cluster(NamedTuple):
    """Letters that are drawn together: one with its marks, or a sequence; and whether the face has not got them."""

    text: str
    is_lacking: bool


@lru_cache(8192)
def scripts_of(text: str) -> frozenset[str]:
    """The English names of the scripts that a text's first letter belongs to; SIGNS where it belongs to none."""
    from fontTools import unicodedata

    codes = list(islice((code for code in map(unicodedata.script, text) if code not in COMMON), 1))
    codes = codes or [code for letter in text for code in unicodedata.script_extension(letter) if code not in COMMON]
    return frozenset(_name(code) for code in codes) or frozenset({SIGNS})


def _name(code: str) -> str:
    from fontTools import unicodedata

    return str(unicodedata.script_name(code)).replace("_", " ")


def decode_fallbacks(typed: str) -> Fallbacks:
    """What was typed as ``Hebrew: Frank Ruhl Libre, Arabic: Amiri``. Problem names what cannot be."""
    return tuple(_read_one(part) for part in typed.split(",") if part.strip())


def format_fallbacks(fallbacks: Fallbacks) -> str:
    """They as they are typed."""
    return ", ".join(f"{script}: {family}" for script, family in fallbacks)


def parse_fallbacks(typed: str) -> Fallbacks:
    """Those that a role names, whether their families are there or not."""
    pairs = (part.partition(":") for part in typed.split(",") if part.strip())
    return tuple((script.strip(), family.strip()) for script, _, family in pairs)


def known_fallbacks(typed: str) -> Fallbacks:
    """Those of a role that can be used: a family that is not there stands in for nothing."""
    return tuple(pair for pair in parse_fallbacks(typed) if pair[1] in families())


def _read_one(part: str) -> tuple[str, str]:
    script, colon, family = (word.strip() for word in part.partition(":"))
    if not colon or not script:
        raise Problem(f"“{part.strip()}” names no script and family; type such as “Hebrew: Frank Ruhl Libre”.")
    if script.lower() not in _script_names():
        raise Problem(f"There is no script “{script}”; type such as Hebrew, Arabic, Cyrillic, Greek or {SIGNS}.")
    if family not in families():
        raise Problem(f"There is no family “{family}”; there are {', '.join(families())}.")
    return _script_names()[script.lower()], family


@cache
def _script_names() -> dict[str, str]:
    from fontTools.unicodedata import Scripts

    names = [_name(code) for code in Scripts.NAMES]
    return {name.lower(): name for name in (*names, SIGNS)}


def clusters_of(drawn: Face, text: str, features: tuple[str, ...], way: str) -> Iterator[Cluster]:
    """The clusters of a text in reading order."""
    shaped = drawn.shape(text, features, way)
    lacking: dict[int, bool] = {}
    for gid, cluster in zip(shaped.glyphs, shaped.clusters, strict=True):
        lacking[cluster] = lacking.get(cluster, False) or gid == 0
    starts = sorted(lacking)
    for start, end in zip(starts, [*starts[1:], len(text)], strict=True):
        yield Cluster(text[start:end], lacking[start])


def fallback_key(fallbacks: Fallbacks, cluster: Cluster, piece: Piece) -> str:
    """The key of the face that stands in for a cluster; "" where none is named, or that one has not got it either."""
    scripts = scripts_of(cluster.text)
    for named, family in fallbacks:
        if named in scripts and family in families():
            styles = families()[family]
            key = face_key(family, "Regular" if "Regular" in styles else next(iter(styles)), piece.bold, piece.italic)
            if 0 not in face(key).shape(cluster.text).glyphs:
                return key
    return ""


def standing_in(letters: Iterable[str], own: Collection[str] = ()) -> tuple[str, str] | None:
    """(script, family) of a family that has all of those letters that are of one script; None where there is none.

    It is one that ships, or of the job's ``own``: those of another job that was open may have gone with it.
    """
    by_script: dict[str, list[str]] = {}
    for text in letters:
        for script in sorted(scripts_of(text)):
            by_script.setdefault(script, []).append(text)
    for script, told in by_script.items():
        for family, styles in families().items():
            if family not in own and not ships(family):
                continue
            drawn = face(f"{family}/{'Regular' if 'Regular' in styles else next(iter(styles))}")
            if all(0 not in drawn.shape(text).glyphs for text in told):
                return script, family
    return None

"""Ask: what a user says in plain words, answered with what can be set, done or gone to.

What can be asked for is made from the paths themselves; the words a thing may be known by stand with its property.
"""

import re
from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.kept import kept
from half_fold.core.paths.all import settings
from half_fold.core.paths.phrases import is_known, meant_by, refused
from half_fold.core.paths.setting import Setting
from half_fold.core.publication.property import Choices
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.surgery import thing_named
from half_fold.core.spread.settable.called import called
from half_fold.core.spread.settable.properties import BLOCK
from half_fold.core.spread.settable.samples import applies_to

_FIGURE = re.compile(r"[-+−]?[\d.,]+(/\d+)?\s*[a-zµ%°\"]*")
_WORD = re.compile(r"[^\s,;]+")
MOST = 8
_WHOLE = 3.0  # how near a word comes to itself
CHOSEN = 3.5  # the rank of what can be set of what is chosen
SMALL_WORDS = frozenset(
    {"a", "an", "the", "of", "to", "it", "its", "is", "be", "make", "set", "me", "my", "please", "between"}
)


class Wish(Struct, frozen=True):
    """Something that can be asked for.

    ``label`` and ``where`` say what and of what; ``words`` are all it may be known by, ``places`` those of where it
    is, in small letters. A ``path`` is set; one that ``takes_words`` has any for its value. What has none is done or
    gone to, by its ``key``. ``not_here`` says where it could be done, where it cannot be now.
    """

    label: str
    where: str
    words: tuple[str, ...]
    places: tuple[str, ...] = ()
    path: str = ""
    value: str = ""
    unit: str = ""
    choices: Choices = ()
    takes_words: bool = False
    key: str = ""
    not_here: str = ""
    rank: float = 0.0


class Match(Struct, frozen=True):
    """A wish that was meant, and the value that was said with it, if any."""

    wish: Wish
    typed: str = ""
    score: float = 0.0


def wish(label: str, where: str, also: Iterable[str] = (), **more: object) -> Wish:
    """A wish known by its label, where it is, and other words."""
    words, places = " ".join((label, *also)).lower(), where.lower()
    return Wish(label, where, _parted(words), _parted(places), **more)  # type: ignore[arg-type]  # fields of it


def _parted(words: str) -> tuple[str, ...]:
    return tuple(dict.fromkeys(_WORD.findall(words.replace("“", " ").replace("”", " "))))


def wishes(publication: Publication, chosen: Sequence[str], pages: Sequence[int]) -> list[Wish]:
    """All that can be set: of what is chosen first, then of the pages in view, the job, its inks and its roles."""
    return [
        *(each for name in chosen[-1:] for each in _of_chosen(publication, name)),
        *_elsewhere(publication, chosen),
        *(each for page in pages for each in _of(publication, f"page.{page}.", f"page {page}", 1.0)),
        *_of(publication, "brief.", "the brief", 0.6),
        *_of(publication, "plan.", "the plan", 0.6),
        *_of(publication, "cover.", "the cover", 0.5),
        *_of(publication, "spine.", "the spine", 0.5),
        *(w for role in publication.roles for w in _of(publication, f"role.{role.name}.", f"role {role.label}", 0.4)),
        *(w for master in publication.masters
          for w in _of(publication, f"master.{master.name}.", f"master {master.name}", 0.4)),
        *_of(publication, "ink.", "the ink list", 0.3),
        *_of(publication, "fade.", "the ink list", 0.3),
        *_of(publication, "look.", "the ink list", 0.3),
        *_of(publication, "light", "the job", 0.3),
        *_of(publication, "manner.", "the manner of arranging", 0.2),
    ]  # fmt: skip


def _of_chosen(publication: Publication, name: str) -> Iterator[Wish]:
    thing = thing_named(publication, name)
    kind = "block" if isinstance(thing, Block) else "group"
    return _of(publication, f"{kind}.{name}.", called(publication, thing), CHOSEN)


def _of(publication: Publication, begins: str, where: str, rank: float) -> Iterator[Wish]:
    for setting in settings(publication, begins):
        if setting.path.startswith(begins):
            yield _wish_of(setting, where, rank)


def _wish_of(setting: Setting, where: str, rank: float) -> Wish:
    """The wish for a setting; an ink's own name is among its words."""
    last = setting.path.split(".")[1:]
    made = wish(setting.label, where, (*setting.also, *last), path=setting.path, value=setting.value,
                unit=setting.unit, choices=setting.choices, takes_words=setting.takes_words)  # fmt: skip
    return replace(made, rank=rank)


def _elsewhere(publication: Publication, chosen: Sequence[str]) -> Iterator[Wish]:
    """What can be set of other blocks than the one that is chosen, and of what kind."""
    thing = thing_named(publication, chosen[-1]) if chosen else None
    for each in BLOCK:
        if isinstance(thing, Block) and each.applies(thing):
            continue
        kinds = applies_to(each)
        words = f"choose {' or '.join(kinds)} first" if kinds else "choose a block first"
        yield replace(wish(each.label, "", (*each.also, each.key), not_here=words), rank=-0.5)


def answers(known: Iterable[Wish], said: str, most: int = MOST, recent: Sequence[str] = ()) -> list[Match]:
    """What was meant, the likeliest first: every word said is one of a wish's own, or is the value it is to have.

    What is known by other words is looked for by ours first, and then as it was said.
    """
    every, why, ours = tuple(known), refused(said), meant_by(said)
    meant = _answers(every, ours, recent) if ours else []
    found = [*meant[: most // 2], *_answers(every, said, recent)]
    if why is not None:  # first, but where we have the very thing under another name
        found.insert(1 if found and is_known(said) else 0, Match(wish(why.label, "", not_here=why.instead)))
    return _apart(found)[:most]


def _answers(every: tuple[Wish, ...], said: str, recent: Sequence[str]) -> list[Match]:
    spoken = [found for found in _WORD.finditer(said) if found[0].lower() not in SMALL_WORDS]
    words = [found[0].lower() for found in spoken]
    if not words:
        return [Match(each) for each in every if each.label in recent]
    tables: list[dict[str, float]] = [{} for _ in words]  # how near each word comes to others, found once
    ends = [said[found.start() :].strip() for found in spoken]  # with the signs between words, which part some values
    found = [answer for each in _near(every, words) if (answer := _answer(each, words, tables, ends)) is not None]
    found.sort(key=lambda answer: -(answer.score + (0.5 if answer.wish.label in recent else 0.0)))
    return _apart(found)


class _Index(NamedTuple):
    """The words that wishes are known by, each once; those of each wish as places among them, one after another."""

    words: tuple[str, ...]
    places: npt.NDArray[np.int64]
    begins: npt.NDArray[np.int64]
    is_chosen: npt.NDArray[np.bool_]  # by a value alone, where nothing of its own was said


@kept(4)
def _index(known: tuple[Wish, ...]) -> _Index:
    at: dict[str, int] = {}
    places = [[at.setdefault(word, len(at)) for word in each.words or ("",)] for each in known]
    begins = np.cumsum([0, *map(len, places)])[:-1]
    chosen = np.array([each.rank >= CHOSEN for each in known], bool)
    return _Index(tuple(at), np.array([each for some in places for each in some], np.int64), begins, chosen)


def _near(known: tuple[Wish, ...], words: Sequence[str]) -> Iterable[Wish]:
    """The wishes that one of some words may mean, or that have to do with what is chosen: others cannot be meant."""
    index = _index(known)
    meant = np.zeros(len(index.words), bool)
    for word in words:
        meant |= np.array([word in each or each == word[:-1] for each in index.words], bool)
    any_of = np.logical_or.reduceat(meant[index.places], index.begins) | index.is_chosen
    return (known[n] for n in np.flatnonzero(any_of))


def _apart(found: list[Match]) -> list[Match]:
    """One answer for each thing that can be asked: what can be done here stands for what cannot."""
    seen: dict[tuple[str, str, str], Match] = {}
    done = {answer.wish.label for answer in found if not answer.wish.not_here}
    for answer in found:
        if not (answer.wish.not_here and answer.wish.label in done):
            seen.setdefault((answer.wish.label, answer.wish.where, answer.wish.path or answer.wish.key), answer)
    return list(seen.values())


def _answer(known: Wish, words: Sequence[str], tables: Sequence[dict[str, float]], ends: Sequence[str]) -> Match | None:
    """How well a wish was meant by some words; None where one of them has nothing to do with it.

    ``ends`` are what was said from each of them on, for a wish whose value is words itself.
    """
    own = [_nearest(word, known.words, table) for word, table in zip(words, tables, strict=True)]
    there = [_nearest(word, known.places, table) / 2 for word, table in zip(words, tables, strict=True)]
    rest = [word for word, a, b in zip(words, own, there, strict=True) if not a and not b]
    if not any(own) and not (rest and _may_be_value(known, rest)):
        return None
    typed = _value(known, rest)
    is_free = bool(rest and not typed and known.takes_words and any(own))
    named = _named(known.label, words)
    if is_free and not named and own[0] < _WHOLE:
        return None  # whatever was said would be its words, though it was not named
    if is_free:
        begins = next(index for index, (a, b) in enumerate(zip(own, there, strict=True)) if not a and not b)
        typed, rest = ends[begins], list(words[begins:])
    if rest and not typed:
        return None
    if not rest and not typed and known.choices:
        typed = _chosen_by(known, words)
    score = sum(map(max, own, there)) / max(1, len(words) - len(rest))
    first = 1.0 if any(each.startswith(words[0]) for each in known.label.lower().split()) else 0.0
    whole = 1.0 if not rest and len(words) > 1 else 0.0
    return Match(known, typed, score + first + whole + known.rank + named)


def _named(label: str, words: Sequence[str]) -> float:
    """How much is said for a wish whose whole name stands at the beginning: more for a longer one."""
    own = [word for word in _WORD.findall(label.lower()) if word not in SMALL_WORDS]
    return 0.75 * len(own) if own and list(words[: len(own)]) == own else 0.0


def _chosen_by(known: Wish, words: Sequence[str]) -> str:
    """The choice that the words end in, though they are also words for what it is a choice of; '' where it is none."""
    ends = [" ".join(words[at:]) for at in range(len(words))]
    known_as = {name.lower(): value or said for value, said in known.choices for name in (said, value)}
    return next((known_as[end] for end in ends if end in known_as), "")


def _nearest(word: str, own: Sequence[str], table: dict[str, float]) -> float:
    """How near a word comes to the nearest of some."""
    best = 0.0
    for each in own:
        near = table.get(each)
        if near is None:
            near = table[each] = _match(word, each)
        if near > best:
            best = near
    return best


def _match(word: str, own: str) -> float:
    if word in (own, f"{own}s"):
        return _WHOLE
    if own.startswith(word):
        return 2.0 + len(word) / len(own) / 2
    return 1.0 if len(word) > 2 and word in own else 0.0


def _may_be_value(known: Wish, rest: Sequence[str]) -> bool:
    """Whether words that name nothing are enough: a choice of what is chosen, or a size in points."""
    text = " ".join(rest)
    if known.rank < CHOSEN:
        return False
    if text.endswith("pt") and _FIGURE.fullmatch(text):
        return known.label == "Size"
    return len(text) > 2 and any(text == words.lower() for _, words in known.choices)


def _value(known: Wish, rest: Sequence[str]) -> str:
    """What was said beside a wish's own words, where that can be its value; '' where it cannot."""
    if not rest or not known.path:
        return ""
    text = " ".join(rest)
    whole = [value or words for value, words in known.choices if text in (value.lower(), words.lower())]
    begun = [value or words for value, words in known.choices if len(text) > 2 and words.lower().startswith(text)]
    if known.choices:
        held = [value or words for value, words in known.choices if len(text) > 3 and text in words.lower()]
        return next(iter((*whole, *begun, *held)), "")
    return text if _FIGURE.fullmatch(text) else ""

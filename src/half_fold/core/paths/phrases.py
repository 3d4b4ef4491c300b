"""What practitioners say, as what it is called here: a table of phrases, and of those for what cannot be done."""

import re
from importlib.resources import files
from typing import NamedTuple

import msgspec

from half_fold.core.measure.kept import kept

_FOLDER = "ask"


class Refusal(NamedTuple):
    """What was asked for, called as we would, and where it can be had instead."""

    label: str
    instead: str


def _table(name: str) -> bytes:
    return files("half_fold.data").joinpath(_FOLDER, name).read_bytes()


@kept(1)
def meanings() -> dict[str, str]:
    """By phrase, in small letters, the words by which Ask knows what is meant; some with a value behind them."""
    known: dict[str, list[str]] = msgspec.json.decode(_table("meant.json"))
    return {phrase: words for words, phrases in known.items() for phrase in phrases}


@kept(1)
def _refusals() -> dict[str, Refusal]:
    known: dict[str, tuple[list[str], str]] = msgspec.json.decode(
        _table("not_here.json"), type=dict[str, tuple[list[str], str]]
    )
    return {phrase: Refusal(label, words) for label, (phrases, words) in known.items() for phrase in phrases}


def refused(said: str) -> Refusal | None:
    """Why what was said cannot be done, and what can instead; None where nothing is known of it."""
    known = _refusals()
    return next((known[each] for each in _forms(said) if each in known), None)


def is_known(said: str) -> bool:
    """Whether all that was said is a phrase for something that we call otherwise."""
    return any(each in meanings() for each in _forms(said))


def meant_by(said: str) -> str:
    """What was said with the longest phrase at its beginning put in our words; '' where it begins with none.

    What follows the phrase is its value.
    """
    known = meanings()
    for form in _forms(said):
        words = form.split()
        for count in range(len(words), 0, -1):
            meaning = known.get(" ".join(words[:count]))
            if meaning is not None:
                return " ".join((meaning, *words[count:]))
    return ""


_ASKING = re.compile(r"^((please|make|set|add|give|put|it|an?|the) )+")


def _forms(said: str) -> tuple[str, ...]:
    """In small letters as it was said, and without the words of asking at its beginning."""
    plain = re.sub(r"\s+", " ", said.strip().casefold())
    bare = _ASKING.sub("", plain)
    return (plain,) if bare == plain else (plain, bare)

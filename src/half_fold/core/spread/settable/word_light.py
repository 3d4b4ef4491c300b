"""What can be set of the light of words within a paragraph: a shadow, a glow and the lines round them, theirs alone."""

from typing import Any

from msgspec.structs import replace

from half_fold.core.inks.properties import LOOK
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.records import Look
from half_fold.core.spread.settable.light_properties import AS_IN_BLOCKS
from half_fold.core.typesetting.sheet.word_properties import WORDS, Spoken

_BARE = Look(name="")


def _of(of: Property[Look], key: str) -> Property[Spoken]:
    def read(words: Spoken) -> Any:
        return of.read(words.run.light or _BARE)

    def write(words: Spoken, value: Any) -> Spoken:
        made = of.write(words.run.light or _BARE, value)
        return replace(words, run=replace(words.run, light=None if made == _BARE else made))

    def applies(words: Spoken) -> bool:
        return of.applies(words.run.light or _BARE)

    assert not callable(of.choices)
    return Property(
        key, of.label, of.kind, read, write, of.least, of.most, of.unit, of.choices,
        none=of.none, note=of.note, also=of.also, applies=applies,
        parse=None if of.parse is None else lambda job, words, typed: of.value(job, words.run.light or _BARE, typed),
    )  # fmt: skip


WORD_LIGHT: tuple[Property[Spoken], ...] = tuple(_of(named(LOOK, key), own) for key, own in AS_IN_BLOCKS.items())
EVERY: tuple[Property[Spoken], ...] = (*WORDS, *WORD_LIGHT)


def word_properties(words: Spoken) -> tuple[Property[Spoken], ...]:
    """All that can be set of those words now."""
    return tuple(each for each in EVERY if each.applies(words))

"""What stands at a path."""

from collections.abc import Callable
from functools import cached_property, partial
from typing import Any

from msgspec import Struct

from half_fold.core.publication.property import Choices, Property
from half_fold.core.publication.records import Publication


class Setting(Struct, frozen=True, dict=True):
    """A path: what it is called and other words for that, its value as typed, its unit, what sets it, and
    whether any words may be its value; its choices, or what gives them when they are asked for."""

    path: str
    label: str
    value: str
    take: Callable[[str], Publication]
    unit: str = ""
    offered: Choices | Callable[[], Choices] = ()
    also: tuple[str, ...] = ()
    takes_words: bool = False

    @cached_property
    def choices(self) -> Choices:
        """What may be chosen, with the words for it."""
        return self.offered() if callable(self.offered) else self.offered


def setting_of(
    path: str, of: Property[Any], publication: Publication, thing: object, take: Callable[[str], Publication]
) -> Setting:
    """A property of a thing, at its key behind the thing's own path."""
    unit = "%" if of.kind == "share" else of.unit
    choices, words = partial(of.choices_in, publication, thing), of.kind == "text"
    return Setting(f"{path}.{of.key}", of.label, of.typed(thing), take, unit, choices, of.also, words)

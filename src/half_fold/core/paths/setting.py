"""What stands at a path."""

from collections.abc import Callable
from dataclasses import dataclass

from half_fold.core.publication.property import Choices
from half_fold.core.publication.records import Publication


@dataclass(frozen=True)
class Setting:
    """A path: what it is called, its value as typed, its unit, what may be chosen, and what sets it."""

    path: str
    label: str
    value: str
    take: Callable[[str], Publication]
    unit: str = ""
    choices: Choices = ()

"""Everything that can be set, each declared once: its path, its words, its kind and range, how it is read and written.

A room keeps the table of its own things; windows, the command line and the documents follow from the tables.
"""

from collections.abc import Callable, Iterable, Sequence
from typing import Any, Generic, Literal, TypeVar

from msgspec import Struct, field

from half_fold.core.measure.entry import MM, is_pixels
from half_fold.core.measure.length import Length, format_length, length
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication

Kind = Literal[
    "length", "number", "count", "share", "choice", "ink", "paint", "look", "role", "picture", "text", "flag"
]
T = TypeVar("T")
YES, NO, NONE = "yes", "no", "none"
_YES, _NO, _NONE = (YES, "true", "on", "1"), (NO, "false", "off", "0"), (NONE, "")
Choices = Sequence[tuple[str, str]]
MORE = "   "  # what stands behind it in the words of a choice tells more of it, while there is a choice


class Property(Struct, Generic[T], frozen=True):
    """What can be set of a thing T (a block, a role ...).

    ``key`` is what stands behind the thing's own path; ``also`` are other words for it. ``read`` gives its value,
    ``write`` the thing with another. Lengths are from ``least`` to ``most`` millimetres, or points where that is their
    ``unit``. ``choices`` are (value, words) pairs, or what gives them for a thing. ``none`` is what is said where
    it may be left out and is. ``parse`` makes a value of words that only it can read. ``note`` stands under it; it only
    ``applies`` to some things. ``settle`` is given the thing after it was set, to choose what only the job can say.
    """

    key: str
    label: str
    kind: Kind
    read: Callable[[T], Any]
    write: Callable[[T, Any], T]
    least: float = 0.0
    most: float = 0.0
    unit: str = ""
    choices: Choices | Callable[[Publication, T], Choices] = ()
    none: str = ""
    note: str = ""
    also: tuple[str, ...] = ()
    applies: Callable[[T], bool] = field(default=lambda _: True)
    settle: Callable[[Publication, T], T] = field(default=lambda _, thing: thing)
    parse: Callable[[Publication, T, str], Any] | None = None

    def choices_in(self, publication: Publication, thing: T) -> Choices:
        """What may be chosen for a thing of that job, with the words for it; nothing where it is typed."""
        own: dict[str, Callable[[], list[tuple[str, str]]]] = {
            "ink": lambda: [(ink.name, ink.name) for ink in publication.inks],
            "paint": lambda: [(name, name) for name in paint_choices(publication)],
            "look": lambda: [(look.name, look.name) for look in publication.looks],
            "role": lambda: [(role.name, role.label) for role in publication.roles],
            "picture": lambda: [
                (each.id, f"{each.file}, cut out" if each.mask else each.file) for each in publication.pictures
            ],
            "flag": lambda: [(YES, YES), (NO, NO)],
        }
        if self.kind in own:
            found: Choices = own[self.kind]()
        else:
            found = self.choices(publication, thing) if callable(self.choices) else self.choices
        return [("", self.none), *found] if (found or self.kind == "look") and self.none else found

    def typed(self, thing: T) -> str:
        """Its value as it would be typed: to set it so changes nothing."""
        return typed_of(self.read(thing), self.kind)

    def shown(self, publication: Publication, thing: T) -> str:
        """Its value as it is read."""
        typed = self.typed(thing)
        if not typed and self.none:
            return self.none
        if self.kind == "length" and not self.unit:
            return format_property_length(self.read(thing), publication.brief.unit)
        words = dict(self.choices_in(publication, thing)).get(typed, typed).partition(MORE)[0]
        if self.kind == "share":
            return f"{words} %"
        if self.kind not in ("number", "count") or not self.unit:
            return words
        return f"{words}{self.unit}" if self.unit == "°" else f"{words} {self.unit}"

    def set(self, publication: Publication, thing: T, typed: str) -> T:
        """The thing with the value that was typed. Problem where that cannot be."""
        return self.settle(publication, self.write(thing, self.value(publication, thing, typed.strip())))

    def value(self, publication: Publication, thing: T, text: str) -> Any:
        """What was typed, as a value. Problem where it cannot be."""
        if self.none and self._leaves_out(publication, thing, text):
            return "" if self.kind in ("text", "ink", "paint", "look", "choice", "picture") else None
        if self.parse is not None:
            return self.parse(publication, thing, text)
        if self.kind == "length":
            return self._length(publication, text)
        if self.kind in ("number", "share"):
            what = f"share of {self.label.lower()}" if self.kind == "share" else self._as_number
            return number_between(text.replace("°", ""), self.least, self.most, what)
        if self.kind == "count":
            return self._count(text)
        if self.kind == "text":
            return text
        return self._chosen(publication, thing, text)

    def _leaves_out(self, publication: Publication, thing: T, text: str) -> bool:
        """Whether what was typed says that it is none; words may say “none” themselves, and so may a choice."""
        if text.lower() in ("", self.none.lower()):
            return True
        if self.kind == "text" and not self.choices:
            return False
        return text.lower() in _NONE and text not in dict(self.choices_in(publication, thing))

    @property
    def _as_number(self) -> str:
        return f"number for “{self.label.lower()}”"

    def _length(self, publication: Publication, text: str) -> Length:
        counts_in_pixels = is_pixels(publication.brief.unit) and "px" in text
        found = length(text, publication.brief.unit if counts_in_pixels or not self.unit else self.unit)
        size = found.pt if self.unit == "pt" else found.mm
        if not self.least - 1e-6 <= size <= self.most + 1e-6:
            unit, points = self.unit or publication.brief.unit, 1.0 if self.unit == "pt" else MM
            least, most = (format_length(limit * points, unit) for limit in (self.least, self.most))
            raise Problem(f"{self.label} of {format_length(found.pt, unit)} cannot be; give from {least} to {most}.")
        return found

    def _count(self, text: str) -> int:
        count = number_between(text, self.least, self.most, self._as_number)
        if count != int(count):
            raise Problem(f"“{text}” is no whole number; give one from {self.least:g} to {self.most:g}.")
        return int(count)

    def _chosen(self, publication: Publication, thing: T, text: str) -> Any:
        if self.kind == "flag":
            if text.lower() not in (*_YES, *_NO):
                raise Problem(f"“{text}” is neither yes nor no; give one of them.")
            return text.lower() in _YES
        choices = self.choices_in(publication, thing)
        for said in (lambda words: words, str.casefold):
            for value, words in choices:
                if said(text) in (said(value), said(words), said(words.partition(MORE)[0])):
                    return value
        known = ", ".join(words for _, words in choices[:12]) + (" ..." if len(choices) > 12 else "")
        raise Problem(f"There is no {self.label.lower()} “{text}”; there are {known}.")


def format_property_length(value: object, unit: str) -> str:
    """A length as it was typed, where that is in the job's unit; else what it comes to in that."""
    if isinstance(value, tuple):
        return ", ".join(format_property_length(each, unit) for each in value)
    if not isinstance(value, Length) or value.typed.endswith(unit):
        return typed_of(value, "length")
    return format_length(value.pt, unit)


def paint_choices(publication: Publication) -> list[str]:
    """The names of all that an area may be filled with: inks, then fades."""
    return [*(ink.name for ink in publication.inks), *(fade.name for fade in publication.fades)]


def typed_of(value: object, kind: Kind = "text") -> str:
    """A value as it would be typed."""
    if isinstance(value, bool):
        return YES if value else NO
    if isinstance(value, Length):
        return value.typed
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:.12g}"
    if isinstance(value, tuple):
        return ", ".join(typed_of(each, kind) for each in value)
    return str(value)


def named(table: Iterable[Property[T]], key: str) -> Property[T]:
    """The property of that key. Problem names those there are."""
    every = list(table)
    for each in every:
        if each.key == key:
            return each
    raise Problem(f"There is nothing called “{key}” to set there; there are {', '.join(each.key for each in every)}.")

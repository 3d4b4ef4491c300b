"""Giving something another name wherever it is named, by the table of what names what."""

from collections.abc import Container
from typing import TypeVar

from msgspec import Struct
from msgspec.structs import fields, replace

from half_fold.core.publication.places import Record
from half_fold.core.publication.records import (
    Publication,
)
from half_fold.core.publication.references import NAMES

R = TypeVar("R", bound=Struct)


def name_anew(publication: Publication, kinds: Container[str], old: str, new: str) -> Publication:
    """The document with ``new`` wherever a name of those kinds was ``old``; other records stay the same."""
    return _anew(publication, kinds, old, new)


def _anew(record: R, kinds: Container[str], old: str, new: str) -> R:
    names = NAMES.get(type(record), {})
    changed: dict[str, object] = {}
    for field in fields(record):
        value = getattr(record, field.name)
        if names.get(field.name) in kinds and value == old:
            changed[field.name] = new
        elif names.get(field.name) in kinds and isinstance(value, tuple) and old in value:
            changed[field.name] = tuple(new if each == old else each for each in value)
        elif isinstance(value, Record):
            made = _anew(value, kinds, old, new)
            if made is not value:
                changed[field.name] = made
        elif isinstance(value, tuple) and value and isinstance(value[0], Record):
            every = tuple(_anew(each, kinds, old, new) for each in value)
            if any(one is not other for one, other in zip(every, value, strict=True)):
                changed[field.name] = every
    return replace(record, **changed) if changed else record

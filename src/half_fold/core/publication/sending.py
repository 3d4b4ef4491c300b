"""What an edit changed of a document, for another process that has the one before: told, and made of that again.

Records that are the same stay the same there too, so that what is kept by their identity is found again.
"""

from typing import Any

from msgspec import Struct
from msgspec.structs import replace

SAME, FIELDS, ITEMS, WHOLE = "same", "fields", "items", "whole"


def difference_of(now: Any, was: Any) -> tuple[str, Any]:
    """How ``now`` follows from ``was``: plain values and what is new of records."""
    if now is was:
        return SAME, None
    if isinstance(now, Struct) and type(now) is type(was):
        names = type(now).__struct_fields__
        pairs = ((name, getattr(now, name), getattr(was, name)) for name in names)
        return FIELDS, {name: difference_of(new, old) for name, new, old in pairs if new is not old}
    if type(now) is tuple and type(was) is tuple and was:
        there = {id(each): at for at, each in enumerate(was)}
        return ITEMS, [_item(each, there.get(id(each)), min(at, len(was) - 1), was) for at, each in enumerate(now)]
    return WHOLE, now


def _item(each: Any, there: int | None, near: int, was: tuple[Any, ...]) -> int | tuple[int, tuple[str, Any]]:
    """Which of the earlier items one is; else from which of them it follows, and how."""
    return there if there is not None else (near, difference_of(each, was[near]))


def made(change: tuple[str, Any], was: Any) -> Any:
    """What was told, made of what it follows from."""
    kind, content = change
    if kind == SAME:
        return was
    if kind == FIELDS:
        return replace(was, **{name: made(each, getattr(was, name)) for name, each in content.items()})
    if kind == ITEMS:
        return tuple([was[each] if type(each) is int else made(each[1], was[each[0]]) for each in content])
    return content

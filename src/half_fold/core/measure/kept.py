"""The one keeper: values kept by what they follow from, of which those least recently asked for go first.

Immutable records are known by their identity, and held so that it stays their own; plain words and figures by value.
"""

import inspect
from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from threading import Lock
from typing import Any, Generic, ParamSpec, TypeVar, cast
from weakref import WeakSet

P = ParamSpec("P")
V = TypeVar("V")
_keepers: "WeakSet[Keeper[Any]]" = WeakSet()
_PLAIN = frozenset({str, int, float, bool, bytes, type(None)})


def key_of(follows: tuple[Any, ...]) -> tuple[Hashable, ...]:
    """What tells whether a value follows from just these."""
    return tuple([each if type(each) in _PLAIN else id(each) for each in follows])


class Keeper(Generic[V]):
    """At most ``most`` values, and no more than ``octets`` of what ``octets_of`` reckons each takes, but for ``least``.

    Safe to use from several threads, as far as the values are.
    """

    def __init__(self, most: int, octets: int = 0, octets_of: Callable[[V], int] | None = None, least: int = 1) -> None:
        self._most, self._octets, self._octets_of, self._least = most, octets, octets_of, least
        self._kept: OrderedDict[Hashable, tuple[Any, V]] = OrderedDict()
        self._lock = Lock()
        self.octets = 0
        _keepers.add(self)

    def __len__(self) -> int:
        return len(self._kept)

    def __contains__(self, key: Hashable) -> bool:
        return key in self._kept

    def items(self) -> list[tuple[Hashable, V]]:
        """Keys and values, the first to go first."""
        with self._lock:
            return [(key, value) for key, (_, value) in self._kept.items()]

    def find(self, key: Hashable) -> V | None:
        """The value under a key, which now is the last to go; None where there is none."""
        with self._lock:  # another thread may be going through them
            found = self._kept.get(key)
            if found is None:
                return None
            self._kept.move_to_end(key)
        return found[1]

    def keep(self, key: Hashable, held: object, value: V) -> V:
        """Keep a value under a key, and with it the records whose identity is in the key."""
        with self._lock:
            self._let_go(key)
            self._kept[key] = held, value
            if self._octets_of is not None:
                self.octets += self._octets_of(value)
            while len(self) > self._most or (self._octets and self.octets > self._octets and len(self) > self._least):
                self._let_go(next(iter(self._kept)))
        return value

    def of(self, follows: tuple[Any, ...], make: Callable[[], V]) -> V:
        """What was made of these records and plain values, made now where it is not kept."""
        key = key_of(follows)
        found = self.find(key)
        return self.keep(key, follows, make()) if found is None else found

    def clear(self) -> None:
        """Let go of all."""
        with self._lock:
            self._kept.clear()
            self.octets = 0

    def _let_go(self, key: Hashable) -> None:
        gone = self._kept.pop(key, None)
        if gone is not None and self._octets_of is not None:
            self.octets -= self._octets_of(gone[1])


def let_go_of_all() -> None:
    """Every keeper emptied: what was made of a job that nobody looks at any more would hold all of it."""
    for keeper in list(_keepers):
        keeper.clear()


_NOTHING: Any = object()


def kept_by(most: int, told: Callable[P, tuple[Any, ...]]) -> Callable[[Callable[P, V]], Callable[P, V]]:
    """Keeps the last ``most`` values of a function by what is ``told`` of its arguments: records and plain values.

    For records that are made anew and are equal to those before, which by their identity would never be found again.
    """

    def over(make: Callable[P, V]) -> Callable[P, V]:
        keeper: Keeper[V] = Keeper(most)

        @wraps(make)
        def of(*args: P.args, **kwargs: P.kwargs) -> V:
            return keeper.of(told(*args, **kwargs), lambda: make(*args, **kwargs))

        return of

    return over


def kept(most: int) -> Callable[[Callable[P, V]], Callable[P, V]]:
    """Keeps the last ``most`` values of a function of immutable records, and of plain words and figures."""

    def over(make: Callable[P, V]) -> Callable[P, V]:
        keeper: Keeper[Any] = Keeper(most)
        told = inspect.signature(make)

        @wraps(make)
        def of(*args: P.args, **kwargs: P.kwargs) -> V:
            if kwargs:  # by their places, so that a name changes nothing
                bound = told.bind(*args, **kwargs)
                bound.apply_defaults()
                return by_place(bound.args, bound.kwargs)
            found = keeper.find(tuple([each if type(each) in _PLAIN else id(each) for each in args]))
            if found is None:
                return by_place(args, kwargs)
            return cast(V, None if found is _NOTHING else found)

        def by_place(args: tuple[Any, ...], kwargs: dict[str, Any]) -> V:
            key = key_of((*args, *kwargs.values()))
            found = keeper.find(key)
            if found is None:
                made = make(*args, **kwargs)
                found = keeper.keep(key, (args, kwargs), _NOTHING if made is None else made)
            return cast(V, None if found is _NOTHING else found)

        return of

    return over

"""Values kept by the identity of the immutable record they follow from."""

from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import Generic, TypeVar

R = TypeVar("R")
V = TypeVar("V")


class Kept(Generic[R, V]):
    """The last few values of a function of one record; holds the records, so that an identity stays its own."""

    def __init__(self, make: Callable[[R], V], most: int) -> None:
        self._make, self._most = make, most
        self._found: OrderedDict[int, tuple[R, V]] = OrderedDict()
        self._lock = Lock()

    def of(self, record: R) -> V:
        """The value of that record, made where it is not kept."""
        found = self._found.get(id(record))
        if found is None:
            found = record, self._make(record)
            with self._lock:
                self._found[id(record)] = found
                while len(self._found) > self._most:
                    self._found.popitem(last=False)
        return found[1]


def kept(most: int) -> Callable[[Callable[[R], V]], Callable[[R], V]]:
    """Keeps the last ``most`` values of a function of one immutable record."""

    def over(make: Callable[[R], V]) -> Callable[[R], V]:
        store = Kept(make, most)

        @wraps(make)
        def of(record: R) -> V:
            return store.of(record)

        return of

    return over

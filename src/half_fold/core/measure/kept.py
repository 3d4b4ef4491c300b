"""Values kept by the identity of the immutable records they follow from."""

from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import Any, ParamSpec, TypeVar

P = ParamSpec("P")
V = TypeVar("V")
PLAIN = (str, int, float, bool, type(None))


def kept(most: int) -> Callable[[Callable[P, V]], Callable[P, V]]:
    """Keeps the last ``most`` values of a function of immutable records, and of plain words and figures.

    A record is known by its identity, and held, so that the identity stays its own.
    """

    def over(make: Callable[P, V]) -> Callable[P, V]:
        found: OrderedDict[tuple[Any, ...], tuple[tuple[Any, ...], V]] = OrderedDict()
        lock = Lock()

        @wraps(make)
        def of(*args: P.args, **kwargs: P.kwargs) -> V:
            key = tuple([each if isinstance(each, PLAIN) else id(each) for each in args])
            known = found.get(key)
            if known is None:
                known = args, make(*args, **kwargs)
                with lock:
                    found[key] = known
                    while len(found) > most:
                        found.popitem(last=False)
            return known[1]

        return of

    return over

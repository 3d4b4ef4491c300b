"""Post from other threads: brought to the interface thread, and there to those alone who have not gone meanwhile."""

from collections.abc import Callable
from functools import cache
from typing import Any, TypeVar
from weakref import WeakMethod

from PyQt6 import sip
from PyQt6.QtCore import QObject, pyqtSignal

T = TypeVar("T")


class _Post(QObject):
    """It is never deleted: whoever sends something may outlive those it is meant for."""

    came = pyqtSignal(object, object)

    def __init__(self) -> None:
        super().__init__()
        self.came.connect(self._deal)

    def _deal(self, to: "WeakMethod[Callable[[Any], object]]", what: object) -> None:
        take = to()
        if take is not None and not sip.isdeleted(take.__self__):  # type: ignore[attr-defined]  # a method's
            take(what)


@cache
def _post() -> _Post:
    return _Post()


def by_post(take: Callable[[T], object]) -> Callable[[T], None]:
    """What any thread may call to have ``take``, a method of a QObject of the interface thread, called there.

    Neither it nor what it sends holds the object, so that no other thread can be the last to let go of it. A signal
    will not do: it does not hold whose it is either, but reads of it when it is emitted, be it there or not.
    """
    to, post = WeakMethod(take), _post()
    return lambda what: post.came.emit(to, what)

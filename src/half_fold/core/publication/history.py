"""Undo is the list of earlier documents; they share what did not change."""

import sys

from msgspec import Struct

from half_fold.core.publication.records import Publication

MOST_OCTETS = 200_000_000
SAMPLED = 200


def octets_beside(record: object, other: object) -> int:
    """About how many octets a record takes that it does not share with another."""
    if record is other:
        return 0
    own = sys.getsizeof(record)
    if isinstance(record, Struct):
        fields = type(record).__struct_fields__
        alike = type(record) is type(other)
        return own + sum(
            octets_beside(getattr(record, name), getattr(other, name) if alike else None) for name in fields
        )
    if isinstance(record, tuple):
        old = other if isinstance(other, tuple) else ()
        shared = {id(each) for each in old}
        new = [at for at, each in enumerate(record) if id(each) not in shared]
        some = new[:: max(1, len(new) // SAMPLED)]  # of very many, some stand for all
        reckoned = sum(octets_beside(record[at], old[at] if at < len(old) else None) for at in some)
        return own + round(reckoned * len(new) / max(1, len(some)))
    return own


class Step(Struct, frozen=True):
    """A document and the words for the edit that made it."""

    publication: Publication
    said: str
    octets: int = 0


class History:
    """The documents of this sitting, and which one is now.

    The oldest steps go first once what they hold beside the newest is more than ``most`` octets, reckoned.
    """

    def __init__(self, publication: Publication, most: int = MOST_OCTETS) -> None:
        self._steps = [Step(publication, "opened")]
        self._at = 0
        self._joining = ""
        self.goes_on = False  # whether the latest edit went on with the one before it, as typing does
        self._most, self._held = most, 0

    @property
    def now(self) -> Publication:
        return self._steps[self._at].publication

    @property
    def undoes(self) -> str:
        """What undo would take back, '' where nothing."""
        return self._steps[self._at].said if self._at else ""

    @property
    def redoes(self) -> str:
        return self._steps[self._at + 1].said if self._at + 1 < len(self._steps) else ""

    def edit(self, publication: Publication, said: str, joining: str = "") -> None:
        """Make ``publication`` the present; edits with the same ``joining`` word in a row are one step."""
        if publication is self.now:
            return
        for step in self._steps[self._at + 1 :]:
            self._held -= step.octets
        del self._steps[self._at + 1 :]
        self.goes_on = bool(joining and joining == self._joining and self._at)
        if self.goes_on:
            self._held -= self._steps.pop().octets
        new = Step(publication, said, octets_beside(publication, self._steps[-1].publication))
        self._steps.append(new)
        self._held += new.octets
        self._at = len(self._steps) - 1
        self._joining = joining
        while self._held > self._most and self._at > 1:
            self._held -= self._steps[1].octets  # what the next one shares with the one that goes
            del self._steps[0]
            self._at -= 1

    def pause(self) -> None:
        """The next edit is a step of its own, whatever it joins."""
        self._joining = ""

    def undo(self) -> Publication:
        self._at = max(0, self._at - 1)
        self._joining, self.goes_on = "", False
        return self.now

    def redo(self) -> Publication:
        self._at = min(len(self._steps) - 1, self._at + 1)
        self._joining, self.goes_on = "", False
        return self.now

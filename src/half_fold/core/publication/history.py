"""Undo is the list of earlier documents; they share what did not change."""

from dataclasses import dataclass

from half_fold.core.publication.records import Publication


@dataclass(frozen=True, slots=True)
class Step:
    """A document and the words for the edit that made it."""

    publication: Publication
    said: str


class History:
    """Every document of this sitting, and which one is now."""

    def __init__(self, publication: Publication) -> None:
        self._steps = [Step(publication, "opened")]
        self._at = 0
        self._joining = ""

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
        del self._steps[self._at + 1 :]
        if joining and joining == self._joining and self._at:
            self._steps[self._at] = Step(publication, said)
        else:
            self._steps.append(Step(publication, said))
            self._at += 1
        self._joining = joining

    def pause(self) -> None:
        """The next edit is a step of its own, whatever it joins."""
        self._joining = ""

    def undo(self) -> Publication:
        self._at = max(0, self._at - 1)
        self._joining = ""
        return self.now

    def redo(self) -> Publication:
        self._at = min(len(self._steps) - 1, self._at + 1)
        self._joining = ""
        return self.now

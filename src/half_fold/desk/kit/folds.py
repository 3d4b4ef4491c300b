"""Which headings of the working are open, for each kind of thing; and the rows that answer to words."""

from collections.abc import Sequence

from half_fold.desk import memory
from half_fold.desk.kit.rows import RowSection


class FoldsOfWorking:
    """Headings that were opened or folded stay so for that kind of thing; others are as they begin."""

    def __init__(self) -> None:
        self.kind = ""
        self._peeped: set[str] = set()  # opened for now, to show a row
        self._turned: dict[str, dict[str, bool]] | None = None

    def turn_to(self, sections: Sequence[RowSection]) -> None:
        """Of another kind of thing, or of the same."""
        kind = next((each.kind for each in sections if each.kind), "")
        if kind != self.kind:
            self.kind, self._peeped = kind, set()

    def is_open(self, section: RowSection) -> bool:
        """Whether what stands under a heading is shown; always, where it does not fold."""
        if section.says is None or section.title in self._peeped:
            return True
        return self._of_kind().get(section.title, section.begins_open)

    def peep(self, section: RowSection) -> None:
        """Open it while things of this kind are chosen."""
        self._peeped.add(section.title)

    def turn(self, section: RowSection) -> None:
        """Open what is folded, fold what is open; it is remembered."""
        on = not self.is_open(section)
        self._peeped.discard(section.title)
        self._of_kind()[section.title] = on
        kept = memory.recall()
        kept.opened.setdefault(self.kind, {})[section.title] = on
        memory.remember(kept)

    def _of_kind(self) -> dict[str, bool]:
        if self._turned is None:
            self._turned = memory.recall().opened
        return self._turned.setdefault(self.kind, {})

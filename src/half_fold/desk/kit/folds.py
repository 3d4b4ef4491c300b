"""Which headings of the working are open, for each kind of thing; and the rows that answer to words."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.desk import memory
from half_fold.desk.kit.rows import Card, Curve, Row, RowSection


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


def found_in(sections: Sequence[RowSection], sought: str) -> list[RowSection]:
    """The sections with the rows alone whose names, or the words for them, begin with each word that is sought."""
    wanted = sought.casefold().split()
    made = (replace(each, items=[i for i in each.items if _answers(i, each.title, wanted)]) for each in sections)
    return [each for index, each in enumerate(made) if each.items or not index]


def _answers(item: Row | Card | Curve, heading: str, wanted: Sequence[str]) -> bool:
    if not isinstance(item, Row):
        return False
    words = " ".join((item.name, *item.also, heading)).casefold().replace("-", " ").split()
    return all(any(word.startswith(each) for word in words) for each in wanted)

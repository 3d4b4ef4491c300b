"""Rows of the sets of a job: each is opened, shown or hidden, locked, chosen and taken away in its own row."""

from collections.abc import Iterator, Sequence

from half_fold.core.measure.length import counted
from half_fold.core.publication.records import Thing, ThingSet
from half_fold.core.publication.things import every_thing
from half_fold.core.spread.edits.sets import add_set, remove_set, rename_set, set_of_set, things_of
from half_fold.desk.kit.rows import Row, RowSection
from half_fold.desk.workpiece import Workpiece

TITLE = "Sets"


class SetRows:
    """Makes the section."""

    def __init__(self, session: Workpiece) -> None:
        self.session = session

    def section(self) -> list[RowSection]:
        """Every set with what it is now, and a row for one more."""
        rows = [self._row(each) for each in self.session.publication.sets]
        more = Row("A new set", "name it", "", "", "", self._add, hint="a name for things wherever they lie")
        return [RowSection(TITLE, "names for things wherever they lie", [*rows, more])]

    def _row(self, each: ThingSet) -> Row:
        is_open = self.session.open_set == each.name
        told = [
            counted(len(things_of(self.session.publication, each.name)), "thing"),
            *(["open"] if is_open else []), *(["hidden"] if each.hidden else []), *(["locked"] if each.locked else []),
        ]  # fmt: skip
        ways: Sequence[tuple[str, str]] = (
            ("open", "Close it" if is_open else "Open it: what is new falls into it"),
            ("hidden", "Show it" if each.hidden else "Hide it while you work"),
            ("locked", "Free it" if each.locked else "Lock it"),
            ("choose", "Choose all of it here"),
            ("remove", "Take the set away, not what is in it"),
        )
        return Row(each.name, ", ".join(told), "", "", "", lambda way: self._take(each, way), ways)

    def _add(self, name: str) -> bool:
        return self.session.edit(lambda p: add_set(p, name), f"a set {name}")

    def _take(self, each: ThingSet, way: str) -> bool:
        """Do what was chosen of a set, or give it the name that was typed."""
        session, name = self.session, each.name
        if way == "open":
            session.open_set = "" if self.session.open_set == name else name
            session.view.selected.emit()
            return True
        if way == "choose":
            here = {thing.id for page in session.view.spread.numbers for thing in self._on(page)}
            session.view.choose([thing.id for thing in things_of(session.publication, name) if thing.id in here])
            return True
        if way == "remove":
            return session.edit(lambda p: remove_set(p, name), f"set {name} taken away")
        if way in ("hidden", "locked"):
            typed = "no" if getattr(each, way) else "yes"
            return session.edit(lambda p: set_of_set(p, name, way, typed), f"set {name} {way}")
        return session.edit(lambda p: rename_set(p, name, way), f"set {name} renamed")

    def _on(self, page: int) -> Iterator[Thing]:
        return every_thing(self.session.publication.pages[page - 1].things)

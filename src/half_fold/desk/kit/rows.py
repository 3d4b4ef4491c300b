"""What a working column shows, as plain data: rows, cards and sections."""

from collections.abc import Callable, Sequence

from msgspec import Struct, field

from half_fold.core.measure.worked import Worked
from half_fold.core.publication.records import Publication

Edit = Callable[[str], bool]


class Row(Struct, frozen=True):
    """A name, a value and its working. ``edit`` takes what was typed or chosen and says whether it could be.

    Where the choices are inks, ``inks`` is the job whose they are. A number that is sought by trying has a ``span``
    from least to most, to be dragged over; ``passing`` takes it meanwhile, where that can be followed. What is not at
    rest can be put ``back``. A ``hint`` is said under the pointer. It is found by its name and by what ``also`` stands
    for it. What is chosen among faces is shown in them: ``faces`` gives the key of each.
    """

    name: str
    value: str
    working: str = ""
    note: str = ""
    typed: str = ""
    edit: Edit | None = None
    choices: Sequence[tuple[str, str]] = ()
    parts: tuple["Row", ...] = ()
    large: bool = False
    inks: Publication | None = None
    span: tuple[float, float] | None = None
    stands: float | None = None  # where on the span, if not at what is typed
    passing: Edit | None = None
    back: Callable[[], object] | None = None
    also: Sequence[str] = ()
    hint: str = ""
    faces: Callable[[str], str] | None = None


class Card(Struct, frozen=True):
    """A raised note with what can be done about it."""

    title: str
    words: str = ""
    actions: Sequence[tuple[str, Callable[[], object]]] = ()
    stops_press: bool = False


class Curve(Struct, frozen=True):
    """Curves of tone, one for each of ``names``, over the ``histogram`` of what they make (counts from dark to light).

    ``take`` is given the number of a curve and its places as they are typed, ``done`` ends a drag.
    """

    title: str
    names: Sequence[str]
    places: Sequence[tuple[tuple[float, float], ...]]
    histogram: Sequence[Sequence[float]]
    take: Callable[[int, str], object]
    done: Callable[[], object]


class RowSection(Struct, frozen=True):
    """A titled run of rows, cards and curves. One that ``says`` something folds away under its heading, which says it.

    It is open to begin with where it ``begins_open``. The first of several says of what ``kind`` of thing they are.
    """

    title: str
    subtitle: str = ""
    items: Sequence[Row | Card | Curve] = field(default=())
    says: str | None = None
    begins_open: bool = False
    kind: str = ""

    @property
    def is_set(self) -> bool:
        """Whether something in it is not at rest."""
        return any(isinstance(item, Row) and item.back is not None for item in self.items)


def row_of(number: Worked, edit_for: Callable[[str], Edit | None], large: bool = False) -> Row:
    """The row of a worked number; ``edit_for`` gives the edit for the key that the number sets."""
    edit = edit_for(number.edits) if number.edits else None
    parts = tuple(row_of(part, edit_for) for part in _apart(number.parts))
    return Row(number.name, number.text, number.how, number.note, number.typed, edit, (), parts, large)


def _apart(parts: Sequence[Worked]) -> list[Worked]:
    return list({part.name: part for part in reversed(parts) if part.name}.values())[::-1]

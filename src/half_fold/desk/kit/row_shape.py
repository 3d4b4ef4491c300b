"""What rows look like and answer to: whether they can take others' words in place, and which are sought."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.measure.length import counted
from half_fold.desk.kit.rows import Card, Curve, Row, RowSection


def shape_of(sections: Sequence[RowSection]) -> tuple[object, ...]:
    """What must be the same for rows to be filled in again rather than made anew."""
    return tuple(
        (
            section.title,
            section.subtitle,
            section.says is None,
            tuple(
                (item.name, item.large, item.edit is not None, bool(item.choices), item.span)
                if isinstance(item, Row)
                else (item.title, tuple(item.names))
                if isinstance(item, Curve)
                else (item.title, item.words, item.stops_press, tuple(words for words, _ in item.actions))
                for item in section.items
            ),
        )
        for section in sections
    )


def is_row(item: Row | Card | Curve, name: str) -> bool:
    """Whether an item is the row of that name."""
    return isinstance(item, Row) and item.name == name


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


def sought_words(sought: str, found: Sequence[RowSection]) -> str:
    """What is looked for, and what the keys do meanwhile."""
    count = sum(isinstance(item, Row) for section in found for item in section.items)
    return f"“{sought}”: {counted(count, 'row')}. Enter goes into the first; Esc shows all."

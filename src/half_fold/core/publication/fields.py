"""Properties that are the fields of a record itself: range and unit follow from the record's own."""

from typing import Any

from msgspec.structs import replace

from half_fold.core.publication.places import Record
from half_fold.core.publication.property import Kind, Property
from half_fold.core.publication.ranges import IN_POINTS, RANGES


def field_of(owner: type[Record], name: str, label: str, kind: Kind, **more: Any) -> Property[Any]:
    """The field ``name`` of an ``owner``, under ``key`` if another is given; ``more`` is what else a property says."""
    least, most = RANGES.get(owner, {}).get(name, (0.0, 0.0))
    told: dict[str, Any] = {"least": least, "most": most, "unit": "pt" if name in IN_POINTS else "", **more}
    key = told.pop("key", name)
    return Property(
        key,
        label,
        kind,
        lambda record: getattr(record, name),
        lambda record, value: replace(record, **{name: value}),
        **told,
    )


def count_of(owner: type[Record], name: str, label: str, none: str, **more: Any) -> Property[Any]:
    """A whole number in a field ``name`` of an ``owner``, of which 0 stands for what ``none`` says."""
    counted = field_of(owner, name, label, "count", none=none, **more)
    return replace(
        counted,
        read=lambda record: getattr(record, name) or "",
        write=lambda record, value: replace(record, **{name: value or 0}),
    )

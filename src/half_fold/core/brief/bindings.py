"""Bindings: the geometry, limits and extent rule of each, in one place.

The figures are common practice; a printer's own sheet overrides them.
"""

from dataclasses import dataclass

from half_fold.core.measure.problem import Problem


@dataclass(frozen=True, slots=True)
class Binding:
    """``multiple`` of pages it can bind, whether a spine panel exists, and millimetres lost per page in the fold.

    Where sheets are put inside one another it ``nests``; else they are gathered one after another.
    """

    name: str
    label: str
    multiple: int
    has_spine: bool
    fold_loss_mm: float
    least_block_mm: float = 0.0
    most_folded_mm: float = 0.0
    nests: bool = False


_BINDINGS = {
    binding.name: binding
    for binding in (
        Binding("perfect", "Perfect", 2, True, 5.0, least_block_mm=3.0),
        Binding("saddle", "Saddle stitch", 4, False, 0.0, most_folded_mm=4.0, nests=True),
    )
}


def bindings() -> tuple[Binding, ...]:
    return tuple(_BINDINGS.values())


def binding_named(name: str) -> Binding:
    """The binding of that name. Problem lists those there are."""
    if name not in _BINDINGS:
        raise Problem(f"There is no binding “{name}”; there are {' and '.join(_BINDINGS)}.")
    return _BINDINGS[name]


def nearest_counts(pages: int, multiple: int) -> tuple[int, int]:
    """The next counts down (at least one multiple) and up that can be bound."""
    down = max(multiple, pages // multiple * multiple)
    return down, max(multiple, -(-pages // multiple) * multiple)

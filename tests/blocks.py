"""Blocks on the fields of a grid, for the tests that need one."""

from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Holds,
)


def in_field(index: int, count: int, facing: bool = False) -> Stop:
    return Stop(kind="field", index=index, count=count, facing=facing)


def block_over(
    name: str,
    holds: Holds,
    columns: tuple[int, int] = (0, 5),
    rows: tuple[int, int] = (0, 7),
    of: tuple[int, int] = (6, 8),
) -> Block:
    """A block over those columns and rows, the last included, of a grid of so many."""
    return Block(
        id=name,
        place=Held(
            left=in_field(columns[0], of[0]),
            top=in_field(rows[0], of[1]),
            right=in_field(columns[1], of[0]),
            bottom=in_field(rows[1], of[1]),
        ),
        holds=holds,
    )

"""One sheet folded once: four pages, no cover, no spine, nothing lost in the fold."""

from half_fold.core.brief.binding import Binding

SINGLE = Binding(
    "single",
    "Half-fold sheet",
    4,
    0.0,
    no_spine="a sheet folded once has no spine",
    cover="none",
    exactly=4,
    nests=True,
    rule="one sheet folded once is 4 pages",
)

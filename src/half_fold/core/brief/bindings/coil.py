"""Wire or coil: punched leaves and two separate cover leaves; no spine, and a zone of holes at the fold."""

from half_fold.core.brief.binding import Binding

HOLE_ZONE_MM = 12.0

COIL = Binding(
    "coil",
    "Wire or coil",
    2,
    HOLE_ZONE_MM,
    no_spine="a wired copy has two separate cover leaves and no spine panel",
    cover="leaves",
)

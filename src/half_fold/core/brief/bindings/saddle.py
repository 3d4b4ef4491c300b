"""Saddle stitch: sheets one inside the other, stapled through the fold; with a cover or as its own."""

from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bulk import cover_caliper, text_thickness
from half_fold.core.measure.length import figure
from half_fold.core.publication.records import Publication

MOST_FOLDED_MM = 4.0  # machines stop at 3 to 6


def _worry(publication: Publication) -> str:
    cover = cover_caliper(publication)
    folded = text_thickness(publication).value + (2 * cover.to("mm").value if cover is not None else 0.0)
    if folded <= MOST_FOLDED_MM:
        return ""
    return (
        f"A folded copy of {figure(folded)} mm is thick for saddle stitch; "
        f"many machines stop at {MOST_FOLDED_MM:g} mm. Ask the printer."
    )


SADDLE = Binding(
    "saddle",
    "Saddle stitch",
    4,
    0.0,
    no_spine="a stitched copy has no spine panel",
    worry=_worry,
    nests=True,
)

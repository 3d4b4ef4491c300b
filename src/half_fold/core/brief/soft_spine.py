"""The spine of a soft cover by the trade's three schools: the block alone, with both covers, or with glue too."""

from half_fold.core.brief.bulk import cover_caliper, swollen, text_thickness
from half_fold.core.measure.worked import Worked, given
from half_fold.core.publication.records import Publication

GLUE_MM = 0.4
SCHOOLS = {"block": "block alone", "covers": "block and both covers", "covers+glue": "block, both covers and glue"}


def soft_panel(publication: Publication) -> Worked:
    """Millimetres before rounding."""
    return _by_school(publication, text_thickness(publication).named("Block", "bulk.text"))


def sewn_panel(publication: Publication) -> Worked:
    """The same of a block thickened by its thread."""
    return _by_school(publication, swollen(publication, text_thickness(publication).named("Block", "bulk.text")))


def _by_school(publication: Publication, width: Worked) -> Worked:
    cover, school = cover_caliper(publication), publication.brief.spine_school
    if cover is not None and school != "block":
        width = width + 2 * cover.to("mm")
    if school == "covers+glue":
        width = width + given(GLUE_MM, "mm", "Glue", how="0.3 to 0.5 is usual")
    return width

"""Lay-flat boards: spreads mounted back to back on cores, in a case.

S spreads are 2 S pages: T = 2 S x sheet + (S - 1) x core, and two cores more where the end leaves are cored.
"""

from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bulk import board_thickness, text_caliper
from half_fold.core.measure.worked import Worked, given, given_length
from half_fold.core.publication.records import Publication


def mounted_block(publication: Publication) -> Worked:
    """Millimetres of all mounted spreads with their cores."""
    spreads = len(publication.pages) // 2
    core = given_length(publication.brief.core, "Core", edits="core")
    cores = max(0, spreads - 1) + (2 if publication.brief.cored_ends else 0)
    sheets = given(2 * spreads, "", "Mounted sheets") * text_caliper(publication).to("mm")
    return sheets + given(cores, "", "Cores") * core


def boards_panel(publication: Publication) -> Worked:
    return mounted_block(publication).named("Block", "bulk.text") + 2 * board_thickness(publication)


BOARDS = Binding(
    "boards", "Lay-flat boards", 2, 0.0, panel=boards_panel, block=mounted_block, cover="case", mounted=True
)

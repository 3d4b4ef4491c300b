"""All numbers of a job, in the order of work. A number that does not exist for the job is left out."""

from half_fold.core.brief import thickness
from half_fold.core.measure.worked import Worked
from half_fold.core.numbers.grid import grid_numbers, type_numbers
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import master_of


def brief_numbers(publication: Publication) -> list[Worked]:
    """Trim, allowances, extent, papers, block, spine, wrap."""
    every = (
        thickness.trim_width(publication),
        thickness.trim_height(publication),
        thickness.bleed(publication),
        thickness.safe_zone(publication),
        thickness.fold_loss(publication),
        thickness.pages(publication),
        thickness.leaves(publication),
        thickness.text_caliper(publication),
        thickness.cover_caliper(publication),
        thickness.block(publication),
        thickness.copy_thickness(publication),
        thickness.spine(publication),
        thickness.spine_tolerance(publication),
        thickness.spine_text_clear(publication),
        thickness.wrap_width(publication),
        thickness.wrap_height(publication),
    )
    return [number for number in every if number is not None]


def all_numbers(publication: Publication) -> list[Worked]:
    """Every number with a key; the grid's are those of the first page's master."""
    master = master_of(publication, publication.pages[0])
    every = brief_numbers(publication) + grid_numbers(publication, master) + type_numbers(publication, master)
    return [number for number in every if number.key]

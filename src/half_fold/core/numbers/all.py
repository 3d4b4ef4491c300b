"""All numbers of a job, in the order of work. A number that does not exist for the job is left out."""

from half_fold.core.brief import allowances, bulk
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.creep import creep_numbers
from half_fold.core.brief.spine import block, copy_thickness, spine_numbers
from half_fold.core.brief.weight import carton, run_weight, weight
from half_fold.core.brief.wrap import cover_numbers, has_cover, is_cased
from half_fold.core.measure.worked import Worked
from half_fold.core.numbers.grid import grid_numbers, type_numbers
from half_fold.core.plan.inserts import cut_numbers
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import master_of


def brief_numbers(publication: Publication) -> list[Worked]:
    """Trim, allowances, extent, papers, block, spine, cover, weight, creep; what is not bound has no copy to weigh."""
    asked = (
        allowances.trim_width(publication),
        allowances.trim_height(publication),
        allowances.bleed(publication),
        allowances.safe_zone(publication),
    )
    if not binding_named(publication.brief.binding).bound:
        cover = (*spine_numbers(publication), *cover_numbers(publication)) if has_cover(publication) else ()
        return bulk.those_there((*asked, *cover))
    every: tuple[Worked | None, ...] = (
        *asked,
        allowances.fold_loss(publication),
        bulk.pages(publication),
        bulk.leaf_count(publication),
        bulk.text_caliper(publication),
        bulk.cover_caliper(publication),
        bulk.endpapers(publication) if is_cased(publication) else None,
        block(publication),
        copy_thickness(publication),
        *spine_numbers(publication),
        *cover_numbers(publication),
        weight(publication),
        run_weight(publication),
        carton(publication),
        *creep_numbers(publication),
        *cut_numbers(publication),
    )
    return bulk.those_there(every)


def all_numbers(publication: Publication) -> list[Worked]:
    """Every number with a key; the grid's are those of the first page's master."""
    every = brief_numbers(publication)
    if not binding_named(publication.brief.binding).elsewhere:
        master = master_of(publication, publication.pages[0])
        every += grid_numbers(publication, master) + type_numbers(publication, master)
    return [number for number in every if number.key]

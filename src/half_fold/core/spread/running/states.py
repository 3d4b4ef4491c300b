"""What lies on pages, and how far each has come."""

from half_fold.core.measure.kept import kept
from half_fold.core.plan.spreads import facing
from half_fold.core.publication.records import Publication
from half_fold.core.spread.where.frames import is_over_fold, thing_hull


@kept(4)
def pages_laid(publication: Publication) -> frozenset[int]:
    """The numbers of the pages with something on them: of their own, or over the fold from the page they face."""
    pages = publication.pages
    own = {number for number, page in enumerate(pages, 1) if page.blocks}
    over = {facing(publication, number) for number in own} - own
    return frozenset(own | {number for number in over if 1 <= number <= len(pages) and _is_under(publication, number)})


def _is_under(publication: Publication, number: int) -> bool:
    """Whether something of the facing page lies over the fold, on this page too."""
    other = facing(publication, number)
    return any(is_over_fold(thing_hull(publication, other, thing)) for thing in publication.pages[other - 1].things)


def page_state(publication: Publication, index: int) -> str:
    """A page's state in a word, the furthest it has come: empty, planned, copy in, laid, proofed, passed."""
    page = publication.pages[index]
    if page.state in ("proofed", "passed"):
        return page.state
    if index + 1 in pages_laid(publication):
        return "laid"
    return page.state or ("planned" if page.runs or page.advert else "empty")

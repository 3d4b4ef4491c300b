"""What can be set of a page: its master, what runs there and how far it is, its furniture and its frame."""

from collections.abc import Callable, Sequence
from typing import Any, NamedTuple

from msgspec.structs import replace

from half_fold.core.plan.order import set_page_master, set_runs
from half_fold.core.plan.sections import ADVERTS, STATES, Marking, mark_pages
from half_fold.core.publication.property import Choices, Property, named
from half_fold.core.publication.records import Page, Publication
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.setting.over_pictures import WAYS, set_over
from half_fold.core.spread.where.borders import format_frame, set_frame


class PageAt(NamedTuple):
    """A page by its number: what is set of one may reach the page that faces it."""

    publication: Publication
    number: int

    @property
    def page(self) -> Page:
        return self.publication.pages[self.number - 1]


Write = Callable[[Publication, int, Any], Publication]


def _of_page(key: str, label: str, kind: Any, write: Write, **more: Any) -> Property[PageAt]:
    """A field of a page, written by what knows how."""
    told: dict[str, Any] = {"read": lambda at: getattr(at.page, key), **more}

    def put(at: PageAt, value: Any) -> PageAt:
        return at._replace(publication=write(at.publication, at.number, value))

    return Property(key, label, kind, write=put, **told)


def _marked(field: Marking) -> Write:
    return lambda publication, number, value: mark_pages(publication, [number - 1], field, value)


def _masters(publication: Publication, _: PageAt) -> Choices:
    return [(master.name, master.name) for master in publication.masters]


def _standing(publication: Publication, number: int, stands: bool) -> Publication:
    return with_page(publication, replace(publication.pages[number - 1], standing=stands))


def _said(values: Sequence[str]) -> Choices:
    return [(value, value) for value in values if value]


PAGE: tuple[Property[PageAt], ...] = (
    _of_page("master", "Master", "choice", lambda job, number, name: set_page_master(job, [number - 1], name),
             choices=_masters, none="no master"),
    _of_page("runs", "What runs here", "text", lambda job, number, words: set_runs(job, number - 1, words),
             none="not said yet"),
    _of_page("state", "State", "choice", _marked("state"), choices=_said(STATES), none="as it is"),
    _of_page("standing", "The same in every number", "flag", _standing, note="what stands goes on to the next number"),
    _of_page("advert", "Advert", "choice", _marked("advert"), choices=_said(tuple(ADVERTS)), none="no advert"),
    _of_page("furniture", "Furniture", "choice", set_over, choices=WAYS[1:], none=WAYS[0][1]),
    _of_page("frame", "Frame inside the trim", "text", set_frame, read=lambda at: format_frame(*at), none="none"),
)  # fmt: skip


def set_page(publication: Publication, number: int, key: str, typed: str) -> Publication:
    """The job with one value of a page set. Problem where that cannot be."""
    return named(PAGE, key).set(publication, PageAt(publication, number), typed).publication


def set_pages(publication: Publication, numbers: Sequence[int], key: str, typed: str) -> Publication:
    """The same of several pages."""
    for number in numbers:
        publication = set_page(publication, number, key, typed)
    return publication

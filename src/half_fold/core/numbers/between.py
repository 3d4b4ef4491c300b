"""What lies between two states of a job: the facts that differ, and the pages that do."""

from msgspec import Struct

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.spine import spine
from half_fold.core.measure.entry import unit_name
from half_fold.core.measure.length import counted, figure, in_unit
from half_fold.core.publication.records import HoldsStory, Page, Publication
from half_fold.core.typesetting.flow.counting import count_words


class Difference(Struct, frozen=True):
    """A fact that is not the same, in words."""

    name: str
    then: str
    now: str


def differences(then: Publication, now: Publication) -> list[Difference]:
    """The facts that differ between two states, in the order of work."""
    before, after = _facts(then), _facts(now)
    found = [Difference(name, before[name], after[name]) for name in before if before[name] != after[name]]
    parts = (("Masters", then.masters, now.masters), ("Type sheet", then.roles, now.roles))
    found += [Difference(name, "its own", "changed since") for name, old, new in parts if old != new]
    if then.cover != now.cover:
        found.append(Difference("Cover", "its own", "changed since"))
    return found


def changed_pages(then: Publication, now: Publication) -> list[int]:
    """The numbers of the pages of ``then`` that have another place, other blocks or other words now."""
    places = {page.id: (number, page) for number, page in enumerate(now.pages, 1)}
    texts = {story.id: story for story in now.stories}
    reworded = {story.id for story in then.stories if texts.get(story.id) != story}
    return [
        number
        for number, page in enumerate(then.pages, 1)
        if places.get(page.id) != (number, page) or _carries(page, reworded)
    ]


def _carries(page: Page, stories: set[str]) -> bool:
    return any(isinstance(block.holds, HoldsStory) and block.holds.story in stories for block in page.blocks)


def _facts(publication: Publication) -> dict[str, str]:
    brief, panel = publication.brief, spine(publication)
    width, height = (figure(in_unit(side.pt, brief.unit), 3) for side in (brief.width, brief.height))
    words = sum(count_words(story.paragraphs) for story in publication.stories)
    return {
        "Title": publication.title,
        "Issue": ", ".join(filter(None, (publication.issue, publication.season))) or "none",
        "Trim": f"{width} × {height} {unit_name(brief.unit)}",
        "Extent": counted(len(publication.pages), "page"),
        "Binding": binding_named(brief.binding).label,
        "Text paper": brief.text_paper,
        "Cover paper": brief.cover_paper,
        "Spine": panel.to(brief.unit).text if panel is not None else "none",
        "Pages laid": str(sum(bool(page.blocks) for page in publication.pages)),
        "Stories": f"{len(publication.stories)}, {counted(words, 'word')}",
        "Pictures": str(len(publication.pictures)),
    }

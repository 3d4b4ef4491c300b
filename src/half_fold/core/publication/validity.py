"""What must hold in every document, whoever wrote its file."""

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import (
    HoldsBarcode,
    HoldsDisplay,
    HoldsPicture,
    HoldsStory,
    Publication,
)
from half_fold.core.publication.surgery import block_ids, cover_blocks, every_block

SMALLEST_TRIM_MM, LARGEST_TRIM_MM = 30.0, 1500.0
MOST_PAGES = 4000
MOST_FIELDS = 60


def trim_fault(width_mm: float, height_mm: float) -> str:
    """Why a trim cannot be, or ''."""
    for name, size in (("width", width_mm), ("height", height_mm)):
        if not SMALLEST_TRIM_MM <= size <= LARGEST_TRIM_MM:
            return (
                f"a trim {name} of {size:.6g} mm is outside what can be made; "
                f"give one from {SMALLEST_TRIM_MM:.0f} to {LARGEST_TRIM_MM:.0f} mm"
            )
    return ""


def _faults(publication: Publication) -> list[str]:
    found = []
    brief = publication.brief
    if fault := trim_fault(brief.width.mm, brief.height.mm):
        found.append(fault)
    if not 1 <= len(publication.pages) <= MOST_PAGES:
        found.append(f"it has {len(publication.pages)} pages")
    masters = {master.name for master in publication.masters}
    found += [
        f"page {i + 1} asks for the master “{page.master}”, which is not there"
        for i, page in enumerate(publication.pages)
        if page.master and page.master not in masters
    ]
    found += [
        f"the master “{m.name}” is based on “{m.based_on}”, which is not there"
        for m in publication.masters
        if m.based_on and m.based_on not in masters
    ]
    grids = [*((f"the master “{m.name}”", m.grid) for m in publication.masters), ("the cover", publication.cover.grid)]
    for what, grid in grids:
        if not (1 <= grid.columns <= MOST_FIELDS and 1 <= grid.rows <= MOST_FIELDS):
            found.append(f"{what} has {grid.columns} by {grid.rows} fields")
    ids = block_ids(publication)
    if len(ids) != len(set(ids)):
        found.append("two blocks have the same id")
    return found + _dangling(publication)


def _dangling(publication: Publication) -> list[str]:
    stories = {story.id for story in publication.stories}
    pictures = {picture.id for picture in publication.pictures}
    roles = {role.name for role in publication.roles}
    missing = [role for role in publication.roles if role.based_on and role.based_on not in roles]
    papers = {paper.name for paper in publication.papers} | {"none"}
    found = [f"the role “{r.name}” is based on “{r.based_on}”, which is not there" for r in missing]
    places = [(f"page {index + 1}", block) for index, _page, block in every_block(publication)]
    for place, block in [*places, *(("the cover", block) for block in cover_blocks(publication))]:
        holds = block.holds
        if isinstance(holds, HoldsStory) and holds.story not in stories:
            found.append(f"{place} holds the story “{holds.story}”, which is not there")
        if isinstance(holds, HoldsPicture) and holds.picture not in pictures:
            found.append(f"{place} holds the picture “{holds.picture}”, which is not there")
        if isinstance(holds, HoldsDisplay | HoldsBarcode):
            found += [
                f"{place} uses the role “{p.role}”, which is not there" for p in holds.paragraphs if p.role not in roles
            ]
    for story in publication.stories:
        found += [
            f"the story “{story.title}” uses the role “{p.role}”, which is not there"
            for p in story.paragraphs
            if p.role not in roles
        ]
    brief = publication.brief
    used = [brief.text_paper, brief.cover_paper, brief.endpapers, brief.jacket]
    used += [section.paper for section in publication.sections if section.paper]
    for paper in (*used, *(insert.paper for insert in publication.inserts)):
        if paper not in papers:
            found.append(f"its paper “{paper}” is not among its papers")
    found += [f"the picture “{p.file}” would lie outside its folder" for p in publication.pictures if "/" in p.file]
    return found


def require_valid(publication: Publication, name: str) -> None:
    """Raise Problem with the first thing in ``publication`` that cannot be."""
    if faults := _faults(publication):
        raise Problem(f"“{name}” cannot be opened: {faults[0]}.")

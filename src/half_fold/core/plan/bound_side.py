"""Binding at the other side: every block keeps its place in a mirror, so that what bled at the fore edge still does."""

from msgspec.structs import replace

from half_fold.core.plan.spreads import facing
from half_fold.core.publication.records import Block, Cover, HoldsBarcode, HoldsDisplay, Page, Publication, Stop

_OTHER = {"left": "right", "right": "left"}


def bind_at(publication: Publication, right: bool) -> Publication:
    """The job bound at that side; its pages and its cover mirrored where it was bound at the other."""
    if publication.brief.right_bound == right:
        return publication
    return replace(
        publication,
        brief=replace(publication.brief, right_bound=right),
        pages=_mirrored_pages(publication.pages),
        unplaced=tuple(replace(p, blocks=tuple(_mirrored(b) for b in p.blocks)) for p in publication.unplaced),
        cover=_mirrored_cover(publication.cover),
    )


def _mirrored(block: Block) -> Block:
    return replace(block, left=_stop(block.right), right=_stop(block.left))


def _stop(stop: Stop) -> Stop:
    return replace(stop, index=stop.count - 1 - stop.index) if stop.kind == "field" else stop


def _crosses(block: Block) -> bool:
    """Whether its edges lie on both pages; the far fold is no other page's, only the spine's other edge."""
    left, right = (stop.facing and stop.kind != "fold" for stop in (block.left, block.right))
    return left != right


def _turned(block: Block) -> Block:
    """The same block told from the other page of its spread."""
    left, right = (replace(stop, facing=not stop.facing) for stop in (block.left, block.right))
    return replace(block, left=left, right=right)


def _mirrored_pages(pages: tuple[Page, ...]) -> tuple[Page, ...]:
    """Blocks that cross the fold go to the other page of their spread: the one they now start on."""
    stay: list[list[Block]] = [[] for _ in pages]
    come: list[list[Block]] = [[] for _ in pages]
    for index, page in enumerate(pages):
        other = facing(index + 1) - 1
        for block in page.blocks:
            moves = _crosses(block) and 0 <= other < len(pages)
            made = _mirrored(block)
            (come[other] if moves else stay[index]).append(_turned(made) if moves else made)
    return tuple(replace(p, blocks=(*here, *there)) for p, here, there in zip(pages, stay, come, strict=True))


def _mirrored_cover(cover: Cover) -> Cover:
    changed: dict[str, tuple[Block, ...]] = {}
    for one, other in (("back", "front"), ("inside_front", "inside_back")):
        every = {field: [_on_side(_mirrored(b)) for b in getattr(cover, field)] for field in (one, other)}
        for field, partner in ((one, other), (other, one)):
            own = [b for b in every[field] if not _crosses(b)]
            changed[field] = (*own, *(_turned(b) for b in every[partner] if _crosses(b)))
    return replace(cover, **changed)


def _on_side(block: Block) -> Block:
    """Cover lines and barcodes stand at the other side."""
    holds = block.holds
    if isinstance(holds, HoldsDisplay | HoldsBarcode) and holds.side in _OTHER:
        return replace(block, holds=replace(holds, side=_OTHER[holds.side]))
    return block

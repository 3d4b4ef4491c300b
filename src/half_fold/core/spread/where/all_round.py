"""Leaves that are trimmed all round: what ends at the fold runs on beyond it by the bleed."""

from functools import partial

from msgspec.structs import replace

from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import Length
from half_fold.core.plan.spreads import on_right
from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, Publication
from half_fold.core.publication.things import mapped


@kept(8)
def reach_out(publication: Publication) -> Publication:
    """The job with pictures and panels that end at the fold on their own page running on beyond it by the bleed."""
    bleed = publication.brief.bleed
    pages = tuple(
        replace(page, things=mapped(page.things, partial(_reaching, on_right(publication, number), bleed)))
        for number, page in enumerate(publication.pages, 1)
    )
    return replace(publication, pages=pages)


def _reaching(on_right: bool, bleed: Length, block: Block) -> Block:
    edge = "left" if on_right else "right"
    if not isinstance(block.place, Held):
        return block
    stop: Stop = getattr(block.place, edge)
    ends_there = stop.kind in ("fold", "bleed", "trim") and not stop.facing and stop.off is None
    if not ends_there or not kind_of(block.holds).is_area:
        return block
    return replace(block, place=replace(block.place, **{edge: replace(stop, off=bleed)}))

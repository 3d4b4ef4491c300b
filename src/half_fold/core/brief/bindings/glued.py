"""Glued backs: perfect binding of single leaves, and burst binding of folded sections."""

from functools import partial

from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bulk import text_thickness
from half_fold.core.brief.soft_spine import soft_panel
from half_fold.core.measure.length import figure
from half_fold.core.publication.records import Publication

LEAST_BLOCK_MM = 3.0


def _worry(publication: Publication, kind: str) -> str:
    block = text_thickness(publication).value
    if block >= LEAST_BLOCK_MM:
        return ""
    return (
        f"A block of {figure(block)} mm is thin for {kind} binding; "
        f"about {LEAST_BLOCK_MM:g} mm holds the glue. Ask the printer."
    )


PERFECT = Binding(
    "perfect", "Perfect", 2, 5.0, panel=soft_panel, worry=partial(_worry, kind="perfect"), signatures=True
)
BURST = Binding(
    "burst", "Burst", 4, 5.0, panel=soft_panel, worry=partial(_worry, kind="burst"), signatures=True, folded=True
)

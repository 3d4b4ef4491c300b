"""What the printer asks for, and the trim: lengths as they were typed, as worked numbers."""

from half_fold.core.brief.bindings import binding_named
from half_fold.core.measure.worked import Worked, given, given_length
from half_fold.core.publication.records import Publication

PRINTER_WINS = "Press figures are defaults; the printer's own sheet wins."


def trim_width(publication: Publication) -> Worked:
    return given_length(publication.brief.width, "Trim width", key="trim.width", edits="trim.width")


def trim_height(publication: Publication) -> Worked:
    return given_length(publication.brief.height, "Trim height", key="trim.height", edits="trim.height")


def bleed(publication: Publication) -> Worked:
    return given_length(publication.brief.bleed, "Bleed", key="bleed", edits="bleed")


def safe_zone(publication: Publication) -> Worked:
    return given_length(publication.brief.safe, "Safe zone", key="safe", edits="safe")


def fold_loss(publication: Publication) -> Worked:
    """Millimetres of each page lost in the fold: the binding's figure unless the brief has its own."""
    own = publication.brief.fold_loss
    if own is not None:
        return given_length(own, "Lost in the fold", key="fold.loss", edits="fold-loss")
    binding = binding_named(publication.brief.binding)
    usual = f"usual for {binding.label.lower()}"
    typed = f"{binding.fold_loss_mm:g}mm"
    name, key = "Lost in the fold", "fold.loss"
    return given(binding.fold_loss_mm, "mm", name, key=key, edits="fold-loss", typed=typed, how=usual)

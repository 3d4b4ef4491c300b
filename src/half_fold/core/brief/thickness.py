"""Leaves, block, spine and wrap, as worked numbers.

Sources: the trade's usual arithmetic. Spine of a perfect-bound copy by three schools: the block alone,
the block and both covers (the default), or those and 0.4 mm of glue. Wrap = 2 x trim + spine + 2 x bleed.
"""

import math

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.papers import caliper, find_paper
from half_fold.core.measure.length import figure, length
from half_fold.core.measure.worked import Worked, given, given_length
from half_fold.core.publication.records import Publication

GLUE_MM = 0.4
LEAST_TOLERANCE_MM, MOST_TOLERANCE_MM, TOLERANCE_SHARE = 0.5, 1.5, 0.05
LAY_MM, LEAST_SPINE_CLEARANCE_MM = 1.0, 1.5
SCHOOLS = {"block": "block alone", "covers": "block and both covers", "covers+glue": "block, both covers and glue"}
ROUNDINGS = {"0.1mm": "rounded to 0.1 mm", "0.5mm": "rounded to 0.5 mm", "1/64in": "rounded to 1/64 in", "none": ""}
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
    return given(
        binding.fold_loss_mm,
        "mm",
        "Lost in the fold",
        key="fold.loss",
        edits="fold-loss",
        typed=f"{binding.fold_loss_mm:g}mm",
        how=f"usual for {binding.label.lower()}",
    )


def pages(publication: Publication) -> Worked:
    count = len(publication.pages)
    return given(count, "pages", "Pages", key="extent.pages", edits="pages", typed=str(count), how="without the cover")


def leaves(publication: Publication) -> Worked:
    """Two pages to a leaf; an odd last page still takes a whole leaf."""
    halves = pages(publication) / given(2, "", "")
    count = Worked(math.ceil(halves.value), "leaves", "", halves.how, halves.parts)
    return count.named("Leaves", "extent.leaves")


def text_caliper(publication: Publication) -> Worked:
    paper = find_paper(publication, publication.brief.text_paper)
    return caliper(paper, "paper.text.caliper", "paper.text").named("Text paper")


def cover_caliper(publication: Publication) -> Worked | None:
    """None for a self-cover job."""
    if publication.brief.cover_paper == "none":
        return None
    paper = find_paper(publication, publication.brief.cover_paper)
    return caliper(paper, "paper.cover.caliper", "paper.cover").named("Cover paper")


def block(publication: Publication) -> Worked:
    """The thickness of all text leaves, in millimetres."""
    thick = text_caliper(publication).to("mm")
    return (thick * leaves(publication)).named("Block", "bulk.text")


def copy_thickness(publication: Publication) -> Worked:
    """The closed copy: the block and both covers."""
    cover = cover_caliper(publication)
    whole = block(publication) if cover is None else block(publication) + 2 * cover.to("mm")
    return whole.named("Copy thickness", "copy.thickness")


def spine(publication: Publication) -> Worked | None:
    """The spine panel's width in millimetres, rounded by its own rule; None where the binding has no spine."""
    brief = publication.brief
    if not binding_named(brief.binding).has_spine:
        return None
    cover = cover_caliper(publication)
    width = block(publication)
    if cover is not None and brief.spine_school != "block":
        width = width + 2 * cover.to("mm")
    if brief.spine_school == "covers+glue":
        width = width + given(GLUE_MM, "mm", "Glue", how="0.3 to 0.5 is usual")
    if width.name:
        width = Worked(width.value, "mm", "", f"block {width.number}", (width,))
    if brief.spine_rounding != "none":
        width = width.rounded_to(length(brief.spine_rounding).mm, ROUNDINGS[brief.spine_rounding])
    return width.named("Spine", "spine.width")


def spine_tolerance(publication: Publication) -> Worked | None:
    """How far the made spine may differ from the worked one: 0.5 mm or 5 %, whichever is more, at most 1.5 mm."""
    width = spine(publication)
    if width is None:
        return None
    value = min(MOST_TOLERANCE_MM, max(LEAST_TOLERANCE_MM, TOLERANCE_SHARE * width.value))
    how = f"{figure(LEAST_TOLERANCE_MM)} mm or 5 % of {width.text}, whichever is more, at most {MOST_TOLERANCE_MM} mm"
    return Worked(value, "mm", "Spine tolerance", how, (width,), "spine.tolerance")


def spine_text_margin(publication: Publication) -> Worked | None:
    """What spine text keeps clear at each fold: half the tolerance and 1 mm of lay, at least 1.5 mm."""
    tolerance = spine_tolerance(publication)
    if tolerance is None:
        return None
    wander = tolerance / given(2, "", "") + given(LAY_MM, "mm", "Lay")
    value = max(LEAST_SPINE_CLEARANCE_MM, wander.value)
    how = f"{wander.how} = {wander.number}, at least {LEAST_SPINE_CLEARANCE_MM}"
    return Worked(value, "mm", "Clear at each fold", how, wander.parts)


def spine_text_clear(publication: Publication) -> Worked | None:
    """The width that spine text may take; None where there is no spine."""
    width, margin = spine(publication), spine_text_margin(publication)
    if width is None or margin is None:
        return None
    clear = width - 2 * margin
    return Worked(max(0.0, clear.value), "mm", "", clear.how, clear.parts).named(
        "Clear on the spine", "spine.text.clear"
    )


def wrap_width(publication: Publication) -> Worked | None:
    """The cover flat with bleed: back, spine and front; None for a self-cover job."""
    if publication.brief.cover_paper == "none":
        return None
    flat = 2 * trim_width(publication)
    panel = spine(publication)
    if panel is not None:
        flat = flat + panel
    return (flat + 2 * bleed(publication)).named("Wrap width", "wrap.width")


def wrap_height(publication: Publication) -> Worked | None:
    if publication.brief.cover_paper == "none":
        return None
    return (trim_height(publication) + 2 * bleed(publication)).named("Wrap height", "wrap.height")

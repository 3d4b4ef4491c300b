"""The spine's width, how far it may be off, and what its text must leave clear, as worked numbers."""

from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.bulk import board_thickness, cover_caliper, those_there
from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import figure, length
from half_fold.core.measure.worked import Worked, given, given_length
from half_fold.core.publication.records import Publication

_KEPT = 48
LEAST_TOLERANCE_MM, MOST_TOLERANCE_MM, TOLERANCE_SHARE = 0.5, 1.5, 0.05
LAY_MM, LEAST_SPINE_CLEARANCE_MM = 1.0, 1.5
ROUNDINGS = {"0.1mm": "rounded to 0.1 mm", "0.5mm": "rounded to 0.5 mm", "1/64in": "rounded to 1/64 in", "none": ""}


def block(publication: Publication) -> Worked:
    """The thickness of the block without its cover, in millimetres."""
    return binding_named(publication.brief.binding).block(publication).named("Block", "bulk.text")


def copy_thickness(publication: Publication) -> Worked:
    """The closed copy: the block and both covers, or both boards."""
    if binding_named(publication.brief.binding).cover == "case":
        return (block(publication) + 2 * board_thickness(publication)).named("Copy thickness", "copy.thickness")
    cover = cover_caliper(publication)
    whole = block(publication) if cover is None else block(publication) + 2 * cover.to("mm")
    return whole.named("Copy thickness", "copy.thickness")


@kept(_KEPT)
def spine(publication: Publication) -> Worked | None:
    """The spine panel's width in millimetres: what the printer gave, else worked out; None where there is none."""
    worked, given_one = worked_spine(publication), publication.brief.spine
    binding = binding_named(publication.brief.binding)
    if given_one is None or not (binding.has_spine or takes_given_spine(publication)):
        return worked
    said = "given by the printer" + (f"; worked out it is {worked.text}" if worked is not None else "")
    return given_length(given_one, "Spine", key="spine.width", edits="spine", note=said)


def takes_given_spine(publication: Publication) -> bool:
    """Whether it has a spine only where one is given: a cover alone."""
    binding = binding_named(publication.brief.binding)
    return binding.elsewhere and binding.cover == "wrap"


def worked_spine(publication: Publication) -> Worked | None:
    """The spine panel's width as it follows from the block, rounded by its own rule."""
    width = binding_named(publication.brief.binding).panel(publication)
    if width is None:
        return None
    if width.name:
        width = Worked(width.value, "mm", "", f"block {width.number}", (width,))
    rounding = publication.brief.spine_rounding
    if rounding != "none":
        width = width.rounded_to(length(rounding).mm, ROUNDINGS[rounding])
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


def spine_numbers(publication: Publication) -> list[Worked]:
    """Those that there are."""
    return those_there((spine(publication), spine_tolerance(publication), spine_text_clear(publication)))

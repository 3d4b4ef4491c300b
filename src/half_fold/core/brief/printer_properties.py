"""What can be set of the printer's sheet that a job has: in the job's own copy of it, which can then be kept."""

from typing import Any

from half_fold.core.brief.printers import ON_PAPER, choose_printer, require_sound
from half_fold.core.brief.soft_spine import SCHOOLS
from half_fold.core.brief.spine import ROUNDINGS
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import count_of, field_of
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.records import PrinterSheet, Publication

NOTHING = "nothing asked"
_BLACK = (("text", "text only"), ("all", "all of it"), ("none", "none of it"))
_ROUNDINGS = tuple((name, words or "not rounded") for name, words in ROUNDINGS.items())


def _asked(name: str, label: str, kind: Any = "text", **more: Any) -> Property[PrinterSheet]:
    return field_of(PrinterSheet, name, label, kind, none=NOTHING, **more)


def _count(name: str, label: str, **more: Any) -> Property[PrinterSheet]:
    return count_of(PrinterSheet, name, label, NOTHING, **more)


SHEET: tuple[Property[PrinterSheet], ...] = (
    field_of(PrinterSheet, "name", "Its name", "text"),
    field_of(PrinterSheet, "unit", "Its unit", "choice", choices=tuple((unit, unit) for unit in ON_PAPER)),
    _asked("bleed", "Its bleed"),
    _asked("safe", "Its safe zone"),
    _asked("spine_school", "Its spine counts", "choice", choices=tuple(SCHOOLS.items())),
    _asked("spine_rounding", "Its rounding", "choice", choices=_ROUNDINGS),
    _asked("spine_text_from", "Spine text from"),
    _count("spine_text_pages", "Spine text from pages"),
    _count("multiple", "Multiple of pages"),
    _count("ink_limit", "Ink limit", unit="%"),
    _count("picture_ppi", "Pictures", unit="ppi"),
    _asked("overprint", "Overprinted black", "choice", choices=_BLACK),
    _asked("overprint_to", "Text overprints up to", note="points, such as 24pt"),
    _asked("profile", "Paper profile"),
    field_of(PrinterSheet, "marks", "Wants marks", "flag"),
    _asked("barcode", "Barcode place", note="width x height, such as 50.8x30.5mm"),
    _asked("standard", "Standard"),
    field_of(PrinterSheet, "note", "Note", "text", none="none"),
)


def set_sheet(publication: Publication, key: str, typed: str) -> Publication:
    """The job with one value of its printer's sheet set, and so what it asks for. Problem where it cannot be."""
    sheet = publication.printer
    if sheet is None:
        raise Problem("This job has no printer's sheet; choose a printer first.")
    changed = named(SHEET, key).set(publication, sheet, typed)
    require_sound(changed, changed.name)
    return choose_printer(publication, changed)

"""Printers' sheets: what a printer asks for, as a small JSON file; three made-up ones ship as stand-ins.

Choosing one sets what it asks for in the brief and copies the sheet into the job, where the checks hold it up.
"""

import contextlib
from functools import cache
from importlib.resources import files
from pathlib import Path

import msgspec
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.brief.soft_spine import SCHOOLS
from half_fold.core.brief.spine import ROUNDINGS
from half_fold.core.drawing.overprint import OVERPRINTED
from half_fold.core.measure.entry import UNITS
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.ranges import figures_out_of_range
from half_fold.core.publication.records import PrinterSheet, Publication
from half_fold.core.store.files import octets_of
from half_fold.core.store.own import file_name, keep_own, own_folder

NAMES = ("city-litho", "short-run", "on-demand")
SUFFIX = ".printer.json"
MOST_BLEED_MM, MOST_ASKED_MM = 50.0, 100.0
LARGEST = 1_000_000  # octets of a printer's sheet
LARGEST_TEXT_PT = 1000.0  # that a sheet may have overprinted
ON_PAPER = ("mm", "in", "pt")  # units that a sheet, and a job that is printed, may have
STANDARD = "PDF/X-4"  # what every press file is written to


class Change(Struct, frozen=True):
    """A value of the brief that a sheet set."""

    name: str
    before: str
    now: str


@cache
def shipped() -> tuple[PrinterSheet, ...]:
    """The stand-ins that ship with the program."""
    folder = files("half_fold.data").joinpath("printers")
    return tuple(msgspec.json.decode(folder.joinpath(f"{name}.json").read_bytes(), type=PrinterSheet) for name in NAMES)


def _folder() -> Path:
    return own_folder() / "printers"


def own_sheets() -> tuple[PrinterSheet, ...]:
    """The user's own sheets; one that cannot be read is passed over."""
    found = []
    for path in sorted(_folder().glob(f"*{SUFFIX}")):
        with contextlib.suppress(Problem, OSError):
            found.append(_read_once(path, path.stat().st_mtime_ns))
    return tuple(found)


@cache
def _read_once(path: Path, _when: int) -> PrinterSheet:
    """A sheet read again only after it was written: the brief asks for all of them at every edit."""
    return read_sheet(path)


def keep_sheet(sheet: PrinterSheet) -> Path:
    """Keep a sheet among the user's own. Problem where it cannot be written, or asks for what cannot be."""
    require_sound(sheet, sheet.name)
    path = _folder() / f"{file_name(sheet.name, 'printer')}{SUFFIX}"
    keep_own(path, sheet)
    return path


def read_sheet(path: Path) -> PrinterSheet:
    """A printer's sheet from its file. Problem says what is wrong with it."""
    try:
        sheet = msgspec.json.decode(octets_of(path, "printer's sheet", LARGEST), type=PrinterSheet)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        detail = str(error).splitlines()[0]
        raise Problem(
            f"“{path.name}” is not a printer's sheet ({detail}); docs/printers.md says what it holds."
        ) from error
    require_sound(sheet, path.name)
    return sheet


def require_sound(sheet: PrinterSheet, name: str) -> None:
    """Problem where a sheet asks for what cannot be."""
    if not sheet.name.strip() or not sheet.unit.strip():
        raise Problem(f"“{name}” says neither name nor unit of its own; both are needed. docs/printers.md says more.")
    if fault := next(figures_out_of_range(sheet), None):
        raise Problem(f"“{name}” asks for what cannot be: {fault}.")
    for field in ("bleed", "safe", "spine_text_from"):
        if getattr(sheet, field):
            asked = length(getattr(sheet, field), "in" if sheet.unit == "in" else "mm")
            most = MOST_BLEED_MM if field == "bleed" else MOST_ASKED_MM
            if not 0 <= asked.mm <= most:
                said = f"a {field.replace('_', ' ')} of {asked.typed}; it may be up to {most:g} mm"
                raise Problem(f"“{name}” asks for {said}.")
    if sheet.overprint_to:
        asked = length(sheet.overprint_to, "pt")
        if not 0 <= asked.pt <= LARGEST_TEXT_PT:
            said = f"text of up to {asked.typed} overprinted; it may be from 0 to {LARGEST_TEXT_PT:g} pt"
            raise Problem(f"“{name}” asks for {said}.")
    choices = ("spine_school", SCHOOLS), ("spine_rounding", ROUNDINGS), ("unit", ON_PAPER), ("overprint", OVERPRINTED)
    for field, known in choices:
        value = getattr(sheet, field)
        if value and value not in known:
            raise Problem(f"“{name}” asks for the {field.replace('_', ' ')} “{value}”; there are {', '.join(known)}.")
    barcode_reserve(sheet)


def barcode_reserve(sheet: PrinterSheet) -> tuple[float, float]:
    """Width and height in millimetres that the printer keeps for a barcode; (0, 0) for none."""
    if not sheet.barcode:
        return 0.0, 0.0
    sides = sheet.barcode.lower().replace("×", "x").split("x")
    if len(sides) != 2 or not all(side.strip() for side in sides):
        raise Problem(f"“{sheet.barcode}” is no place for a barcode; give width x height such as 50.8x30.5mm.")
    unit = sides[1].strip().lstrip("0123456789., ") or sheet.unit
    if unit not in UNITS:
        raise Problem(f"“{sheet.barcode}” is no place for a barcode; give its sides in mm, in or pt.")
    wide, high = (length(side.strip(), unit).mm for side in sides)
    if not (0 < wide <= 300 and 0 < high <= 300):
        raise Problem(f"“{sheet.barcode}” is no place for a barcode; give sides of up to 300 mm.")
    return wide, high


def known_sheets() -> tuple[PrinterSheet, ...]:
    """The user's own and those that ship."""
    own = own_sheets()
    names = {sheet.name.lower() for sheet in own}
    return (*own, *(sheet for sheet in shipped() if sheet.name.lower() not in names))


def find_sheet(name: str) -> PrinterSheet:
    """A sheet by its name or its file. Problem where there is none."""
    path = Path(name).expanduser()
    if path.suffix == ".json":
        return read_sheet(path)
    for sheet in known_sheets():
        if sheet.name.lower() == name.strip().lower():
            return sheet
    names = ", ".join(sheet.name for sheet in known_sheets())
    raise Problem(f"There is no printer “{name}”; there are {names}, or name a sheet's JSON file.")


def choose_printer(publication: Publication, sheet: PrinterSheet | None) -> Publication:
    """The job for that printer: what its sheet asks for is set in the brief, and the sheet kept with the job."""
    if sheet is None:
        return replace(publication, printer=None)
    require_sound(sheet, sheet.name)
    unit = sheet.unit
    asked: dict[str, object] = {"unit": unit}
    for field in ("bleed", "safe"):
        if getattr(sheet, field):
            asked[field] = length(getattr(sheet, field), unit)
    for field in ("spine_school", "spine_rounding"):
        if getattr(sheet, field):
            asked[field] = getattr(sheet, field)
    return replace(publication, brief=replace(publication.brief, **asked), printer=sheet)


def sheet_changes(before: Publication, now: Publication) -> list[Change]:
    """What choosing a printer changed in the brief."""
    pairs = (
        ("Bleed", before.brief.bleed.typed, now.brief.bleed.typed),
        ("Safe zone", before.brief.safe.typed, now.brief.safe.typed),
        ("Spine counts", SCHOOLS[before.brief.spine_school], SCHOOLS[now.brief.spine_school]),
        ("Rounding", before.brief.spine_rounding, now.brief.spine_rounding),
        ("Unit", before.brief.unit, now.brief.unit),
    )
    return [Change(name, old, new) for name, old, new in pairs if old != new]

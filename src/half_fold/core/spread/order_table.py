"""The running order as a table: CSV and XLSX, out and in again."""

import csv
import io
from collections.abc import Sequence
from itertools import islice
from pathlib import Path
from typing import Any

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import set_extent, set_master, set_runs
from half_fold.core.plan.sections import bands, folios, mark_pages, section_of, start_section
from half_fold.core.publication.ranges import MOST_PAGES
from half_fold.core.publication.records import Publication
from half_fold.core.spread.states import state_of
from half_fold.core.store.atomic import whole_file, write_whole
from half_fold.core.store.decoding import told
from half_fold.core.store.files import require_file, require_output

COLUMNS = ("page", "folio", "section", "what runs", "master", "advert", "state")
SUFFIXES = (".csv", ".xlsx")
MOST_ROWS, MOST_COLUMNS = 20_000, 200
LARGEST = 64 * 1024 * 1024  # octets of a table, and of what one unpacks to


def rows(publication: Publication) -> list[list[str]]:
    """One row a page, under ``COLUMNS``."""
    said, inside = folios(publication), bands(publication)
    out = []
    for index, page in enumerate(publication.pages):
        name = inside[index + 1][1].name if index + 1 in inside else ""
        out.append(
            [str(index + 1), said[index], name, page.runs, page.master, page.advert, state_of(publication, index)]
        )
    return out


def write_table(publication: Publication, path: Path) -> None:
    """The running order as a file of the kind its name ends in. Problem for another, or where it cannot be written."""
    suffix = path.suffix.lower()
    require_output(path)
    if suffix == ".csv":
        out = io.StringIO()
        writer = csv.writer(out, lineterminator="\n")
        writer.writerows([COLUMNS, *rows(publication)])
        write_whole(path, out.getvalue().encode("utf-8-sig"))
    elif suffix == ".xlsx":
        _write_xlsx(publication, path)
    else:
        raise Problem(f"“{path.name}” is no table; name a file that ends in .csv or .xlsx.")


def _write_xlsx(publication: Publication, path: Path) -> None:
    from openpyxl import Workbook
    from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE
    from openpyxl.styles import Font

    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = "Running order"
    sheet.append([*COLUMNS])
    for line, row in enumerate(rows(publication), 2):
        sheet.cell(line, 1, int(row[0]))
        for column, words in enumerate(row[1:], 2):
            place: Any = sheet.cell(line, column)
            place.value = ILLEGAL_CHARACTERS_RE.sub(" ", words)
            place.data_type = "s"  # words that begin with = are words all the same
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    sheet.freeze_panes = "A2"
    for letter, width in zip("ABCDEFG", (7, 7, 22, 40, 12, 10, 10), strict=True):
        sheet.column_dimensions[letter].width = width
    with whole_file(path) as temporary:
        book.save(temporary)


def read_table(path: Path) -> list[list[str]]:
    """The cells of a table as text, its heading first. Problem where it cannot be read."""
    require_file(path, "table")
    try:
        found = _read_xlsx(path) if path.suffix.lower() == ".xlsx" else _read_csv(path)
    except OSError as error:
        raise Problem(f"“{path}” cannot be read; check its name and permissions.") from error
    if not found or len(found) > MOST_ROWS:
        raise Problem(f"“{path.name}” holds no running order; its first line names the columns {', '.join(COLUMNS)}.")
    return found


def require_small(path: Path) -> None:
    """Problem where a workbook is none, or unpacks to more than a table can be."""
    from zipfile import BadZipFile, ZipFile

    try:
        with ZipFile(path) as file:
            whole = sum(each.file_size for each in file.infolist())
    except (BadZipFile, ValueError, NotImplementedError) as error:
        raise Problem(f"“{path.name}” is not a whole XLSX file; save it again, or as CSV.") from error
    if whole > LARGEST:
        raise Problem(f"“{path.name}” unpacks to more than a table can be; save what is needed of it as CSV.")


def _cell(value: object) -> str:
    """A cell as text; a whole number without the point that a workbook may keep it with."""
    if value is None:
        return ""
    return str(int(value)) if isinstance(value, float) and value.is_integer() else str(value)


def _read_csv(path: Path) -> list[list[str]]:
    if path.stat().st_size > LARGEST:
        raise Problem(f"“{path.name}” is larger than a table can be; save what is needed of it.")
    csv.field_size_limit(LARGEST)
    try:
        text = told(path.read_bytes())
    except UnicodeDecodeError as error:
        raise Problem(f"“{path.name}” is not UTF-8 text; save it as CSV in UTF-8.") from error
    heading = text.split("\n", 1)[0].split("\r", 1)[0]
    between = max(",;\t", key=heading.count)
    try:
        lines = csv.reader(io.StringIO(text, newline=""), delimiter=between)
        return [row for row in lines if any(cell.strip() for cell in row)]
    except csv.Error as error:
        raise Problem(f"“{path.name}” cannot be read as a table ({error}); save it again as CSV.") from error


def _read_xlsx(path: Path) -> list[list[str]]:
    from openpyxl import load_workbook

    require_small(path)
    try:
        sheet = load_workbook(path, read_only=True, data_only=True).worksheets[0]
        every = islice(sheet.iter_rows(values_only=True), MOST_ROWS + 2)
        return [[_cell(cell) for cell in row[:MOST_COLUMNS]] for row in every if any(cell is not None for cell in row)]
    except Exception as error:  # the library raises what it likes on what is no workbook
        raise Problem(f"“{path.name}” is not a whole XLSX file; save it again, or as CSV.") from error


def take_table(publication: Publication, table: Sequence[Sequence[str]]) -> tuple[Publication, list[str]]:
    """The job with what a table says of its pages, and a sentence for each thing that was not taken.

    Pages are found by number; a page beyond the last makes the job longer. Blocks stay where they are.
    """
    heading = [name.strip().lower() for name in table[0]]
    if "page" not in heading:
        raise Problem(f"The table has no column “page”; its columns may be {', '.join(COLUMNS)}.")
    notes = [f"The column “{name}” was not understood." for name in heading if name and name not in COLUMNS]
    said: dict[int, dict[str, str]] = {}
    for line, cells in enumerate(table[1:], 2):
        row = dict(zip(heading, cells, strict=False))
        page = row.get("page", "").strip()
        number = int(page) if page.isascii() and page.isdigit() and len(page) < 10 else 0
        if not number:
            notes.append(f"Line {line} has no page number, and was left out.")
        elif number > MOST_PAGES:
            notes.append(
                f"Line {line} is of page {number:,}, and a job has {MOST_PAGES:,} at the most; it was left out."
            )
        else:
            said[number] = row
    if said and max(said) > len(publication.pages):
        publication = set_extent(publication, max(said))
    for number, row in sorted(said.items()):
        publication = _take_row(publication, number, row, notes)
    return publication, notes


def _take_row(publication: Publication, number: int, row: dict[str, str], notes: list[str]) -> Publication:
    index = number - 1
    page = publication.pages[index]
    if row.get("what runs", page.runs) != page.runs:
        publication = set_runs(publication, index, row["what runs"])
    section, now = row.get("section", "").strip(), section_of(publication, number)
    try:
        if section and (now is None or now.name != section):
            publication = start_section(publication, number, section)
        master, advert = row.get("master", "").strip(), row.get("advert", page.advert).strip().lower()
        if master and master != page.master:
            publication = set_master(publication, [index], master)
        if advert != page.advert:
            publication = mark_pages(publication, [index], "advert", advert)
        state = row.get("state", "").strip().lower()
        if state in ("copy in", "proofed", "passed") and state != page.state:
            publication = mark_pages(publication, [index], "state", state)
    except Problem as problem:
        notes.append(f"Page {number}: {problem}")
    return publication

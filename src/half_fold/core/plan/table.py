"""The running order as a table: CSV and XLSX, out and in again."""

import csv
import io
from collections.abc import Sequence
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import set_extent, set_master, set_runs
from half_fold.core.plan.sections import bands, folios, mark_pages, section_of, start_section, state_of
from half_fold.core.publication.records import Publication
from half_fold.core.store.atomic import whole_file, write_whole

COLUMNS = ("page", "folio", "section", "what runs", "master", "advert", "state")
SUFFIXES = (".csv", ".xlsx")
MOST_ROWS = 20_000


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
    from openpyxl.styles import Font

    book = Workbook()
    sheet = book.active
    assert sheet is not None
    sheet.title = "Running order"
    sheet.append([*COLUMNS])
    for row in rows(publication):
        sheet.append([int(row[0]), *row[1:]])
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    sheet.freeze_panes = "A2"
    for column, width in zip("ABCDEFG", (7, 7, 22, 40, 12, 10, 10), strict=True):
        sheet.column_dimensions[column].width = width
    with whole_file(path) as temporary:
        book.save(temporary)


def read_table(path: Path) -> list[list[str]]:
    """The cells of a table as text, its heading first. Problem where it cannot be read."""
    try:
        found = _read_xlsx(path) if path.suffix.lower() == ".xlsx" else _read_csv(path)
    except OSError as error:
        raise Problem(f"“{path}” cannot be read; check its name and permissions.") from error
    if not found or len(found) > MOST_ROWS:
        raise Problem(f"“{path.name}” holds no running order; its first line names the columns {', '.join(COLUMNS)}.")
    return found


def _read_csv(path: Path) -> list[list[str]]:
    try:
        text = path.read_bytes().decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Problem(f"“{path.name}” is not UTF-8 text; save it as CSV in UTF-8.") from error
    try:
        dialect: type[csv.Dialect] | csv.Dialect = csv.Sniffer().sniff(text[:4096], delimiters=",;\t")
    except csv.Error:
        dialect = csv.excel
    return [[cell.strip() for cell in row] for row in csv.reader(io.StringIO(text), dialect) if any(row)]


def _read_xlsx(path: Path) -> list[list[str]]:
    from zipfile import BadZipFile

    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        sheet = load_workbook(path, read_only=True, data_only=True).worksheets[0]
        return [
            ["" if cell is None else str(cell).strip() for cell in row]
            for row in sheet.iter_rows(values_only=True)
            if any(cell is not None for cell in row)
        ]
    except (BadZipFile, InvalidFileException, KeyError, IndexError, ValueError) as error:
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
        if not row["page"].isdigit() or not int(row["page"]):
            notes.append(f"Line {line} has no page number, and was left out.")
        else:
            said[int(row["page"])] = row
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
    section, now = row.get("section", ""), section_of(publication, number)
    try:
        if section and (now is None or now.name != section):
            publication = start_section(publication, number, section)
        if row.get("master") and row["master"] != page.master:
            publication = set_master(publication, [index], row["master"])
        if "advert" in row and row["advert"] != page.advert:
            publication = mark_pages(publication, [index], "advert", row["advert"].lower())
        state = row.get("state", "").lower()
        if state in ("copy in", "proofed", "passed") and state != page.state:
            publication = mark_pages(publication, [index], "state", state)
    except Problem as problem:
        notes.append(f"Page {number}: {problem}")
    return publication

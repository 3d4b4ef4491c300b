"""The running order as a table: CSV and XLSX, out and in again."""

import csv
import io
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.order import set_extent, set_page_master, set_runs
from half_fold.core.plan.sections import bands, folios, mark_pages, section_of, start_section
from half_fold.core.publication.ranges import MOST_PAGES
from half_fold.core.publication.records import Publication
from half_fold.core.spread.running.states import page_state
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import require_output
from half_fold.core.store.tables import read_table

COLUMNS = ("page", "folio", "section", "what runs", "master", "advert", "state")


def rows(publication: Publication) -> list[list[str]]:
    """One row a page, under ``COLUMNS``."""
    said, inside = folios(publication), bands(publication)
    out = []
    for index, page in enumerate(publication.pages):
        name = inside[index + 1][1].name if index + 1 in inside else ""
        out.append(
            [str(index + 1), said[index], name, page.runs, page.master, page.advert, page_state(publication, index)]
        )
    return out


def write_table(publication: Publication, path: Path) -> None:
    """The running order as a file of the kind its name ends in. Problem for another, or where it cannot be written."""
    suffix = path.suffix.lower()
    if suffix == ".csv":
        require_output(path, _is_running_order)
        out = io.StringIO()
        writer = csv.writer(out, lineterminator="\n")
        writer.writerows([COLUMNS, *rows(publication)])
        write_whole(path, out.getvalue().encode("utf-8-sig"))
    elif suffix == ".xlsx":
        require_output(path, _is_running_order)
        _write_xlsx(publication, path)
    else:
        raise Problem(f"“{path.name}” is no table; name a file that ends in .csv or .xlsx.")


def _is_running_order(path: Path) -> bool:
    """Whether a table is one that was written here, whatever was typed into it since."""
    try:
        return tuple(read_table(path)[0][: len(COLUMNS)]) == COLUMNS
    except Problem:
        return False


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
    packed = io.BytesIO()  # the library leaves a file that cannot be written to the end half open
    book.save(packed)
    write_whole(path, packed.getvalue())


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
            publication = set_page_master(publication, [index], master)
        if advert != page.advert:
            publication = mark_pages(publication, [index], "advert", advert)
        state = row.get("state", "").strip().lower()
        if state in ("copy in", "proofed", "passed") and state != page.state:
            publication = mark_pages(publication, [index], "state", state)
    except Problem as problem:
        notes.append(f"Page {number}: {problem}")
    return publication

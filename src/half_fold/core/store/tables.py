"""Tables from files: CSV in any of its manners, and the first sheet of an XLSX workbook, as rows of words."""

import csv
import io
import re
from datetime import datetime
from itertools import islice
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.store.decoding import decode_told
from half_fold.core.store.files import octets_of, require_file

SUFFIXES = (".csv", ".xlsx")
MOST_ROWS, MOST_COLUMNS = 20_000, 200
MOST_LINES = 2 * MOST_ROWS  # of a file that are looked at: more than may come in, empty ones among them
LARGEST = 64 * 1024 * 1024  # octets of a table, and of what one unpacks to
_DECIMALS = re.compile(r"^[^;]*?0\.(0+)")


def read_table(path: Path) -> list[list[str]]:
    """The cells of a table as text, its heading first. Problem where it cannot be read, or holds nothing."""
    require_file(path, "table")
    try:
        found = _read_xlsx(path) if path.suffix.lower() == ".xlsx" else _read_csv(path)
    except OSError as error:
        raise Problem(f"“{path}” cannot be read; check its name and permissions.") from error
    if not found:
        raise Problem(f"“{path.name}” holds no rows; its first names the columns.")
    if len(found) > MOST_ROWS:
        raise Problem(f"“{path.name}” has more than {MOST_ROWS:,} rows; save what is needed of it.")
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


def format_cell(value: object, form: str = "General") -> str:
    """A cell as text: figures with as many decimals as its ``form`` shows, whole ones without a point."""
    if value is None:
        return ""
    if isinstance(value, int | float) and not isinstance(value, bool):
        decimals = _DECIMALS.match(form)
        if form.rstrip().endswith("%"):
            return f"{100 * value:.{len(decimals[1]) if decimals else 0}f}%"
        if decimals:
            return f"{value:.{len(decimals[1])}f}"
        return str(int(value)) if float(value).is_integer() else str(value)
    if isinstance(value, datetime) and value.time().isoformat() == "00:00:00":
        return value.date().isoformat()
    return str(value)


def _read_csv(path: Path) -> list[list[str]]:
    csv.field_size_limit(LARGEST)
    try:
        text = decode_told(octets_of(path, "table", LARGEST))
    except UnicodeDecodeError as error:
        raise Problem(f"“{path.name}” is not UTF-8 text; save it as CSV in UTF-8.") from error
    heading = text.split("\n", 1)[0].split("\r", 1)[0]
    between = max(",;\t", key=heading.count)
    try:
        lines = csv.reader(io.StringIO(text, newline=""), delimiter=between)
        return [row for row in islice(lines, MOST_LINES) if any(cell.strip() for cell in row)]
    except csv.Error as error:
        raise Problem(f"“{path.name}” cannot be read as a table ({error}); save it again as CSV.") from error


def _read_xlsx(path: Path) -> list[list[str]]:
    from openpyxl import load_workbook

    require_small(path)
    try:
        sheet = load_workbook(path, read_only=True, data_only=True).worksheets[0]
        rows = (row[:MOST_COLUMNS] for row in islice(sheet.iter_rows(), MOST_ROWS + 2))
        every = [[format_cell(cell.value, str(cell.number_format or "")) for cell in row] for row in rows]
        return [row for row in every if any(row)]
    except Exception as error:  # the library raises what it likes on what is no workbook
        raise Problem(f"“{path.name}” is not a whole XLSX file; save it again, or as CSV.") from error

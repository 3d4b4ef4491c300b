"""Ink lists as open text: a table of process shares (CSV), and the plain palette that painting programs read (GPL)."""

import csv
import io
from collections.abc import Sequence
from contextlib import suppress
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.drawing.tone import Tone
from half_fold.core.inks.edits import SHARES, SPOT, parse_ink
from half_fold.core.inks.tones import tone_of
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import ink_on_screen
from half_fold.core.publication.records import Ink, Publication
from half_fold.core.publication.validity import require_whole
from half_fold.core.store.atomic import write_whole
from half_fold.core.store.files import begins_with, require_file, require_output
from half_fold.core.store.job import read as read_job
from half_fold.core.store.tables import read_table

TABLE, PALETTE, JOB = ".csv", ".gpl", ".halffold"
COLUMNS = ("name", "kind", *SHARES, "screen")
PROCESS = "process"
PALETTE_BEGINS = "GIMP Palette"  # the first line by which such files are known
MOST_OCTETS = 4_000_000
SAME = 3  # of 255


def give_inks(publication: Publication, out: Path) -> None:
    """Write the job's ink list. Problem where it cannot be written, or the name says no form."""
    kind = out.suffix.lower()
    if kind not in (TABLE, PALETTE):
        raise Problem(f"An ink list is written as {TABLE} or {PALETTE}; give “{out.name}” one of those endings.")
    text = _table(publication.inks) if kind == TABLE else _palette(publication)
    require_output(out, (PALETTE_BEGINS.encode(), ",".join(COLUMNS).encode()))
    write_whole(out, text.encode("utf-8"))


def _table(inks: Sequence[Ink]) -> str:
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for ink in inks:
        shares = [f"{getattr(ink, share):g}" for share in SHARES]
        rows.writerow([ink.name, SPOT if ink.spot else PROCESS, *shares, ink.screen])
    return out.getvalue()


def _palette(publication: Publication) -> str:
    """Each ink as a screen shows it in print."""
    rows = [PALETTE_BEGINS, f"Name: {publication.title}", "Columns: 0", "#"]
    for ink in publication.inks:
        red, green, blue = ink_on_screen(Tone(*tone_of(ink).process))
        rows.append(f"{red:3d} {green:3d} {blue:3d}\t{ink.name}")
    return "\n".join(rows) + "\n"


def read_inks(publication: Publication, path: Path) -> list[Ink]:
    """The inks of a list: a table, a palette, or another job. Problem where it is none."""
    file = path
    if path.is_dir():
        file = next(iter(sorted(path.glob(f"*{JOB}"))), path)
    require_file(file, "ink list")
    if file.suffix.lower() == JOB:
        return list(read_job(file).inks)
    if file.stat().st_size > MOST_OCTETS:
        raise Problem(f"“{path.name}” is too large for an ink list; give a table, a palette or a job.")
    read: list[Ink] = []
    if begins_with(file, (PALETTE_BEGINS.encode(),)):
        read = _from_palette(publication, file.read_bytes().decode("utf-8-sig", "replace"))
    else:
        with suppress(Problem):  # whatever is no table is no list of inks either
            read = _from_table(publication, read_table(file))
    if not read:
        raise Problem(f"“{path.name}” is no ink list; give a table ({','.join(COLUMNS)}), a palette or a job.")
    return read


def _from_palette(publication: Publication, text: str) -> list[Ink]:
    out: dict[str, Ink] = {}
    for at, line in enumerate(text.splitlines()[1:], 1):
        figures = line.split(None, 3)
        if line.startswith("#") or len(figures) < 3 or not all(figure.isdigit() for figure in figures[:3]):
            continue
        red, green, blue = (min(255, int(figure)) for figure in figures[:3])
        name = " ".join(figures[3].split()) if len(figures) > 3 else f"colour {at}"
        here = next((ink for ink in publication.inks if ink.name == name), None)
        if here is not None and _shows(here, (red, green, blue)):
            out.setdefault(name, here)  # it is that colour already, in inks of its own: black stays black alone
        else:
            out.setdefault(name, parse_ink(publication, name, f"#{red:02x}{green:02x}{blue:02x}"))
    return list(out.values())


def _shows(ink: Ink, colour: tuple[int, int, int]) -> bool:
    """Whether an ink looks so in print, to within what a screen tells apart."""
    shown = ink_on_screen(Tone(*tone_of(ink).process))
    return max(abs(one - other) for one, other in zip(shown, colour, strict=True)) <= SAME


def _from_table(publication: Publication, table: Sequence[Sequence[str]]) -> list[Ink]:
    head, *rows = table
    head = [word.strip().lower() for word in head]
    if "name" not in head or not set(SHARES) <= set(head):
        return []
    out: dict[str, Ink] = {}
    for row in rows:
        told = dict(zip(head, (cell.strip() for cell in row), strict=False))
        name = " ".join(told.get("name", "").split())
        if not name:
            continue
        shares = " ".join(told.get(share, "") or "0" for share in SHARES)
        ink = parse_ink(publication, name, f"{SPOT} {shares}" if told.get("kind", "").lower() == SPOT else shares)
        out[name] = replace(ink, screen=told.get("screen", "")) if told.get("screen") else ink
    return list(out.values())


def take_inks(publication: Publication, inks: Sequence[Ink]) -> Publication:
    """The list with those inks: one of a name that is there already is stated anew. Problem where that cannot be."""
    coming = {ink.name: ink for ink in inks}
    fades = {fade.name for fade in publication.fades}
    if clash := next((name for name in coming if name in fades), ""):
        raise Problem(f"The list has an ink “{clash}”, and this job a fade of that name; rename the fade first.")
    here = tuple(coming.pop(ink.name, ink) for ink in publication.inks)
    made = replace(publication, inks=(*here, *coming.values()))
    require_whole(made)
    return made

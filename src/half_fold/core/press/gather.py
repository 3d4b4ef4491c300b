"""Gathering: every file of a job that the printer needs, each proved, with the job ticket, in one archive."""

import tempfile
from collections.abc import Sequence
from pathlib import Path
from zipfile import ZIP_DEFLATED, ZIP_STORED, BadZipFile, ZipFile

from msgspec import Struct

from half_fold.core.checks.finding import Finding
from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.press.make import press
from half_fold.core.press.outputs import files_named
from half_fold.core.press.parts import FRONT, parts_of
from half_fold.core.press.progress import Progress, progress_of
from half_fold.core.press.proving.prove import Proved, format_proof
from half_fold.core.press.ticket import ticket
from half_fold.core.publication.records import Publication
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.atomic import whole_file
from half_fold.core.store.files import require_output

TICKET = "job-ticket.txt"


class Gathered(Struct, frozen=True):
    """What lies in an archive: the name of each file, its part, and what was proved of it."""

    files: tuple[tuple[str, str, Proved], ...]

    @property
    def words(self) -> str:
        """``3 files and the job ticket: 52 pages, 9,412 words, 31 pictures``."""
        pages, words, pictures = (
            sum(getattr(proved, name) for *_, proved in self.files) for name in ("pages", "words", "pictures")
        )
        told = format_proof(pages, words, pictures, all(proved.prints is not None for *_, proved in self.files))
        return f"{counted(len(self.files), 'file')} and the job ticket: {told}"


def _is_gathered(path: Path) -> bool:
    """Whether a file is an archive that was gathered."""
    try:
        with ZipFile(path) as archive:
            return TICKET in archive.namelist()
    except (BadZipFile, OSError, ValueError, NotImplementedError):
        return False


def gather(
    publication: Publication,
    pictures: Path,
    out: Path,
    findings: Sequence[Finding] = (),
    progress: Progress | None = None,
    setter: Setter | None = None,
) -> Gathered:
    """Press every part of the job, the front alone left out, and write them into a ZIP with the ticket.

    With the printer's marks where the printer's sheet asks for them. ``pictures`` is the job's pictures folder,
    ``progress`` as for pressing. Problem for another kind of file, or where a part cannot be pressed: no file is left.
    """
    if out.suffix.lower() != ".zip":
        raise Problem(f"“{out.name}” is no archive; name a file that ends in .zip.")
    require_output(out, _is_gathered)
    parts = [part for part in parts_of(publication) if part.key != FRONT] or parts_of(publication)
    marks, setter = publication.printer is not None and publication.printer.marks, setter or Setter()
    with whole_file(out) as temporary, tempfile.TemporaryDirectory() as folder:
        made: list[tuple[str, str, Proved]] = []
        with ZipFile(temporary, "w", ZIP_STORED) as archive:
            for part, name in zip(parts, files_named(publication, [part.label for part in parts], "part"), strict=True):
                file = Path(folder) / "part.pdf"
                tell = progress_of(progress, part.label)
                proved = press(publication, pictures, file, part.key, "pages", marks, None, tell, setter)
                made.append((name, part.key, proved))
                archive.write(file, name)
                file.unlink()
            told = ticket(publication, [(name, f"proved: {proved.sentence}") for name, _, proved in made], findings)
            archive.writestr(TICKET, told, ZIP_DEFLATED)
    return Gathered(tuple(made))

"""A file that comes back: whether it is one that was made of a job, whole and unchanged, and of which state of the job.

The record of what was made keeps the checksum of every file and the prints of what it says (see prints).
"""

from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

import msgspec
import pikepdf
from msgspec import Struct

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.bring import digest_of
from half_fold.core.press.proving.prints import Prints, content_digest, prints_of
from half_fold.core.press.proving.prove import Proved
from half_fold.core.publication.records import Output, Publication
from half_fold.core.store.codec import encode
from half_fold.core.store.files import SUFFIX, format_path
from half_fold.core.store.job import Job

UNKNOWN = "the record of what was made of this job keeps nothing that it could be held against"


class MadeFile(Struct, frozen=True):
    """One file in the record of what was made: ``state`` is the checksum of the job's document at that time."""

    when: str
    file: str
    part: str = ""
    form: str = ""
    output: str = ""
    octets: str = ""
    prints: Prints = Prints((), {})
    proved: str = ""
    state: str = ""

    @property
    def called(self) -> str:
        """What it is: ``the output “For the printer”`` or ``the cover``."""
        if self.output:
            return f"the output “{self.output}”"
        return f"“{self.part}”" + (f" as {self.form}" if self.form not in ("", "pages") else "")

    @property
    def at(self) -> str:
        return self.when.replace("T", " ")


class Returned(Struct, frozen=True):
    """A file that was made of a job: as what, whether its very octets are the same, and what has become of the job."""

    made: MadeFile
    is_same: bool
    version: str
    later: str
    job_changed: bool

    @property
    def sentence(self) -> str:
        """All of it, in plain sentences."""
        how = "whole and unchanged" if self.is_same else "whole; another program wrote it again, and changed nothing"
        told = [f"{how}: {self.made.called}, made {self.made.at}: {self.made.proved}."]
        if self.version:
            told.append(f"The job stood then as in the version “{self.version}”.")
        told.append("The job has been changed since." if self.job_changed else "The job stands as it did then.")
        if self.later:
            told.append(f"It was made anew since, {self.later}: that is the later file.")
        return " ".join(told)


def state_of(publication: Publication) -> str:
    """What tells the state of a job: a checksum of its document."""
    return content_digest(encode(publication))


def made_of(file: Path, output: Output, proved: Proved) -> dict[str, object]:
    """What was made and how, for the record."""
    kept = {"output": output.name} if output.name else {}
    read = {"to read": True} if output.to_read else {}
    return {"file": format_path(file), "part": output.part, "as": output.form, **kept, **read, **proved.record}


def returned(job: Job, file: Path, output: str = "") -> Returned:
    """What a file is that was made of the job, of that ``output`` alone where one is named.

    Problem says what differs where it is not the file that was made, or that nothing is known of it.
    """
    every = list(_record(job))
    known = [made for made in every if not output or made.output == output]
    if not known:
        raise Problem(_nothing_kept(every, output))
    octets, found = _read(file)
    same = [made for made in known if made.octets == octets]
    alike = same or [made for made in known if made.prints == found]
    if not alike:
        nearest = _nearest(known, found, file)
        raise Problem(
            f"“{format_path(file)}” is not as it was made: of {nearest.called} of {nearest.at}, "
            f"{nearest.prints.difference(found)}; make it anew, or ask who changed it."
        )
    made = alike[-1]
    after = known[known.index(made) + 1 :]
    later = next((each.at for each in reversed(after) if each.called == made.called and each.prints != made.prints), "")
    state = state_of(job.publication)
    return Returned(made, bool(same), _version(job, made.state), later, made.state != state)


def _nothing_kept(every: list[MadeFile], output: str) -> str:
    names = sorted({made.output for made in every if made.output})
    if not output or not names:
        of = f" of the output “{output}”" if output else ""
        return f"Nothing can be proved{of}: {UNKNOWN}; press it first."
    return f"No output “{output}” is in the record of what was made; those there are: {', '.join(names)}."


def _record(job: Job) -> Iterator[MadeFile]:
    """Every file in the record that can be known again, the oldest first; those of an archive one by one."""
    for entry in job.pressed():
        files = entry.get("files")
        for each in files if isinstance(files, list) else [entry]:
            if isinstance(each, dict) and each.get("prints") and each.get("octets"):
                told = {"when": entry.get("when", ""), "state": entry.get("state", ""), "form": each.get("as", "")}
                try:
                    yield msgspec.convert({**each, **told}, MadeFile)
                except msgspec.ValidationError:
                    continue  # a line that someone wrote in


def _read(file: Path) -> tuple[str, Prints]:
    """The checksum and the prints of a file. Problem where it is no PDF that can be read."""
    try:
        octets = digest_of(file)
        with file.open("rb") as stream, pikepdf.open(stream) as pdf:
            return octets, prints_of(pdf)
    except pikepdf.PasswordError as error:
        raise Problem(f"“{format_path(file)}” is locked by a password; ask for it without one.") from error
    except (pikepdf.PdfError, ValueError, TypeError, KeyError, AttributeError, RuntimeError) as error:
        raise Problem(f"“{format_path(file)}” is not whole: it cannot be read as a PDF; ask for it again.") from error
    except OSError as error:
        raise Problem(f"“{format_path(file)}” cannot be read ({(error.strerror or 'refused').lower()}).") from error


def _nearest(known: list[MadeFile], found: Prints, file: Path) -> MadeFile:
    """What a changed file most likely was: most of its pages are alike, or its name is; the later of equals."""
    pages = set(found.pages)

    def likeness(made: MadeFile) -> tuple[int, int, bool, bool]:
        rest = sum(found.rest.get(name) == value for name, value in made.prints.rest.items())
        shared = len(pages & set(made.prints.pages))
        return shared, rest, Path(made.file).name == file.name, len(made.prints.pages) == len(found.pages)

    return max(reversed(known), key=likeness)


def _version(job: Job, state: str) -> str:
    """The version of the job that was kept in that state, by the name of its file; '' for none."""
    for path in reversed(job.versions()) if state else ():
        with suppress(Problem):  # it is said where versions are chosen
            if content_digest(job.version_content(path)) == state:
                return path.name.partition(SUFFIX)[0]
    return ""

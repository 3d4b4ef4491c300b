"""A job on disk: a folder with one NAME.halffold, its pictures, versions and what was pressed."""

import contextlib
import fcntl
import gzip
import os
import re
import shutil
import tempfile
import zlib
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from typing import IO

import msgspec

from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.publication.validity import require_whole
from half_fold.core.store.atomic import sweep, write_whole
from half_fold.core.store.codec import decode, encode
from half_fold.core.store.files import (
    OWN_FOLDERS,
    SUFFIX,
    format_path,
    octets_of,
    own_file,
    own_folder_of,
    require_file,
    require_plain,
    within_octets,
)

LARGEST_FILE = 512 * 1024 * 1024
_VERSION = re.compile(r"\d{4}-\d\d-\d\d \d\d\.\d\d\.\d\d\.\d{3}( .*)?\.halffold\.gz")
PRESS = "press"
LONGEST_LABEL = 180  # octets: beside the moment and what the name ends in


def find_file(path: Path) -> Path:
    """The job file that ``path`` means: itself, or the only one in that folder. Problem where there is none."""
    if path.is_dir():
        files = sorted(path.glob(f"*{SUFFIX}"))
        if len(files) != 1:
            count = "no job" if not files else f"{len(files)} jobs"
            raise Problem(f"“{path}” holds {count}; name the {SUFFIX} file to open.")
        return files[0].resolve()
    if not path.exists():
        raise Problem(f"There is no job at “{path}”; check the name, or start one with “half-fold new”.")
    if path.suffix != SUFFIX:
        raise Problem(f"“{path}” is not a Half Fold job; a job's file ends in {SUFFIX}.")
    require_file(path, "job")
    return path.resolve()  # a link is opened where it leads: there it is locked and saved


def read(path: Path) -> Publication:
    """The publication in a job file. Problem where it cannot be read."""
    return decode(octets_of(path, "job", LARGEST_FILE), path.name)


class Job:
    """An open job. ``lock`` is held as long as it may be written; ``swept`` is what writes cut short had left."""

    def __init__(
        self, file: Path, publication: Publication, lock: IO[bytes] | None, swept: tuple[Path, ...] = ()
    ) -> None:
        self.file, self.publication, self._lock, self.swept = file, publication, lock, swept
        self._pressed: tuple[tuple[int, int], list[dict[str, object]]] = ((0, 0), [])

    @property
    def told_swept(self) -> str:
        """What was taken away as it was opened, in a sentence; '' for nothing."""
        if not self.swept:
            return ""
        folders = ", ".join(dict.fromkeys(format_path(path.parent) for path in self.swept))
        return f"{counted(len(self.swept), 'file')} that a write cut short had left in {folders} taken away."

    @property
    def folder(self) -> Path:
        return self.file.parent

    @property
    def pictures(self) -> Path:
        return self.folder / "pictures"

    def save(self, publication: Publication) -> None:
        """Write the document in one step; Problem where that cannot be, the earlier file untouched."""
        if self._lock is None:
            raise Problem(f"“{self.file.name}” was opened only to be read; open it again to change it.")
        require_whole(publication, self.publication)
        write_whole(self.file, encode(publication))
        self.publication = publication

    def keep_version(self, publication: Publication, name: str = "") -> Path:
        """A dated, compressed copy in versions/, with a name if it has one."""
        folder = own_folder_of(self.folder, "versions")
        label = "".join(c if c.isalnum() or c in " -_" else " " for c in name).strip()
        label = within_octets(label[:80], LONGEST_LABEL)
        now = datetime.now()
        while True:
            stamp = now.strftime("%Y-%m-%d %H.%M.%S.%f")[:-3]
            path = folder / f"{stamp}{f' {label}' if label else ''}{SUFFIX}.gz"
            if not any(folder.glob(f"{stamp}*")):
                break
            now += timedelta(milliseconds=1)  # another was kept at that very moment: both stay
        write_whole(path, gzip.compress(encode(publication)))
        return path

    def versions(self) -> list[Path]:
        """The versions that were kept, the oldest first; what else lies in their folder is passed over."""
        try:
            return sorted(path for path in (self.folder / "versions").iterdir() if is_version(path))
        except OSError:
            return []

    def read_version(self, path: Path) -> Publication:
        """The document as that version kept it. Problem where it cannot be read."""
        return decode(self.version_content(path), path.name)

    def version_content(self, path: Path) -> bytes:
        """The octets of the document in a version. Problem where it cannot be read."""
        try:
            own_file(path.parent, path.name, "version")
            with gzip.open(path, "rb") as file:
                return file.read(LARGEST_FILE)
        except (OSError, EOFError, zlib.error) as error:
            raise Problem(f"The version “{path.name}” cannot be read; choose another.") from error

    def record_pressed(self, made: dict[str, object]) -> None:
        """Append to press/record.jsonl what was made and when."""
        folder = own_folder_of(self.folder, PRESS)
        entry = {"when": datetime.now().isoformat(timespec="seconds"), **made}
        path = folder / "record.jsonl"
        require_plain(path)
        try:
            with path.open("ab") as file:
                file.write(msgspec.json.encode(entry) + b"\n")
                file.flush()
                os.fsync(file.fileno())
        except OSError as error:
            raise Problem(f"“{path}” cannot be written ({(error.strerror or 'refused').lower()}).") from error

    def pressed(self) -> list[dict[str, object]]:
        """The record of what was made, oldest first; a line cut short by a crash is passed over."""
        path = self.folder / PRESS / "record.jsonl"
        try:
            state = path.stat()
        except OSError:
            return []
        seen = (state.st_mtime_ns, state.st_size)
        if self._pressed[0] != seen:
            try:
                self._pressed = (seen, _entries(own_file(path.parent, path.name, "record").read_bytes()))
            except (OSError, Problem):
                return []
        return self._pressed[1]

    def close(self) -> None:
        if self._lock is not None:
            self._lock.close()
            self._lock = None


def _entries(content: bytes) -> list[dict[str, object]]:
    found: list[dict[str, object]] = []
    for line in content.splitlines():
        with contextlib.suppress(msgspec.DecodeError):
            found.append(msgspec.json.decode(line, type=dict[str, object]))
    return found


def is_version(path: Path) -> bool:
    """Whether a file is called as a version is."""
    return _VERSION.fullmatch(path.name) is not None


def _take_lock(file: Path) -> IO[bytes]:
    try:
        lock = os.fdopen(os.open(file.parent / f".{file.stem}.lock", os.O_RDWR | os.O_CREAT | os.O_NOFOLLOW), "r+b")
    except OSError as error:
        raise Problem(
            f"“{file.parent}” cannot be written to; make the folder writable, or copy the job elsewhere."
        ) from error
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as error:
        lock.close()
        raise Problem(f"“{file.name}” is open in another window; close it there first.") from error
    return lock


def open_job(path: Path, to_write: bool = True) -> Job:
    """Open a job; with ``to_write`` it is locked against a second window. Problem where that cannot be."""
    file = find_file(path)
    lock = _take_lock(file) if to_write else None
    own = (file.parent, *(file.parent / name for name in (*OWN_FOLDERS, PRESS))) if lock is not None else ()
    swept = tuple(path for folder in own for path in sweep(folder))
    try:
        return Job(file, read(file), lock, swept)
    except Problem:
        if lock is not None:
            lock.close()
        raise


def create_job(folder: Path, publication: Publication, fill: Callable[[Path], None] | None = None) -> Path:
    """Make the job folder, complete or not at all; gives the path of its file.

    ``fill`` may add files to the new folder. Problem unless ``folder`` is absent or empty.
    """
    folder = Path(os.path.abspath(folder))
    if not folder.name:
        raise Problem(f"“{folder}” cannot be a job folder; name a new folder.")
    if folder.exists() and (not folder.is_dir() or any(folder.iterdir())):
        raise Problem(f"“{folder}” is already there and not empty; name a new folder for the job.")
    made = _make_parents(folder.parent)
    try:
        temporary = Path(tempfile.mkdtemp(prefix=f".{folder.name}.", dir=folder.parent))
    except OSError as error:
        _remove_empty(made)
        raise Problem(
            f"“{folder}” cannot be made ({(error.strerror or 'refused').lower()}); choose another place."
        ) from error
    try:
        temporary.chmod(0o755)
        (temporary / "pictures").mkdir()
        if fill is not None:
            fill(temporary)
        require_whole(publication)
        write_whole(temporary / f"{folder.name}{SUFFIX}", encode(publication))
        temporary.rename(folder)
    except OSError as error:
        shutil.rmtree(temporary, ignore_errors=True)
        _remove_empty(made)
        raise Problem(
            f"“{folder}” cannot be made ({(error.strerror or 'refused').lower()}); choose another place."
        ) from error
    except BaseException:
        shutil.rmtree(temporary, ignore_errors=True)
        _remove_empty(made)
        raise
    return folder / f"{folder.name}{SUFFIX}"


def _make_parents(folder: Path) -> list[Path]:
    missing = [p for p in (folder, *folder.parents) if not p.exists()]
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        _remove_empty(missing)
        raise Problem(
            f"“{folder}” cannot be made ({(error.strerror or 'refused').lower()}); choose another place."
        ) from error
    return missing


def _remove_empty(folders: list[Path]) -> None:
    for folder in folders:
        if folder.is_dir() and not any(folder.iterdir()):
            folder.rmdir()

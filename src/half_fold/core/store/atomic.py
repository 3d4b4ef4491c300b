"""Files that are whole or not there at all."""

import contextlib
import fcntl
import os
import re
import secrets
from collections.abc import Iterator
from pathlib import Path

from half_fold.core.measure.problem import Problem

_MARK = re.compile(r"\.half-fold-[0-9a-f]{16}\.unfinished")  # of names that only this module gives


def _temporary(folder: Path) -> tuple[int, Path]:
    """A new file beside what is to be written, held as long as it is written: a sweep lets it be."""
    path = folder / f".half-fold-{secrets.token_hex(8)}.unfinished"
    handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_NOFOLLOW, 0o600)
    fcntl.flock(handle, fcntl.LOCK_EX)
    return handle, path


def sweep(folder: Path) -> list[Path]:
    """Take away what a write that was killed has left in a folder, and say what that was.

    Only plain files of our own mark that nobody is writing, and only where the folder is a real one.
    """
    swept: list[Path] = []
    try:
        left = [] if folder.is_symlink() else [path for path in folder.iterdir() if _MARK.fullmatch(path.name)]
    except OSError:
        return swept
    for path in left:
        with contextlib.suppress(OSError):
            if not path.is_symlink() and path.is_file():
                _take_away(path)
                swept.append(path)
    return swept


def _take_away(path: Path) -> None:
    """Unlink a file that nobody holds. OSError where somebody does."""
    handle = os.open(path, os.O_RDONLY | os.O_NOFOLLOW | os.O_NONBLOCK)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
        path.unlink()
    finally:
        os.close(handle)


def _sync_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


@contextlib.contextmanager
def whole_file(path: Path) -> Iterator[Path]:
    """A temporary path beside ``path`` to write to; renamed over it at the end, removed on any error.

    Raises Problem where the folder cannot be written or the disk is full, or where what is there is no plain file.
    """
    if path.is_symlink() or (path.exists() and not path.is_file()):
        raise Problem(f"“{path}” is no plain file, and would be replaced; choose another name.")
    try:
        handle, temporary = _temporary(path.parent)
    except OSError as error:
        raise Problem(
            f"“{path}” cannot be written ({(error.strerror or 'refused').lower()}); choose another folder."
        ) from error
    try:
        yield temporary
        with temporary.open("rb") as file:
            os.fsync(file.fileno())
        temporary.chmod(0o644)
        temporary.replace(path)
        _sync_folder(path.parent)
    except OSError as error:
        raise Problem(
            f"“{path}” could not be written ({(error.strerror or 'refused').lower()}); the earlier file is untouched."
        ) from error
    finally:
        temporary.unlink(missing_ok=True)
        os.close(handle)


def write_whole(path: Path, content: bytes) -> None:
    """Write ``content`` to ``path`` in one step that a crash cannot halve."""
    with whole_file(path) as temporary:
        temporary.write_bytes(content)

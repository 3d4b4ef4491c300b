"""Files that are whole or not there at all."""

import contextlib
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path

from half_fold.core.measure.problem import Problem


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
        handle, name = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
        os.close(handle)
    except OSError as error:
        raise Problem(
            f"“{path}” cannot be written ({(error.strerror or 'refused').lower()}); choose another folder."
        ) from error
    temporary = Path(name)
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


def write_whole(path: Path, content: bytes) -> None:
    """Write ``content`` to ``path`` in one step that a crash cannot halve."""
    with whole_file(path) as temporary:
        temporary.write_bytes(content)

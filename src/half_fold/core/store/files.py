"""Files that are given or named: plain ones only, and those of a job only where they lie in its own folder."""

import os
import re
import stat
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.ranges import is_writable
from half_fold.core.publication.validity import is_plain_name

_LONGEST_STEM = 200  # octets
_LEFT_BY_A_KILL = re.compile(r"\..+\.[a-z0-9_]{8}")  # what store.atomic writes to before it renames


def require_file(path: Path, what: str) -> None:
    """Problem unless there is a plain file: a folder, a pipe or a device would never end, or never begin."""
    try:
        state = path.stat()
    except OSError as error:
        reason = (error.strerror or "refused").lower()
        raise Problem(f"There is no {what} at “{shown(path)}” that can be read ({reason}); check the name.") from error
    except ValueError as error:
        raise Problem(f"“{shown(path)}” cannot be the name of a {what}; check it.") from error
    if not stat.S_ISREG(state.st_mode):
        raise Problem(f"“{shown(path)}” is no file; give the {what} itself.")


def own_file(folder: Path, name: str, what: str) -> Path:
    """Where a file of a job lies; ``folder`` is one of the job's own. Problem where it cannot be taken from there."""
    path = folder / name
    if not is_plain_name(name):
        raise Problem(f"The {what} “{name[:60]}” is no plain name of a file; it cannot be taken.")
    try:
        real = path.resolve(strict=True)
        state = real.stat()
    except FileNotFoundError as error:
        where = f"the job's {folder.name} folder"
        raise Problem(f"The {what} “{name}” is missing from {where}; put it back there.") from error
    except (OSError, RuntimeError) as error:
        raise Problem(f"The {what} “{name}” cannot be read; check the job's {folder.name} folder.") from error
    if not real.is_relative_to(folder.parent.resolve()):
        raise Problem(f"The {what} “{name}” is a link to another place; put the file itself into the job's folder.")
    if not stat.S_ISREG(state.st_mode) or not os.access(real, os.R_OK):
        raise Problem(f"The {what} “{name}” is no file that can be read; put the right one into the job's folder.")
    return path


def readable(name: str) -> str:
    """A file's name as letters; one that an older system wrote, with an octet to a letter, as that system read it."""
    return name if is_writable(name) else os.fsencode(name).decode("latin-1")


def name_of_copy(name: str) -> str:
    """What a file is called in a job: in letters, with room for a number and what is written beside it."""
    stem, suffix = os.path.splitext(readable(name))
    return stem.encode()[:_LONGEST_STEM].decode(errors="ignore") + suffix[:20]


def require_output(path: Path, begins: tuple[bytes, ...] = ()) -> None:
    """Problem where writing to ``path`` would replace what is no such file: a job, a folder, a link, a device.

    Where ``begins`` is given, a file that is there has to begin with one of those, as what is written does.
    """
    try:
        state = path.lstat()
    except FileNotFoundError:
        return
    except (OSError, ValueError) as error:
        raise Problem(f"“{shown(path)}” cannot be written; choose another name.") from error
    if stat.S_ISDIR(state.st_mode):
        raise Problem(f"“{shown(path)}” is a folder; name the file to write in it.")
    if not stat.S_ISREG(state.st_mode):
        raise Problem(f"“{shown(path)}” is no plain file, and would be replaced; choose another name.")
    if path.suffix == ".halffold":
        raise Problem(f"“{shown(path)}” is a job, and would be replaced; choose another name.")
    if begins and state.st_size:
        with path.open("rb") as file:
            head = file.read(max(map(len, begins)))
        if not head.startswith(begins):
            raise Problem(f"“{shown(path)}” is a file of another kind, and would be replaced; choose another name.")


def make_folder(path: Path) -> None:
    """See to it that there is a folder to write into. Problem where there cannot be one."""
    try:
        path.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        raise Problem(f"“{shown(path)}” cannot be made a folder; choose another name, or another place.") from error


def shown(path: Path) -> str:
    """A path as it can be said, whatever octets its name is made of."""
    return os.fsencode(path).decode("utf-8", "replace")


def sweep(folder: Path) -> None:
    """Take away what a write that was killed has left in a folder that nobody else writes to now."""
    try:
        left = [path for path in folder.iterdir() if _LEFT_BY_A_KILL.fullmatch(path.name)]
        for path in left:
            if path.is_file() and not path.is_symlink():
                path.unlink()
    except OSError:
        return

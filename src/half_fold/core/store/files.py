"""Files that are given or named: plain ones only, and those of a job only where they lie in its own folder."""

import os
import stat
import unicodedata
from collections.abc import Callable
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.own_files import is_plain_name
from half_fold.core.publication.ranges import is_writable

SUFFIX = ".halffold"
OWN_FOLDERS = ("pictures", "fonts", "masks", "versions")  # of what a job is made of; beside them lies what was pressed
_UNSHOWN = ("Cc", "Cf", "Zl", "Zp")  # controls, marks of direction, ends of lines (Unicode 15, 4.5)
_LONGEST_STEM = 200  # octets
_LONGEST_TEXT = 256 * 1024 * 1024


def require_file(path: Path, what: str) -> None:
    """Problem unless there is a plain file: a folder, a pipe or a device would never end, or never begin."""
    try:
        state = path.stat()
    except OSError as error:
        reason = (error.strerror or "refused").lower()
        raise Problem(
            f"There is no {what} at “{format_path(path)}” that can be read ({reason}); check the name."
        ) from error
    except ValueError as error:
        raise Problem(f"“{format_path(path)}” cannot be the name of a {what}; check it.") from error
    if not stat.S_ISREG(state.st_mode):
        raise Problem(f"“{format_path(path)}” is no file; give the {what} itself.")


def octets_of(path: Path, what: str, most: int) -> bytes:
    """All of a file. Problem where it is no plain file, cannot be read, or is larger than a ``what`` can be."""
    require_file(path, what)
    try:
        with path.open("rb") as file:
            large = os.fstat(file.fileno()).st_size > most
            content = b"" if large else file.read(most + 1)
    except OSError as error:
        reason = (error.strerror or "refused").lower()
        raise Problem(f"“{format_path(path)}” cannot be read ({reason}); check its name and permissions.") from error
    if large or len(content) > most:
        raise Problem(f"“{path.name}” is too large to be a {what}; check that it is the right file.")
    return content


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
    stem, suffix = os.path.splitext("".join(" " if is_unshown(c) else c for c in readable(name)))
    return within_octets(stem, _LONGEST_STEM) + suffix[:20]


def within_octets(text: str, most: int) -> str:
    """As much of a text, from its beginning, as takes no more octets than that."""
    return text.encode()[:most].decode(errors="ignore").rstrip(" -")


def require_output(path: Path, kind: tuple[bytes, ...] | Callable[[Path], bool]) -> None:
    """Problem where writing to ``path`` would replace what is no such file: a job, a folder, a link, a device.

    A file that is there has to be of the ``kind`` that is written: beginning with one of those octets, or told by what
    is given its path. Nothing is written among what a job is made of.
    """
    _require_apart(path)
    state = require_plain(path)
    if state is None:
        return
    if path.suffix == SUFFIX:
        raise Problem(f"“{format_path(path)}” is a job, and would be replaced; choose another name.")
    if state.st_size and not (begins_with(path, kind) if isinstance(kind, tuple) else kind(path)):
        raise Problem(f"“{format_path(path)}” is a file of another kind, and would be replaced; choose another name.")


def require_plain(path: Path) -> os.stat_result | None:
    """What is at ``path``, None for nothing. Problem where it is a folder, a link or a device."""
    try:
        state = path.lstat()
    except FileNotFoundError:
        return None
    except (OSError, ValueError) as error:
        raise Problem(f"“{format_path(path)}” cannot be written; choose another name.") from error
    if stat.S_ISDIR(state.st_mode):
        raise Problem(f"“{format_path(path)}” is a folder; name the file to write in it.")
    if not stat.S_ISREG(state.st_mode):
        raise Problem(f"“{format_path(path)}” is no plain file, and would be replaced; choose another name.")
    return state


def begins_with(path: Path, begins: tuple[bytes, ...]) -> bool:
    """Whether a file begins with one of those octets."""
    with path.open("rb") as file:
        return file.read(max(map(len, begins))).startswith(begins)


def is_text(path: Path) -> bool:
    """Whether a file is text as it is written here: UTF-8, with no controls but tabs and ends of lines."""
    try:
        content = path.read_bytes() if path.stat().st_size <= _LONGEST_TEXT else b"\0"
        text = content.decode()
    except (OSError, UnicodeDecodeError):
        return False
    return not any(ord(letter) < 32 and letter not in "\t\r\n" for letter in set(text))


def _require_apart(path: Path) -> None:
    """Problem where a file would lie among the pictures, fonts, masks or versions of a job."""
    try:
        folder = Path(os.path.realpath(path)).parent
        inside = folder.name in OWN_FOLDERS and next(folder.parent.glob(f"*{SUFFIX}"), None) is not None
    except (OSError, ValueError) as error:
        raise Problem(f"“{format_path(path)}” cannot be written; choose another name.") from error
    if inside:
        raise Problem(f"“{format_path(path)}” would lie among the {folder.name} of a job; choose another folder.")


def own_folder_of(job: Path, name: str) -> Path:
    """A folder of a job's own to write into, made where there is none. Problem where it is no real folder."""
    folder = job / name
    try:
        if folder.is_symlink():
            raise Problem(f"“{format_path(folder)}” leads to another place; put a folder of the job's own there.")
        folder.mkdir(exist_ok=True)
    except OSError as error:
        reason = (error.strerror or "refused").lower()
        raise Problem(f"“{format_path(folder)}” cannot be made ({reason}); check the job folder.") from error
    return folder


def make_folder(path: Path) -> None:
    """See to it that there is a folder to write into. Problem where there cannot be one."""
    try:
        path.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        raise Problem(
            f"“{format_path(path)}” cannot be made a folder; choose another name, or another place."
        ) from error


def format_path(path: Path) -> str:
    """A path as it can be said, whatever octets its name is made of: what would move the line is escaped."""
    return in_one_line(os.fsencode(path).decode("utf-8", "replace"))


def in_one_line(words: str) -> str:
    """Words with all that is not seen, or that begins another line, escaped."""
    if words.isprintable():
        return words
    return "".join(c.encode("unicode_escape").decode() if is_unshown(c) else c for c in words)


def is_unshown(letter: str) -> bool:
    """Whether a letter is not seen where it is printed, and moves what is."""
    return unicodedata.category(letter) in _UNSHOWN

"""Folders of pictures: what of them can be brought in, in the order of their names."""

from collections.abc import Iterable
from pathlib import Path

from half_fold.core.measure.problem import Problem

SUFFIXES = frozenset((".jpg", ".jpeg", ".png", ".tif", ".tiff", ".webp", ".psd", ".svg"))
JOB = ".halffold"
MOST_FILES, MOST_DEEP = 5000, 8


def is_job(folder: Path) -> bool:
    """Whether a folder is that of a job."""
    try:
        return any(each.suffix == JOB for each in folder.iterdir())
    except OSError:
        return False


def with_folders(paths: Iterable[Path]) -> list[Path]:
    """Files as they are, and in place of each folder the pictures in it and below, by name; no link is followed.

    Problem where a folder cannot be read, holds no picture, or more than can be brought in.
    """
    found: list[Path] = []
    for path in paths:
        if not path.is_dir():
            found.append(path)
            continue
        inside = list(_inside(path, MOST_DEEP))
        if not inside:
            raise Problem(
                f"There are no pictures in “{path.name}”; give a folder of JPEG, PNG, TIFF, WebP or SVG files."
            )
        found += inside
    if len(found) > MOST_FILES:
        raise Problem(f"{len(found):,} pictures are more than can be brought in at once; give {MOST_FILES:,} or fewer.")
    return found


def _inside(folder: Path, deep: int) -> Iterable[Path]:
    try:
        entries = sorted(folder.iterdir(), key=lambda each: each.name.lower())
    except OSError as error:
        raise Problem(f"“{folder.name}” cannot be read; check its permissions.") from error
    for entry in entries:
        if entry.name.startswith(".") or entry.is_symlink():
            continue
        if entry.is_dir():
            yield from _inside(entry, deep - 1) if deep else ()
        elif entry.suffix.lower() in SUFFIXES:
            yield entry

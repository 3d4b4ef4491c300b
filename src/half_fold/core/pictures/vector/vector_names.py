"""Which files are vector art, by their names."""

from pathlib import Path

SUFFIX = ".svg"


def is_vector(path: Path) -> bool:
    """Whether a file is to be read as vector art."""
    return path.suffix.lower() == SUFFIX

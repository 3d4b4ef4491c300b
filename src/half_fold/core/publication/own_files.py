"""Which fields of a document name a file of the job, and in which of its folders that lies: one table, walked."""

import re
from collections.abc import Iterator
from typing import NamedTuple

from msgspec import Struct

from half_fold.core.publication import records as r


class OwnFile(NamedTuple):
    """A file that a document names: what it is, the folder of the job it lies in, and its name there."""

    what: str
    folder: str
    name: str


NAMING: dict[tuple[type, str], tuple[str, str]] = {
    (r.Picture, "file"): ("picture", "pictures"),
    (r.Picture, "mask"): ("mask", "masks"),
    (r.Patch, "file"): ("mask", "masks"),
    (r.Brushed, "file"): ("mask", "masks"),
    (r.Font, "file"): ("font", "fonts"),
}
MAY_BE_NONE = frozenset({(r.Picture, "mask")})
# What tells files by their content becomes a part of the names of copies that are kept.
DIGESTS = frozenset({(r.Picture, "digest"), (r.Font, "digest")})
_DIGEST = re.compile(r"[0-9a-f]{0,128}")


def is_plain_name(name: str) -> bool:
    """Whether a file's name names a file in its own folder and nothing else."""
    return (
        name not in ("", ".", "..") and not re.search(r"[/\\\0]", name) and len(name.encode("utf-8", "replace")) < 256
    )


def is_digest(text: str) -> bool:
    """Whether a text can tell files by their content: figures and the letters a to f, or nothing."""
    return _DIGEST.fullmatch(text) is not None


def own_files(record: Struct) -> Iterator[OwnFile]:
    """Every file that a record names, and all that it holds; some more than once."""
    kind = type(record)
    for field in kind.__struct_fields__:
        value = getattr(record, field)
        naming = NAMING.get((kind, field))
        if naming is not None:
            if value:
                yield OwnFile(*naming, value)
        elif isinstance(value, Struct):
            yield from own_files(value)
        elif isinstance(value, tuple) and value:
            for each in value:
                if isinstance(each, Struct):
                    yield from own_files(each)

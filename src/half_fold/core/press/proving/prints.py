"""What a file holds, told in a few kilobytes: a print of every page with all that it names, and one of the rest.

Two files have the same prints where every object that can be reached says the same: each dictionary by its keys and
values, each stream by its decoded content. How objects are numbered and packed is of no account.
"""

import re
from collections.abc import Iterator
from hashlib import blake2b
from typing import NamedTuple

import pikepdf
from msgspec import Struct

from half_fold.core.measure.length import counted
from half_fold.core.plan.page_ranges import format_range

DEEPEST = 50  # pages within one another
OCTETS = 6  # of a print: one in 2^48 is another's by chance
# Strings are passed over, so that words such as “12 0 R” in them are no reference; a nothing has no sign.
_REFERENCE = re.compile(
    rb"\((?:\\.|[^\\()])*\)|<[0-9a-fA-F\s]*>|\b(\d+) (\d+) R\b|(?<=[\s\[])-(0(?:\.0*)?)(?=[\s\]])", re.DOTALL
)
_PARENT = re.compile(rb"/Parent \d+ \d+ R")
_PACKING = frozenset({"/Length", "/Filter", "/DecodeParms"})
_UNPACKED = ("/FlateDecode", "/LZWDecode", "/ASCIIHexDecode", "/ASCII85Decode", "/RunLengthDecode")
_ITSELF, _INTENT, _ELSE = "what it says of itself", "what it is printed on", "how it opens"
_PARTS = {"/Metadata": _ITSELF, "/OutputIntents": _INTENT}


class Prints(Struct, frozen=True):
    """The print of each page, and of what else a file says, by what that is."""

    pages: tuple[str, ...]
    rest: dict[str, str]

    def difference(self, other: "Prints") -> str:
        """What another file has otherwise, in words; '' for nothing."""
        if len(self.pages) != len(other.pages):
            return f"it has {counted(len(other.pages), 'page')}, not {len(self.pages)}"
        pages = [n for n, (one, two) in enumerate(zip(self.pages, other.pages, strict=True), 1) if one != two]
        told = [f"page{'s' * (len(pages) > 1)} {format_range(tuple(pages))}"] if pages else []
        told += [name for name in self.rest if self.rest[name] != other.rest.get(name)]
        return f"{' and '.join(told)} differ{'' if len(told) > 1 or len(pages) > 1 else 's'}" if told else ""


class _Own(NamedTuple):
    """An object by itself: what it says but for what it refers to, and to what."""

    says: bytes
    refers: tuple[tuple[int, int], ...]


def prints_of(pdf: pikepdf.Pdf) -> Prints:
    """The prints of a file that is open, or about to be written."""
    reader = _Reader(pdf)
    pages = tuple(map(reader.print_of, _leaves(pdf.Root.Pages)))
    rest = dict.fromkeys((_ITSELF, _INTENT, _ELSE), "")
    for name, value in sorted(_of_file(pdf), key=lambda each: each[0]):
        part = _PARTS.get(name, _ELSE if name != "/Info" else _ITSELF)
        rest[part] = content_digest(f"{rest[part]} {name} {reader.print_of(value)}".encode())
    return Prints(pages, rest)


def _leaves(node: pikepdf.Object, deep: int = 0) -> Iterator[pikepdf.Object]:
    """The pages of a tree of pages, in their order."""
    for kid in node.get("/Kids", []) if deep < DEEPEST else []:
        if "/Kids" in kid:
            yield from _leaves(kid, deep + 1)
        else:
            yield kid


def _of_file(pdf: pikepdf.Pdf) -> Iterator[tuple[str, pikepdf.Object]]:
    """What a file says beside its pages."""
    yield from ((name, value) for name, value in pdf.Root.items() if name != "/Pages")
    yield "/Tree", pikepdf.Dictionary({name: value for name, value in pdf.Root.Pages.items() if name != "/Kids"})
    if "/Info" in pdf.trailer:
        yield "/Info", pdf.trailer.Info
    if pdf.is_encrypted:
        yield "/Encrypt", pikepdf.Name.Yes


class _Reader:
    """Reads each object once, whatever names it."""

    def __init__(self, pdf: pikepdf.Pdf) -> None:
        self._pdf = pdf
        self._own: dict[tuple[int, int], _Own] = {}

    def print_of(self, root: object) -> str:
        """The print of an object with all that can be reached from it, but for the tree that a page hangs in."""
        first = _own(root)
        numbers: dict[tuple[int, int], int] = {}
        waiting, hasher = [first], blake2b(digest_size=OCTETS)
        for own in waiting:
            hasher.update(own.says)
            for reference in own.refers:
                if reference not in numbers:
                    numbers[reference] = len(numbers)
                    waiting.append(self._of(reference))
                hasher.update(b"%d " % numbers[reference])
        return hasher.hexdigest()

    def _of(self, reference: tuple[int, int]) -> _Own:
        if reference not in self._own:
            self._own[reference] = _own(self._pdf.get_object(*reference))
        return self._own[reference]


def _own(made: object) -> _Own:
    if isinstance(made, pikepdf.Stream):
        return _of_stream(made)
    says = made.unparse(resolved=True) if isinstance(made, pikepdf.Object) else repr(made).encode()
    return _parted(_PARENT.sub(b"", says))


def _of_stream(stream: pikepdf.Stream) -> _Own:
    """A stream by its dictionary, but for how it is packed, and its content as it is unpacked."""
    kept = pikepdf.Dictionary({name: value for name, value in stream.stream_dict.items() if name not in _PACKING})
    says, refers = _parted(kept.unparse(resolved=True))
    if _is_unpacked(stream.get("/Filter")):
        content = bytes(stream.read_bytes())
    else:  # a picture as its camera packed it: what is not unpacked is held as it is
        content = repr(stream.get("/Filter")).encode() + bytes(stream.read_raw_bytes())
    return _Own(says + content_digest(content).encode(), refers)


def _is_unpacked(packing: object) -> bool:
    every = list(packing) if isinstance(packing, pikepdf.Array) else [packing] if packing is not None else []
    return all(str(each) in _UNPACKED for each in every)


def _parted(says: bytes) -> _Own:
    """What is said, each reference left open, and the references."""
    refers: list[tuple[int, int]] = []

    def take(found: re.Match[bytes]) -> bytes:
        if found[1] is None:
            return found[3] or found[0]
        refers.append((int(found[1]), int(found[2])))
        return b"R"

    return _Own(_REFERENCE.sub(take, says), tuple(refers))


def content_digest(content: bytes) -> str:
    """What tells octets from any others."""
    return blake2b(content, digest_size=16).hexdigest()

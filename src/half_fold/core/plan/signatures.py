"""Printed sheets: which pages are printed on one sheet and folded from it.

Perfect binding gathers sections one after another; stitching puts each sheet inside the one before. Sections of
16 pages are usual; a remainder is folded from smaller ones (8, then 4), last. The printer may well do otherwise.
"""

from dataclasses import dataclass
from functools import lru_cache
from string import ascii_uppercase

from half_fold.core.brief.bindings import binding_named
from half_fold.core.publication.records import Publication

SECTIONS = (16, 8, 4)


@dataclass(frozen=True, slots=True)
class PrintedSheet:
    """``spans`` are (first, last) page numbers, one for a gathered section and two for a nested sheet."""

    letter: str
    spans: tuple[tuple[int, int], ...]

    @property
    def label(self) -> str:
        return f"sheet {self.letter}"


def printed_sheets(publication: Publication) -> tuple[PrintedSheet, ...]:
    """The sheets of the running order, in the order they are gathered or from the outside in."""
    return _sheets(len(publication.pages), binding_named(publication.brief.binding).nests, publication.brief.signature)


@lru_cache(maxsize=64)
def _sheets(pages: int, nests: bool, signature: int) -> tuple[PrintedSheet, ...]:
    out: list[PrintedSheet] = []
    done = 0
    for size in _sizes(pages, signature):
        letter = _letter(len(out))
        if nests and size > 1:
            half = size // 2
            spans = ((done + 1, done + half), (pages - done - half + 1, pages - done))
            joined = spans[0][1] + 1 == spans[1][0]
            out.append(PrintedSheet(letter, ((spans[0][0], spans[1][1]),) if joined else spans))
            done += half
        else:
            out.append(PrintedSheet(letter, ((done + 1, done + size),)))
            done += size
    return tuple(out)


def _sizes(pages: int, signature: int) -> list[int]:
    """Sections that make up a count, the job's own first; what no section holds is left as a loose piece."""
    out, left = [], pages
    for size in (signature, *(size for size in SECTIONS if size < signature)):
        out += [size] * (left // size)
        left %= size
    return [*out, left] if left else out


def _letter(index: int) -> str:
    """A to Z, then AA, AB and so on."""
    more, place = divmod(index, len(ascii_uppercase))
    return (_letter(more - 1) if more else "") + ascii_uppercase[place]

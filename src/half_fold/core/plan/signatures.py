"""Printed sheets: which pages are printed on one sheet and folded from it, and how an odd remainder is solved.

Gathered bindings lay sections one after another; stitching puts each sheet inside the one before. Sections of the
job's own size come first; a remainder is folded from smaller ones. A small section holds badly at the back, so in a
gathered copy it goes before the last full one. In a stitched copy it lies innermost. The printer may do otherwise.
"""

from functools import lru_cache
from string import ascii_uppercase

from msgspec import Struct

from half_fold.core.brief.bindings import binding_named
from half_fold.core.measure.length import counted
from half_fold.core.plan.folding import Imposition, PlacedPage, Side, signature
from half_fold.core.publication.records import Publication

SECTIONS = (16, 8, 4)


class PrintedSheet(Struct, frozen=True):
    """``spans`` are (first, last) page numbers, one for a gathered section and two for a nested sheet."""

    letter: str
    spans: tuple[tuple[int, int], ...]

    @property
    def label(self) -> str:
        return f"sheet {self.letter}"

    @property
    def pages(self) -> tuple[int, ...]:
        """Its page numbers in reading order."""
        return tuple(page for first, last in self.spans for page in range(first, last + 1))


def printed_sheets(publication: Publication) -> tuple[PrintedSheet, ...]:
    """The sheets of the running order, in the order they are gathered or from the outside in."""
    return _sheets(len(publication.pages), binding_named(publication.brief.binding).nests, publication.brief.signature)


@lru_cache(maxsize=64)
def _sheets(pages: int, nests: bool, largest: int) -> tuple[PrintedSheet, ...]:
    sizes = _sizes(pages, largest)
    out: list[PrintedSheet] = []
    done = 0
    for size in sizes if nests else _gathered(sizes):
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


def _gathered(sizes: list[int]) -> list[int]:
    """The last full section moved behind the smaller ones."""
    full = [size for size in sizes if size == sizes[0]]
    rest = sizes[len(full) :]
    return [*full[:-1], *rest, full[-1]] if rest and len(full) > 1 else sizes


def _sizes(pages: int, largest: int) -> list[int]:
    """Sections that make up a count, the job's own first; what no section holds is left as a loose piece."""
    out, left = [], pages
    for size in (largest, *(size for size in SECTIONS if size < largest)):
        out += [size] * (left // size)
        left %= size
    return [*out, left] if left else out


def _letter(index: int) -> str:
    """A to Z, then AA, AB and so on."""
    more, place = divmod(index, len(ascii_uppercase))
    return (_letter(more - 1) if more else "") + ascii_uppercase[place]


class ImposedSheet(Struct, frozen=True):
    """A printed sheet with the job's own page numbers on both its sides; None where no usual folding makes it."""

    sheet: PrintedSheet
    imposition: Imposition
    front: Side
    back: Side


def imposed(sheet: PrintedSheet, right_bound: bool = False) -> ImposedSheet | None:
    """The sheet as it is printed: the pages of its usual folding, in the job's numbers.

    Leafed through from its other end a folded stack has its spine at the right, so a copy bound there counts backwards.
    """
    numbers = sheet.pages[::-1] if right_bound else sheet.pages
    if len(numbers) not in (4, 8, 12, 16, 24, 32):
        return None
    usual = signature(len(numbers))
    return ImposedSheet(sheet, usual, _numbered(usual.front, numbers), _numbered(usual.back, numbers))


def _numbered(side: Side, numbers: tuple[int, ...]) -> Side:
    return tuple(tuple(PlacedPage(numbers[p.page - 1], p.turned) for p in row) for row in side)


def format_remainder(publication: Publication) -> str:
    """How the extent is made up of sheets, in a sentence."""
    sheets = printed_sheets(publication)
    sizes = [len(sheet.pages) for sheet in sheets]
    counts = [(size, sizes.count(size)) for size in dict.fromkeys(sorted(sizes, reverse=True))]
    made = ", ".join(f"{count} × {size}" for size, count in counts) + (" page" if counts[-1][0] == 1 else " pages")
    small = [s for s in sheets if len(s.pages) < max(sizes)]
    if not small:
        return made
    names = ", ".join(f"{s.letter} ({counted(len(s.pages), 'page')})" for s in small)
    loose = [s for s in small if len(s.pages) not in (4, 8, 12, 16, 24, 32)]
    where = "innermost" if binding_named(publication.brief.binding).nests else "before the last full section"
    how = "loose leaves: ask the printer" if loose else f"half sheets, work-and-turn, {where}"
    return f"{made}; {names} as {how}"

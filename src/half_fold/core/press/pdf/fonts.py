"""Faces in the PDF: subset, embedded, drawn by glyph id, with a Unicode map for reading back."""

import struct
from collections.abc import Callable

import numpy as np
import numpy.typing as npt
import pikepdf
from pikepdf import Array, Dictionary, Name, Stream

from half_fold.core.drawing.marks import Glyphs
from half_fold.core.drawing.said import NOTHING, figure_of, figures_of, glyph_text
from half_fold.core.measure.columns import Columns, grown
from half_fold.core.typesetting.faces.faces import Face, face

_MOST_IN_BLOCK = 100
UNSAID = -1


class ActualTexts:
    """Texts as the PDF states them, in ``octets``; ``places`` has where each begins and ends, by its figure."""

    def __init__(self) -> None:
        self._octets: list[int] = []
        self._column = Columns(self._octets, kind=np.uint8)
        self.places = np.empty(0, np.int64)
        self.longest = 0
        self._known: set[int] = set()

    @property
    def octets(self) -> npt.NDArray[np.uint8]:
        column: npt.NDArray[np.uint8] = self._column.now()[0]
        return column

    def have(self, figures: npt.NDArray[np.int64]) -> None:
        """See that the texts of those figures are among them."""
        for figure in set(figures.tolist()) - self._known:
            self._known.add(figure)
            stated = ("\ufeff" + glyph_text(figure)).encode("utf-16-be").hex().upper().encode("ascii")
            self.places = grown(self.places, 2 * figure + 2)
            self.places[2 * figure : 2 * figure + 2] = len(self._octets), len(self._octets) + len(stated)
            self._octets += stated
            self.longest = max(self.longest, len(stated))


class FontTables:
    """The fonts of one file laid end to end: advances (thousandths of the em) and figures by glyph, each from the
    font's ``first`` on; and the texts that spans state."""

    def __init__(self) -> None:
        self.fonts: list[FontUse] = []
        self.advances = np.empty(0)
        self.figures = np.empty(0, np.int64)
        self.actual = ActualTexts()

    def add(self, font: "FontUse") -> None:
        """One font more; what each notes of its glyphs it notes here."""
        font.first = len(self.advances)
        self.fonts.append(font)
        self.advances = np.concatenate([self.advances, font.advances])
        self.figures = np.concatenate([self.figures, font.figures])
        for each in self.fonts:
            each.figures = self.figures[each.first : each.first + len(each.advances)]


class FontUse:
    """One face and the glyphs of it that were drawn, with the text each stands for, also as ``figures`` by glyph id."""

    def __init__(self, key: str) -> None:
        self.face: Face = face(key)
        self.texts: dict[int, str] = {0: ""}
        self.advances = np.array(self.face.advances()) * 1000
        self.figures = np.full(len(self.advances), UNSAID, np.int64)
        self.figures[0] = NOTHING
        self.first = 0  # where it begins among the fonts of its file

    def advance(self, gid: int) -> float:
        """Width of a glyph in thousandths of the em, as the PDF states it."""
        return float(self.advances[gid])

    def use(self, gid: int, text: str) -> bool:
        """Note a glyph; True where the font's Unicode map says this text for it."""
        known = self.texts.get(gid)
        if known is None:
            known = self.texts[gid] = text
            self.figures[gid] = figure_of(text)
        return known == text

    def meet(self, mark: Glyphs) -> None:
        """Note the glyphs of a mark that are new: alone each for its text; where it takes several, for its own letter.

        The text of several is said by a span; readers that pass over that find at least what each glyph is.
        """
        gids, figures = mark.gids.tolist(), [*figures_of(mark.texts).tolist(), -1]
        for at, gid in enumerate(gids):
            if gid not in self.texts:
                is_alone = figures[at + 1] != NOTHING and figures[at] != NOTHING
                self.use(gid, mark.texts[at] if is_alone else self.face.letters.get(gid, ""))

    def embed(self, pdf: pikepdf.Pdf) -> pikepdf.Object:
        """The Type0 font object."""
        gids = sorted(self.texts)
        program = self.face.subset(gids)
        name = Name("/" + _tag(gids) + "+" + self.face.postscript_name.replace(" ", ""))
        descriptor = _descriptor(self.face, name)
        descendant = Dictionary(
            Type=Name.Font,
            Subtype=Name.CIDFontType2,
            BaseFont=name,
            CIDSystemInfo=Dictionary(
                Registry=pikepdf.String("Adobe"), Ordering=pikepdf.String("Identity"), Supplement=0
            ),
            DW=0,
            W=_widths(gids, self.advance),
        )
        if self.face.is_cubic:  # cubic outlines: the whole OpenType program, its glyph ids being the character ids
            descendant.Subtype = Name.CIDFontType0
            descriptor.FontFile3 = pdf.make_indirect(Stream(pdf, program, Subtype=Name.OpenType))
        else:
            descendant.CIDToGIDMap = Name.Identity
            descriptor.FontFile2 = pdf.make_indirect(Stream(pdf, program, Length1=len(program)))
        descendant.FontDescriptor = pdf.make_indirect(descriptor)
        return pdf.make_indirect(
            Dictionary(
                Type=Name.Font,
                Subtype=Name.Type0,
                BaseFont=name,
                Encoding=Name("/Identity-H"),
                DescendantFonts=Array([pdf.make_indirect(descendant)]),
                ToUnicode=pdf.make_indirect(Stream(pdf, unicode_map(self.texts))),
            )
        )


def _tag(gids: list[int]) -> str:
    """Six letters that name this subset."""
    number = sum((i + 1) * gid for i, gid in enumerate(gids))
    letters = ""
    for _ in range(6):
        number, digit = divmod(number * 7 + 11, 26)
        letters += chr(65 + digit)
    return letters


def _descriptor(drawn: Face, name: Name) -> Dictionary:
    """What the PDF says of a face; its box and slope are those of its ``head`` and ``post`` tables."""
    scale = 1000 / drawn.upem
    return Dictionary(
        Type=Name.FontDescriptor,
        FontName=name,
        Flags=4,
        FontBBox=Array([round(v * scale) for v in struct.unpack(">4h", drawn.table("head")[36:44])]),
        ItalicAngle=struct.unpack(">l", drawn.table("post")[4:8])[0] / 65536,
        Ascent=round(drawn.ascender * 1000),
        Descent=round(drawn.descender * 1000),
        CapHeight=round(drawn.cap_height * 1000),
        StemV=80,
    )


def _widths(gids: list[int], advance: Callable[[int], float]) -> Array:
    """The W array: runs of neighbouring glyph ids, each with the widths of its glyphs."""
    runs: list[tuple[int, list[float]]] = []
    for gid in gids:
        if not runs or runs[-1][0] + len(runs[-1][1]) != gid:
            runs.append((gid, []))
        runs[-1][1].append(round(advance(gid), 4))
    return Array([part for first, widths in runs for part in (first, Array(widths))])


def unicode_map(texts: dict[int, str]) -> bytes:
    """The ToUnicode CMap: glyph id to the text it stands for."""
    rows = [f"<{gid:04X}> <{text.encode('utf-16-be').hex().upper()}>" for gid, text in sorted(texts.items()) if text]
    blocks = [rows[i : i + _MOST_IN_BLOCK] for i in range(0, len(rows), _MOST_IN_BLOCK)]
    body = "".join(f"{len(block)} beginbfchar\n{chr(10).join(block)}\nendbfchar\n" for block in blocks)
    return (
        "/CIDInit /ProcSet findresource begin\n12 dict begin\nbegincmap\n"
        "/CIDSystemInfo << /Registry (Adobe) /Ordering (UCS) /Supplement 0 >> def\n"
        "/CMapName /Adobe-Identity-UCS def\n/CMapType 2 def\n"
        "1 begincodespacerange\n<0000> <FFFF>\nendcodespacerange\n"
        f"{body}endcmap\nCMapName currentdict /CMap defineresource pop\nend\nend\n"
    ).encode("ascii")

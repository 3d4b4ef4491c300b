"""The faces that can be set with, and shaping by HarfBuzz. Widths are in ems, so that a size is one product."""

from collections.abc import Iterable
from functools import cache, cached_property
from importlib.resources import files
from itertools import accumulate
from operator import add
from pathlib import Path
from typing import Any

import msgspec
import numpy as np
import numpy.typing as npt
import uharfbuzz as hb
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.outline import Outline, OutlinePen
from half_fold.core.measure.problem import Problem

POLYGON_EMS = 0.0004  # that a glyph without curves stays within of the one it stands for
STAND_IN = "EB Garamond"


class _Style(Struct, frozen=True):
    file: str
    bold: str
    italic: str


@cache
def _shipped() -> dict[str, dict[str, _Style]]:
    content = files("half_fold.data").joinpath("fonts/families.json").read_bytes()
    return msgspec.json.decode(content, type=dict[str, dict[str, _Style]])


def ships(family: str) -> bool:
    """Whether a family comes with the program."""
    return family in _shipped()


_joined: dict[str, dict[str, _Style]] = {}


def families() -> dict[str, dict[str, _Style]]:
    """Families that ship, and those that jobs brought and whose files are still there, each with its styles."""
    there = {
        family: {name: s for name, s in styles.items() if Path(s.file).exists()} for family, styles in _joined.items()
    }
    return {**{family: styles for family, styles in there.items() if styles}, **_shipped()}


def join_face(family: str, style: str, file: Path) -> None:
    """Make a face of a job known, under the family and style its file gives itself.

    Bold and italic of a style are those of its family that are called so; where there is none, the style itself.
    """
    if family in _shipped():
        return
    styles = _joined.setdefault(family, {})
    if style in styles and styles[style].file == str(file):
        return
    styles[style] = _Style(str(file), style, style)
    for name, known in list(styles.items()):
        styles[name] = _Style(known.file, *_companions(name, styles))
    face.cache_clear()


def _companions(style: str, styles: dict[str, _Style]) -> tuple[str, str]:
    is_italic, is_bold = "Italic" in style, "Bold" in style
    bold = "Bold Italic" if is_italic else "Bold"
    italic = ("Bold" if is_bold else "Regular") if is_italic else ("Bold Italic" if is_bold else "Italic")
    return bold if bold in styles else style, italic if italic in styles else style


def style_in(family: str, wanted: str = "Regular") -> str:
    """The style that is wanted, where the family has it or there is none such; else its plainest."""
    styles = families().get(family, {})
    if wanted in styles or not styles:
        return wanted
    return "Regular" if "Regular" in styles else next(iter(styles))


def require_face(family: str, style: str) -> None:
    """Problem where there is no such face."""
    if style not in families().get(family, {}):
        raise Problem(f"There is no face “{family} {style}”; there are {', '.join(families())}.")


def face_key(family: str, style: str, bold: bool = False, italic: bool = False) -> str:
    """The key of a face, ``Family/Style``, after bold and italic; of one that is not there, what stands in for it."""
    styles = _shipped().get(family) or _joined.get(family)
    if styles is None:
        family, styles = STAND_IN, _shipped()[STAND_IN]
    if style not in styles:
        style = "Regular" if "Regular" in styles else next(iter(styles))
    if bold:
        style = styles[style].bold
    if italic:
        style = styles[style].italic
    return f"{family}/{style}"


def face_file(key: str) -> Path:
    """The font file of a face."""
    family, _, style = key.partition("/")
    if family in _shipped():
        return Path(str(files("half_fold.data").joinpath("fonts", _shipped()[family][style].file)))
    return Path(_joined[family][style].file)


class Shaped(Struct, frozen=True, dict=True, eq=False):
    """Glyphs of one word from left to right: ids, advances and offsets in ems, and the text each stands for.

    ``rises`` is how far each glyph stands above the baseline, or None where none does; ``scale`` is its size against
    the text's, advances and offsets included. ``clusters`` are where in the text each glyph's letters begin.
    """

    glyphs: list[int]
    advances: list[float]
    offsets: list[float]
    texts: tuple[str, ...]
    width: float
    rises: list[float] | None = None
    scale: float = 1.0
    face: str = ""
    clusters: tuple[int, ...] = ()

    @cached_property
    def gids(self) -> npt.NDArray[np.uint16]:
        """The glyph ids as an array."""
        return np.array(self.glyphs, np.uint16)

    @property
    def missing(self) -> int:
        """How many letters the face has no glyph for."""
        return self.glyphs.count(0)

    @cached_property
    def pens(self) -> list[float]:
        """Where each glyph stands, the first pen at 0; in ems."""
        return list(map(add, accumulate(self.advances, initial=0.0), self.offsets))

    def spaced(self, tracking: float) -> "Shaped":
        """With ``tracking`` ems after every glyph."""
        advances = [advance + tracking for advance in self.advances]
        return replace(self, advances=advances, width=sum(advances))

    def scaled(self, scale: float, rise: float) -> "Shaped":
        """At ``scale`` times the size, ``rise`` ems above the baseline."""
        rises = [high * scale + rise for high in self.rises or [0.0] * len(self.glyphs)]
        return replace(
            self,
            advances=[advance * scale for advance in self.advances],
            offsets=[offset * scale for offset in self.offsets],
            width=self.width * scale,
            rises=rises if any(rises) else None,
            scale=self.scale * scale,
        )


class Face:
    """One face, loaded once; metrics in ems."""

    def __init__(self, key: str, content: Any = None) -> None:
        self.key = key
        self._face = hb.Face(content if content is not None else hb.Blob.from_file_path(str(face_file(key))))
        self._font = hb.Font(self._face)
        self._features: frozenset[str] | None = None
        self._advances: dict[int, float] = {}
        self._inks: dict[int, tuple[float, float, float, float]] = {}
        self._outlines: dict[int, Outline] = {}
        self._polygons: dict[int, Outline] = {}
        self.upem: int = self._face.upem
        self._count: int = self._face.glyph_count
        self.ascender = self._font.get_font_extents("ltr").ascender / self.upem
        self.descender = self._font.get_font_extents("ltr").descender / self.upem
        self.cap_height = self._height_of("H")
        self.x_height = self._height_of("x")

    @classmethod
    def of_file(cls, key: str, file: Path) -> "Face":
        """The face in a file that is not known by its key."""
        return cls(key, hb.Blob.from_file_path(str(file)))

    @classmethod
    def of_octets(cls, key: str, content: bytes) -> "Face":
        """The face that a font's octets are."""
        return cls(key, hb.Blob(content))

    @property
    def file(self) -> Path:
        return face_file(self.key)

    def _height_of(self, letter: str) -> float:
        gid = self._font.get_nominal_glyph(ord(letter))
        extents = self._font.get_glyph_extents(gid) if gid is not None else None  # a font of signs has no letters
        return extents.y_bearing / self.upem if extents else 0.7

    def outline(self, gid: int) -> Outline:
        """A glyph's outline in ems, y downwards; one without operators where it draws nothing."""
        found = self._outlines.get(gid)
        if found is None:
            pen = OutlinePen()
            self._font.draw_glyph_with_pen(gid, pen)
            found = self._outlines[gid] = pen.made(Affine(1 / self.upem, 0, 0, -1 / self.upem))
        return found

    def polygon(self, gid: int) -> Outline:
        """A glyph's outline without curves, in ems, as near to it as any size of type shows."""
        found = self._polygons.get(gid)
        if found is None:
            found = self._polygons[gid] = self.outline(gid).straightened(POLYGON_EMS)
        return found

    def advance(self, gid: int) -> float:
        """How far a glyph by itself moves the pen, in ems."""
        found = self._advances.get(gid)
        if found is None:
            found = self._advances[gid] = float(self._font.get_glyph_h_advance(gid)) / self.upem
        return found

    def ink_of(self, gid: int) -> tuple[float, float, float, float]:
        """What a glyph blackens, in ems from its pen: left, top, right, bottom (y downwards); zeros for a space."""
        found = self._inks.get(gid)
        if found is None:
            e = self._font.get_glyph_extents(gid)
            box = (e.x_bearing, -e.y_bearing, e.x_bearing + e.width, -e.y_bearing - e.height) if e else (0, 0, 0, 0)
            left, top, right, bottom = (value / self.upem for value in box)
            found = self._inks[gid] = (left, top, right, bottom)
        return found

    def shape(self, text: str, features: tuple[str, ...] = (), way: str = "ltr") -> Shaped:
        """``text`` as glyphs from left to right, kerned and with its ligatures.

        ``features`` are OpenType tags to switch on (-: off); ``way`` is ``ltr`` or ``rtl``.
        """
        buffer = self._shaped(text, features, way)
        infos, places, upem = buffer.glyph_infos, buffer.glyph_positions, self.upem
        advances = [place.x_advance / upem for place in places]
        rises = [place.y_offset / upem for place in places]
        clusters = [info.cluster for info in infos]
        glyphs = [info.codepoint for info in infos]
        if glyphs and max(glyphs) >= self._count:  # the tables of a damaged font name glyphs that are not there
            glyphs = [gid if gid < self._count else 0 for gid in glyphs]
        return Shaped(
            glyphs,
            advances,
            [place.x_offset / upem for place in places],
            _cluster_texts(text, clusters),
            sum(advances),
            rises if any(rises) else None,
            face=self.key,
            clusters=tuple(clusters),
        )

    @cached_property
    def letters(self) -> dict[int, str]:
        """The letter that each glyph is by itself, where it is one."""
        found: dict[int, str] = {}
        for code in self._face.unicodes:
            found.setdefault(self._font.get_nominal_glyph(code), chr(code))
        return found

    def extent(self, text: str, features: tuple[str, ...] = (), way: str = "ltr") -> tuple[float, int]:
        """The advance of ``text`` in ems and how many glyphs take it up: a third of the work of shaping it."""
        buffer = self._shaped(text, features, way)
        advances = [place.x_advance for place in buffer.glyph_positions]
        return sum(advances) / self.upem, len(advances)

    def _shaped(self, text: str, features: tuple[str, ...], way: str) -> Any:
        buffer = hb.Buffer()
        buffer.add_str(text)
        buffer.direction = way
        buffer.guess_segment_properties()
        hb.shape(self._font, buffer, _switches(features))
        return buffer

    def advances(self) -> list[float]:
        """The advance of every glyph by its id, in ems."""
        return [self._font.get_glyph_h_advance(gid) / self.upem for gid in range(self._count)]

    def table(self, tag: str) -> bytes:
        """One of the tables of its file."""
        return bytes(self._face.reference_table(tag).data)

    @property
    def is_cubic(self) -> bool:
        """Whether its outlines are cubic (a CFF table), not quadratic."""
        return "CFF " in self._face.table_tags

    @property
    def postscript_name(self) -> str:
        return str(self._face.get_name(6) or self.key)

    def subset(self, gids: Iterable[int]) -> bytes:
        """Its file with only these glyphs, each at its own glyph id, and nothing that shapes them."""
        asked = hb.SubsetInput()
        asked.sets(hb.SubsetInputSets.GLYPH_INDEX).update(gids)
        asked.sets(hb.SubsetInputSets.LAYOUT_FEATURE_TAG).clear()
        asked.sets(hb.SubsetInputSets.DROP_TABLE_TAG).update(_tag(tag) for tag in ("GSUB", "GPOS", "GDEF", "DSIG"))
        flags = hb.SubsetFlags
        asked.flags = flags.RETAIN_GIDS | flags.NO_HINTING | flags.NOTDEF_OUTLINE | flags.NO_LAYOUT_CLOSURE
        return bytes(hb.subset(self._face, asked).blob.data)

    def has(self, feature: str) -> bool:
        """Whether the face substitutes glyphs under that OpenType tag."""
        if self._features is None:
            self._features = frozenset(self._face.get_language_feature_tags("GSUB"))
        return feature in self._features

    def lacks(self, text: str) -> str:
        """The characters of ``text`` that the face has no glyph for, each once."""
        return "".join(
            letter for letter in dict.fromkeys(text) if self._font.get_nominal_glyph(ord(letter)) in (None, 0)
        )


def _tag(name: str) -> int:
    return int.from_bytes(name.encode("ascii"), "big")


@cache
def _switches(features: tuple[str, ...]) -> dict[str, bool]:
    return {tag.lstrip("-"): not tag.startswith("-") for tag in features}


def _cluster_texts(text: str, clusters: list[int]) -> tuple[str, ...]:
    """What each glyph stands for: the cluster's text on its first glyph, '' on the others."""
    if len(clusters) == len(text) and clusters == list(range(len(text))):
        return tuple(text)
    starts = sorted(set(clusters))
    ends = dict(zip(starts, [*starts[1:], len(text)], strict=True))
    said: set[int] = set()
    out = []
    for cluster in clusters:
        out.append("" if cluster in said else text[cluster : ends[cluster]])
        said.add(cluster)
    return tuple(out)


@cache
def face(key: str) -> Face:
    """The face of that key, loaded on first use."""
    return Face(key)

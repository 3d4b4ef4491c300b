"""The faces that can be set with, and shaping by HarfBuzz. Widths are in ems, so that a size is one product."""

from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from pathlib import Path

import msgspec
import numpy as np
import numpy.typing as npt
import uharfbuzz as hb

from half_fold.core.measure.problem import Problem

Floats = npt.NDArray[np.float64]


class _Style(msgspec.Struct, frozen=True):
    file: str
    bold: str
    italic: str


@cache
def families() -> dict[str, dict[str, _Style]]:
    """Families that ship, each with its styles."""
    content = files("half_fold.data").joinpath("fonts/families.json").read_bytes()
    return msgspec.json.decode(content, type=dict[str, dict[str, _Style]])


def face_key(family: str, style: str, bold: bool = False, italic: bool = False) -> str:
    """The key of a face, ``Family/Style``, after bold and italic. Problem where the family lacks it."""
    styles = families().get(family)
    if styles is None or style not in styles:
        raise Problem(f"There is no face “{family} {style}”; there are {', '.join(families())}.")
    if bold:
        style = styles[style].bold
    if italic:
        style = styles[style].italic
    return f"{family}/{style}"


def face_file(key: str) -> Path:
    """The font file of a face."""
    family, _, style = key.partition("/")
    return Path(str(files("half_fold.data").joinpath("fonts", families()[family][style].file)))


@dataclass(frozen=True, slots=True)
class Shaped:
    """Glyphs of one word: ids, advances and offsets in ems, and the text each glyph stands for."""

    gids: npt.NDArray[np.uint16]
    advances: Floats
    offsets: Floats
    texts: tuple[str, ...]
    width: float
    missing: int


class Face:
    """One face, loaded once; metrics in ems."""

    def __init__(self, key: str) -> None:
        self.key = key
        self.file = face_file(key)
        self._face = hb.Face(hb.Blob.from_file_path(str(self.file)))
        self._font = hb.Font(self._face)
        self._inks: dict[int, tuple[float, float, float, float]] = {}
        self.upem: int = self._face.upem
        self.ascender = self._font.get_font_extents("ltr").ascender / self.upem
        self.descender = self._font.get_font_extents("ltr").descender / self.upem
        self.cap_height = self._height_of("H")

    def _height_of(self, letter: str) -> float:
        gid = self._font.get_nominal_glyph(ord(letter))
        extents = self._font.get_glyph_extents(gid)
        return extents.y_bearing / self.upem if extents else 0.7

    def ink_of(self, gid: int) -> tuple[float, float, float, float]:
        """What a glyph blackens, in ems from its pen: left, top, right, bottom (y downwards); zeros for a space."""
        found = self._inks.get(gid)
        if found is None:
            e = self._font.get_glyph_extents(gid)
            box = (e.x_bearing, -e.y_bearing, e.x_bearing + e.width, -e.y_bearing - e.height) if e else (0, 0, 0, 0)
            left, top, right, bottom = (value / self.upem for value in box)
            found = self._inks[gid] = (left, top, right, bottom)
        return found

    def shape(self, text: str, features: tuple[str, ...] = ()) -> Shaped:
        """``text`` as glyphs, kerned and with its ligatures; ``features`` are OpenType tags to switch on."""
        buffer = hb.Buffer()
        buffer.add_str(text)
        buffer.guess_segment_properties()
        hb.shape(self._font, buffer, dict.fromkeys(features, True))
        infos, positions = buffer.glyph_infos, buffer.glyph_positions
        clusters = [info.cluster for info in infos]
        advances = np.array([p.x_advance for p in positions], np.float64) / self.upem
        offsets = np.array([p.x_offset for p in positions], np.float64) / self.upem
        gids = np.array([info.codepoint for info in infos], np.uint16)
        return Shaped(
            gids, advances, offsets, _cluster_texts(text, clusters), float(advances.sum()), int((gids == 0).sum())
        )


def _cluster_texts(text: str, clusters: list[int]) -> tuple[str, ...]:
    """What each glyph stands for: the cluster's text on its first glyph, '' on the others."""
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

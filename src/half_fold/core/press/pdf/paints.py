"""Spot inks and gradients in the file: their names there, their colour spaces, and the functions behind them.

A spot is a Separation, a gradient between process tones a shading in DeviceCMYK; one that has a spot in it is in
DeviceN (ISO 32000, 8.6.6 and 8.7.4), so that every ink lands on its own plate.
"""

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple
from zlib import crc32

import pikepdf
from pikepdf import Array, Dictionary, Name, Stream

from half_fold.core.drawing.affine import Affine
from half_fold.core.drawing.tone import Gradient, GradientStop, Spot, Tone, Way
from half_fold.core.measure.rect import Rect

PROCESS = "Cyan", "Magenta", "Yellow", "Black"
SPOT, SHADING, VEIL = "C", "H", "V"


def resource_name(kind: str, key: str) -> str:
    """The name of a font (F), picture (P), spot (C), shading (H) or veil (V) in the file.

    It follows from its key, so that all pages name it alike.
    """
    return f"{kind}{crc32(key.encode('utf-8', 'surrogatepass')):08x}"


def spot_name(spot: Spot) -> str:
    """The name of a spot's colour space in the file."""
    return resource_name(SPOT, repr(tuple(spot)))


def placed_matrix(affine: Affine, media: Rect) -> tuple[float, ...]:
    """An affine with its result as the file has it: y upwards, counted from the left foot of the sheet ``media``."""
    a, b, c, d, e, f = affine
    return a, -b, c, -d, e - media.left, media.bottom - f


class Shading(NamedTuple):
    """A gradient as it lies on a sheet: how, its matrix with y upwards, and its stops."""

    way: Way
    matrix: tuple[float, float, float, float, float, float]
    stops: tuple[GradientStop, ...]

    @property
    def name(self) -> str:
        """Its name in the file."""
        return resource_name(SHADING, repr(self))

    @property
    def spots(self) -> tuple[Spot, ...]:
        """The spots among its tones."""
        return tuple(dict.fromkeys(stop.tone.spot for stop in self.stops if stop.tone.spot is not None))


def shading(gradient: Gradient, media: Rect) -> Shading:
    """A gradient as it lies on a sheet."""
    a, b, c, d, e, f = (round(figure, 4) for figure in placed_matrix(gradient.affine, media))
    return Shading(gradient.way, (a, b, c, d, e, f), gradient.stops)


def spot_space(spot: Spot) -> Array:
    """The colour space of one spot (ISO 32000, 8.6.6.4)."""
    tint = Dictionary(FunctionType=2, Domain=Array([0, 1]), C0=Array([0, 0, 0, 0]), C1=_figures(spot[1:]), N=1)
    return Array([Name.Separation, Name(f"/{spot.name}"), Name.DeviceCMYK, tint])


def _space(pdf: pikepdf.Pdf, spots: Sequence[Spot]) -> pikepdf.Object:
    """Process inks with some spots (ISO 32000, 8.6.6.5)."""
    if not spots:
        return Name.DeviceCMYK
    names = Array([Name(f"/{name}") for name in (*PROCESS, *(spot.name for spot in spots))])
    domain, reach = Array([0, 1] * (4 + len(spots))), Array([0, 1] * 4)
    instead = Stream(pdf, _instead(spots).encode("ascii"))
    instead.FunctionType, instead.Domain, instead.Range = 4, domain, reach
    return Array([Name.DeviceN, names, Name.DeviceCMYK, pdf.make_indirect(instead)])


def _instead(spots: Sequence[Spot]) -> str:
    """What stands in for process inks and spots: for each process ink 1 - (1 - x) x (1 - s x its share) ..."""
    count, words = 4 + len(spots), []
    for at in range(4):
        words.append(f"{count - 1} index 1 exch sub")
        for place, spot in enumerate(spots):
            words.append(f"{count - 1 - (4 + place) + at + 1} index {spot[1 + at]:.4f} mul 1 exch sub mul")
        words.append("1 exch sub")
    return "{" + " ".join([*words, f"{count + 4} 4 roll", *["pop"] * count]) + "}"


def _figures(values: Sequence[float]) -> Array:
    return Array([round(value, 6) for value in values])


def plates(tone: Tone, spots: Sequence[Spot]) -> list[float]:
    """The shares of a tone on the process plates and those of ``spots``."""
    return [tone.c, tone.m, tone.y, tone.k, *(tone.s if tone.spot == spot else 0.0 for spot in spots)]


def pattern(pdf: pikepdf.Pdf, shade: Shading) -> pikepdf.Object:
    """A shading as a pattern that fills what is drawn in it."""
    spots = shade.spots
    made = Dictionary(
        ShadingType=2 if shade.way == "linear" else 3,
        ColorSpace=_space(pdf, spots),
        Coords=Array([0, 0, 1, 0] if shade.way == "linear" else [0, 0, 0, 0, 0, 1]),
        Extend=Array([True, True]),
        Function=_function(shade.stops, spots),
    )
    return pdf.make_indirect(Dictionary(Type=Name.Pattern, PatternType=2, Matrix=Array(shade.matrix), Shading=made))


def _function(stops: Sequence[GradientStop], spots: Sequence[Spot]) -> Dictionary:
    """From a place along the gradient to its shares: straight from each stop to the next."""
    stops = _to_both_ends(stops)
    parts = [
        Dictionary(
            FunctionType=2,
            Domain=Array([0, 1]),
            C0=_figures(plates(one.tone, spots)),
            C1=_figures(plates(other.tone, spots)),
            N=1,
        )
        for one, other in pairwise(stops)
    ]
    if len(parts) == 1:
        return parts[0]
    return Dictionary(
        FunctionType=3,
        Domain=Array([0, 1]),
        Functions=Array(parts),
        Bounds=Array([round(stop.at, 6) for stop in stops[1:-1]]),
        Encode=Array([0, 1] * len(parts)),
    )


def _to_both_ends(stops: Sequence[GradientStop]) -> list[GradientStop]:
    """The stops, the first and the last tone drawn out to 0 and 1; no two at one place."""
    out = list(stops)
    if out[0].at > 0:
        out.insert(0, out[0]._replace(at=0.0))
    if out[-1].at < 1:
        out.append(out[-1]._replace(at=1.0))
    least = 1e-5
    for at in range(1, len(out)):
        if out[at].at <= out[at - 1].at + least:
            out[at] = out[at]._replace(at=out[at - 1].at + least)
    return out

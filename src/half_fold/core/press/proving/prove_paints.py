"""What a page paints with, held against what it was drawn with: spots, gradients and veils, as the file states them."""

import zlib
from collections.abc import Iterator, Sequence
from itertools import pairwise

import pikepdf

from half_fold.core.drawing.tone import GradientStop, Spot
from half_fold.core.press.pdf.composed import Unproved
from half_fold.core.press.pdf.leaves import DrawnPage, DrawnVeil
from half_fold.core.press.pdf.paints import PROCESS, Shading, plates, spot_name

NEAR = 0.0002


def hold_paints(resources: pikepdf.Object, made: DrawnPage) -> None:
    """Hold the spots, gradients and veils that a page names; Unproved where one is not what was drawn."""
    spaces, patterns = resources.get("/ColorSpace", {}), resources.get("/Pattern", {})
    for spot in made.spots:
        if not _is_spot(spaces.get(f"/{spot_name(spot)}"), spot):
            raise Unproved(made.label, f"the ink “{spot.name}” is not in the file as a plate of its own")
    for shade in made.shadings:
        if not _is_shading(patterns.get(f"/{shade.name}"), shade):
            raise Unproved(made.label, f"the gradient {shade.name} is not in the file as it was drawn")
    for veil in made.veils:
        if not _is_veil(resources.get("/XObject", {}).get(f"/{veil.name}"), veil):
            raise Unproved(made.label, f"the veil {veil.name} is not in the file as it was drawn")


def _is_spot(space: pikepdf.Object | None, spot: Spot) -> bool:
    if space is None or space[0] != pikepdf.Name.Separation or str(space[1]) != f"/{spot.name}":
        return False
    return _near([*map(float, space[3].C0), *map(float, space[3].C1)], [0.0] * 4 + list(spot[1:]))


def _is_shading(pattern: pikepdf.Object | None, shade: Shading) -> bool:
    if pattern is None or not _near(list(map(float, pattern.Matrix)), shade.matrix):
        return False
    shown = pattern.Shading
    names = [] if shown.ColorSpace == pikepdf.Name.DeviceCMYK else [str(name)[1:] for name in shown.ColorSpace[1]]
    kind = 2 if shade.way == "linear" else 3
    if int(shown.ShadingType) != kind or names != ([*PROCESS, *(s.name for s in shade.spots)] if shade.spots else []):
        return False
    told = list(_stops(shown.Function))
    return all(_near(_at(told, at), _wanted(shade, at)) for at in _places(shade.stops))


def _stops(function: pikepdf.Object) -> Iterator[tuple[float, list[float]]]:
    """Places and shares, as a reader of the file finds them (ISO 32000, 7.10.3 and 7.10.4)."""
    stitched = int(function.FunctionType) == 3
    parts = list(function.Functions) if stitched else [function]
    bounds = [0.0, *(map(float, function.Bounds) if stitched else ()), 1.0]
    for part, low, high in zip(parts, bounds, bounds[1:], strict=False):
        yield low, list(map(float, part.C0))
        yield high, list(map(float, part.C1))


def _places(stops: Sequence[GradientStop]) -> list[float]:
    """Where gradients are compared: between every two stops, and before and beyond them."""
    at = [0.0, *(stop.at for stop in stops), 1.0]
    apart = ((one, other) for one, other in pairwise(at) if other > one + NEAR)
    return [*((one + other) / 2 for one, other in apart)]


def _at(stops: Sequence[tuple[float, Sequence[float]]], at: float) -> list[float]:
    for (low, before), (high, after) in pairwise(stops):
        if low <= at <= high and high > low:
            share = (at - low) / (high - low)
            return [one + share * (other - one) for one, other in zip(before, after, strict=True)]
    return list(stops[-1][1])


def _wanted(shade: Shading, at: float) -> list[float]:
    told = [(stop.at, plates(stop.tone, shade.spots)) for stop in shade.stops]
    first, last = told[0], told[-1]
    return _at([(min(0.0, first[0]) - 1, first[1]), *told, (max(1.0, last[0]) + 1, last[1])], at)


def _is_veil(image: pikepdf.Object | None, veil: DrawnVeil) -> bool:
    if image is None or image.get("/SMask") is None:
        return False
    shares = (veil.tone.s,) if veil.tone.spot is not None else veil.tone.process
    mask = image.SMask
    is_sized = (int(mask.Width), int(mask.Height)) == (veil.wide, veil.high)
    is_toned = image.read_bytes() == bytes(round(255 * share) for share in shares)
    return is_sized and is_toned and mask.read_bytes() == zlib.decompress(veil.packed)


def _near(some: Sequence[float], others: Sequence[float]) -> bool:
    return len(some) == len(others) and all(abs(one - other) <= NEAR for one, other in zip(some, others, strict=True))

"""The colours of a picture as inks: clusters in Lab, weighted by their area and by how colourful they are."""

from collections.abc import Iterator, Sequence
from itertools import combinations
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
from PIL import Image

from half_fold.core.inks.screen import hex_of_lab, near_in_print
from half_fold.core.pictures.colour.colour import lab_of_inks, lab_of_picture, profile_for
from half_fold.core.publication.property import paint_choices
from half_fold.core.publication.records import Ink, Publication

Floats = npt.NDArray[np.float64]
LOOKED_AT = 240  # pixels the long way: more change nothing
CELL = 4.0  # in Lab: colours in one cell are one
BEGINNINGS, ROUNDS = 20, 12
FEWEST, MOST = 5, 8
APART = 14.0  # clusters nearer to each other than this are one colour to the eye
CHROMA_COUNTS = 24.0  # a colour of so much chroma counts twice as much as a grey of the same area
LEAST_AREA = 0.0015  # of the picture, that a colour covers
READABLE = 4.5  # ratio of luminances from which small words can be read (WCAG 2.1, 1.4.3)


class InkProposal(NamedTuple):
    """An ink as proposed, the share of the pictures that is of its colour, and how it looks in print (Lab)."""

    ink: Ink
    area: float
    lab: tuple[float, float, float]


def palette_of(publication: Publication, pictures: Sequence[Image.Image]) -> list[InkProposal]:
    """Five to eight inks, fewer where there are fewer colours, the weightiest first; by plain names that are new."""
    cells, counts = _cells(pictures)
    if not len(cells):
        return []
    chroma = np.hypot(cells[:, 1], cells[:, 2])
    weights = counts * (1 + chroma / CHROMA_COUNTS)
    middles, weight, area = _merged(*_clustered(cells, weights, counts))
    keep = [at for at in np.argsort(-weight) if area[at] >= LEAST_AREA][:MOST]
    profile = profile_for(publication, publication.brief.text_paper)
    taken = set(paint_choices(publication))
    out: list[InkProposal] = []
    for at in keep:
        name = _new(middles[at], [proposal.lab[0] for proposal in out], taken)
        taken.add(name)
        ink = near_in_print(publication, name, hex_of_lab(middles[at]))
        out.append(
            InkProposal(ink, float(area[at]), lab_of_inks((ink.cyan, ink.magenta, ink.yellow, ink.black), profile))
        )
    return out


def _cells(pictures: Sequence[Image.Image]) -> tuple[Floats, Floats]:
    """The colours there are, in Lab, an array of shape (cells, 3), and the share of all pixels in each."""
    found = []
    for picture in pictures:
        small = picture.copy()
        small.thumbnail((LOOKED_AT, LOOKED_AT))
        lab = lab_of_picture(small.convert("RGB")).reshape(-1, 3)
        if "A" in small.getbands():
            lab = lab[np.asarray(small.getchannel("A")).ravel() > 127]
        if len(lab):
            found.append((lab, np.full(len(lab), 1.0 / len(lab) / len(pictures))))
    if not found:
        return np.empty((0, 3)), np.empty(0)
    lab, share = np.vstack([each for each, _ in found]), np.concatenate([each for _, each in found])
    cells, which = np.unique(np.floor(lab / CELL).astype(np.int64), axis=0, return_inverse=True)
    counts = np.bincount(which.ravel(), share, len(cells)).astype(np.float64)
    sums = np.column_stack([np.bincount(which.ravel(), share * lab[:, axis], len(cells)) for axis in range(3)])
    return sums / counts[:, None], counts


def _clustered(cells: Floats, weights: Floats, counts: Floats) -> tuple[Floats, Floats, Floats]:
    """Middles of clusters, their weights and areas: Lloyd's rounds from beginnings that lie far from one another."""
    middles = cells[[int(np.argmax(weights))]]
    while len(middles) < min(BEGINNINGS, len(cells)):
        far = np.min(((cells[:, None] - middles[None]) ** 2).sum(2), axis=1)
        middles = np.vstack([middles, cells[int(np.argmax(far * np.sqrt(weights)))]])
    for _ in range(ROUNDS):
        near = np.argmin(((cells[:, None] - middles[None]) ** 2).sum(2), axis=1)
        total = np.bincount(near, weights, len(middles))
        sums = np.column_stack([np.bincount(near, weights * cells[:, axis], len(middles)) for axis in range(3)])
        middles = np.where(total[:, None] > 0, sums / np.maximum(total, 1e-12)[:, None], middles)
    near = np.argmin(((cells[:, None] - middles[None]) ** 2).sum(2), axis=1)
    weight, area = (np.bincount(near, each, len(middles)).astype(np.float64) for each in (weights, counts))
    return middles, weight, area


def _merged(middles: Floats, weight: Floats, area: Floats) -> tuple[Floats, Floats, Floats]:
    """The nearest two made one, as long as an eye takes them for one colour, or there are more than are wanted."""
    while len(middles) > 1:
        apart = np.linalg.norm(middles[:, None] - middles[None], axis=2) + np.eye(len(middles)) * 1e9
        one, other = np.unravel_index(int(np.argmin(apart)), apart.shape)
        if apart[one, other] > APART:
            break
        total = weight[one] + weight[other]
        share = weight[one] / total if total > 0 else 0.5
        middles[one] = share * middles[one] + (1 - share) * middles[other]
        weight[one], area[one] = total, area[one] + area[other]
        middles, weight, area = (np.delete(each, other, axis=0) for each in (middles, weight, area))
    return middles, weight, area


GREYISH = 14.0  # chroma under which a colour is a grey of that hue
DARK, PALE = 28, 80  # of lightness, under and over which it is said
_SOBER = {"sky blue": "blue", "yellow": "olive", "amber": "brown", "orange": "brown", "red": "rose", "teal": "green"}
# Hues in Lab by the angle at which each ends, in degrees.
_HUES = (
    (20, "rose"),
    (48, "red"),
    (68, "orange"),
    (84, "amber"),
    (106, "yellow"),
    (128, "olive"),
    (168, "green"),
    (205, "teal"),
    (250, "sky blue"),
    (290, "blue"),
    (325, "violet"),
    (348, "plum"),
    (361, "rose"),
)


def plain_name(lab: Sequence[float] | Floats) -> str:
    """What anyone would call a colour."""
    light, a, b = (float(each) for each in lab)
    chroma, hue = float(np.hypot(a, b)), float(np.degrees(np.arctan2(b, a))) % 360
    if chroma < 6:
        steps = ((12, "black"), (30, "dark grey"), (60, "grey"), (85, "light grey"), (101, "white"))
        return next(name for most, name in steps if light <= most)
    name = next(name for most, name in _HUES if hue < most)
    if chroma < GREYISH:
        return f"{'dark ' if light < DARK else 'pale ' if light > PALE else ''}{_SOBER.get(name, name)} grey"
    if name in ("orange", "amber", "red") and light < 55 and chroma < 55:
        name = "brown"
    if name in ("amber", "yellow") and light < 68:  # what is yellow is light: darker it is of the earth
        name = "ochre" if chroma > 38 else "olive" if name == "yellow" else "brown"
    if name in ("yellow", "amber") and chroma < 40 and light > 75:
        name = "straw"
    shade = "dark " if light < DARK else "pale " if light > PALE and chroma < 30 else ""
    return f"{shade}{name}".replace("dark sky blue", "dark blue")


def new_ink_name(publication: Publication, lab: Sequence[float]) -> str:
    """What anyone would call a colour, by a name that no ink and no fade of the job has."""
    return _new(np.asarray(lab, np.float64), [], set(paint_choices(publication)))


def _new(lab: Floats, lights: Sequence[float], taken: set[str]) -> str:
    """A plain name that is new: of two alike, the later is said to be lighter or deeper, and after that numbered."""
    return next(each for each in _names(plain_name(lab), float(lab[0]), lights) if each not in taken)


def _names(name: str, light: float, lights: Sequence[float]) -> Iterator[str]:
    yield name
    middle = float(np.mean(lights)) if lights else light
    bare = name.removeprefix("dark ").removeprefix("pale ")
    yield from (f"light {bare}", f"bright {bare}") if light >= middle else (f"deep {bare}", f"darkest {bare}")
    number = 2
    while True:
        yield f"{name} {number}"
        number += 1


def contrast(one: Sequence[float], other: Sequence[float]) -> float:
    """The ratio of the luminances of two colours in Lab, the lighter first (WCAG 2.1)."""
    lighter, darker = sorted((_luminance(one[0]), _luminance(other[0])), reverse=True)
    return (lighter + 0.05) / (darker + 0.05)


def _luminance(light: float) -> float:
    return ((light + 16) / 116) ** 3 if light > 8 else light / 903.3


def readable_pairs(proposals: Sequence[InkProposal]) -> list[tuple[str, str, float]]:
    """The pairs of which one can be read on the other, the clearest first: their names, and the ratio."""
    pairs = [(one.ink.name, other.ink.name, contrast(one.lab, other.lab)) for one, other in combinations(proposals, 2)]
    return sorted((pair for pair in pairs if pair[2] >= READABLE), key=lambda pair: -pair[2])

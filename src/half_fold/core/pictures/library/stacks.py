"""Near duplicates among pictures, gathered in stacks with the sharpest first."""

from collections.abc import Mapping, Sequence

import numpy as np
import numpy.typing as npt

from half_fold.core.pictures.library.told import Told
from half_fold.core.publication.records import Picture

APART = 0.35  # near: so much of what there is to see differs at most, between them and a picture that is flat
QUIETEST = 1.5  # of a picture with hardly anything to see, in L*a*b*
LIGHTER = 22.0  # one frame of a row may be so much lighter or more coloured as a whole, in L*a*b*
SHAPE = 0.03  # and its sides' proportion differ by so much

Stack = tuple[Picture, ...]


def stacks(pictures: Sequence[Picture], told: Mapping[str, Told]) -> list[Stack]:
    """The pictures in stacks of near duplicates, the sharpest of each first; a stack may hold one alone.

    Each stack is gathered round its sharpest, so that a row of frames in which the view wanders does not become one.
    Cut-outs, drawings and pictures of which nothing is known yet stand alone. In the order of the pictures.
    """
    at = [n for n, p in enumerate(pictures) if not p.mask and not p.art and p.digest in told]
    at = [n for n in at if told[pictures[n].digest].parts]
    if not at:
        return [(picture,) for picture in pictures]
    near = _near([pictures[n] for n in at], told)
    sharp = np.array([told[pictures[n].digest].sharp for n in at])
    free = np.ones(len(at), bool)
    found: dict[int, Stack] = {n: (pictures[n],) for n in range(len(pictures)) if n not in set(at)}
    leaders = []
    for leader in np.argsort(-sharp, kind="stable"):
        if free[leader]:
            leaders.append(leader)
            free[np.isfinite(near[leader])] = False
    nearest = near[leaders].argmin(axis=0)  # one that is near to two leaders goes to the nearer
    for turn in range(len(leaders)):
        taken = np.flatnonzero(nearest == turn)
        if len(taken):
            ordered = taken[np.argsort(-sharp[taken], kind="stable")]
            found[at[int(taken.min())]] = tuple(pictures[at[n]] for n in ordered)
    return [found[n] for n in sorted(found)]


def format_stacks(gathered: Sequence[Stack], told: Mapping[str, Told]) -> dict[str, str]:
    """What is said of pictures that have near duplicates, by id: the sharpest of three; 61 % as sharp as that one."""
    said = {}
    for stack in gathered:
        first, rest = stack[0], stack[1:]
        if rest:
            said[first.id] = f"sharpest of {len(stack)}"
        best = told[first.digest].sharp if rest else 0.0
        for picture in rest:
            share = told[picture.digest].sharp / best if best else 1.0
            said[picture.id] = f"{share * 100:.0f} % as sharp"
    return said


def _near(pictures: Sequence[Picture], told: Mapping[str, Told]) -> npt.NDArray[np.float64]:
    """How far apart near duplicates are, infinite for others: by what their parts show, and by shape.

    Their light as a whole counts for nothing, as long as it is no other.
    """
    parts = np.array([told[picture.digest].parts for picture in pictures], np.float64)
    parts = parts.reshape(len(pictures), -1, 3)
    whole = parts.mean(axis=1)
    shown = (parts - whole[:, None]).reshape(len(pictures), -1) / np.sqrt(parts.shape[1])
    there_is = np.linalg.norm(shown, axis=1)
    shapes = np.log([picture.width / picture.height for picture in pictures])
    most = np.maximum(QUIETEST, APART * np.maximum(there_is[:, None], there_is[None]))
    apart = _distances(shown)
    near = (apart <= most) & (_distances(whole) <= LIGHTER) & (np.abs(shapes[:, None] - shapes[None]) <= SHAPE)
    return np.where(near, apart, np.inf)


def _distances(points: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """Between every two points, by their products: the differences of 600 by 600 pictures are never held at once."""
    squares = (points**2).sum(axis=1)
    between = np.maximum(squares[:, None] + squares[None] - 2 * points @ points.T, 0)
    np.fill_diagonal(between, 0)
    return np.asarray(np.sqrt(between), np.float64)

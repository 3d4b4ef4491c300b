"""Rules about pictures that together make one ground: no step shows where one ends on another."""

from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import ACCIDENT, Finding
from half_fold.core.measure.kept import kept_by
from half_fold.core.measure.length import figure
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.colour.colour import lab_of_picture
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.pictures.library.fit import placed
from half_fold.core.pictures.library.pyramid import STEPS, reduced
from half_fold.core.publication.records import Block, Group, HoldsPicture, Picture, Publication, Thing, Treatment
from half_fold.core.publication.surgery import picture_of
from half_fold.core.spread.setting.developed import treatment_of
from half_fold.core.spread.setting.forms import is_plain
from half_fold.core.spread.where.frames import block_box, spread_area, things_on

Floats = npt.NDArray[np.float64]
BESIDE = 1.5  # points on either side of an edge that are held against each other
STEP = 6.0  # CIE 1976 colour difference from where on a join is seen as a line
SAMPLES = 96
SEEN = 0.01  # what covers less is not there
LEAST = 20.0  # points: a shorter join is no line


class _Laid(NamedTuple):
    """A picture that lies unturned in its plain block: where, and its pixels as L*a*b* and cover."""

    block: str
    file: str
    box: Rect
    where: Rect
    flipped: bool
    pixels: Floats  # shape (high, wide, 4): L*, a*, b*, and how opaque from 0 to 1

    def at(self, xs: Floats, ys: Floats) -> Floats:
        """What is seen of it at places of the spread, an array of shape (places, 4); nothing beyond its block."""
        across, down = (xs - self.where.left) / self.where.width, (ys - self.where.top) / self.where.height
        across = 1 - across if self.flipped else across
        high, wide = self.pixels.shape[:2]
        rows = np.clip((down * high).astype(int), 0, high - 1)
        found = self.pixels[rows, np.clip((across * wide).astype(int), 0, wide - 1)]
        box = self.box
        inside = (xs >= box.left) & (xs <= box.right) & (ys >= box.top) & (ys <= box.bottom)
        seen: Floats = np.where(inside[:, None], found, found * (1, 1, 1, 0))
        return seen


def seams(context: Context) -> Iterator[Finding]:
    """A picture of a scene that ends with a step on the one it lies over, or beside."""
    if context.pictures is None:
        return
    for spread, _ in context.lists:
        trim = spread_area(context.publication, spread)
        for number, thing in things_on(context.publication, spread):
            laid = _laid_in(context.publication, context.pictures, number, thing)
            for each in laid[1:]:
                worst = max(_steps(each, laid, trim), default=0.0)
                if worst < STEP:
                    continue
                message = f"A seam shows where “{each.file}” ends"
                why = (
                    f"The colour steps by {figure(worst, 1)} (CIE 1976) across the join; {STEP:g} is seen as a line. "
                    "Let it melt away there (Seen), or bring both together in light and cast."
                )
                yield Finding("seam", ACCIDENT, message, why, False, number, each.block, each.box)


def _laid_in(publication: Publication, folder: Path, number: int, thing: Thing) -> list[_Laid]:
    """The pictures of a group, from back to front; none where it holds fewer than two."""
    blocks = _blocks(thing) if isinstance(thing, Group) and not thing.angle else []
    if len(blocks) < 2:
        return []
    out = []
    for block in blocks:
        assert isinstance(block.holds, HoldsPicture)
        picture, box = picture_of(publication, block.holds.picture), block_box(publication, number, block)
        pixels = _pixels(folder, picture, treatment_of(publication, block))
        if pixels is not None:
            out.append(
                _Laid(block.id, picture.file, box, placed(picture, block.holds, box), block.holds.flipped, pixels)
            )
    return out


def _blocks(group: Group) -> list[Block]:
    """The plain picture blocks of a group that lie upright, see-through ones left out."""
    out = []
    for member in group.members:
        holds = getattr(member, "holds", None)
        if not isinstance(member, Block) or not isinstance(holds, HoldsPicture) or member.angle or holds.turn:
            continue
        if is_plain(holds.form) and member.opacity == 100 and member.blend == "normal" and not holds.repeated:
            out.append(member)
    return out


def _pixels(folder: Path, picture: Picture, treatment: Treatment | None) -> Floats | None:
    try:
        path = picture_file(folder, picture)
        return _read(folder, path, picture, treatment, path.stat().st_mtime_ns)
    except (Problem, OSError):
        return None


@kept_by(24, lambda folder, path, *told: (str(folder), str(path), *told))
def _read(folder: Path, path: Path, picture: Picture, treatment: Treatment | None, _changed: int) -> Floats:
    image = shown_whole(reduced(path, picture.digest, STEPS[1]), folder, picture, treatment)
    cover = np.asarray(image.convert("RGBA").getchannel("A"), np.float64)[..., None] / 255
    return np.concatenate([lab_of_picture(image.convert("RGB")), cover], 2)


def _steps(each: _Laid, laid: list[_Laid], trim: Rect) -> Iterator[float]:
    """The step of colour over each edge of a picture that lies inside the page."""
    box = each.box
    for x in (box.left, box.right):
        if trim.left + BESIDE < x < trim.right - BESIDE:
            ys = np.linspace(max(box.top, trim.top), min(box.bottom, trim.bottom), SAMPLES)
            sides = [(np.full(SAMPLES, x + by), ys) for by in (-BESIDE, BESIDE)]
            yield _step(laid, sides, ys[-1] - ys[0])
    for y in (box.top, box.bottom):
        if trim.top + BESIDE < y < trim.bottom - BESIDE:
            xs = np.linspace(max(box.left, trim.left), min(box.right, trim.right), SAMPLES)
            sides = [(xs, np.full(SAMPLES, y + by)) for by in (-BESIDE, BESIDE)]
            yield _step(laid, sides, xs[-1] - xs[0])


def _step(laid: list[_Laid], sides: list[tuple[Floats, Floats]], long: float) -> float:
    """The middle of the colour differences along a join: a thing that ends there here and there is no seam."""
    (one, is_one), (other, is_other) = (_seen(laid, *places) for places in sides)
    joins = is_one & is_other
    if joins.mean() * long < LEAST:
        return 0.0
    return float(np.median(np.linalg.norm(one - other, axis=1)[joins]))


def _seen(laid: list[_Laid], xs: Floats, ys: Floats) -> tuple[Floats, npt.NDArray[np.bool_]]:
    """The colour that shows at places, the frontmost over those behind it, and whether any picture is there."""
    colour, there = np.tile((100.0, 0.0, 0.0), (len(xs), 1)), np.zeros(len(xs), bool)
    for each in laid:
        found = each.at(xs, ys)
        cover = found[:, 3:]
        colour = found[:, :3] * cover + colour * (1 - cover)
        there |= found[:, 3] > SEEN
    return colour, there

"""Rules about pictures: resolution, and whether their files are what they were."""

from collections.abc import Iterator
from functools import lru_cache, partial
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.checks.context import Context
from half_fold.core.checks.finding import REFUSED, SOFT, Finding, Fix
from half_fold.core.measure.length import figure
from half_fold.core.measure.rect import Rect
from half_fold.core.pictures.bring import digest_of
from half_fold.core.pictures.fit import GOOD_PPI, REFUSED_BELOW, SOFT_BELOW, effective_ppi, placed
from half_fold.core.publication.records import HoldsPicture, Publication
from half_fold.core.publication.surgery import cover_blocks, picture_of


def low_resolution(context: Context) -> Iterator[Finding]:
    """Too few pixels for the printed size: soft under two thirds of 300 ppi, refused under half."""
    for number, block, box in context.blocks:
        if not isinstance(block.holds, HoldsPicture):
            continue
        picture = picture_of(context.publication, block.holds.picture)
        ppi = effective_ppi(picture, placed(picture, block.holds, box))
        if ppi >= GOOD_PPI * SOFT_BELOW:
            continue
        refused = ppi < GOOD_PPI * REFUSED_BELOW
        message = f"“{picture.file}” prints at {figure(ppi, 0)} ppi"
        share = figure(100 * ppi / (GOOD_PPI * SOFT_BELOW), 0)
        good, least = figure(GOOD_PPI, 0), figure(GOOD_PPI * SOFT_BELOW, 0)
        why = (
            f"{good} ppi is good on coated paper and {least} just does; at {share} % of its present size it would, "
            "or take a larger picture. More pixels made from few add nothing."
        )
        consequence = REFUSED if refused else SOFT
        yield Finding("low resolution", consequence, message, why, refused, number, block.id, box)


@lru_cache(maxsize=512)
def _digest(path: Path, _changed: int, _size: int) -> str:
    return digest_of(path)


def changed_picture(context: Context) -> Iterator[Finding]:
    """A picture file that has gone, or is no longer the one that was brought in."""
    if context.pictures is None:
        return
    used: dict[str, tuple[int, str, Rect | None, str]] = {
        block.holds.picture: (number, block.id, box, "")
        for number, block, box in context.blocks
        if isinstance(block.holds, HoldsPicture)
    }
    for block in cover_blocks(context.publication):
        if isinstance(block.holds, HoldsPicture):
            used.setdefault(block.holds.picture, (0, "", None, "cover"))
    for picture in context.publication.pictures:
        if picture.id not in used:
            continue
        number, name, box, place = used[picture.id]
        path = context.pictures / picture.file
        try:
            state = path.stat()
        except OSError:
            why = "Without it the press cannot be made; put it back into the job's pictures folder."
            yield Finding(
                "missing picture",
                REFUSED,
                f"“{picture.file}” is missing",
                why,
                True,
                number,
                name,
                box,
                None,
                "",
                place,
            )
            continue
        digest = _digest(path, state.st_mtime_ns, state.st_size)
        if digest != picture.digest:
            why = "The file is not the one that was brought in; look at it where it stands, then take it as it is."
            fix = Fix("Take it as it is now", partial(_take, picture=picture.id, digest=digest))
            yield Finding(
                "changed picture",
                REFUSED,
                f"“{picture.file}” has changed",
                why,
                False,
                number,
                name,
                box,
                fix,
                "",
                place,
            )


def _take(publication: Publication, picture: str, digest: str) -> Publication:
    pictures = tuple(replace(p, digest=digest) if p.id == picture else p for p in publication.pictures)
    return replace(publication, pictures=pictures)

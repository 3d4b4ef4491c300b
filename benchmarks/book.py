"""Photo books drafted from made-up sets of 40, 120 and 400 pictures, held against rules a designer would state.

Printed: how long a draft takes against reading the pictures it is made of, and of each rule whether it holds.
"""

import time
from collections.abc import Iterator
from datetime import datetime, timedelta
from itertools import pairwise

import numpy as np
from msgspec.structs import replace
from PIL import Image

from half_fold.core.arrange.chapters import sequence
from half_fold.core.arrange.draft import Wishes, draft_book, planned, spread_pattern
from half_fold.core.brief.allowances import fold_loss
from half_fold.core.compiled.compiling import load
from half_fold.core.measure.entry import MM
from half_fold.core.pictures.library.fit import effective_ppi, placed, share_rect
from half_fold.core.pictures.library.told import Told
from half_fold.core.plan.bound import binding_report
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import Spread, spreads_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Block, HoldsPicture, Picture, Publication, Worth
from half_fold.core.publication.surgery import picture_of
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.where.frames import block_box, blocks_on, page_frame_of, spread_area

SETS = (40, 120, 400)
SHAPES = ((6000, 4000), (4000, 6000), (5200, 3900), (4000, 4000), (6000, 2600))
WORTHS: tuple[Worth, ...] = ("", "", "", "", "carries", "fills", "opens", "left out")


def made_up(count: int, seed: int) -> tuple[Publication, dict[str, Told]]:
    """A job with so many pictures of mixed shapes and worth over some days, faces in some, and what is told of them."""
    chance = np.random.default_rng(seed)
    when, pictures, told = datetime(2026, 9, 1, 8), [], {}
    for n in range(count):
        when += timedelta(minutes=float(chance.exponential(20)), hours=14 if chance.random() < 0.04 else 0)
        wide, high = SHAPES[chance.choice(len(SHAPES), p=(0.5, 0.25, 0.12, 0.08, 0.05))]
        picture = Picture(
            id=f"picture{n}", file=f"made-up-{n:03d}.jpg", width=wide, height=high, digest=f"made up {n}",
            worth=WORTHS[chance.integers(len(WORTHS))], caption=f"Picture {n}" if n % 3 else "",
        )  # fmt: skip
        pictures.append(picture)
        across, down = chance.uniform(0.2, 0.8, 2)
        faces = ((across - 0.06, down - 0.08, across + 0.06, down + 0.08),) if chance.random() < 0.4 else ()
        told[picture.digest] = Told(
            taken=f"{when:%Y-%m-%d %H:%M:%S}", sharp=float(chance.uniform(50, 400)), faces=faces,
            parts=tuple(chance.uniform(0, 100, 108)), focus=(round(across, 2), round(down, 2)),
        )  # fmt: skip
    job = set_values(start("photo-book", "Made up"), ["binding=boards"])
    return replace(job, pictures=tuple(pictures)), told


def run() -> None:
    load()
    reading = _reading()
    for count in SETS:
        job, told = made_up(count, count)
        wishes = Wishes(pace=55)
        began = time.perf_counter()
        plan = planned(job, told, wishes)
        made = draft_book(job, told, plan, wishes)
        took = time.perf_counter() - began
        print(f"book of {count}: {plan.words}")
        print(f"    drafted in {took:.1f} s, {took / (count * reading):.2f} x reading its pictures reduced")
        for rule, failing in rules(job, made, told).items():
            print(f"    {'holds' if not failing else 'FAILS'}  {rule}" + (f": {failing[0]}" if failing else ""))


def _reading() -> float:
    """Seconds that Pillow takes to read one 24-megapixel picture reduced."""
    import io

    chance = np.random.default_rng(1)
    small = Image.fromarray(chance.integers(0, 255, (200, 300, 3), dtype=np.uint8))
    octets = io.BytesIO()
    small.resize((6000, 4000), Image.Resampling.BICUBIC).save(octets, "JPEG", quality=90)
    began = time.perf_counter()
    for _ in range(5):
        image = Image.open(octets)
        image.draft("RGB", (2400, 1600))
        image.load()
    return (time.perf_counter() - began) / 5


def rules(job: Publication, made: Publication, told: dict[str, Told]) -> dict[str, list[str]]:
    """What a designer would ask of any photo book, each with what does not hold of it."""
    spreads = [spread for spread in spreads_of(made) if len(spread.numbers) == 2]
    return {
        "no neighbouring spreads of one pattern": list(_repeated(made, spreads)),
        "pictures that open are the largest of their spread": list(_smaller(made, spreads)),
        "the order of time is kept from spread to spread": list(_turned(made, spreads, told)),
        "faces and focus are clear of fold and trim": list(_lost(made, spreads, told)),
        "the extent can be bound": [binding_report(made).sentence] if binding_report(made).stops_press else [],
        "every picture that is to be used is used": list(_unused(job, made, told)),
        "no picture prints below 200 ppi": list(_coarse(made, spreads)),
    }


def _pictures_on(made: Publication, spread: Spread) -> list[tuple[int, Block, Picture, HoldsPicture]]:
    found = []
    for number, _, block in blocks_on(made, spread):
        if isinstance(block.holds, HoldsPicture):
            found.append((number, block, picture_of(made, block.holds.picture), block.holds))
    return found


def _repeated(made: Publication, spreads: list[Spread]) -> Iterator[str]:
    for one, other in pairwise(spreads):
        if spread_pattern(made, one) and spread_pattern(made, one) == spread_pattern(made, other):
            yield f"{one.label} and {other.label}"


def _smaller(made: Publication, spreads: list[Spread]) -> Iterator[str]:
    for spread in spreads:
        found = _pictures_on(made, spread)
        sizes = {picture.worth: [] for _, _, picture, _ in found}  # type: dict[str, list[float]]
        for number, block, picture, _ in found:
            box = block_box(made, number, block)
            sizes[picture.worth].append(box.width * box.height)
        rest = [size for worth, each in sizes.items() if worth != "opens" for size in each]
        if "opens" in sizes and rest and max(sizes["opens"]) < max(rest):
            yield spread.label


def _turned(made: Publication, spreads: list[Spread], told: dict[str, Told]) -> Iterator[str]:
    last = ""
    for spread in spreads:
        times = sorted(told[picture.digest].taken for _, _, picture, _ in _pictures_on(made, spread))
        opens = (
            any(not isinstance(block.holds, HoldsPicture) for _, _, block in blocks_on(made, spread))
            and len(times) == 1
        )
        if times and not opens:
            if times[0] < last:
                yield spread.label
            last = times[-1]


def _lost(made: Publication, spreads: list[Spread], told: dict[str, Told]) -> Iterator[str]:
    loss = fold_loss(made).value * MM
    for spread in spreads:
        fold, trim = page_frame_of(made, spread.numbers[0]).fold, spread_area(made, spread)
        for number, block, picture, holds in _pictures_on(made, spread):
            known, box = told[picture.digest], block_box(made, number, block)
            where = placed(replace(picture, keep_clear=known.faces), holds, box)
            shares = [*known.faces, (*known.focus, *known.focus)]
            for share in shares:
                rect = share_rect(share, holds.flipped, where)  # type: ignore[arg-type]  # four of them
                over = box.left < fold - 1 and box.right > fold + 1
                if over and rect.left < fold + loss - 0.6 and rect.right > fold - loss + 0.6:
                    yield f"{picture.file} on {spread.label}, in the fold"
                if rect.left < max(box.left, trim.left) - 1 or rect.right > min(box.right, trim.right) + 1:
                    yield f"{picture.file} on {spread.label}, cut"


def _unused(job: Publication, made: Publication, told: dict[str, Told]) -> Iterator[str]:
    out = {picture.id for picture, _ in sequence(job.pictures, told).left_out}
    used = used_pictures(made)
    yield from (picture.file for picture in job.pictures if picture.id not in out | used)


def _coarse(made: Publication, spreads: list[Spread]) -> Iterator[str]:
    for spread in spreads:
        for number, block, picture, holds in _pictures_on(made, spread):
            ppi = effective_ppi(picture, placed(picture, holds, block_box(made, number, block)))
            if ppi < 200:
                yield f"{picture.file} on {spread.label}, {ppi:.0f} ppi"

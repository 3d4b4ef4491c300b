"""Words over pictures, judged, and read by a machine that shares nothing with the measure (Debian's tesseract).

A word counts as read where it is among what is read, as a word or as a line, both sharp and blurred as from afar. A
machine parts greys that no eye would, so all it is shown has a grain, as dim light has. Printed: how well the score
ranks words that are read before words that are not (area under the curve), how many of those called good, risky and not
to be read are read, and how many once a remedy was taken. Nothing where there is no tesseract.
"""

import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from msgspec.structs import replace
from PIL import Image, ImageFilter

from benchmarks.desk import dressed
from half_fold.core.compiled.compiling import load
from half_fold.core.legibility.reading import Surface, read_surface
from half_fold.core.legibility.remedies import remedies
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import Block, HoldsPicture, Publication
from half_fold.core.publication.surgery import with_things
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.demo import HARVEST, make_demo

WORDS = ("orchard", "ladder", "windfall", "grafting", "harvest", "mallet", "hedgerow", "basket", "winter", "quarterly")
INKS, ROLES = ("paper", "black", "straw", "russet"), ("headline", "subhead", "standfirst", "crosshead")
ALL_OVER = Held(**{edge: Stop(kind="bleed") for edge in ("left", "top", "right", "bottom")})
PICTURES, EACH, DPI, REMEDIED = 8, 30, 150, 40
AFAR = 0.04  # ems, of the blur
GRAIN = 10  # of 255, its deviation


def run() -> None:
    reader = shutil.which("tesseract")
    if reader is None:
        print("reading: there is no tesseract here; Debian's tesseract-ocr has it")
        return
    load()
    dressed()
    chance = np.random.default_rng(11)
    with tempfile.TemporaryDirectory() as folder:
        job, pictures = _job(Path(folder))
        scores, was_read, mended = [], [], []
        for n in range(PICTURES * EACH):
            sheet, word = _placed(job, pictures, chance, job.pictures[n % PICTURES].id)
            found = read_surface(sheet)
            if not found.of("b2"):
                continue
            score = found.score("b2")
            scores.append(score)
            was_read.append(_is_read(reader, sheet, word, Path(folder)))
            if score < 4.5 and len(mended) < REMEDIED:
                ways = remedies(sheet, "b2")
                if ways:
                    mended.append(_is_read(reader, sheet.changed(ways[0].publication), word, Path(folder)))
    _tell(np.array(scores), np.array(was_read), mended)


def _tell(scores: np.ndarray, was_read: np.ndarray, mended: list[bool]) -> None:
    read_, unread = scores[was_read], scores[~was_read]
    area = float((read_[:, None] > unread[None]).mean() + 0.5 * (read_[:, None] == unread[None]).mean())
    print(f"reading {len(scores)} words: the score ranks them at {area:.3f}")
    for name, low, high in (("good", 4.5, np.inf), ("risky", 2.0, 4.5), ("not to be read", -np.inf, 2.0)):
        of = was_read[(scores >= low) & (scores < high)]
        print(f"    {name}: {len(of)} words, {100 * of.mean() if len(of) else 0:.0f} % read")
    print(f"    after the mildest remedy: {len(mended)} words, {100 * np.mean(mended) if mended else 0:.0f} % read")


def _job(folder: Path) -> tuple[Publication, Path]:
    """A magazine with pictures of the demo's."""
    file = make_demo(folder, HARVEST)
    job = set_values(start("magazine", "Reading"), ["pages=8"])
    for path in sorted((file.parent / "pictures").glob("*.jpg"))[: 3 * PICTURES : 3]:
        job, _ = bring_picture(job, folder / "pictures", path)
    return job, folder / "pictures"


def _placed(job: Publication, pictures: Path, chance: np.random.Generator, picture: str) -> tuple[Surface, str]:
    """A word somewhere on a page that a picture covers."""
    word = str(chance.choice(WORDS))
    words = replace(display_words(str(chance.choice(ROLES)), word), ink=str(chance.choice(INKS)))
    column, row = int(chance.integers(0, 3)), int(chance.integers(0, 7))
    place = Held(
        left=Stop(kind="field", index=column, count=6),
        top=Stop(kind="field", index=row, count=8),
        right=Stop(kind="field", index=min(column + 3, 5), count=6),
        bottom=Stop(kind="field", index=row, count=8),
    )
    things = (
        Block(id="b1", place=ALL_OVER, holds=HoldsPicture(picture=picture)),
        Block(id="b2", place=place, holds=words),
    )
    made = with_things(job, job.pages[1].id, lambda _: things)
    made = replace(made, pages=(made.pages[0], replace(made.pages[1], furniture="off"), *made.pages[2:]))
    return Surface(made, pictures, spread_of(made, 2), None, Setter()), word


def _is_read(reader: str, sheet: Surface, word: str, folder: Path) -> bool:
    """Whether the machine reads just that word where it stands."""
    from half_fold.desk.paint.proof import render

    found = read_surface(sheet).of("b2")
    area = found[0].area.grown(found[0].size * 0.6)
    dpi = max(DPI, 40 * 72 / found[0].size)
    render(sheet.marks(), area, sheet.job, sheet.folder, dpi).save(str(folder / "word.png"))
    sharp = Image.open(folder / "word.png").convert("RGB")
    afar = sharp.filter(ImageFilter.GaussianBlur(AFAR * found[0].size * dpi / 72))
    return all(any(word in told for told in _told(reader, _grained(image), folder)) for image in (sharp, afar))


def _grained(image: Image.Image) -> Image.Image:
    grain = np.random.default_rng(1).normal(0, GRAIN, (image.height, image.width, 1))
    return Image.fromarray(np.clip(np.asarray(image) + grain, 0, 255).astype(np.uint8))


def _told(reader: str, image: Image.Image, folder: Path) -> Iterator[str]:
    """The letters that the machine reads, taking it for a word, and for a line."""
    image.save(folder / "word.png")
    for way in ("8", "7"):
        told = subprocess.run(
            [reader, str(folder / "word.png"), "-", "--psm", way], capture_output=True, text=True, check=False
        ).stdout
        yield "".join(filter(str.isalpha, told)).lower()

"""Every kind of mark, each feature and their combinations: planes, press file and bench show the same inks."""

from collections.abc import Callable, Iterable, Sequence
from functools import cache
from pathlib import Path

import numpy as np
import numpy.typing as npt
import pikepdf
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.core.drawing.marks import Mark
from half_fold.core.drawing.overprint import Overprint
from half_fold.core.drawing.planes import Layer, Sources, on_paper
from half_fold.core.pictures.colour.colour import profile_for
from half_fold.core.pictures.colour.press_inks import to_press
from half_fold.core.pictures.library.bring import load_pixels
from half_fold.core.plan.starters import start
from half_fold.core.press.make import Writer
from half_fold.core.press.pdf.leaves import draw_page
from half_fold.core.press.sheets import Sheet, clip_whole
from half_fold.core.publication.records import Picture as PictureRecord
from half_fold.core.publication.records import PrinterSheet, Publication
from half_fold.core.typesetting.faces.faces import face
from tests.conftest import judge
from tests.press.corpus import CASE_NAMES, CASES, LISTS, SHEET, SPOTS

SCALE = 2.0  # pixels to the point
MEAN, HIGH = 0.0015, 0.007  # away from edges: the mean, and what 99 of 100 keep under: the judge rounds to 0.004
EDGE_MEAN = 0.03
Floats = npt.NDArray[np.float32]
Judged = dict[str, Floats]


@pytest.fixture(scope="module")
def job(tmp_path_factory: pytest.TempPathFactory) -> tuple[Publication, Path]:
    """Three pictures, smooth so that no resampling shows: in colour, cut out, and grey."""
    folder = tmp_path_factory.mktemp("pictures")
    y, x = np.mgrid[0:90:0.25, 0:120:0.25]
    colour = np.stack([60 + 160 * x / 120, 50 + 150 * y / 90, 120 + 50 * np.sin(x / 17)], 2).astype(np.uint8)
    alpha = np.where((x - 60) ** 2 / 2500 + (y - 45) ** 2 / 1200 < 1, 255, 0).astype(np.uint8)
    Image.fromarray(colour).save(folder / "p1.png")
    Image.fromarray(np.dstack([colour, alpha])).save(folder / "p2.png")
    Image.fromarray((x * 2).astype(np.uint8)).save(folder / "p3.png")
    pictures = tuple(
        PictureRecord(id=f"p{n}", file=f"p{n}.png", width=480, height=360, digest=str(n), has_alpha=n == 2)
        for n in (1, 2, 3)
    )
    return replace(start("magazine", "Corpus"), pictures=pictures), folder


def sources(job: Publication, folder: Path) -> Sources:
    profile = profile_for(job, job.brief.text_paper)

    def pixels(name: str) -> tuple[Floats, Floats]:
        made, alpha = to_press(load_pixels(folder / f"{name}.png"), profile)
        inks = np.asarray(made, np.float32) / 255
        if inks.ndim == 2:
            inks = np.dstack([np.zeros((*inks.shape, 3), np.float32), 1 - inks])
        opaque = np.ones(inks.shape[:2], np.float32) if alpha is None else np.asarray(alpha, np.float32) / 255
        return inks, opaque

    return Sources(lambda key, gid: face(key).outline(gid), pixels)


def _pressed(job: Publication, folder: Path, lists: Iterable[Sequence[Mark]], out: Path, black: Overprint) -> None:
    """A file of one page for each display list."""
    job = replace(job, printer=PrinterSheet(name="Wharf", overprint=black.of, overprint_to=f"{black.up_to:g}pt"))
    with pikepdf.new() as pdf:
        writer = Writer(pdf, job, folder, job.brief.text_paper, False)
        for marks in lists:
            writer.add(draw_page(Sheet("page", SHEET, SHEET, tuple(marks), clip_whole(SHEET)), writer.resources, False))
        writer.save(out, "Corpus")


@pytest.fixture(scope="module")
def judged(job: tuple[Publication, Path], tmp_path_factory: pytest.TempPathFactory) -> Callable[[Overprint], Judged]:
    """The plates of every list by a rule for black, all in one file: the judge takes longest to begin."""

    @cache
    def by(black: Overprint) -> Judged:
        names, folder = [name for name, rule in CASES if rule == black], tmp_path_factory.mktemp("plates")
        _pressed(*job, [LISTS[name] for name in names], folder / "x.pdf", black)
        return dict(zip(names, all_plates(folder / "x.pdf", folder, len(names)), strict=True))

    return by


def plates(pdf: Path, folder: Path) -> Floats:
    """The plates of a page as an outside judge makes them: inks and spots, an array of shape (high, wide, 6)."""
    return all_plates(pdf, folder, 1)[0]


def all_plates(pdf: Path, folder: Path, pages: int) -> list[Floats]:
    """Those of each page."""
    judge(
        "gs", "-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", "-r432", "-dDownScaleFactor=3",
        f"-sOutputFile={folder / 'plate%d.tif'}", pdf,
    )  # fmt: skip
    inks, every = ("Cyan", "Magenta", "Yellow", "Black", *SPOTS), []
    for page in range(1, pages + 1):
        made = [_plate(folder / f"plate{page}({name}).tif") for name in inks]
        there = next(plate for plate in made if plate is not None)
        every.append(np.stack([np.zeros_like(there) if plate is None else plate for plate in made], 2))
    return every


def _plate(file: Path) -> Floats | None:
    """None where there is no such plate: nothing is printed in that ink."""
    return 1 - np.asarray(Image.open(file).convert("L"), np.float32) / 255 if file.exists() else None


def away_from_edges(inks: Floats) -> npt.NDArray[np.bool_]:
    """Where nothing changes sharply within two pixels."""
    calm = np.ones(inks.shape[:2], np.bool_)
    for axis in (0, 1):
        steps = np.abs(np.diff(inks, axis=axis)).max(2) > 0.06
        calm[:-1, :] &= ~steps if axis == 0 else calm[:-1, :]
        if axis == 0:
            calm[1:, :] &= ~steps
        else:
            calm[:, :-1] &= ~steps
            calm[:, 1:] &= ~steps
    grown = calm.copy()
    for dy in (-2, -1, 0, 1, 2):
        for dx in (-2, -1, 0, 1, 2):
            grown &= np.roll(calm, (dy, dx), (0, 1))
    return grown


@pytest.mark.parametrize(("name", "black"), CASES, ids=CASE_NAMES)
def test_planes_and_press_file_lay_the_same_inks(
    job: tuple[Publication, Path], judged: Callable[[Overprint], Judged], name: str, black: Overprint
) -> None:
    found = judged(black)[name]
    laid = on_paper(Layer(SHEET, SCALE, sources(*job), spots=SPOTS, black=black).lay(list(LISTS[name])))
    assert found.shape == laid.shape
    off = np.abs(found - laid)
    calm = away_from_edges(found) & away_from_edges(laid)
    edges = off[~calm] if not calm.all() else np.zeros(1)
    told = [float(each) for each in (off[calm].mean(), np.quantile(off[calm], 0.99), edges.mean())]
    assert calm.mean() > 0.1 and told[0] < MEAN and told[1] < HIGH and told[2] < EDGE_MEAN, told

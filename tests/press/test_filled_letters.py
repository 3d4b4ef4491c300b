"""Words through which a picture is seen: live words in the press file, the picture in them and nowhere else."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace
from PIL import Image

from half_fold.core.checks.run import check
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_paths
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.publication.records import Look, Publication
from half_fold.core.publication.surgery import with_things
from half_fold.core.publication.used import laid_pictures, used_pictures
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.setting.compose import Setter
from half_fold.desk.paint.proof import render
from tests.blocks import block_over
from tests.conftest import judge

DPI = 150


@pytest.fixture
def filled(tmp_path: Path) -> tuple[Publication, Path]:
    """A page with large words, green in their upper half and violet in their lower one."""
    job = set_values(start("magazine", "Graftwood"), ["pages=8"])
    pixels = np.zeros((800, 1600, 3), np.uint8)
    pixels[:400], pixels[400:] = (60, 160, 70), (120, 60, 150)
    Image.fromarray(pixels).save(tmp_path / "ground.png")
    job, picture = bring_picture(job, tmp_path / "pictures", tmp_path / "ground.png")
    job = replace(job, looks=(Look(name="windows", picture=picture.id),))
    words = replace(display_words("masthead", "Orchard"), even=True)
    block = replace(block_over("b1", words, (0, 5), (1, 3)), look="windows")
    job = with_things(job, job.pages[0].id, lambda _: (block,))
    return replace(job, pages=(replace(job.pages[0], furniture="off"), *job.pages[1:])), tmp_path / "pictures"


def test_they_are_read_back_and_show_the_picture_in_the_letters_alone(
    filled: tuple[Publication, Path], tmp_path: Path
) -> None:
    job, pictures = filled
    out = tmp_path / "x.pdf"
    press(job, pictures, out, part="1")
    assert "Orchard" in judge("pdftotext", out, "-")
    judge("pdftoppm", "-r", str(DPI), "-png", "-singlefile", out, tmp_path / "x")
    seen = np.asarray(Image.open(tmp_path / "x.png").convert("RGB"), float)
    inked = seen.min(axis=2) < 200
    rows = np.flatnonzero(inked.any(axis=1))
    middle = (rows[0] + rows[-1]) // 2
    upper, lower = seen[: middle - 4][inked[: middle - 4]].mean(0), seen[middle + 4 :][inked[middle + 4 :]].mean(0)
    assert upper[1] > upper[0] + 40 and upper[1] > upper[2] + 30  # green
    assert lower[2] > lower[1] + 40  # violet
    assert 0.02 < inked.mean() < 0.3 and inked.mean() < 0.6 * inked[rows[0] : rows[-1]].mean()
    dark = seen.max(axis=2) < 60  # the words' own black is seen nowhere
    assert dark.sum() < 0.002 * inked.sum()


def test_bench_and_press_agree_and_nothing_is_found(filled: tuple[Publication, Path], tmp_path: Path) -> None:
    job, pictures = filled
    marks = Setter().spread(job, spread_of(job, 1))
    image = render(marks, marks.area, job, pictures, DPI)
    image.save(str(tmp_path / "bench.png"))
    bench = np.asarray(Image.open(tmp_path / "bench.png").convert("RGB"), float)
    press(job, pictures, tmp_path / "x.pdf", part="1")
    judge("pdftoppm", "-r", str(DPI), "-png", "-singlefile", tmp_path / "x.pdf", tmp_path / "x")
    pressed = np.asarray(Image.open(tmp_path / "x.png").convert("RGB"), float)
    share = [(page.min(axis=2) < 200).sum() for page in (bench, pressed)]
    assert share[0] == pytest.approx(share[1], rel=0.03)
    assert {finding.rule for finding in check(job, Setter(), pictures)} <= {"copy thickness"}


def test_the_picture_of_a_look_is_used_and_is_set_by_its_path(filled: tuple[Publication, Path]) -> None:
    job, _ = filled
    name = job.pictures[0].id
    assert used_pictures(job) == {name} and laid_pictures(job) == job.pictures
    bare = set_paths(job, ["look.windows.picture=none"])
    assert used_pictures(bare) == set() and set_paths(bare, [f"look.windows.picture={name}"]).looks == job.looks
    outlined = set_paths(job, ["look.windows.outline=1pt"])
    assert [line.weight for line in outlined.looks[0].contours] == [length("1pt")]
    with pytest.raises(Problem, match="picture"):
        set_paths(job, ["look.windows.picture=nothing-such"])

"""Where the subject of a picture is likely to be, and the focus set on it: a proposal, from the line and in words."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageFilter

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.subject import subject_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPanel, HoldsPicture
from half_fold.core.publication.surgery import block_ids, block_named
from half_fold.core.spread.framing.reframing import focus_on
from half_fold.core.spread.framing.subjects import aim_all_at_subjects, aim_at_subject
from half_fold.core.store.job import create_job, open_job
from tests.blocks import block_over


def scene(across: float, down: float, wide: int = 400, high: int = 300, seed: int = 1) -> Image.Image:
    """A soft ground with a little grain, and a red and white ball on it."""
    rng = np.random.default_rng(seed)
    y, x = np.mgrid[0:high, 0:wide].astype(float)
    ground = np.stack([90 + 40 * y / high, 110 + 20 * x / wide, 100 + 10 * y / high], 2)
    image = ground + rng.normal(0, 4, ground.shape)
    ball = (x - across * wide) ** 2 + (y - down * high) ** 2 < (0.09 * high) ** 2
    stripes = ball & (((x + y) // 9) % 2 < 1)
    image[ball], image[stripes] = (200, 40, 30), (240, 235, 220)
    return Image.fromarray(np.clip(image, 0, 255).astype(np.uint8)).filter(ImageFilter.GaussianBlur(0.7))


@settings(max_examples=40, deadline=None)
@given(
    st.floats(0.2, 0.8), st.floats(0.2, 0.8), st.sampled_from([(400, 300), (300, 400), (400, 130)]), st.integers(1, 9)
)
def test_a_thing_on_a_quiet_ground_is_found_wherever_it_lies(
    across: float, down: float, size: tuple[int, int], seed: int
) -> None:
    found = subject_of(scene(across, down, *size, seed))
    assert found == pytest.approx((across, down), abs=0.09)


@pytest.mark.parametrize("mode", ["RGB", "L", "RGBA", "CMYK", "P"])
def test_it_is_found_in_every_kind_of_picture(mode: str) -> None:
    assert subject_of(scene(0.7, 0.35).convert(mode)) == pytest.approx((0.7, 0.35), abs=0.1)


@pytest.mark.parametrize("size", [(1, 1), (3, 200), (200, 1), (60, 60)])
def test_a_plain_picture_is_looked_at_in_its_middle(size: tuple[int, int]) -> None:
    assert subject_of(Image.new("RGB", size, (120, 130, 90))) == (0.5, 0.5)


def test_a_picture_seen_in_a_mirror_has_its_subject_mirrored() -> None:
    image = scene(0.3, 0.4)
    one, other = subject_of(image), subject_of(image.transpose(Image.Transpose.FLIP_LEFT_RIGHT))
    assert (1 - other[0], other[1]) == pytest.approx(one, abs=0.02)


def test_the_focus_goes_there_and_stays_where_it_is_locked(tmp_path: Path) -> None:
    from half_fold.core.pictures.library.bring import bring_picture

    scene(0.7, 0.35).save(tmp_path / "ball.png")
    folder = tmp_path / "pictures"
    folder.mkdir()
    job, picture = bring_picture(start("magazine", "Focus"), folder, tmp_path / "ball.png")
    blocks = (
        block_over("b", HoldsPicture(picture=picture.id), (0, 2), (0, 3)),
        replace(block_over("k", HoldsPicture(picture=picture.id), (0, 2), (4, 6)), locked=True),
        block_over("w", HoldsPanel(ink="straw"), (3, 5), (0, 3)),
    )
    job = replace(job, pages=(replace(job.pages[0], things=blocks), *job.pages[1:]))
    aim_all_at_subjects(job, folder)  # reduced copies are kept now, and read the same from here on
    made, found = aim_all_at_subjects(job, folder)
    holds, kept = block_named(made, "b").holds, block_named(made, "k")
    assert isinstance(holds, HoldsPicture) and kept == blocks[1]
    assert found == {"ball.png": (holds.focus_x, holds.focus_y)}
    assert found["ball.png"] == pytest.approx((0.7, 0.35), abs=0.09)
    assert aim_at_subject(job, folder, "b") == made
    assert aim_all_at_subjects(made, folder)[0] is made, "there already"
    for name, why in (("k", "locked"), ("w", "no picture")):
        with pytest.raises(Problem, match=why):
            aim_at_subject(job, folder, name)
        with pytest.raises(Problem, match=why):
            focus_on(job, name, (0.5, 0.5))
    with pytest.raises(Problem, match="no picture that is laid"):
        aim_all_at_subjects(job, folder, ["pear.png"])
    (folder / "ball.png").unlink()


def test_from_the_command_line(demo: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["focus", str(demo), "the-pear.jpg"]) == 0
    said = capsys.readouterr().out
    assert said.startswith("the-pear.jpg: ") and said.count("\n") == 1
    job = open_job(demo, to_write=False)
    by = {p.id: p.file for p in job.publication.pictures}
    holds = [block_named(job.publication, name).holds for name in block_ids(job.publication)]
    moved = {by[h.picture] for h in holds if isinstance(h, HoldsPicture) and (h.focus_x, h.focus_y) != (0.5, 0.5)}
    assert "the-pear.jpg" in moved
    assert main(["focus", str(demo)]) == 0
    assert capsys.readouterr().out.count("% from the head") > 5
    bare = create_job(demo.parent / "bare", start("magazine", "Bare"))
    assert main(["focus", str(bare)]) == 0
    assert "nothing has changed" in capsys.readouterr().out
    assert main(["focus", str(demo), "nothing.jpg"]) == 2
    assert "no picture that is laid" in capsys.readouterr().err

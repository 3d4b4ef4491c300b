"""Near duplicates gathered in stacks, the sharpest first: frames of one scene, and scenes that are not one."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PIL import Image, ImageEnhance, ImageFilter

from half_fold.cli import main
from half_fold.core.pictures.library.choosing import chosen
from half_fold.core.pictures.library.stacks import format_stacks, stacks
from half_fold.core.pictures.library.told import Told, told_of_all
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Picture
from half_fold.core.store.job import create_job

FRAMES = ("0", "moved", "closer", "dark", "warm", "soft", "small")


def scene(seed: int) -> Image.Image:
    """A ground, a horizon and some round things, with grain: another for every seed."""
    rng = np.random.default_rng(seed)
    down, across = np.mgrid[0:400, 0:600]
    picture = np.zeros((400, 600, 3))
    horizon = rng.uniform(120, 300)
    for where in (down < horizon, down >= horizon):
        picture[where] = rng.uniform(40, 220, 3)
    for _ in range(5):
        x, y, r = rng.uniform(0, 600), rng.uniform(0, 400), rng.uniform(40, 130)
        picture[(across - x) ** 2 + (down - y) ** 2 < r * r] = rng.uniform(0, 255, 3)
    return Image.fromarray(np.clip(picture + rng.normal(0, 12, picture.shape), 0, 255).astype(np.uint8))


def frame(image: Image.Image, kind: str) -> Image.Image:
    wide, high = image.size
    ways = {
        "moved": lambda: image.crop((18, 10, wide, high)).resize((wide, high)),
        "closer": lambda: image.crop((12, 8, wide - 12, high - 8)).resize((wide, high)),
        "dark": lambda: ImageEnhance.Brightness(image).enhance(0.8),
        "warm": lambda: Image.fromarray((np.asarray(image) * (1, 0.97, 0.88)).astype(np.uint8)),
        "soft": lambda: image.filter(ImageFilter.GaussianBlur(3)),
        "small": lambda: image.resize((wide // 2, high // 2)),
    }  # fmt: skip
    return ways[kind]() if kind in ways else image


@pytest.fixture(scope="module")
def shoot(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, list[Picture]]:
    """Eight scenes of seven frames each, in a folder: the name of a file begins with its scene."""
    folder = tmp_path_factory.mktemp("shoot")
    pictures = []
    for seed in range(8):
        for kind in FRAMES:
            image, name = frame(scene(seed), kind), f"{seed}-{kind}.png"
            image.save(folder / name)
            pictures.append(
                Picture(id=f"{seed}{kind}", file=name, width=image.width, height=image.height, digest=f"stack-{name}")
            )
    return folder, pictures


def test_frames_of_a_scene_are_one_stack_and_scenes_are_not(shoot: tuple[Path, list[Picture]]) -> None:
    folder, pictures = shoot
    told = told_of_all(folder, pictures)
    found = stacks(pictures, told)
    assert [{picture.file[0] for picture in stack} for stack in found] == [{str(seed)} for seed in range(8)]
    assert all(len(stack) == len(FRAMES) for stack in found)
    for stack in found:
        sharp = [told[picture.digest].sharp for picture in stack]
        assert sharp == sorted(sharp, reverse=True) and stack[-1].file.endswith("soft.png")
    said = format_stacks(found, told)
    assert len(said) == 56 and list(said.values()).count("sharpest of 7") == 8
    assert all(said[f"{seed}soft"].endswith(" % as sharp") for seed in range(8))


def test_one_of_each_and_those_alike_are_shown(shoot: tuple[Path, list[Picture]]) -> None:
    folder, pictures = shoot
    told = told_of_all(folder, pictures)
    alone = Picture(id="x", file="x.png", width=500, height=500, digest="unknown")
    every = [*pictures, alone]
    one = chosen(every, told, (), show="one of each")
    assert len(one) == 9 and one[-1] is alone
    alike = chosen(every, told, (), show="alike")
    assert len(alike) == 56 and alone not in alike
    without = [replace(p, worth="left out") if p is one[0] else p for p in every]
    assert chosen(without, told, (), show="one of each")[0].id == alike[1].id, "the next in sharpness comes"
    cut = replace(pictures[0], id="cut", mask="a.png")
    drawn = replace(pictures[0], id="drawn", worth="")
    assert stacks([pictures[0], cut], told) == [(pictures[0],), (cut,)], "a cut-out stands alone"
    assert stacks([pictures[0], drawn], told) == [(pictures[0], drawn)]


PARTS = st.lists(st.floats(0, 100), min_size=108, max_size=108).map(tuple)


@given(st.lists(st.tuples(PARTS, st.floats(0, 900), st.integers(1, 3)), max_size=8))
def test_every_picture_is_in_one_stack_with_its_sharpest_first(
    given_: list[tuple[tuple[float, ...], float, int]],
) -> None:
    told = {f"{at}": Told(parts=parts, sharp=sharp) for at, (parts, sharp, _) in enumerate(given_)}
    pictures = [
        Picture(id=f"p{at}", file=f"{at}.jpg", width=100 * shape, height=100, digest=f"{at}")
        for at, (_, _, shape) in enumerate(given_)
    ]
    found = stacks(pictures, told)
    assert sorted(picture.id for stack in found for picture in stack) == [picture.id for picture in pictures]
    for stack in found:
        assert len({picture.width for picture in stack}) == 1
        assert told[stack[0].digest].sharp == max(told[picture.digest].sharp for picture in stack)
    firsts = [min(pictures.index(picture) for picture in stack) for stack in found]
    assert firsts == sorted(firsts)


def test_plain_pictures_of_other_colours_are_not_alike() -> None:
    told = {
        name: Told(parts=parts * 36)
        for name, parts in {"sky": (70.0, -5.0, -30.0), "wall": (72.0, 4.0, 20.0), "sky2": (71.0, -5.0, -29.0)}.items()
    }
    pictures = [Picture(id=name, file=name, width=3, height=2, digest=name) for name in told]
    assert [[picture.id for picture in stack] for stack in stacks(pictures, told)] == [["sky", "sky2"], ["wall"]]


def test_a_contact_sheet_of_one_of_each(
    shoot: tuple[Path, list[Picture]], tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    folder, _ = shoot
    path = create_job(tmp_path / "shoot", start("magazine", "Shoot"))
    for seed in (0, 1):
        for kind in FRAMES:
            assert main(["place", str(path), "--picture", str(folder / f"{seed}-{kind}.png")]) == 0
    assert main(["contact", str(path), str(tmp_path / "a.pdf"), "--one-of-each"]) == 0
    assert "2 pictures" in capsys.readouterr().out.splitlines()[-1]

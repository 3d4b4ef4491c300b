"""The demo jobs that ship: both open whole, and the photographs are what a day's photographs are."""

from pathlib import Path

import pytest
from PIL import Image

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.pictures.stacks import stacks
from half_fold.core.pictures.told import told_of_all
from half_fold.core.publication.records import Group, HoldsPicture, Publication, Treatment
from half_fold.core.publication.surgery import used_pictures
from half_fold.core.spread.compose import Setter
from half_fold.core.store.demo import make_demos
from half_fold.core.store.job import read


@pytest.fixture(scope="module")
def demos(tmp_path_factory: pytest.TempPathFactory) -> list[Path]:
    return make_demos(tmp_path_factory.mktemp("demos"))


def _of(file: Path) -> tuple[Publication, Path]:
    return read(file), file.parent / "pictures"


def test_nothing_is_found_in_the_magazine_nor_in_the_photo_book(demos: list[Path]) -> None:
    magazine, pictures = _of(demos[0])
    assert not check(magazine, Setter(), pictures)
    book, pictures = _of(demos[1])
    assert not check(book, Setter(), pictures)
    assert len(book.pictures) == 30 and len(used_pictures(book)) > 15
    assert all((pictures / picture.file).is_file() for picture in book.pictures)


def test_the_magazine_has_a_scene_and_what_is_cut_out_stands_before_it(demos: list[Path]) -> None:
    magazine, pictures = _of(demos[0])
    page = next(page for page in magazine.pages if any(isinstance(t, Group) and t.name == "Scene" for t in page.things))
    scene = next(thing for thing in page.things if isinstance(thing, Group))
    seen = [(m.holds.treatment or Treatment()).seen for m in scene.members]  # type: ignore[union-attr]
    assert scene.locked and seen[0] is None and all(region is not None for region in seen[1:])
    facing = magazine.pages[magazine.pages.index(page) + 1]
    blocks = (*page.blocks, *facing.blocks)
    held = [block.holds.picture for block in blocks if isinstance(block.holds, HoldsPicture)]
    masks = [picture.mask for picture in magazine.pictures if picture.id in held and picture.mask]
    assert len(masks) == 1 and (pictures.parent / "masks" / masks[0]).is_file()


def test_the_photographs_tell_their_time_and_near_duplicates_are_gathered(demos: list[Path]) -> None:
    book, pictures = _of(demos[1])
    told = told_of_all(pictures, book.pictures)
    times = [told[picture.digest].taken for picture in book.pictures]
    assert {time[:10] for time in times} == {"2026-10-03", "2026-10-04"} and len(set(times)) == 30
    assert all(picture.caption and picture.credit for picture in book.pictures)
    gathered = [stack for stack in stacks(book.pictures, told) if len(stack) > 1]
    assert any({p.file[10:12] for p in stack} >= {"02", "04"} for stack in gathered)
    assert any({p.file[10:12] for p in stack} >= {"08", "09"} for stack in gathered)
    sizes = {Image.open(pictures / picture.file).size for picture in book.pictures}
    assert min(min(size) for size in sizes) < 600 < 2500 < max(max(size) for size in sizes)


def test_both_are_made_by_the_command(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["demo", str(tmp_path / "d"), "--no-window"]) == 0
    files = capsys.readouterr().out.split()
    assert [Path(file).stem for file in files] == ["graftwood", "harvest-at-long-acre"]
    assert all(Path(file).is_file() for file in files)

"""The demo jobs that ship: all open whole, and the photographs are what a day's photographs are."""

from pathlib import Path

import pytest
from PIL import Image

from half_fold.cli import main
from half_fold.core.checks.run import check
from half_fold.core.cover.surfaces import surface_of_side
from half_fold.core.cover.trials.trial import TRIALS, tried
from half_fold.core.legibility.reading import read_surface as read_cover
from half_fold.core.legibility.verdicts import UNREADABLE
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.stacks import stacks
from half_fold.core.pictures.library.told import told_of_all
from half_fold.core.publication.records import Group, HoldsBarcode, HoldsPicture, HoldsStory, Publication, Treatment
from half_fold.core.publication.used import used_pictures
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.demo import make_demos
from half_fold.core.store.job import read


@pytest.fixture(scope="module")
def demos(tmp_path_factory: pytest.TempPathFactory) -> list[Path]:
    return make_demos(tmp_path_factory.mktemp("demos"))


def _of(file: Path) -> tuple[Publication, Path]:
    return read(file), file.parent / "pictures"


@pytest.mark.parametrize("which", range(4))
def test_nothing_is_found_in_any_and_all_that_is_on_their_covers_reads_well(demos: list[Path], which: int) -> None:
    job, pictures = _of(demos[which])
    assert not check(job, Setter(), pictures)
    told = read_cover(surface_of_side(job, pictures, "outside", Setter()))
    assert told.words and min(word.score for word in told.words) >= UNREADABLE
    assert all((pictures / picture.file).is_file() for picture in job.pictures)
    assert job.kind == "photo-book" or sum(bool(page.runs) for page in job.pages) > 0.7 * len(job.pages)


@pytest.mark.parametrize("which", range(4))
def test_every_trial_that_its_binding_allows_shows_its_cover(demos: list[Path], which: int) -> None:
    job, pictures = _of(demos[which])
    refused = []
    for trial in TRIALS:
        try:
            seen = tried(job, pictures, Setter(), trial.name, 300, 200)
        except Problem:
            refused.append(trial.name)
        else:
            assert seen.figures and seen.pixels.std() > 5, trial.name
    assert refused in ([], ["jacket"], ["shelf", "jacket"])


def test_the_paperback_has_flaps_a_mark_on_its_spine_and_a_blurb_that_runs_round_a_pear(demos: list[Path]) -> None:
    book, _ = _of(demos[2])
    assert book.brief.flap and book.cover.front_flap and book.cover.back_flap
    assert [piece.stands for piece in book.cover.pieces] == ["start", "middle", "end"] and book.cover.pieces[2].picture
    assert {type(thing.holds) for thing in book.cover.back} >= {HoldsStory, HoldsBarcode}  # type: ignore[union-attr]


def test_the_photo_book_uses_what_was_worth_it(demos: list[Path]) -> None:
    book, pictures = _of(demos[1])
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


def test_all_are_made_by_the_command(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["demo", str(tmp_path / "d"), "--no-window"]) == 0
    files = capsys.readouterr().out.split()
    assert [Path(file).stem for file in files] == [
        "graftwood",
        "harvest-at-long-acre",
        "the-pruning-year",
        "the-bare-root-list",
    ]
    assert all(Path(file).is_file() for file in files)

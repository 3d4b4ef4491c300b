"""Folders of pictures brought in: in the order of their names, links and other files left alone."""

from pathlib import Path

import pytest
from PIL import Image

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.folders import is_job, with_folders
from half_fold.core.plan.starters import start
from half_fold.core.store.job import create_job, read


def _folder(tmp_path: Path) -> Path:
    folder = tmp_path / "photographs"
    for name in ("b.png", "A.JPG", "deeper/c.webp", "deeper/words.txt", ".hidden.png"):
        path = folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.suffix == ".txt":
            path.write_text("no picture")
        else:
            Image.new("RGB", (30, 20), (len(name) * 9, 40, 60)).save(path)
    (folder / "link.png").symlink_to(tmp_path)
    (folder / "again").symlink_to(folder)
    return folder


def test_a_folder_is_its_pictures_by_name(tmp_path: Path) -> None:
    folder = _folder(tmp_path)
    one = folder / "b.png"
    assert with_folders([one, folder]) == [one, folder / "A.JPG", folder / "b.png", folder / "deeper/c.webp"]


def test_a_folder_without_pictures_is_said_and_so_is_one_that_cannot_be_read(tmp_path: Path) -> None:
    (tmp_path / "empty").mkdir()
    with pytest.raises(Problem, match="no pictures in “empty”"):
        with_folders([tmp_path / "empty"])
    assert with_folders([tmp_path / "gone.png"]) == [tmp_path / "gone.png"], (
        "what is no folder is told of when it is read"
    )


def test_a_job_is_no_folder_of_pictures(tmp_path: Path) -> None:
    job = create_job(tmp_path / "job", start("magazine", "Job"))
    assert is_job(job.parent) and not is_job(_folder(tmp_path)) and not is_job(tmp_path / "gone")


def test_a_folder_is_placed_from_the_command_line(tmp_path: Path) -> None:
    job = create_job(tmp_path / "job", start("magazine", "Job"))
    assert main(["place", str(job), "--picture", str(_folder(tmp_path))]) == 0
    assert [picture.file for picture in read(job).pictures] == ["A.jpg", "b.png", "c.webp"]
    (tmp_path / "empty").mkdir()
    assert main(["place", str(job), "--picture", str(tmp_path / "empty")]) == 2

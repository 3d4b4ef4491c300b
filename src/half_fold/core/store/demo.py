"""The demo job: copied from what ships with the program."""

import shutil
from importlib.resources import files
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.store.codec import decode
from half_fold.core.store.job import SUFFIX, create_job

DEMO = "graftwood"


def make_demo(folder: Path) -> Path:
    """Make FOLDER/graftwood/graftwood.halffold and give its path. Problem where that cannot be."""
    source = Path(str(files("half_fold.data").joinpath("demo")))
    if folder.is_file():
        raise Problem(f"“{folder}” is a file; name a folder for the demo.")
    publication = decode((source / f"{DEMO}{SUFFIX}").read_bytes(), DEMO)

    def fill(made: Path) -> None:
        for picture in publication.pictures:
            shutil.copyfile(source / "pictures" / picture.file, made / "pictures" / picture.file)

    return create_job(folder / DEMO, publication, fill)

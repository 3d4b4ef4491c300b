"""The demo jobs: copied from what ships with the program."""

import shutil
from collections.abc import Iterator
from importlib.resources import files
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.store.codec import decode
from half_fold.core.store.files import SUFFIX
from half_fold.core.store.job import create_job

DEMO, HARVEST, BOOK, LIST = "graftwood", "harvest-at-long-acre", "the-pruning-year", "the-bare-root-list"
_SHIPPED = {DEMO: "demo", HARVEST: "harvest", BOOK: "book", LIST: "list"}  # where each lies in the program's data


def make_demo(folder: Path, name: str = DEMO) -> Path:
    """Make FOLDER/NAME/NAME.halffold and give its path. Problem where that cannot be."""
    data = Path(str(files("half_fold.data")))
    source = data / _SHIPPED[name]
    if folder.is_file():
        raise Problem(f"“{folder}” is a file; name a folder for the demo.")
    publication = decode((source / f"{name}{SUFFIX}").read_bytes(), name)

    def fill(made: Path) -> None:
        for file in _files_of(publication, data, source):
            there = made / file.parent.name / file.name
            there.parent.mkdir(exist_ok=True)
            shutil.copyfile(file, there)

    return create_job(folder / name, publication, fill)


def _files_of(publication: Publication, data: Path, source: Path) -> Iterator[Path]:
    """The pictures of a demo, each shipped once though several jobs have it, and its masks."""
    homes = [source, *(data / each for each in _SHIPPED.values())]
    for picture in publication.pictures:
        yield next(file for home in homes if (file := home / "pictures" / picture.file).is_file())
    yield from sorted((source / "masks").glob("*.*"))


def make_demos(folder: Path) -> list[Path]:
    """Make all of them in a folder: the magazine, the photo book, the paperback and the catalogue."""
    return [make_demo(folder, name) for name in _SHIPPED]

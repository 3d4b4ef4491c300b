"""The demo jobs: copied from what ships with the program."""

import shutil
from importlib.resources import files
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.store.codec import decode
from half_fold.core.store.job import SUFFIX, create_job

DEMO, HARVEST = "graftwood", "harvest-at-long-acre"
_SHIPPED = {DEMO: "demo", HARVEST: "harvest"}  # in which folder of the program's data each lies


def make_demo(folder: Path, name: str = DEMO) -> Path:
    """Make FOLDER/NAME/NAME.halffold and give its path. Problem where that cannot be."""
    source = Path(str(files("half_fold.data").joinpath(_SHIPPED[name])))
    if folder.is_file():
        raise Problem(f"“{folder}” is a file; name a folder for the demo.")
    publication = decode((source / f"{name}{SUFFIX}").read_bytes(), name)

    def fill(made: Path) -> None:
        for kept in ("pictures", "masks"):
            for file in sorted((source / kept).glob("*.*")) if (source / kept).is_dir() else ():
                (made / kept).mkdir(exist_ok=True)
                shutil.copyfile(file, made / kept / file.name)

    return create_job(folder / name, publication, fill)


def make_demos(folder: Path) -> list[Path]:
    """Make all of them in a folder: the magazine, and the photo book whose pictures are still to be laid."""
    return [make_demo(folder, name) for name in (DEMO, HARVEST)]

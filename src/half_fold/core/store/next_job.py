"""A job folder for the next number: what it still holds is copied from the job before."""

import shutil
from pathlib import Path

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Publication
from half_fold.core.store.job import create_job

FOLDERS = ("pictures", "fonts", "masks")


def create_next(folder: Path, publication: Publication, before: Path) -> Path:
    """Make the folder of the next number, with the pictures and fonts that it names; gives the path of its file.

    ``publication`` is the next number, ``before`` the folder of the job it follows. Problem unless ``folder`` is absent
    or empty, or where a file that is named has gone.
    """

    def fill(made: Path) -> None:
        named = {
            "pictures": [picture.file for picture in publication.pictures],
            "fonts": [font.file for font in publication.fonts],
            "masks": [picture.mask for picture in publication.pictures if picture.mask],
        }
        for kind in FOLDERS:
            for name in named[kind]:
                file = before / kind / name
                if not file.is_file():
                    raise Problem(f"“{name}” has gone from the {kind} of “{before.name}”; put it back first.")
                (made / kind).mkdir(exist_ok=True)
                shutil.copyfile(file, made / kind / name)

    return create_job(folder, publication, fill)

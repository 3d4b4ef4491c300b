"""A job folder for the next number: what it still holds is copied from the job before."""

import shutil
from pathlib import Path

from half_fold.core.publication.own_files import own_files
from half_fold.core.publication.records import Publication
from half_fold.core.store.files import own_file, own_folder_of
from half_fold.core.store.job import create_job


def create_next(folder: Path, publication: Publication, before: Path) -> Path:
    """Make the folder of the next number, with the pictures and fonts that it names; gives the path of its file.

    ``publication`` is the next number, ``before`` the folder of the job it follows. Problem unless ``folder`` is absent
    or empty, or where a file that is named has gone.
    """

    def fill(made: Path) -> None:
        for file in dict.fromkeys(own_files(publication)):
            source = own_file(before / file.folder, file.name, file.what)
            shutil.copyfile(source, own_folder_of(made, file.folder) / file.name)

    return create_job(folder, publication, fill)

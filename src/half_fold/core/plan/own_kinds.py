"""Kinds of one's own: a job kept without what was that issue's own, to start others from."""

import shutil
from collections.abc import Sequence
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.plan.next_number import begin_next_number
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import KINDS, format_kind, start
from half_fold.core.publication.records import Publication
from half_fold.core.store.files import within_octets
from half_fold.core.store.job import create_job, find_file, read
from half_fold.core.store.next_job import create_next
from half_fold.core.store.own import file_name, own_folder

PICTURE = "kind.png"
LONGEST_KIND = 180  # octets of its folder's name


class OwnKind(Struct, frozen=True):
    """A kind that the user keeps: what it is called, and the folder of the job that others are started from."""

    name: str
    folder: Path

    @property
    def picture(self) -> Path:
        """A small picture of it; it may not be there."""
        return self.folder / PICTURE


def own_kinds() -> list[OwnKind]:
    """Those there are, by name."""
    try:
        folders = [folder for folder in _shelf().iterdir() if folder.is_dir() and not folder.name.startswith(".")]
    except OSError:
        return []
    return sorted((OwnKind(format_kind(folder.name), folder) for folder in folders), key=lambda kind: kind.name)


def keep_kind(publication: Publication, before: Path, name: str) -> OwnKind:
    """Keep the job in the folder ``before`` as a kind; one of the same name gives way to it.

    Problem where the name is one of the program's own, or the folder cannot be written.
    """
    word = within_octets(file_name(name, ""), LONGEST_KIND)
    if not word:
        raise Problem("Give the kind a name, such as Quarterly.")
    if word in KINDS:
        raise Problem(f"“{format_kind(word)}” is one of the kinds there are; choose another name.")
    kept, aside = _shelf() / word, _shelf() / ".making" / word
    shutil.rmtree(aside.parent, ignore_errors=True)
    create_next(aside, _bare(publication), before)
    shutil.rmtree(kept, ignore_errors=True)
    try:
        aside.rename(kept)
    except OSError as error:
        raise Problem(f"“{kept}” cannot be written; check its permissions.") from error
    finally:
        shutil.rmtree(aside.parent, ignore_errors=True)
    return OwnKind(format_kind(word), kept)


def drop_kind(name: str) -> None:
    """Take a kind of one's own away. Problem where there is none of that name."""
    shutil.rmtree(_named(name).folder, ignore_errors=True)


def begin(kind: str, title: str, folder: Path, settings: Sequence[str] = ()) -> Path:
    """Start a job of a kind, the program's or one's own, with each KEY=VALUE of ``settings`` set; gives its file.

    Problem for a kind that is not there, and unless ``folder`` is absent or empty.
    """
    if kind in KINDS:
        return create_job(folder, state_in_inches(set_values(start(kind, title), settings), settings))
    own = _named(kind)
    made = replace(read(find_file(own.folder)), title=title)
    return create_next(folder, set_values(made, settings), own.folder)


def state_in_inches(publication: Publication, settings: Sequence[str]) -> Publication:
    """A job begun with a trim in inches counts in them, unless it was said in which unit."""
    brief = publication.brief
    asked = any(setting.partition("=")[0].strip().startswith("trim") for setting in settings)
    typed = brief.width.typed.endswith("in") and brief.height.typed.endswith("in")
    if not (asked and typed) or any(setting.startswith("unit=") for setting in settings):
        return publication
    return replace(publication, brief=replace(brief, unit="in"))


def _named(name: str) -> OwnKind:
    word = within_octets(file_name(name, ""), LONGEST_KIND)
    found = next((kind for kind in own_kinds() if kind.folder.name == word), None)
    if found is None:
        known = ", ".join((*KINDS, *(kind.folder.name for kind in own_kinds())))
        raise Problem(f"There is no kind “{name}”; there are {known}.")
    return found


def _bare(publication: Publication) -> Publication:
    """Without what goes on from number to number: those who start from it say it anew."""
    return replace(begin_next_number(publication), issue="", season="")


def _shelf() -> Path:
    return own_folder() / "kinds"

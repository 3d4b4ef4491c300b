"""Papers: the library that ships, the user's own, and finding one by its name."""

from collections.abc import Iterator
from functools import cache
from importlib.resources import files
from itertools import chain
from pathlib import Path
from typing import Any

import msgspec
from msgspec.structs import replace

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.fields import field_of
from half_fold.core.publication.places import Record
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Paper, Publication
from half_fold.core.store.own import keep_own, own_folder


@cache
def library() -> tuple[Paper, ...]:
    """The papers that ship with the program."""
    content = files("half_fold.data").joinpath("papers/papers.json").read_bytes()
    return msgspec.json.decode(content, type=tuple[Paper, ...])


def own_papers_file() -> Path:
    """Where the user's own papers are kept."""
    return own_folder() / "papers.json"


def own_papers() -> tuple[Paper, ...]:
    """The user's own papers; none where they cannot be read."""
    try:
        return _read(own_papers_file(), own_papers_file().stat().st_mtime_ns)
    except (OSError, msgspec.DecodeError):
        return ()


@cache
def _read(path: Path, _when: int) -> tuple[Paper, ...]:
    return msgspec.json.decode(path.read_bytes(), type=tuple[Paper, ...])


def keep_paper(paper: Paper) -> None:
    """Keep a paper among the user's own, in place of one of its name. Problem where it cannot be written."""
    kept = tuple(p for p in own_papers() if p.name.lower() != paper.name.lower())
    keep_own(own_papers_file(), (*kept, paper))


def with_paper(publication: Publication, paper: Paper) -> Publication:
    """The job with that paper among its own, in place of one of its name."""
    if paper in publication.papers:
        return publication
    kept = tuple(p for p in publication.papers if p.name != paper.name)
    return replace(publication, papers=(*kept, paper))


def known_papers(publication: Publication) -> tuple[Paper, ...]:
    """The job's own papers, then the user's, then those of the library, each name once."""
    found: dict[str, Paper] = {}
    for paper in (*publication.papers, *own_papers(), *library()):
        found.setdefault(paper.name.lower(), paper)
    return tuple(found.values())


def _beyond_the_job() -> Iterator[Paper]:
    """The user's own and the library's; the disk is asked only where a job has not got a paper itself."""
    yield from own_papers()
    yield from library()


def find_paper(publication: Publication, name: str) -> Paper:
    """A paper by its name, whatever its capitals. Problem where there is none."""
    wanted = name.lower()
    for paper in chain(publication.papers, _beyond_the_job()):
        if paper.name.lower() == wanted:
            return paper
    names = ", ".join(paper.name for paper in known_papers(publication))
    raise Problem(f"There is no paper “{name}”; there are {names}, or state one such as grammage=130,volume=1.1.")


def paper_of(owner: type[Record], **more: Any) -> Property[Any]:
    """The field ``paper`` of an ``owner``, chosen among those known to the job by name."""
    return field_of(
        owner,
        "paper",
        "Paper",
        "text",
        choices=lambda publication, _: [(paper.name, paper.name) for paper in known_papers(publication)],
        parse=lambda publication, _, text: find_paper(publication, text).name,
        **more,
    )


def format_paper(paper: Paper) -> str:
    """A paper in a few figures, those that were typed."""
    figures = (
        (paper.grammage, f"{paper.grammage:g} g/m²"),
        (paper.pounds, f"{paper.pounds:g} lb {paper.category}"),
        (paper.volume, f"{paper.volume:g} cm³/g"),
        (paper.caliper, f"{paper.caliper:g} µm"),
        (paper.ppi, f"{paper.ppi:g} ppi"),
    )
    return ", ".join(words for value, words in figures if value)

"""Papers: the library that ships, and the caliper of a stock."""

from functools import cache
from importlib.resources import files

import msgspec

from half_fold.core.measure.problem import Problem
from half_fold.core.measure.worked import Worked, given
from half_fold.core.publication.records import Paper, Publication


@cache
def library() -> tuple[Paper, ...]:
    """The papers that ship with the program."""
    content = files("half_fold.data").joinpath("papers/papers.json").read_bytes()
    return msgspec.json.decode(content, type=tuple[Paper, ...])


def known_papers(publication: Publication) -> tuple[Paper, ...]:
    """The job's own papers, then those of the library it has not got."""
    own = {paper.name for paper in publication.papers}
    return (*publication.papers, *(paper for paper in library() if paper.name not in own))


def find_paper(publication: Publication, name: str) -> Paper:
    """A paper by its name, whatever its capitals. Problem where there is none."""
    for paper in known_papers(publication):
        if paper.name.lower() == name.lower():
            return paper
    names = ", ".join(paper.name for paper in known_papers(publication))
    raise Problem(f"There is no paper “{name}”; there are {names}, or give grammage=...,volume=...")


def caliper(paper: Paper, key: str, edits: str) -> Worked:
    """The thickness of one leaf in micrometres: grammage (g/m2) times specific volume (cm3/g)."""
    grammage = given(paper.grammage, "g/m²", "")
    volume = given(paper.volume, "cm³/g", "")
    product = grammage * volume
    how = f"{paper.name}: {grammage.text} × {volume.text}"
    return Worked(product.value, "µm", "", how, (), key, edits, paper.name)

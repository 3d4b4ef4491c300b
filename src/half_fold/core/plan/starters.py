"""Starting a job: every kind starts complete, with papers, a master, a grid and roles."""

from functools import cache
from importlib.resources import files
from typing import Any

import msgspec
from msgspec import Struct

from half_fold.core.brief.papers import library
from half_fold.core.measure.problem import Problem
from half_fold.core.publication.records import Brief, Cover, Ink, Master, Page, Publication, Role
from half_fold.core.store.codec import decode_as

KINDS = ("magazine", "book", "catalogue", "photo-book", "one-sheet", "one-spread", "cover", "screen-cover")


class _Shared(Struct):
    inks: tuple[Ink, ...]
    roles: tuple[dict[str, Any], ...]


class _Kind(Struct):
    pages: int
    brief: Brief
    masters: tuple[Master, ...]
    roles: dict[str, dict[str, Any]]
    cover: Cover


@cache
def _read(name: str, kind: type[Any]) -> Any:
    return decode_as(kind, files("half_fold.data").joinpath(f"kinds/{name}.json").read_bytes())


def start(kind: str, title: str) -> Publication:
    """A new publication of that kind, all its pages empty. Problem for an unknown kind."""
    if kind not in KINDS:
        raise Problem(f"There is no kind “{kind}”; there are {', '.join(KINDS)}.")
    own, shared = _read(kind, _Kind), _read("shared", _Shared)
    roles = [_stating_its_own({**role, **own.roles.get(role["name"], {})}) for role in shared.roles]
    used = {own.brief.text_paper, own.brief.cover_paper}
    return Publication(
        title=title,
        kind=kind,
        brief=own.brief,
        papers=tuple(paper for paper in library() if paper.name in used),
        masters=own.masters,
        roles=decode_as(tuple[Role, ...], msgspec.json.encode(roles)),
        inks=shared.inks,
        cover=own.cover,
        pages=tuple(Page(id=f"p{i + 1}", master=own.masters[0].name) for i in range(own.pages)),
    )


def _stating_its_own(role: dict[str, Any]) -> dict[str, Any]:
    """A role as it ships; based on another, what it says is its own."""
    if "based_on" not in role:
        return role
    return {**role, "own": [field for field in role if field not in ("name", "label", "based_on")]}


def format_kind(kind: str) -> str:
    """What a kind is called: ``photo-book`` is a Photo book."""
    return kind.replace("-", " ").capitalize()


def title_of_folder(name: str) -> str:
    """A title for a folder's name: ``bare-root-list`` becomes ``Bare root list``."""
    words = " ".join(name.replace("-", " ").replace("_", " ").split())
    return words[:1].upper() + words[1:] if words else "Untitled"

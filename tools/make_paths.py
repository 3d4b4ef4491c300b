"""Writes docs/paths.md, every path that can be set, from the tables themselves: ``python -m tools.make_paths``."""

from pathlib import Path

from msgspec.structs import replace

from half_fold.core.paths.all import set_paths, settings
from half_fold.core.paths.making import WAYS
from half_fold.core.plan.inserts import add_insert
from half_fold.core.plan.sections import start_section
from half_fold.core.plan.starters import start
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.claiming import HOW
from half_fold.core.spread.settable.properties import BLOCK, GROUP
from half_fold.core.spread.settable.samples import SAMPLES, kinds_of, sample

OUT = Path(__file__).parents[1] / "docs/paths.md"
HEAD = """# Paths

Everything that can be set has a path. `half-fold get JOB` lists those of a job with their values as typed,
`half-fold set JOB PATH=VALUE` sets them; to set a value as it was read changes nothing. This page is written from the
program's own tables by `python -m tools.make_paths`.

| path | what it is |
|---|---|
"""
NAMED = {"page.1.": "page.N.", "insert.insert1.": "insert.ID.", "section.Part one.": "section.NAME."}


def _applies(of: Property[Block]) -> str:
    names = kinds_of(of)
    return "all" if len(names) == len(SAMPLES) else ", ".join(names)


def _range(of: Property[Block]) -> str:
    if of.kind in ("number", "count", "share"):
        return f"{of.kind}, {of.least:g} to {of.most:g}"
    if of.kind == "length":
        return f"length, {of.least:g} to {of.most:g} {of.unit or 'mm'}"
    if of.kind == "choice":
        values = [value for value, _ in of.choices] if not callable(of.choices) else []
        return "one of " + ", ".join(f"`{value}`" for value in values)
    return of.kind


def page() -> str:
    """The whole page."""
    job = start_section(add_insert(start("magazine", "Paths"), 16, "card"), 1, "Part one")
    looks = ["look.all=shadow", "look.all.glow=yes", "look.all.outline=1pt", "set.Trial=empty"]
    job = set_paths(job, ["printer=Wharf Street Litho", "fade.wash=straw; paper", "output.Sent=pages", *looks])
    rows: dict[str, str] = {}
    for each in settings(job):
        path = each.path
        for name, general in NAMED.items():
            path = path.replace(name, general) if path.startswith(name) else path
        for prefix in ("role", "ink", "fade", "look", "master", "output", "text", "set"):
            if path.startswith(f"{prefix}."):
                path = ".".join([prefix, "NAME", *path.split(".", 2)[2:]])
        if path.startswith("page.N.") or ("furniture" not in path and not path.startswith(("page.", "block."))):
            rows.setdefault(path, each.label)
    rows["page.N.claim"] = f"Lays a block: {HOW}"
    rows["picture.FILE.inks"] = "Prints"
    rows["text.NAME"] = "What a kind of paragraph, or a style, becomes when a text comes in"
    body = "".join(f"| `{path}` | {label} |\n" for path, label in rows.items())
    placed = with_page(job, replace(job.pages[0], things=(sample("panel"),)))
    more = [each for each in settings(placed, "block.b.") if each.path.split(".", 2)[2] not in {of.key for of in BLOCK}]
    body += "".join(f"| `{each.path.replace('.b.', '.ID.')}` | {each.label} |\n" for each in more)
    body += "".join(f"| `group.ID.{of.key}` | {of.label} |\n" for of in GROUP)
    blocks = "".join(f"| `block.ID.{of.key}` | {of.label} | {_range(of)} | {_applies(of)} |\n" for of in BLOCK)
    body += "".join(f"| `{path}` | {words} |\n" for path, words in WAYS)
    return f"{HEAD}{body}\n## Blocks\n\n| path | what it is | takes | of |\n|---|---|---|---|\n{blocks}"


if __name__ == "__main__":
    OUT.write_text(page(), encoding="utf-8")

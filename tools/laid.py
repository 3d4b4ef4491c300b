"""What the makers of the demo jobs lay with: blocks on fields, words, and covers."""

from pathlib import Path

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.records import (
    Block,
    Holds,
    HoldsDisplay,
    Paragraph,
    Publication,
    Role,
    Run,
    Wrap,
)
from half_fold.core.publication.surgery import block_ids, fresh_id, with_page
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.typesetting.texts.text_in import read_text_file

BARE = "bare"


def field(index: int, count: int, facing: bool = False) -> Stop:
    return Stop(kind="field", index=index, count=count, facing=facing)


BLEED, FOLD = Stop(kind="bleed"), Stop(kind="fold")


class Layout:
    """Puts blocks on pages of a grid of so many fields; stories come from a folder of ``texts``."""

    def __init__(self, publication: Publication, columns: int, rows: int, texts: Path) -> None:
        self.publication, self.columns, self.rows, self.texts = publication, columns, rows, texts

    def put(
        self,
        number: int,
        left: Stop | int,
        top: Stop | int,
        right: Stop | int,
        bottom: Stop | int,
        holds: Holds,
        inset: str = "",
        wrap: Wrap | None = None,
        behind: str = "",
    ) -> None:
        counts = (self.columns, self.rows) * 2
        stops = [
            s if isinstance(s, Stop) else field(s, n) for s, n in zip((left, top, right, bottom), counts, strict=True)
        ]
        block = Block(
            id=fresh_id("b", block_ids(self.publication)),
            place=Held(left=stops[0], top=stops[1], right=stops[2], bottom=stops[3]),
            holds=holds,
            inset=length(inset) if inset else None,
            wrap=wrap,
        )
        page = self.publication.pages[number - 1]
        pages = list(self.publication.pages)
        at = next((i for i, each in enumerate(page.blocks) if each.id == behind), len(page.blocks))
        pages[number - 1] = replace(page, things=(*page.blocks[:at], block, *page.blocks[at:]))
        self.publication = replace(self.publication, pages=tuple(pages))

    def on_master(self, number: int, master: str = BARE) -> None:
        """A page on another master: the bare one has no furniture."""
        page = self.publication.pages[number - 1]
        self.publication = with_page(self.publication, replace(page, master=master))

    def story(self, name: str, title: str = "", opens: bool = False) -> str:
        reading = read_text_file(self.texts / f"{name}.md", language="en_GB")
        paragraphs = tuple(_signed(p) for p in reading.paragraphs if p.role != "headline")
        if opens:
            paragraphs = (replace(paragraphs[0], role="opening"), *paragraphs[1:])
        self.publication, story = add_story(self.publication, title or reading.title, paragraphs)
        return story


def _signed(paragraph: Paragraph) -> Paragraph:
    """A paragraph all in italics is a signature."""
    if paragraph.role == "body" and all(run.italic for run in paragraph.runs):
        plain = tuple(replace(run, italic=False) for run in paragraph.runs)
        return replace(paragraph, role="signature", runs=plain)
    return paragraph


def words(*lines: tuple[str, str], size: str = "", **more: object) -> HoldsDisplay:
    paragraphs = tuple(Paragraph(role=role, runs=(Run(text=text),)) for role, text in lines)
    return HoldsDisplay(paragraphs=paragraphs, size=length(size) if size else None, **more)  # type: ignore[arg-type]


def role(name: str, label: str, family: str, style: str, size: str, leading: str, **more: object) -> Role:
    return Role(
        name=name,
        label=label,
        family=family,
        style=style,
        size=length(size),
        leading=length(leading),
        indent=length("0pt"),
        hyphenate=False,
        **more,  # type: ignore[arg-type]
    )


def on_cover(
    name: str, left: Stop | int, top: Stop | int, right: Stop | int, bottom: Stop | int, holds: Holds
) -> Block:
    stops = [
        s if isinstance(s, Stop) else field(s, n)
        for s, n in zip((left, top, right, bottom), (6, 12, 6, 12), strict=True)
    ]
    return Block(id=name, place=Held(left=stops[0], top=stops[1], right=stops[2], bottom=stops[3]), holds=holds)

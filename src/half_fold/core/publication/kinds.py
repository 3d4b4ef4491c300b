"""The kinds of content that a block can hold: what each is called, its words, its form, and what may be done with it.

What is asked of a kind is looked up here, never by a row of questions. How a kind is drawn is registered where spreads
are composed (``setting.compose``), what it begins as where fields are claimed (``edits.claiming``), and what can be set
of it among the properties; a test holds all of these to the union of records.
"""

from collections.abc import Callable, Iterator
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.length import counted
from half_fold.core.publication.records import (
    Block,
    Edge,
    Form,
    Ground,
    Holds,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    HoldsStory,
    Paragraph,
    Publication,
    Run,
)
from half_fold.core.publication.surgery import cover_blocks, every_block, picture_of, story_of
from half_fold.core.publication.used import format_picture

NO_NUMBER = "0000000000000"  # of a barcode that waits for its own
LONGEST = 40  # letters of words by which a thing is called

Paragraphs = tuple[Paragraph, ...]


def _shown(words: str) -> str:
    words = words.strip()
    return f"{words[:LONGEST]}{'…' if len(words) > LONGEST else ''}"


class Kind(Struct, frozen=True, kw_only=True):
    """A kind of content. Each function is given what a block of the kind holds, some the job before that.

    ``words`` are its own paragraphs, ``text`` all that is read in it; ``asks`` is what else of it is filled in from the
    job or its goods, field by field. An *area* reaches as far as its edges, to the bleed where they lie there; what is
    *scanned* must not be hidden; a *line* has no edges to line up.
    """

    name: str
    said: str
    sample: Any
    called: Callable[[Publication, Any], str]
    titled: Callable[[Publication, Any], tuple[str, str]]  # over its working: what it is, and something about it
    words: Callable[[Any], Paragraphs] = lambda _: ()
    text: Callable[[Publication, Any], Paragraphs] | None = None
    asks: tuple[str, ...] = ()
    form: Callable[[Any], Form | None] = lambda _: None
    with_form: Callable[[Any, Form], Holds] | None = None
    edge: Callable[[Any], Edge | None] = lambda _: None
    is_area: bool = False
    is_line: bool = False
    is_scanned: bool = False
    is_free: bool = False
    is_words: bool = False  # whether it is opened to be written in


def _picture_titled(publication: Publication, holds: HoldsPicture) -> tuple[str, str]:
    picture = picture_of(publication, holds.picture)
    if picture.art:
        left_out = f"; left out of it: {picture.left_out}" if picture.left_out else ""
        return "Drawing", f"{picture.file}, {counted(len(picture.art), 'outline')}{left_out}"
    return "Picture", f"{format_picture(picture)}, {picture.width} × {picture.height}"


def _words_called(_: Publication, holds: HoldsDisplay) -> str:
    return f"Words “{_shown(' '.join(paragraph.text for paragraph in holds.paragraphs))}”"


def _panel_called(_: Publication, holds: HoldsPanel) -> str:
    return f"{holds.form.kind.capitalize()}, {holds.ink}" if holds.ink else f"Stroke, {holds.form.kind}"


def _formed(holds: Any, form: Form) -> Holds:
    made: Holds = replace(holds, form=form)
    return made


def _grounded(holds: HoldsDisplay, form: Form) -> Holds:
    return replace(holds, ground=replace(holds.ground or Ground(), form=form))


_SAMPLE_WORDS = (Paragraph(role="body", runs=(Run(text="x"),)),)
KINDS: dict[type, Kind] = {
    HoldsPicture: Kind(
        name="picture",
        said="a picture",
        sample=HoldsPicture(picture="p"),
        called=lambda publication, holds: f"Picture {picture_of(publication, holds.picture).file}",
        titled=_picture_titled,
        form=lambda holds: holds.form,
        with_form=_formed,
        edge=lambda holds: holds.edge,
        is_area=True,
    ),
    HoldsStory: Kind(
        name="story",
        said="a story",
        sample=HoldsStory(story="s"),
        called=lambda publication, holds: f"Story “{story_of(publication, holds.story).title}”",
        titled=lambda publication, holds: ("Story", story_of(publication, holds.story).title),
        text=lambda publication, holds: story_of(publication, holds.story).paragraphs,
        is_words=True,
    ),
    HoldsDisplay: Kind(
        name="words",
        said="words",
        sample=HoldsDisplay(paragraphs=_SAMPLE_WORDS, ground=Ground(form=Form(kind="burst"), edge=Edge()), even=True),
        called=_words_called,
        titled=lambda _, holds: ("Stack", "lines evened to one measure") if holds.even else ("Words", "display text"),
        words=lambda holds: holds.paragraphs,
        form=lambda holds: None if holds.ground is None else holds.ground.form,
        with_form=_grounded,
        is_words=True,
    ),
    HoldsPanel: Kind(
        name="panel",
        said="a panel",
        sample=HoldsPanel(edge=Edge()),
        called=_panel_called,
        titled=lambda _, holds: ("Ink panel" if holds.ink else "Frame", ""),
        form=lambda holds: holds.form,
        with_form=_formed,
        edge=lambda holds: holds.edge,
        is_area=True,
    ),
    HoldsRule: Kind(
        name="rule",
        said="a rule",
        sample=HoldsRule(),
        called=lambda _, __: "Rule",
        titled=lambda _, __: ("Rule", ""),
        is_line=True,
    ),
    HoldsBarcode: Kind(
        name="barcode",
        said="a barcode",
        sample=HoldsBarcode(number=NO_NUMBER),
        called=lambda _, __: "Barcode",
        titled=lambda _, __: ("Barcode", "EAN-13"),
        words=lambda holds: holds.paragraphs,
        asks=("number", "addon"),
        is_scanned=True,
    ),
    HoldsCode: Kind(
        name="code",
        said="a code",
        sample=HoldsCode(),
        called=lambda _, holds: f"Code “{holds.says[:LONGEST]}”",
        titled=lambda _, __: ("Code", "read by phones"),
        asks=("says",),
        is_scanned=True,
    ),
    HoldsNothing: Kind(
        name="kept free",
        said="a place kept free",
        sample=HoldsNothing(),
        called=lambda _, __: "Kept free",
        titled=lambda _, __: ("Kept free", "Enter on a picture of the picture drawer puts it here"),
        is_free=True,
    ),
}


def kind_of(holds: Holds) -> Kind:
    """The kind of what a block holds."""
    return KINDS[type(holds)]


def own_words(holds: Holds) -> Paragraphs:
    """The paragraphs that a block has for itself; those of a story are the story's."""
    return kind_of(holds).words(holds)


def text_of(publication: Publication, holds: Holds) -> Paragraphs:
    """All paragraphs that are read in a block, those of its whole story too."""
    kind = kind_of(holds)
    return kind.words(holds) if kind.text is None else kind.text(publication, holds)


def asked_of(holds: Holds) -> tuple[str, ...]:
    """What of a block is filled in besides its words, as it was typed."""
    return tuple(getattr(holds, name) for name in kind_of(holds).asks)


def form_of(holds: Holds) -> Form | None:
    """The form of a panel, of a picture, or of the ground of words; None where a block has none."""
    return kind_of(holds).form(holds)


def blocks_of_words(publication: Publication) -> Iterator[tuple[Block, Paragraphs]]:
    """Every block of the pages, of the cover and of cards that has words of its own, with these."""
    for block in (*(block for _, _, block in every_block(publication)), *cover_blocks(publication)):
        words = own_words(block.holds)
        if words:
            yield block, words

"""Letters that a face has not got, or that are set in another, and faces that are not there."""

from collections.abc import Iterator
from functools import partial
from unicodedata import bidirectional

from half_fold.core.checks.context import Context, place_of_run
from half_fold.core.checks.finding import ASKED, REFUSED, UNREAD, Finding, Fix
from half_fold.core.drawing.marks import Glyphs, Origin
from half_fold.core.measure.length import counted
from half_fold.core.plan.spreads import Spread
from half_fold.core.publication.kinds import blocks_of_words
from half_fold.core.publication.records import (
    HoldsStory,
    Publication,
)
from half_fold.core.publication.surgery import role_in, role_named
from half_fold.core.typesetting.faces.alphabets import of_language
from half_fold.core.typesetting.faces.faces import families
from half_fold.core.typesetting.faces.fonts import missing_fonts
from half_fold.core.typesetting.faces.scripts import known_fallbacks, scripts_of, standing_in
from half_fold.core.typesetting.sheet.sheet import with_fallback

MISSING_GLYPH = 0
SHOWN = 5
LOOKED_AT = 40  # letters of a run, the first of a script among them


def missing_glyph(context: Context) -> Iterator[Finding]:
    """Letters that the face has not got: told once a story, or block of other words, and face, where it first does."""
    stories = {block.id: block.holds.story for _, block, _ in context.blocks if isinstance(block.holds, HoldsStory)}
    found: dict[tuple[str | Origin, str], tuple[Spread, Glyphs, dict[str, None]]] = {}
    for spread, run in context.runs:
        if letters := lacking(run):
            where = stories.get(run.origin.block, run.origin), run.face
            found.setdefault(where, (spread, run, {}))[2].update(dict.fromkeys(letters))
    for spread, run, told in found.values():
        yield missing_letters(context.publication, run.face, list(told), *place_of_run(context, spread, run))


def lacking(run: Glyphs) -> list[str]:
    """What a run says where its face has no glyph; of letters drawn together, all of them."""
    said, out = "", list[str]()
    for gid, text in zip(run.gids.tolist(), run.texts, strict=True) if MISSING_GLYPH in run.gids else ():
        said = text or said
        if gid == MISSING_GLYPH and (text or not out or out[-1] != said):
            out.append(said)
    return out


def stood_in(context: Context) -> Iterator[Finding]:
    """Letters that are set in a face the type sheet names for their script, since their own has not got them."""
    publication = context.publication
    named = {
        pair for role in publication.roles for pair in known_fallbacks(role_named(publication, role.name).fallback)
    }
    named.update(of_language(publication.language))
    counts: dict[tuple[str, str], int] = {}
    for _, run in context.runs if named else ():
        family = run.face.partition("/")[0]
        said = "".join("".join(run.texts).split()) if any(pair[1] == family for pair in named) else ""
        for pair in named:
            if pair[1] == family and said and pair[0] in scripts_of(said[:LOOKED_AT]):
                counts[pair] = counts.get(pair, 0) + len(said)
    for (script, family), count in sorted(counts.items()):
        message = f"{counted(count, 'letter')} of {script} in {family}"
        yield Finding(
            "face that stands in",
            ASKED,
            message,
            "The type sheet, or the job's language, asks it for what other faces have not got.",
        )


def _apart(letter: str) -> str:
    """A letter that does not turn the quotation marks round it about, where it is one that reads leftwards."""
    leftwards = any(bidirectional(each) in ("R", "AL") for each in letter)
    return f"\u2068{letter}\u2069" if leftwards else letter


def missing_letters(publication: Publication, face_key: str, letters: list[str], page: int, block: str) -> Finding:
    """The finding that a face has not got those letters, with a face that could stand in as its fix."""
    shown = " ".join(f"“{_apart(text)}”" for text in letters[:SHOWN])
    more = f" and {len(letters) - SHOWN} more" if len(letters) > SHOWN else ""
    message = f"{face_key.replace('/', ' ')} has no {shown}{more}"
    why = f"An empty box would be printed for {counted(len(letters), 'letter')}; use another face, or other letters."
    stand_in = standing_in(letters, [font.family for font in publication.fonts])
    fix = None
    if stand_in is not None:
        words = f"Set {stand_in[0]} in {stand_in[1]}"
        fix = Fix(words, partial(with_fallback, script=stand_in[0], family=stand_in[1]))
    return Finding("missing glyph", UNREAD, message, why, True, page, block, fix=fix)


def missing_font(context: Context) -> Iterator[Finding]:
    """A font of the job whose file has gone: its text is set in another face."""
    if context.pictures is None:
        return
    for font in missing_fonts(context.publication, context.pictures.parent):
        why = f"“{font.file}” is not what it was in the job's fonts folder: another face stands in; put it back there."
        message = f"The font “{font.family} {font.style}” is missing or damaged"
        yield Finding("missing font", REFUSED, message, why, True)
    roles = (role_named(context.publication, role.name) for role in context.publication.roles)
    stated = (
        role_in(context.publication, block.holds, paragraph.role)
        for block, words in blocks_of_words(context.publication)
        for paragraph in words
    )
    for family, style in dict.fromkeys((role.family, role.style) for role in (*roles, *stated)):
        if style not in families().get(family, {}):
            message = f"There is no face “{family} {style}”"
            why = "Another stands in; give the role a face that is there, or bring the font in."
            yield Finding("missing font", REFUSED, message, why, True)

"""What things are called where they are listed: by the user's own name, or by what they hold."""

from half_fold.core.measure.length import counted
from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    HoldsRule,
    HoldsStory,
    Publication,
    Thing,
    blocks_of,
)
from half_fold.core.publication.surgery import picture_of, story_of

LONGEST = 40


def called(publication: Publication, thing: Thing) -> str:
    """``Words “The grafting knife”``, ``Picture knife.jpg``, ``Group of 3``; the user's own name where there is one."""
    if thing.name:
        return thing.name
    if not isinstance(thing, Block):
        return f"Group of {counted(len(blocks_of(thing.members)), 'block')}"
    holds = thing.holds
    if isinstance(holds, HoldsPicture):
        return f"Picture {picture_of(publication, holds.picture).file}"
    if isinstance(holds, HoldsStory):
        return f"Story “{story_of(publication, holds.story).title}”"
    if isinstance(holds, HoldsDisplay):
        words = " ".join(paragraph.text for paragraph in holds.paragraphs).strip()
        return f"Words “{words[:LONGEST]}{'…' if len(words) > LONGEST else ''}”"
    if isinstance(holds, HoldsPanel):
        return f"{holds.form.kind.capitalize()}, {holds.ink}" if holds.ink else f"Stroke, {holds.form.kind}"
    if isinstance(holds, HoldsRule):
        return "Rule"
    if isinstance(holds, HoldsCode):
        return f"Code “{holds.says[:LONGEST]}”"
    return "Barcode" if isinstance(holds, HoldsBarcode) else "Kept free"

"""Make it fit and Arrange together: a story that is over gets the room that its spreads, arranged anew, can give it."""

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.arrange.finding import arranged
from half_fold.core.arrange.items import items_of
from half_fold.core.arrange.laying import lay_arrangement
from half_fold.core.arrange.texts import text_asked
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.told import Told, told_of_all
from half_fold.core.plan.spreads import Spread, spread_of
from half_fold.core.publication.records import HoldsDisplay, HoldsPicture, HoldsStory, Picture, Publication
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.spread.edits.fitting import FitRemedy, fit_remedies
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.threads import thread
from half_fold.core.spread.where.frames import block_box, blocks_on

COSTS = "pictures change places and sizes; the type stays as it is"
RANK = 35.0  # milder than words cut, harder than type that is drawn in
ASKED_MORE = 2.5  # times what is lacking: lines are lost where columns become shorter


def every_remedy(
    publication: Publication, setter: Setter, story: str, folder: Path, go_on: Callable[[], bool] = lambda: True
) -> list[FitRemedy]:
    """The remedies of a story in its type and its blocks, and the arrangements that give it room, the mildest first."""
    found = fit_remedies(publication, setter, story, go_on)
    if go_on() and setter.threads.flow(publication, story).over_lines:
        told = told_of_all(folder, _pictures_beside(publication, story), go_on)
        found += [FitRemedy(words, COSTS, made, RANK) for words, made in giving_room(publication, setter, story, told)]
    return sorted(found, key=lambda remedy: remedy.rank)


def _pictures_beside(publication: Publication, story: str) -> list[Picture]:
    """The pictures on the spreads of a story."""
    spreads = dict.fromkeys(spread_of(publication, number) for number, _ in thread(publication, story))
    held = [block.holds for spread in spreads for _, _, block in blocks_on(publication, spread)]
    return [picture_of(publication, each.picture) for each in held if isinstance(each, HoldsPicture)]


def giving_room(
    publication: Publication, setter: Setter, story: str, told: Mapping[str, Told], most: int = 3
) -> list[tuple[str, Publication]]:
    """Arrangements of single spreads of a story that is over, in which all of it goes in: in words, and the job."""
    flow = setter.threads.flow(publication, story)
    if not flow.over_lines:
        return []
    found: list[tuple[str, Publication]] = []
    lines = sum(column.lines for column in flow.columns)
    for spread in dict.fromkeys(spread_of(publication, number) for number, _ in thread(publication, story)):
        blocks = [
            block
            for _, _, block in blocks_on(publication, spread)
            if not block.locked and not block.of and not isinstance(block.holds, HoldsDisplay)
            and (not isinstance(block.holds, HoldsStory) or block.holds.story == story)
        ]  # fmt: skip
        if all(isinstance(block.holds, HoldsStory) for block in blocks):
            continue  # only pictures make room
        names = [block.id for block in blocks]
        made = _with_room(publication, setter, story, spread, names, told, 1 + flow.over_lines / max(1, lines))
        if made is not None:
            found.append((f"Arrange {spread.label} anew", made))
        if len(found) == most:
            break
    return found


def _with_room(
    publication: Publication,
    setter: Setter,
    story: str,
    spread: Spread,
    names: Sequence[str],
    told: Mapping[str, Told],
    more: float,
) -> Publication | None:
    """One spread arranged anew so that the whole story goes in; None where none of the first few does that."""
    try:
        items = list(items_of(publication, names, (), told))
    except Problem:
        return None
    for at, item in enumerate(items):
        if item.text is not None:
            index, _, block = page_of_block(publication, item.block)
            box = block_box(publication, index + 1, block)
            text = text_asked(publication, block, box.width * box.height * (1 + (more - 1) * 2.5))
            items[at] = replace(item, text=text)
    try:
        found = arranged(publication, spread.numbers, items)
    except Problem:
        return None
    made = (lay_arrangement(publication, each)[0] for each in found)
    return next((each for each in made if not setter.threads.flow(each, story).over_lines), None)

"""Working rows of a block: what follows from what it holds, and all that can be set of it."""

from collections.abc import Iterator

from half_fold.core.numbers.blocks import format_barcode, format_code, stack_numbers, story_numbers
from half_fold.core.publication.kinds import kind_of
from half_fold.core.publication.records import (
    Block,
    HoldsBarcode,
    HoldsCode,
    HoldsDisplay,
    HoldsPicture,
    HoldsStory,
    Picture,
)
from half_fold.core.publication.surgery import page_of_block, picture_of
from half_fold.core.publication.used import with_inks
from half_fold.core.spread.edits.fading import keep_fade
from half_fold.core.spread.edits.lit import keep_light
from half_fold.core.spread.edits.typed import make_a_role, make_the_role, stated_of
from half_fold.core.spread.framing.aim_words import PICTURE_WORDS, set_picture_words
from half_fold.core.spread.framing.aiming import missed
from half_fold.core.spread.settable import headings
from half_fold.core.spread.settable.light_properties import is_lit
from half_fold.core.spread.settable.properties import block_properties
from half_fold.core.spread.settable.type_properties import first_role
from half_fold.core.spread.setting.captions import SIDES, captions_of, give_caption, set_side, tell_of_picture
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.kit.property_rows import block_row
from half_fold.desk.kit.rows import Card, Row, row_of
from half_fold.desk.workpiece import Workpiece

PRINTS = {
    "": "as its file is",
    "black": "in black alone",
    "four": "in all four inks",
    "kept": "with the inks it brings",
    "converted": "its inks converted",
    "held": "its inks held to the paper's limit",
}
NOTES = {
    "keep_clear": "left, top, right, bottom in per cent; drag it on the easel with K",
    "points": "a name, across and down in per cent; click it on the easel with P",
}
ISSUED = "Numbers are issued: take this from the body that issued it, with its own rules for artwork."


class HoldsRows:
    """Makes the rows; each carries the edit that sets it."""

    def __init__(self, session: Workpiece) -> None:
        self.session = session

    def titled(self, block: Block) -> tuple[str, str]:
        """What the block is, and something about it."""
        return kind_of(block.holds).titled(self.session.publication, block.holds)

    def under(self, block: Block) -> Iterator[tuple[str, list[Row | Card]]]:
        """Its rows with the headings under which they stand."""
        yield self._worked(block)
        for heading, row in self._set(block):
            yield heading, [row]
        if own := self._own_type(block):
            yield headings.TYPE, own
        if block.light is not None:
            yield headings.LIGHT, [self._keep_light(block)]
            if block.light.fade is not None and not isinstance(block.holds, HoldsPicture):
                yield headings.SURFACE, [self._keep_fade(block)]
        yield from self._of_picture(block)

    def _worked(self, block: Block) -> tuple[str, list[Row | Card]]:
        """What follows from what it holds."""
        publication, holds = self.session.publication, block.holds
        numbers = []
        if isinstance(holds, HoldsStory):
            numbers = story_numbers(publication, self.session.setter.threads, holds.story)
        elif isinstance(holds, HoldsDisplay) and holds.even:
            index, _, found = page_of_block(publication, block.id)
            numbers = stack_numbers(
                self.session.setter.composer, publication, found, block_box(publication, index + 1, found)
            )
        heading = headings.STORY if isinstance(holds, HoldsStory) else headings.LINES
        return heading, [row_of(number, lambda _: None) for number in numbers]

    def _set(self, block: Block) -> Iterator[tuple[str, Row]]:
        """All that can be set of it, but for how it is treated and, where no story runs, how text runs round it."""
        workings: dict[str, str] = {}
        if isinstance(block.holds, HoldsBarcode):
            workings = {"size": format_barcode(self.session.publication, block.holds)}
        if isinstance(block.holds, HoldsCode):
            box = block_box(self.session.publication, self._page_of(block), block)
            workings = {"says": format_code(self.session.publication, block, box)}
        notes = {"number": ISSUED, "aims": "; ".join(missed(self.session.publication, self._page_of(block), block))}
        for each in sorted(block_properties(block), key=lambda of: headings.ranked(of.key)):
            if not each.key.startswith("treatment.") and not self._is_idle(block, each.key):
                row = block_row(self.session, block, each, workings.get(each.key, ""), notes.get(each.key, ""))
                yield headings.heading_of(block, each.key), row

    def _own_type(self, block: Block) -> list[Row | Card]:
        """What is not its role's, and that the role may say it too, or a new one."""
        stated = stated_of(block)
        if not stated:
            return []

        def make(which: str) -> bool:
            edit = make_the_role if which == "the" else make_a_role
            return self.session.edit(lambda p: edit(p, block.id), f"made it {which} role")

        label = first_role(self.session.publication, block).label
        choices = (("the", f"Make it the role: {label} says so everywhere"), ("a", "Make it a new role"))
        count = f"{len(stated)} here {'is' if len(stated) == 1 else 'are'} not the role's"
        return [Row(count, "make it", "", "", "", make, choices)]

    def _page_of(self, block: Block) -> int:
        """The number of the page the block lies on."""
        return page_of_block(self.session.publication, block.id)[0] + 1

    def _keep_light(self, block: Block) -> Row:
        def keep(name: str) -> bool:
            return self.session.edit(lambda p: keep_light(p, block.id, name), f"kept as the look {name}")

        return Row("Keep it as a look", "name it", "", "", "", keep, hint="others may be given it")

    def _keep_fade(self, block: Block) -> Row:
        def keep(name: str) -> bool:
            return self.session.edit(lambda p: keep_fade(p, block.id, name), f"kept as the fade {name}")

        return Row("Keep the fade", "name it", "", "", "", keep, hint="others may be filled with it")

    def _is_idle(self, block: Block, key: str) -> bool:
        """Whether setting it would change nothing: an ink of pixels, or text that runs nowhere."""
        if key.startswith("wrap"):
            return not self.session.takes_stories
        if not is_lit(self.session.publication, block, key):
            return True
        if not isinstance(block.holds, HoldsPicture):
            return False
        return key == "ink" and not picture_of(self.session.publication, block.holds.picture).art

    def _of_picture(self, block: Block) -> Iterator[tuple[str, list[Row | Card]]]:
        if not isinstance(block.holds, HoldsPicture) or picture_of(self.session.publication, block.holds.picture).art:
            return
        picture = picture_of(self.session.publication, block.holds.picture)
        told: list[Row | Card] = [self._told_row(picture, field) for field in ("caption", "credit")]
        words: list[Row | Card] = [self._words_row(picture, field) for field in PICTURE_WORDS]
        yield headings.AIMS, words
        yield headings.CAPTION, [*told, self._caption_row(block)]
        yield headings.PRINTS, [self._inks_row(picture)]

    def _words_row(self, picture: Picture, field: str) -> Row:
        """What is kept clear of the picture, or its named points, in per cent of it."""
        words = PICTURE_WORDS[field]
        now = words.said(getattr(picture, field))

        def take(text: str) -> bool:
            return self.session.edit(lambda p: set_picture_words(p, picture.id, field, text), words.label.lower())

        return Row(words.label, now or "none", "", "", now, take, hint=NOTES[field])

    def _told_row(self, picture: Picture, field: str) -> Row:
        """What is said of the picture, wherever it lies."""
        now = getattr(picture, field)

        def take(text: str) -> bool:
            return self.session.edit(lambda p: tell_of_picture(p, picture.id, field, text), f"{field} of a picture")

        return Row(field.capitalize(), now or "none", "", "", now, take, hint="as its file says, or as you type it")

    def _caption_row(self, block: Block) -> Row:
        """Words that say it, on a side of the picture."""
        laid = captions_of(self.session.publication, block.id)
        words = "laid" if laid else "not laid"
        choices = [("", "where there is room"), *((side, side) for side in SIDES if side)]

        def take(side: str) -> bool:
            if laid:
                return self.session.edit(lambda p: set_side(p, laid[0].id, side), "a caption on another side")
            return self.session.edit(lambda p: give_caption(p, block.id, side)[0], "gave it a caption")

        return Row("Lay its caption", words, "", "", "", take, choices, hint="it keeps to its side of the picture")

    def _inks_row(self, picture: Picture) -> Row:
        """How the picture prints, wherever it lies."""
        return Row(
            "Prints",
            PRINTS[picture.inks],
            "greys go in black alone by themselves",
            "",
            picture.inks,
            lambda v: self.session.edit(lambda p: with_inks(p, picture.file, v), f"how {picture.file} prints"),
            list(PRINTS.items()),
        )

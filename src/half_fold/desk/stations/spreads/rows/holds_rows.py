"""Working rows of a block: what follows from what it holds, and all that can be set of it."""

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
from half_fold.core.spread.framing.aim_words import PICTURE_WORDS, set_picture_words
from half_fold.core.spread.framing.aiming import missed
from half_fold.core.spread.settable.properties import block_properties
from half_fold.core.spread.setting.captions import SIDES, captions_of, give_caption, set_side, tell_of_picture
from half_fold.core.spread.where.frames import block_box
from half_fold.desk.kit.property_rows import block_row
from half_fold.desk.kit.rows import Row, row_of
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

    def rows(self, block: Block) -> tuple[str, str, list[Row]]:
        """What the block is, something about it, and its rows."""
        title, about = kind_of(block.holds).titled(self.session.publication, block.holds)
        return title, about, [*self._worked(block), *self._set(block), *self._of_picture(block)]

    def _worked(self, block: Block) -> list[Row]:
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
        return [row_of(number, lambda _: None) for number in numbers]

    def _set(self, block: Block) -> list[Row]:
        """All that can be set of it, but for how text runs round it."""
        workings: dict[str, str] = {}
        if isinstance(block.holds, HoldsBarcode):
            workings = {"size": format_barcode(self.session.publication, block.holds)}
        if isinstance(block.holds, HoldsCode):
            box = block_box(self.session.publication, self._page_of(block), block)
            workings = {"says": format_code(self.session.publication, block, box)}
        notes = {"number": ISSUED, "aims": "; ".join(missed(self.session.publication, self._page_of(block), block))}
        return [
            block_row(self.session, block, each, workings.get(each.key, ""), notes.get(each.key, ""))
            for each in block_properties(block)
            if not each.key.startswith(("wrap", "treatment.")) and not self._is_idle(block, each.key)
        ]

    def _page_of(self, block: Block) -> int:
        """The number of the page the block lies on."""
        return page_of_block(self.session.publication, block.id)[0] + 1

    def _is_idle(self, block: Block, key: str) -> bool:
        """Whether setting it would change nothing: an ink of pixels."""
        if not isinstance(block.holds, HoldsPicture):
            return False
        return key == "ink" and not picture_of(self.session.publication, block.holds.picture).art

    def _of_picture(self, block: Block) -> list[Row]:
        if not isinstance(block.holds, HoldsPicture) or picture_of(self.session.publication, block.holds.picture).art:
            return []
        picture = picture_of(self.session.publication, block.holds.picture)
        told = [self._told_row(picture, field) for field in ("caption", "credit")]
        words = [self._words_row(picture, field) for field in PICTURE_WORDS]
        return [*told, *words, self._caption_row(block), self._inks_row(picture)]

    def _words_row(self, picture: Picture, field: str) -> Row:
        """What is kept clear of the picture, or its named points, in per cent of it."""
        words = PICTURE_WORDS[field]
        now = words.said(getattr(picture, field))

        def take(text: str) -> bool:
            return self.session.edit(lambda p: set_picture_words(p, picture.id, field, text), words.label.lower())

        return Row(words.label, now or "none", NOTES[field], "", now, take)

    def _told_row(self, picture: Picture, field: str) -> Row:
        """What is said of the picture, wherever it lies."""
        now = getattr(picture, field)

        def take(text: str) -> bool:
            return self.session.edit(lambda p: tell_of_picture(p, picture.id, field, text), f"{field} of a picture")

        return Row(field.capitalize(), now or "none", "as its file says, or as you type it", "", now, take)

    def _caption_row(self, block: Block) -> Row:
        """Words that say it, on a side of the picture."""
        laid = captions_of(self.session.publication, block.id)
        words = "laid" if laid else "not laid"
        choices = [("", "where there is room"), *((side, side) for side in SIDES if side)]

        def take(side: str) -> bool:
            if laid:
                return self.session.edit(lambda p: set_side(p, laid[0].id, side), "a caption on another side")
            return self.session.edit(lambda p: give_caption(p, block.id, side)[0], "gave it a caption")

        return Row("Lay its caption", words, "it keeps to its side of the picture", "", "", take, choices)

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

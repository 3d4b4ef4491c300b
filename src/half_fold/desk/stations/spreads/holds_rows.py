"""Working rows of what a block holds: picture, story, words, panel."""

from collections.abc import Sequence

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.numbers.blocks import stack_numbers, story_numbers
from half_fold.core.publication.records import (
    Block,
    Holds,
    HoldsBarcode,
    HoldsDisplay,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Picture,
    Publication,
)
from half_fold.core.publication.surgery import page_of_block, picture_of, story_of, with_inks
from half_fold.core.spread import edits
from half_fold.core.spread.frames import block_box
from half_fold.desk.kit.rows import Edit, Row, row_of
from half_fold.desk.stations.spreads.barcode_rows import BarcodeRows
from half_fold.desk.workpiece import Workpiece

SIDES = [("", "as the role says"), ("left", "left"), ("centre", "centred"), ("right", "right")]


PRINTS = {
    "": "as its file is",
    "black": "in black alone",
    "four": "in all four inks",
    "kept": "with the inks it brings",
    "converted": "its inks converted",
}


class HoldsRows:
    """Makes the rows; each carries the edit that sets it."""

    def __init__(self, session: Workpiece) -> None:
        self.session = session

    def _set(self, block: str, said: str, holds: Holds) -> bool:
        return self.session.edit(lambda p: edits.set_holds(p, block, holds), said)

    def rows(self, block: Block) -> tuple[str, str, list[Row]]:
        publication, holds = self.session.publication, block.holds
        if isinstance(holds, HoldsPicture):
            picture = picture_of(publication, holds.picture)
            return "Picture", f"{picture.file}, {picture.width} × {picture.height}", self._picture_rows(block.id, holds)
        if isinstance(holds, HoldsStory):
            numbers = story_numbers(publication, self.session.setter.threads, holds.story)
            return (
                "Story",
                story_of(publication, holds.story).title,
                [*(row_of(n, lambda _: None) for n in numbers), *self._story_rows(block, holds)],
            )
        if isinstance(holds, HoldsDisplay):
            title, about = ("Stack", "lines evened to one measure") if holds.even else ("Words", "display text")
            return title, about, self._display_rows(block, holds)
        if isinstance(holds, HoldsPanel):
            return "Ink panel", "", self._panel_rows(block.id, holds)
        if isinstance(holds, HoldsBarcode):
            return "Barcode", "EAN-13", BarcodeRows(self.session).rows(block.id, holds)
        return "Kept free", "Enter on a picture of the picture drawer puts it here", []

    def _picture_rows(self, block: str, holds: HoldsPicture) -> list[Row]:
        pictures = [(p.id, p.file) for p in self.session.publication.pictures]
        shown = dict(pictures)[holds.picture]
        return [
            Row(
                "Which",
                shown,
                "",
                "",
                holds.picture,
                lambda v: self._set(block, "another picture", replace(holds, picture=v)),
                pictures,
            ),
            Row(
                "Sits",
                "fills the block" if holds.scale == "fill" else "fits inside",
                "",
                "",
                holds.scale,
                lambda v: self._set(block, "how it sits", replace(holds, scale=v)),
                [("fill", "fills the block"), ("fit", "fits inside")],
            ),
            Row(
                "Focus across",
                f"{holds.focus_x * 100:.0f} %",
                "from the left",
                "",
                f"{holds.focus_x * 100:.0f}",
                self._share(block, holds, "focus_x"),
            ),
            Row(
                "Focus down",
                f"{holds.focus_y * 100:.0f} %",
                "from the head",
                "",
                f"{holds.focus_y * 100:.0f}",
                self._share(block, holds, "focus_y"),
            ),
            self._inks_row(picture_of(self.session.publication, holds.picture)),
        ]

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

    def _share(self, block: str, holds: HoldsPicture, field: str) -> Edit:
        def take(text: str) -> bool:
            share = _number(self.session, text, 0, 100, "share of the picture")
            return share is not None and self._set(block, "focus", replace(holds, **{field: share / 100}))

        return take

    def _story_rows(self, block: Block, holds: HoldsStory) -> list[Row]:
        def columns(text: str) -> bool:
            count = _number(self.session, text, 1, 12, "number of columns")
            return count is not None and self._set(block.id, "columns", replace(holds, columns=int(count)))

        def balanced(text: str) -> bool:
            return self._set(block.id, "columns made even", replace(holds, balanced=text == "yes"))

        even = "yes" if holds.balanced else "no"
        yes_or_no = (("yes", "yes"), ("no", "no"))
        return [
            Row("Columns", str(holds.columns), "in this block", "", str(holds.columns), columns),
            Row("Made even", even, "where the story ends in this block", "", even, balanced, yes_or_no),
            self._inset_row(block),
        ]

    def _inset_row(self, block: Block) -> Row:
        now = block.inset.typed if block.inset else "0mm"

        def take(text: str) -> bool:
            def make(publication: Publication) -> Publication:
                size = length(text, self.session.unit)
                if size.pt < 0:
                    raise Problem("An inset cannot be less than nothing; type a measure of 0 or more.")
                return edits.set_inset(publication, block.id, size if size.pt else None)

            return self.session.edit(make, "inset")

        return Row("Inset", now, "of the text from the block's edges", "", now, take)

    def _display_rows(self, block: Block, holds: HoldsDisplay) -> list[Row]:
        roles = [(role.name, role.label) for role in self.session.publication.roles]
        role = holds.paragraphs[0].role if holds.paragraphs else "headline"
        size = holds.size.typed if holds.size else "as the role says"

        def set_role(name: str) -> bool:
            return self._set(
                block.id, "role", replace(holds, paragraphs=tuple(replace(p, role=name) for p in holds.paragraphs))
            )

        def set_size(text: str) -> bool:
            try:
                size = length(text, "pt") if text.strip() else None
            except Problem as problem:
                self.session.said.emit(str(problem))
                return False
            if size is not None and not 2 <= size.pt <= 2000:
                self.session.said.emit("Type from 2 to 2000 points can be set; type a size between.")
                return False
            return self._set(block.id, "size", replace(holds, size=size))

        own = [Row("Size", size, "", "", holds.size.typed if holds.size else "", set_size)]
        if holds.even:
            index, _, found = page_of_block(self.session.publication, block.id)
            box = block_box(self.session.publication, index + 1, found)
            lines = stack_numbers(self.session.setter.composer, self.session.publication, found, box)
            own = [row_of(n, lambda _: None) for n in lines]
        return [
            *own,
            Row("Role", dict(roles).get(role, role), "", "", role, set_role, roles),
            self._chosen(block.id, holds, "Evened", "even", holds.even, [(True, "to the measure"), (False, "no")]),
            self._chosen(block.id, holds, "Flush", "side", holds.side, SIDES),
            self._chosen(block.id, holds, "Ink", "ink", holds.ink, [("", "the role's"), *self._inks()]),
            Row(
                "Stands",
                holds.stands,
                "in its block",
                "",
                holds.stands,
                lambda v: self._set(block.id, "where it stands", replace(holds, stands=v)),
                [("head", "at the head"), ("middle", "in the middle"), ("foot", "at the foot")],
            ),
            self._inset_row(block),
        ]

    def _inks(self) -> list[tuple[str, str]]:
        return [(ink.name, ink.name) for ink in self.session.publication.inks]

    def _chosen(
        self, block: str, holds: Holds, name: str, field: str, now: object, choices: Sequence[tuple[object, str]]
    ) -> Row:
        """A row that sets one field of what a block holds to one of some values."""
        by_words = {str(value): value for value, _ in choices}
        shown = [(str(value), words) for value, words in choices]

        def take(words: str) -> bool:
            return self._set(block, name.lower(), replace(holds, **{field: by_words[words]}))

        return Row(name, dict(shown).get(str(now), str(now)), "", "", str(now), take, shown)

    def _panel_rows(self, block: str, holds: HoldsPanel) -> list[Row]:
        inks = self._inks()

        def tint(text: str) -> bool:
            share = _number(self.session, text, 0, 100, "tint")
            return share is not None and self._set(block, "tint", replace(holds, tint=share))

        return [
            Row("Ink", holds.ink, "", "", holds.ink, lambda v: self._set(block, "ink", replace(holds, ink=v)), inks),
            Row("Tint", f"{holds.tint:g} %", "", "", f"{holds.tint:g}", tint),
        ]


def _number(session: Workpiece, text: str, least: float, most: float, what: str) -> float | None:
    try:
        return number_between(text, least, most, what)
    except Problem as problem:
        session.said.emit(str(problem))
        return None

"""Working rows of a barcode: the number issued, its add-on, its size, and what stands above it."""

from collections.abc import Callable

from msgspec.structs import replace

from half_fold.core.measure.entry import MM
from half_fold.core.measure.length import figure
from half_fold.core.measure.number import number_between
from half_fold.core.publication.records import HoldsBarcode, Paragraph, Publication, Run
from half_fold.core.spread import edits
from half_fold.core.spread.barcode import LARGEST, SMALLEST, X_MM, symbol
from half_fold.core.spread.ean import NO_NUMBER, addon, ean13
from half_fold.desk.kit.rows import Edit, Row
from half_fold.desk.workpiece import Workpiece

NOTE_ROLE = "cover note"
ISSUED = "Numbers are issued: take this from the body that issued it, with its own rules for artwork."


class BarcodeRows:
    """Makes the rows; each carries the edit that sets it."""

    def __init__(self, session: Workpiece) -> None:
        self.session = session

    def _edit(self, block: str, said: str, change: Callable[[str], HoldsBarcode]) -> Edit:
        def make(text: str) -> Callable[[Publication], Publication]:
            return lambda publication: edits.set_holds(publication, block, change(text))

        return lambda text: self.session.edit(make(text), said)

    def rows(self, block: str, holds: HoldsBarcode) -> list[Row]:
        drawn = symbol(holds.number, holds.addon, holds.size)
        shown = "none yet" if holds.number == NO_NUMBER else holds.number
        words = " / ".join(paragraph.text for paragraph in holds.paragraphs)
        size = f"{figure(drawn.width / MM)} × {figure(drawn.height / MM)} mm with quiet zones and figures"
        bar = f"narrowest bar {figure(X_MM * holds.size / 100, 3)} mm"
        return [
            Row(
                "Number",
                shown,
                "EAN, ISBN or ISSN as issued; its check digit is proved",
                ISSUED,
                "" if holds.number == NO_NUMBER else holds.number,
                self._edit(block, "barcode number", lambda text: replace(holds, number=ean13(text))),
            ),
            Row(
                "Add-on",
                holds.addon or "none",
                "2 digits for an issue, 5 for a price",
                "",
                holds.addon,
                self._edit(block, "barcode add-on", lambda text: replace(holds, addon=addon(text))),
            ),
            Row(
                "Size",
                f"{holds.size:g} %",
                f"{size}; {bar}",
                "",
                f"{holds.size:g}",
                self._edit(
                    block,
                    "barcode size",
                    lambda text: replace(holds, size=number_between(text, SMALLEST, LARGEST, "size of a barcode")),
                ),
            ),
            Row(
                "Stands",
                holds.side,
                "at the foot of its block",
                "",
                holds.side,
                self._edit(block, "barcode side", lambda text: replace(holds, side=text)),
                [("left", "left"), ("right", "right")],
            ),
            Row(
                "Above it",
                words or "nothing",
                "lines parted by /; {title}, {issue} and {season} are filled in",
                "",
                words,
                self._edit(block, "words above the barcode", lambda text: replace(holds, paragraphs=_lines(text))),
            ),
        ]


def _lines(text: str) -> tuple[Paragraph, ...]:
    parts = [part.strip() for part in text.split("/")]
    return tuple(Paragraph(role=NOTE_ROLE, runs=(Run(text=part),)) for part in parts if part)

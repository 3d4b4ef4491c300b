"""What of black alone is printed on what lies behind it, instead of in a gap of that: as a printer's sheet asks.

White and every other ink knock out; registration colour is on every plate as it is.
"""

from typing import Literal, NamedTuple, get_args

from half_fold.core.drawing.tone import BLACK, Paint

Overprinted = Literal["text", "all", "none"]
OVERPRINTED: tuple[Overprinted, ...] = get_args(Overprinted)
USUAL_SIZE = 24.0  # points, that letters overprint up to where nobody says otherwise


class Overprint(NamedTuple):
    """Which black overprints: letters of up to ``up_to`` points (``text``), all that is black, or none of it."""

    of: Overprinted = "text"
    up_to: float = USUAL_SIZE

    @property
    def words(self) -> str:
        """It in words."""
        if self.of == "text":
            return f"text overprints up to {self.up_to:g} pt; larger, panels and rules knock out"
        return "overprints, panels and rules too" if self.of == "all" else "knocks out, however small"

    def letters(self, paint: Paint, size: float) -> bool:
        """Whether letters of so many points overprint."""
        return paint == BLACK and (self.of == "all" or (self.of == "text" and size <= self.up_to))

    def shapes(self, paint: Paint | None) -> bool:
        """Whether what is filled or stroked with a paint overprints: panels, rules, outlines."""
        return self.of == "all" and paint == BLACK


USUAL = Overprint()

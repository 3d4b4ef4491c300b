"""What a binding is: its extent rule, its fold loss, its block, its spine panel and its limits."""

from collections.abc import Callable
from typing import Literal

from msgspec import Struct

from half_fold.core.brief.bulk import text_thickness
from half_fold.core.measure.worked import Worked
from half_fold.core.publication.records import Publication

CoverKind = Literal["wrap", "case", "leaves", "front", "none"]


def no_panel(_publication: Publication) -> Worked | None:
    """For bindings without a spine panel."""
    return None


def no_worry(_publication: Publication) -> str:
    return ""


class Binding(Struct, frozen=True):
    """``multiple`` of pages it takes, at ``most`` or ``exactly`` so many; ``fold_loss_mm`` of each page at the fold.

    ``panel`` gives the spine panel before rounding, and ``no_spine`` says why there is none; ``block`` the text block;
    ``worry`` a sentence to put to the printer. Sheets of one that ``nests`` lie inside one another, else ``signatures``
    are gathered; their folds stay where it is ``folded``, and thread thickens what is ``sewn``. A ``mounted`` leaf is
    two sheets on a core. What is not ``bound`` has no copy to weigh; its pages may lie in ``pairs`` from the first on,
    or be made ``elsewhere``, so that a blank one stands for them all. ``on_screen`` it is never printed.
    """

    name: str
    label: str
    multiple: int
    fold_loss_mm: float
    panel: Callable[[Publication], Worked | None] = no_panel
    no_spine: str = ""
    block: Callable[[Publication], Worked] = text_thickness
    worry: Callable[[Publication], str] = no_worry
    cover: CoverKind = "wrap"
    exactly: int = 0
    most: int = 0
    nests: bool = False
    signatures: bool = False
    folded: bool = False
    sewn: bool = False
    mounted: bool = False
    rule: str = ""
    bound: bool = True
    pairs: bool = False
    elsewhere: bool = False
    on_screen: bool = False

    @property
    def grows(self) -> bool:
        """Whether a copy takes more pages where its words or goods want them: not a sheet, a spread, a cover alone."""
        return self.bound and not self.exactly

    @property
    def has_sides(self) -> bool:
        """Whether it matters at which side a copy is bound: not for one sheet, nor for a front on a screen."""
        return self.bound or self.pairs or (self.elsewhere and not self.on_screen)

    @property
    def has_spine(self) -> bool:
        return self.panel is not no_panel

    def takes(self, pages: int) -> bool:
        """Whether that many pages can be bound."""
        if self.exactly or 0 < self.most < pages:
            return pages == self.exactly
        return pages % self.multiple == 0

    def nearest(self, pages: int) -> tuple[int, ...]:
        """The next counts down and up that can be bound."""
        if self.exactly or 0 < self.most < pages:
            return (self.exactly or self.most,)
        down = max(self.multiple, pages // self.multiple * self.multiple)
        up = max(self.multiple, -(-pages // self.multiple) * self.multiple)
        return tuple(dict.fromkeys((down, up)))

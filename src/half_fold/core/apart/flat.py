"""What is laid flat of a side, in points: its panels, its folds, and where marks stand beyond the trim."""

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.rect import Rect


class Flat(Struct, frozen=True):
    """Trimmed panels of the outside; ``spine`` is None where the binding has none, ``back`` where only the front is.

    ``flaps`` are what folds in, from left to right: flaps, or the ``leaf`` of a gatefold front. ``bleed`` is what lies
    beyond the trim: the bleed, or a case's turn-in. ``joint`` is how wide the joints of a case are, beside its spine.
    """

    trim: Rect
    back: Rect | None
    spine: Rect | None
    front: Rect
    bleed: float
    flaps: tuple[Rect, ...] = ()
    leaf: Rect | None = None
    what: str = "wrap"
    joint: float = 0.0
    creases: tuple[float, ...] = ()  # of a leaf by itself

    def moved(self, across: float) -> "Flat":
        """The same flat so many points to the right."""

        def there(rect: Rect | None) -> Rect | None:
            return rect if rect is None else rect.moved(across, 0)

        return replace(
            self,
            trim=self.trim.moved(across, 0),
            back=there(self.back),
            spine=there(self.spine),
            front=self.front.moved(across, 0),
            flaps=tuple(flap.moved(across, 0) for flap in self.flaps),
            leaf=there(self.leaf),
            creases=tuple(x + across for x in self.creases),
        )

    @property
    def panels(self) -> tuple[tuple[str, Rect], ...]:
        """Back and front by name, those that there are."""
        back = (("back", self.back),) if self.back is not None else ()
        return (*back, ("front", self.front))

    @property
    def folds(self) -> tuple[float, ...]:
        """Where it is folded, in points."""
        if self.back is None or self.what == "card":
            return self.creases
        middle = (
            (self.spine.left, self.spine.right) if self.spine is not None else (max(self.back.left, self.front.left),)
        )
        outer = (flap.right if flap.right <= middle[0] else flap.left for flap in self.flaps)
        return tuple(sorted((*outer, *middle)))

    @property
    def marked(self) -> tuple[float, ...]:
        """Where marks stand beyond the trim, in points: at the folds, and at the boards' edges of a case's joints."""
        if not self.joint or self.spine is None:
            return self.folds
        return tuple(sorted((*self.folds, self.spine.left - self.joint, self.spine.right + self.joint)))

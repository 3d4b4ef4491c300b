"""A length keeps the number and the unit as typed, and gives points."""

import math
import re
from decimal import Decimal
from functools import lru_cache

from half_fold.core.measure.entry import MM, UNITS, evaluate, is_pixels, unit_name

_DECIMALS = {"mm": 2, "cm": 3, "in": 4, "pt": 2, "um": 0}
_TYPED_DECIMALS = {"um": 0, "cm": 4, "in": 4, "pica": 4}  # of what is typed again, where it is not three
_BARE_PIXELS = re.compile(r"px(?!\s*@)", re.IGNORECASE)


class Length:
    """What was typed (the form the file keeps) and what it comes to in points. Never changed once made.

    Not a record: the file's codec would then write its fields in place of what was typed.
    """

    __slots__ = ("pt", "typed")
    typed: str
    pt: float

    def __init__(self, typed: str, pt: float) -> None:
        object.__setattr__(self, "typed", typed)
        object.__setattr__(self, "pt", pt)

    def __setattr__(self, name: str, value: object) -> None:
        raise AttributeError("a length is never changed; make another")

    def __reduce__(self) -> tuple[type["Length"], tuple[str, float]]:
        return Length, (self.typed, self.pt)  # so that another process can be given it

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Length) and (self.typed, self.pt) == (other.typed, other.pt)

    def __hash__(self) -> int:
        return hash((self.typed, self.pt))

    def __repr__(self) -> str:
        return f"Length({self.typed!r})"

    @property
    def mm(self) -> float:
        """Millimetres, without the noise of the last binary digits."""
        return round(self.pt / MM, 10)

    def __str__(self) -> str:
        return self.typed


@lru_cache(maxsize=4096)
def length(typed: str, own_unit: str = "mm") -> Length:
    """The length ``typed``; a bare number is in ``own_unit``, which the kept form then states.

    Raises Problem where the entry cannot be understood.
    """
    text = " ".join(typed.split())
    result = evaluate(text, own_unit)
    if not result.is_length:
        simple = text.replace(".", "").replace(",", "").isdigit()
        if is_pixels(own_unit) and not simple:  # which are of so many to the inch, and not said of a sum
            return Length(f"{_plain(result.value)}{own_unit}", result.value * UNITS[own_unit])
        return Length(f"{text}{own_unit}" if simple else f"({text}){own_unit}", result.value * UNITS[own_unit])
    if is_pixels(own_unit) and _BARE_PIXELS.search(text):
        typed = (
            _BARE_PIXELS.sub(own_unit, text)
            if ")" not in text
            else f"{_plain(in_unit(result.value, own_unit))}{own_unit}"
        )
        return Length(typed, result.value)
    if own_unit != "mm" and abs(evaluate(text, "mm").value - result.value) > 1e-9:
        return Length(f"{_plain(result.value / UNITS[own_unit], 17)}{own_unit}", result.value)
    return Length(text, result.value)


def of_points(value: float) -> Length:
    """The length of so many points, as it would be typed to the hundredth."""
    return length(f"{figure(value)}pt")


def of_mm(value: float) -> Length:
    """The length of so many millimetres, to the nanometre: what was typed in any unit comes back as it was."""
    return length(f"{_plain(round(value, 6))}mm")


def of_unit(points: float, unit: str) -> Length:
    """The length of so many points, as it would be typed in a unit: to about a micrometre."""
    return length(f"{_plain(round(in_unit(points, unit), _TYPED_DECIMALS.get(unit, 3)))}{unit}")


def _plain(value: float, digits: int = 12) -> str:
    """A number in so many digits, as it is typed: never in powers of ten, however small."""
    return f"{Decimal(f'{value + 0.0:.{digits}g}'):f}"


def in_unit(points: float, unit: str) -> float:
    """Points in another unit."""
    return points / UNITS[unit]


def figure(value: float, decimals: int = 2) -> str:
    """A number as it is read: at most so many decimals, none that say nothing, a true minus sign."""
    nudge = math.copysign(1e-9, value)  # so that 3.175, which no float holds, goes up as a reader expects
    text = f"{value + nudge:.{decimals}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text == "-0" else text.replace("-", "−")


def counted(count: int, thing: str) -> str:
    """A count with its noun: ``1 line``, ``4 lines``, ``9,412 words``."""
    return f"{count} {thing}" if count == 1 else f"{count:,} {thing}s"


def length_roughly(points: float, unit: str = "mm") -> str:
    """A length as it is said in passing: ``254 mm``, ``10 in``, to a tenth where the unit is a large one."""
    return f"{figure(in_unit(points, unit), 1 if unit in ('in', 'cm') else 0)} {unit_name(unit)}"


def format_size(wide: float, high: float, unit: str = "mm") -> str:
    """A size in points as it is read: ``220 × 285 mm``."""
    return f"{format_length(wide, unit).partition(' ')[0]} × {format_length(high, unit)}"


def format_length(points: float, unit: str = "mm") -> str:
    """A length as it is read in the job's own unit: ``4.62 mm``, ``0.1819 in``."""
    return f"{figure(in_unit(points, unit), _DECIMALS.get(unit, 2))} {unit_name(unit)}"

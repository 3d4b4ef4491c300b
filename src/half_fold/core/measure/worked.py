"""A worked number carries its value, its unit, its name and the numbers it was made from.

Arithmetic on worked numbers builds the working by itself: ``(block + 2 * cover).named("Spine")`` reads
``block 4.04 + 2 × cover 0.29``. For everything the user reads; never in inner loops.
"""

import math
from collections.abc import Iterable

from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.measure.entry import MM, UNITS, unit_name
from half_fold.core.measure.length import Length, figure

PER_MM = {unit: MM / UNITS[unit] for unit in ("mm", "cm", "µm", "in", "pt", "pica", "q")}
_SUM, _PRODUCT, _ATOM = 1, 2, 3
_DECIMALS = {
    "µm": 1,
    "in": 4,
    "g": 0,
    "": 3,
    "pages": 0,
    "leaves": 0,
    "lines": 0,
    "ppi": 0,
    "%": 0,
    "cm": 3,
    "pica": 3,
    "px": 1,
}
_ONE = {"lines": "line", "pages": "page", "leaves": "leaf", "words": "word", "copies": "copy"}


class Worked(Struct, frozen=True):
    """``how`` is the working as read; ``parts`` what it unfolds to; ``typed`` is set where the user may edit."""

    value: float
    unit: str = ""
    name: str = ""
    how: str = ""
    parts: tuple["Worked", ...] = ()
    key: str = ""
    edits: str = ""
    typed: str = ""
    note: str = ""
    binds: int = _ATOM

    def named(self, name: str, key: str = "", note: str = "") -> "Worked":
        """The same number under a name (and its stable key), so that later workings call it so."""
        return replace(self, name=name, key=key or self.key, note=note or self.note)

    def said(self, how: str) -> "Worked":
        """The same number with its working in other words."""
        return replace(self, how=how)

    @property
    def text(self) -> str:
        """Value and unit as read: ``18 mm``, ``4 lines``, ``1 line``, ``9,412 words``."""
        if self.unit in _ONE and self.value >= 1000:
            return f"{self.value:,.0f} {self.unit}"
        unit = _ONE.get(self.unit, self.unit) if self.number == "1" else self.unit
        return f"{self.number} {unit}".strip()

    @property
    def number(self) -> str:
        """The value as read, without its unit."""
        return figure(self.value, _DECIMALS.get(self.unit, 2))

    def to(self, unit: str) -> "Worked":
        """The same length in another unit; the working stays."""
        name = unit_name(unit)
        if name == self.unit:
            return self
        return replace(self, value=self.value / PER_MM[self.unit] * MM / UNITS[unit], unit=name)

    def said_in(self, unit: str) -> "Worked":
        """The same as a job that counts in that unit says it; a working that stays in millimetres says so."""
        if unit == "mm":
            return self
        parts = tuple(part.said_in(unit) for part in self.parts)
        if self.unit != "mm":
            return replace(self, parts=parts) if parts else self
        how = f"{self.how}, in mm" if self.parts and self.how else self.how
        return replace(self.to(unit), how=how, parts=parts)

    def rounded_to(self, step: float, rule: str) -> "Worked":
        """Rounded once to the nearest ``step`` (in its own unit); ``rule`` says so in the working."""
        value = math.floor(self.value / step + 0.5 + 1e-9) * step
        return replace(self, value=value, how=f"{self.how} = {figure(self.value, 3)}, {rule}")

    def __add__(self, other: "Worked") -> "Worked":
        return _joined(self, "+", other)

    def __sub__(self, other: "Worked") -> "Worked":
        return _joined(self, "−", other)

    def __mul__(self, other: "Worked | float") -> "Worked":
        return _joined(self, "×", _worked(other))

    def __rmul__(self, other: float) -> "Worked":
        return _joined(_worked(other), "×", self)

    def __truediv__(self, other: "Worked | float") -> "Worked":
        return _joined(self, "÷", _worked(other))


def given(
    value: float,
    unit: str,
    name: str,
    *,
    key: str = "",
    edits: str = "",
    typed: str = "",
    how: str = "",
    note: str = "",
) -> Worked:
    """A number that was not computed: typed by the user (``edits`` names what it sets) or read from a list."""
    return Worked(value, unit, name, how or ("as typed" if edits else ""), (), key, edits, typed, note)


def given_length(size: Length, name: str, *, key: str = "", edits: str = "", note: str = "") -> Worked:
    """A typed length in millimetres."""
    return given(size.mm, "mm", name, key=key, edits=edits, typed=size.typed, how=size.typed, note=note)


def total(numbers: Iterable[Worked]) -> Worked:
    """The sum of one or more worked numbers of one unit."""
    first, *rest = numbers
    for number in rest:
        first = first + number
    return first


def _worked(value: "Worked | float") -> Worked:
    return value if isinstance(value, Worked) else Worked(float(value))


def _said(number: Worked, binds: int, last: bool) -> str:
    """How an operand reads inside a working: its name and value, or its own working where it has no name."""
    if number.name:
        return f"{number.name[0].lower()}{number.name[1:]} {number.number}"
    if not number.how:
        return number.number
    needs = number.binds < binds or (last and number.binds == binds)
    return f"({number.how})" if needs else number.how


def _parts(number: Worked) -> tuple[Worked, ...]:
    return (number,) if number.name else number.parts


def _joined(left: Worked, sign: str, right: Worked) -> Worked:
    binds = _SUM if sign in "+−" else _PRODUCT
    if binds == _SUM and left.unit != right.unit:
        right = right.to(left.unit)
    value = {
        "+": left.value + right.value,
        "−": left.value - right.value,
        "×": left.value * right.value,
        "÷": left.value / right.value if right.value else math.inf,
    }[sign]
    unit = left.unit if binds == _SUM else _unit_of_product(left, sign, right)
    how = f"{_said(left, binds, False)} {sign} {_said(right, binds, sign in '−÷')}"
    return Worked(value, unit, "", how, _parts(left) + _parts(right), binds=binds)


def _unit_of_product(left: Worked, sign: str, right: Worked) -> str:
    if sign == "÷" and left.unit == right.unit:
        return ""
    if left.unit in PER_MM:
        return left.unit
    return right.unit if right.unit in PER_MM and sign == "×" else left.unit or right.unit

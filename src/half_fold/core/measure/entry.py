"""Arithmetic entry: what a designer types in a field, evaluated to points.

A fraction that stands before a unit binds first (``1/8in`` is an eighth of an inch), a number without a
unit is in the field's own unit, and a comma may stand for the decimal point.
"""

import math
import re
from typing import NamedTuple

from half_fold.core.measure.problem import Problem

MM = 72 / 25.4
PIXEL = "px"
_PIXELS = re.compile(r"px@(\d+(?:\.\d+)?)")  # as a unit: so many of them to the inch


class _Units(dict[str, float]):
    """Points to each unit; one of pixels says itself how many go to the inch."""

    def __missing__(self, unit: str) -> float:
        found = _PIXELS.fullmatch(unit)
        if found is None or not float(found[1]):
            raise KeyError(unit)
        return 72 / float(found[1])

    def __contains__(self, unit: object) -> bool:
        return super().__contains__(unit) or (isinstance(unit, str) and _PIXELS.fullmatch(unit) is not None)


UNITS: dict[str, float] = _Units({
    "mm": MM,
    "cm": 10 * MM,
    "um": MM / 1000,
    "µm": MM / 1000,
    "μm": MM / 1000,
    "in": 72.0,
    '"': 72.0,
    "pt": 1.0,
    "pica": 12.0,
    "picas": 12.0,
    "p": 12.0,
    "q": MM / 4,
})  # fmt: skip


def is_pixels(unit: str) -> bool:
    """Whether a unit is one of pixels, such as px@300."""
    return _PIXELS.fullmatch(unit) is not None


def unit_name(unit: str) -> str:
    """A unit as it is read."""
    return "µm" if unit == "um" else PIXEL if is_pixels(unit) else unit


LONGEST_ENTRY = 200
LARGEST_POINTS = 1e7

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_UNIT = r"(?:picas?|px|mm|cm|um|µm|μm|in|pt|p|q|\")(?![a-z])"
_TOKEN = re.compile(
    rf"""\s*(?:
      (?P<picas>\d+)p(?P<points>{_NUMBER})
    | (?P<pixels>{_NUMBER})\s*px\s*@\s*(?P<ppi>{_NUMBER})(?:\s*ppi)?
    | (?:(?P<whole>\d+)\s+)?(?P<over>{_NUMBER})\s*/\s*(?P<under>{_NUMBER})\s*(?P<unit_f>{_UNIT})
    | (?P<whole_n>\d+)\s+(?P<over_n>\d+)\s*/\s*(?P<under_n>\d+)(?!\s*{_UNIT})
    | (?P<number>{_NUMBER})\s*(?P<unit>{_UNIT})?
    | (?P<close>\))\s*(?P<unit_c>{_UNIT})?
    | (?P<sign>[-+*/×÷(−])
    )""",
    re.VERBOSE | re.IGNORECASE,
)
_SAME_SIGN = {"×": "*", "÷": "/", "−": "-"}


class Quantity(NamedTuple):
    """A number on the way through an entry: points when ``is_length``, else a bare number."""

    value: float
    is_length: bool


class _Token(NamedTuple):
    sign: str
    quantity: Quantity | None
    unit: str


def _figure(text: str) -> float:
    return float(text.replace(",", "."))


def _per(over: float, under: float, entry: str) -> float:
    if under == 0:
        raise Problem(f"“{entry}” divides by nothing; change the number after the stroke.")
    return over / under


def _points(unit: str, own_unit: str, entry: str) -> float:
    """Points to a unit that was typed; pixels are those of the job, where it counts in them."""
    if unit != PIXEL:
        return UNITS[unit]
    if not is_pixels(own_unit):
        raise Problem(f"“{entry}” does not say how many pixels go to the inch; type it as in 4px@300ppi.")
    return UNITS[own_unit]


def _token(match: re.Match[str], entry: str, own_unit: str) -> _Token:
    found = {name: text for name, text in match.groupdict().items() if text is not None}
    if "sign" in found:
        return _Token(_SAME_SIGN.get(found["sign"], found["sign"]), None, "")
    if "close" in found:
        return _Token(")", None, found.get("unit_c", "").lower())
    if "picas" in found:
        return _Token("", Quantity(12 * _figure(found["picas"]) + _figure(found["points"]), True), "")
    if "pixels" in found:
        return _Token("", Quantity(72 * _per(_figure(found["pixels"]), _figure(found["ppi"]), entry), True), "")
    if "over" in found:
        number = _figure(found.get("whole", "0")) + _per(_figure(found["over"]), _figure(found["under"]), entry)
        return _Token("", Quantity(number * _points(found["unit_f"].lower(), own_unit, entry), True), "")
    if "over_n" in found:
        whole, over, under = (_figure(found[key]) for key in ("whole_n", "over_n", "under_n"))
        return _Token("", Quantity(whole + _per(over, under, entry), False), "")
    number, unit = _figure(found["number"]), found.get("unit", "").lower()
    return _Token("", Quantity(number * _points(unit, own_unit, entry), True) if unit else Quantity(number, False), "")


def _tokens(entry: str, own_unit: str) -> list[_Token]:
    tokens, at = [], 0
    text = entry.rstrip()
    while at < len(text):
        match = _TOKEN.match(text, at)
        if match is None:
            word = re.match(r"\s*(\w+|.)", text[at:])
            raise Problem(
                f"“{word.group(1) if word else text[at:]}” in “{entry}” is not understood; "
                "type a measure such as 12mm, 1/2in or 6p3."
            )
        tokens.append(_token(match, entry, own_unit))
        at = match.end()
    return tokens


class _Reader:
    """Recursive descent over one entry's tokens."""

    def __init__(self, entry: str, own_unit: str) -> None:
        self.entry, self.own_unit, self.at = entry, own_unit.lower(), 0
        self.own, self.tokens = UNITS[self.own_unit], _tokens(entry, self.own_unit)

    def _sign(self, *signs: str) -> str:
        if self.at < len(self.tokens) and self.tokens[self.at].sign in signs:
            self.at += 1
            return self.tokens[self.at - 1].sign
        return ""

    def as_length(self, quantity: Quantity) -> Quantity:
        """A bare number is in the field's own unit."""
        return quantity if quantity.is_length else Quantity(quantity.value * self.own, True)

    def whole(self) -> Quantity:
        if not self.tokens:
            raise Problem("Nothing was typed; type a measure such as 12mm.")
        result = self.sum()
        if self.at < len(self.tokens):
            raise Problem(f"“{self.entry}” has something left over at its end; check the signs between the numbers.")
        return result

    def sum(self) -> Quantity:
        left = self.product()
        while sign := self._sign("+", "-"):
            right = self.product()
            if left.is_length != right.is_length:
                left, right = self.as_length(left), self.as_length(right)
            left = Quantity(left.value + right.value if sign == "+" else left.value - right.value, left.is_length)
        return left

    def product(self) -> Quantity:
        left = self.atom()
        while sign := self._sign("*", "/"):
            right = self.atom()
            if sign == "*":
                if left.is_length and right.is_length:
                    raise Problem(f"“{self.entry}” multiplies two lengths; leave the unit off one of them.")
                left = Quantity(left.value * right.value, left.is_length or right.is_length)
            else:
                if right.is_length and not left.is_length:
                    raise Problem(f"“{self.entry}” divides a number by a length; put the length first.")
                left = Quantity(_per(left.value, right.value, self.entry), left.is_length != right.is_length)
        return left

    def atom(self) -> Quantity:
        if self._sign("-"):
            inner = self.atom()
            return Quantity(-inner.value, inner.is_length)
        if self._sign("+"):
            return self.atom()
        if self._sign("("):
            inner = self.sum()
            if not self._sign(")"):
                raise Problem(f"“{self.entry}” lacks a closing bracket.")
            unit = self.tokens[self.at - 1].unit
            if not unit or inner.is_length:
                return inner
            return Quantity(inner.value * _points(unit, self.own_unit, self.entry), True)
        token = self.tokens[self.at] if self.at < len(self.tokens) else None
        if token is None or token.quantity is None:
            raise Problem(f"“{self.entry}” stops before a number; type the number that is missing.")
        self.at += 1
        return token.quantity


def evaluate(entry: str, own_unit: str = "mm") -> Quantity:
    """What ``entry`` comes to: points, or a bare number if no unit was typed.

    Raises Problem with a sentence that names what was not understood.
    """
    if len(entry) > LONGEST_ENTRY:
        raise Problem(f"A measure of {len(entry)} characters is too long to be meant; shorten it.")
    result = _Reader(entry, own_unit).whole()
    if not math.isfinite(result.value) or abs(result.value) > LARGEST_POINTS:
        raise Problem(f"“{entry}” is larger than any sheet; type a smaller measure.")
    return result

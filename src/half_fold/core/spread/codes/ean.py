"""EAN-13 and its add-ons: digits as typed, check digits, and the modules of the symbol.

Source: ISO/IEC 15420. Numbers are issued: an ISSN, an ISBN or a trade number comes from its own issuing body,
and nothing here makes one up.
"""

import re

from half_fold.core.measure.problem import Problem
from half_fold.core.publication.kinds import NO_NUMBER

_LEFT_ODD = (
    "0001101",
    "0011001",
    "0010011",
    "0111101",
    "0100011",
    "0110001",
    "0101111",
    "0111011",
    "0110111",
    "0001011",
)
_RIGHT = tuple("".join("10"[int(bit)] for bit in code) for code in _LEFT_ODD)
_LEFT_EVEN = tuple(code[::-1] for code in _RIGHT)
_PARITY = ("OOOOOO", "OOEOEE", "OOEEOE", "OOEEEO", "OEOOEE", "OEEOOE", "OEEEOO", "OEOEOE", "OEOEEO", "OEEOEO")
_PARITY_2 = ("OO", "OE", "EO", "EE")
_PARITY_5 = ("EEOOO", "EOEOO", "EOOEO", "EOOOE", "OEEOO", "OOEEO", "OOOEE", "OEOEO", "OEOOE", "OOEOE")
_GUARD, _MIDDLE, _OPENING, _BETWEEN = "101", "01010", "1011", "01"


def ean13(typed: str) -> str:
    """The 13 digits of a number typed as EAN (12 or 13 digits), ISBN or ISSN. Problem says what is wrong with it."""
    from stdnum import ean, isbn, issn  # only where a number is typed: it would slow every start
    from stdnum.exceptions import ValidationError

    digits = re.sub(r"[\s\-–]", "", typed).upper()
    try:
        if re.fullmatch(r"\d{7}[\dX]", digits):
            return str(issn.to_ean(issn.validate(digits)))
        if re.fullmatch(r"\d{9}[\dX]", digits):
            return str(isbn.to_isbn13(isbn.validate(digits))).replace("-", "")
        if re.fullmatch(r"\d{12}", digits):
            return digits + str(ean.calc_check_digit(digits))
        if re.fullmatch(r"\d{13}", digits):
            return str(ean.validate(digits))
    except ValidationError as error:
        raise Problem(
            f"The check digit of “{typed}” does not fit the rest; compare it with the number issued."
        ) from error
    raise Problem(f"“{typed}” is no EAN (12 or 13 digits), ISBN (10 or 13) or ISSN (8); type the number issued.")


def addon(typed: str) -> str:
    """An add-on of 2 or 5 digits, or '' for none."""
    digits = typed.strip()
    if digits and not re.fullmatch(r"\d{2}|\d{5}", digits):
        raise Problem(f"An add-on has 2 digits (the issue) or 5 (a price); “{typed}” has not.")
    return digits


def drawable(number: str, add: str) -> tuple[str, str]:
    """Digits that can be drawn: those given where they are 13 with an add-on of 2, 5 or none, else none at all."""
    number = number if re.fullmatch(r"[0-9]{13}", number) else NO_NUMBER
    return number, add if re.fullmatch(r"([0-9]{2}|[0-9]{5})?", add) else ""


def modules(number: str) -> str:
    """The 95 modules of an EAN-13, 1 for a bar."""
    parity = _PARITY[int(number[0])]
    left = "".join(_half(digit, kind) for digit, kind in zip(number[1:7], parity, strict=True))
    right = "".join(_RIGHT[int(digit)] for digit in number[7:])
    return _GUARD + left + _MIDDLE + right + _GUARD


def addon_modules(digits: str) -> str:
    """The 20 modules of a two-digit add-on or the 47 of a five-digit one."""
    if len(digits) == 2:
        parity = _PARITY_2[int(digits) % 4]
    else:
        weighed = 3 * sum(map(int, digits[::2])) + 9 * sum(map(int, digits[1::2]))
        parity = _PARITY_5[weighed % 10]
    return _OPENING + _BETWEEN.join(_half(digit, kind) for digit, kind in zip(digits, parity, strict=True))


def _half(digit: str, parity: str) -> str:
    return (_LEFT_ODD if parity == "O" else _LEFT_EVEN)[int(digit)]

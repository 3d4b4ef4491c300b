"""Signs of the old symbol fonts, as the letters they stand for."""

_SYMBOL = dict(
    zip(
        range(0x41, 0x5B),
        "ΑΒΧΔΕΦΓΗΙϑΚΛΜΝΟΠΘΡΣΤΥςΩΞΨΖ",
        strict=True,
    )
)
_SYMBOL |= dict(zip(range(0x61, 0x7B), "αβχδεφγηιϕκλμνοπθρστυϖωξψζ", strict=True))
_SYMBOL |= {
    0xB0: "°",
    0xB1: "±",
    0xB2: "″",
    0xB3: "≥",
    0xB4: "×",
    0xB7: "•",
    0xB9: "≠",
    0xBB: "≈",
    0xA3: "≤",
    0xA5: "∞",
}
_SYMBOL |= {
    0xAC: "←",
    0xAD: "↑",
    0xAE: "→",
    0xAF: "↓",
    0xD6: "√",
    0xE5: "∑",
    0xF2: "∫",
    0xA2: "′",
    0xBC: "…",
    0xC5: "⊕",
}
_WINGDINGS = {0x6C: "●", 0x6E: "■", 0x6F: "□", 0x71: "❑", 0x75: "◆", 0x76: "❖", 0xA7: "▪", 0xA8: "◻", 0xD8: "➢"}
_WINGDINGS |= {
    0xE0: "→",
    0xDF: "←",
    0xE1: "↑",
    0xE2: "↓",
    0xFC: "✓",
    0xFB: "✗",
    0xFE: "☑",
    0x4A: "☺",
    0x28: "☎",
    0x2A: "✉",
}
_FONTS = {"symbol": _SYMBOL, "wingdings": _WINGDINGS}


def symbol_letter(font: str, code: str) -> str:
    """The letter that a sign of a font stands for, its code in hexadecimal; "" where that is not known."""
    try:
        number = int(code, 16)
    except ValueError:
        return ""
    known = _FONTS.get(font.lower())
    if known is not None:
        return known.get(number & 0xFF, "")
    return "" if 0xE000 <= number <= 0xF8FF or not 0 < number < 0xD800 else chr(number)

"""Equations as words on one line: what a reader would say of them, until there is a place for more."""

from half_fold.core.typesetting.texts.office import Element, attribute, child, element_name

_AS_ONE = 1  # letters that need no brackets


def format_equation(element: Element) -> str:
    """An equation of a word processor (OMML or MathML) on one line: ``(a+b)/2``, ``x^2``, ``√(y)``."""
    name = element_name(element)
    if name in ("t", "mi", "mn", "mo", "mtext", "ms"):
        return (element.text or "").strip() if name != "t" else element.text or ""
    if name in ("annotation", "annotation-xml") or name.endswith("Pr"):
        return ""
    parts = [each for each in element if element_name(each) and not element_name(each).endswith("Pr")]
    if name in ("f", "mfrac"):
        return "/".join(_bracketed(format_equation(part)) for part in parts)
    if name in ("sSup", "msup", "sSub", "msub", "sSubSup", "msubsup"):
        signs = ["", "_", "^"] if "SubSup" in name or name == "msubsup" else ["", "^" if "up" in name else "_"]
        words = [format_equation(part) for part in parts]
        return "".join(sign + (_bracketed(part) if sign else part) for sign, part in zip(signs, words, strict=False))
    if name in ("rad", "msqrt"):
        return f"√({''.join(format_equation(part) for part in parts)})"
    if name == "d":
        begin, end = _sign(element, "begChr", "("), _sign(element, "endChr", ")")
        return begin + ", ".join(format_equation(part) for part in parts) + end
    if name == "nary":
        return _sign(element, "chr", "∫") + "".join(_limits(part) for part in parts)
    return "".join(format_equation(part) for part in parts)


def _limits(part: Element) -> str:
    words = format_equation(part)
    sign = {"sub": "_", "sup": "^"}.get(element_name(part), "")
    return f"{sign}{_bracketed(words)} " if sign and words else words


def _sign(element: Element, name: str, otherwise: str) -> str:
    stated = child(next((each for each in element if element_name(each).endswith("Pr")), None), name)
    return attribute(stated, "val") if stated is not None else otherwise


def _bracketed(words: str) -> str:
    return words if len(words) <= _AS_ONE or words.isalnum() else f"({words})"

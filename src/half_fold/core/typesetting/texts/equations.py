"""Equations as words on one line: what a reader would say of them, until there is a place for more."""

from half_fold.core.typesetting.texts.office import Element, attribute, child, name_of

_AS_ONE = 1  # letters that need no brackets


def equation_words(element: Element) -> str:
    """An equation of a word processor (OMML or MathML) on one line: ``(a+b)/2``, ``x^2``, ``√(y)``."""
    name = name_of(element)
    if name in ("t", "mi", "mn", "mo", "mtext", "ms"):
        return (element.text or "").strip() if name != "t" else element.text or ""
    if name in ("annotation", "annotation-xml") or name.endswith("Pr"):
        return ""
    parts = [each for each in element if name_of(each) and not name_of(each).endswith("Pr")]
    if name in ("f", "mfrac"):
        return "/".join(_bracketed(equation_words(part)) for part in parts)
    if name in ("sSup", "msup", "sSub", "msub", "sSubSup", "msubsup"):
        signs = ["", "_", "^"] if "SubSup" in name or name == "msubsup" else ["", "^" if "up" in name else "_"]
        words = [equation_words(part) for part in parts]
        return "".join(sign + (_bracketed(part) if sign else part) for sign, part in zip(signs, words, strict=False))
    if name in ("rad", "msqrt"):
        return f"√({''.join(equation_words(part) for part in parts)})"
    if name == "d":
        begin, end = _sign(element, "begChr", "("), _sign(element, "endChr", ")")
        return begin + ", ".join(equation_words(part) for part in parts) + end
    if name == "nary":
        return _sign(element, "chr", "∫") + "".join(_limits(part) for part in parts)
    return "".join(equation_words(part) for part in parts)


def _limits(part: Element) -> str:
    words = equation_words(part)
    sign = {"sub": "_", "sup": "^"}.get(name_of(part), "")
    return f"{sign}{_bracketed(words)} " if sign and words else words


def _sign(element: Element, name: str, otherwise: str) -> str:
    stated = child(next((each for each in element if name_of(each).endswith("Pr")), None), name)
    return attribute(stated, "val") if stated is not None else otherwise


def _bracketed(words: str) -> str:
    return words if len(words) <= _AS_ONE or words.isalnum() else f"({words})"

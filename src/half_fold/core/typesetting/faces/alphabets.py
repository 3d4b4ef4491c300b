"""The letters that a language of another script than Latin is written in, and a face that has them."""

from collections.abc import Mapping
from functools import cache

from half_fold.core.typesetting.faces.faces import face
from half_fold.core.typesetting.faces.scripts import Fallbacks, standing_in

_CYRILLIC = "абвгдежзийклмнопрстуфхцчшщьюя"
_ARABIC = "ابتثجحخدذرزسشصضطظعغفقكلمنهوي"
_HEBREW = "אבגדהוזחטיכלמנסעפצקרשתךםןףץ"
ALPHABETS: Mapping[str, str] = {
    "el": "αβγδεζηθικλμνξοπρσςτυφχψωάέήίόύώ",
    "ru": _CYRILLIC + "ъыэё",
    "uk": _CYRILLIC + "ґєії",
    "be": _CYRILLIC.replace("и", "").replace("щ", "") + "ыэёіў",
    "bg": _CYRILLIC + "ъ",
    "mk": "абвгдѓежзѕијклљмнњопрстќуфхцчџш",
    "sr": "абвгдђежзијклљмнњопрстћуфхцчџш",
    "he": _HEBREW,
    "yi": _HEBREW,
    "ar": _ARABIC,
    "fa": _ARABIC + "پچژگ",
}


def for_language(code: str, key: str) -> Fallbacks:
    """(script, family) of what stands in for a face that has not got the letters of a language; none where it has.

    It is asked behind what the type sheet names.
    """
    alphabet = _alphabet(code)
    return of_language(code) if alphabet and face(key).lacks(alphabet) else ()


@cache
def of_language(code: str) -> Fallbacks:
    """(script, family) of a family that ships and has all the letters of a language; none for one in Latin letters."""
    alphabet = _alphabet(code)
    found = standing_in(alphabet) if alphabet else None
    return (found,) if found is not None else ()


def _alphabet(code: str) -> str:
    return ALPHABETS.get(code.partition("_")[0].partition("-")[0].lower(), "")

"""The letters that a language of another script than Latin is written in, and a face that has them."""

from collections.abc import Mapping
from functools import cache

from half_fold.core.typesetting.scripts import Fallbacks, standing_in

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


@cache
def of_language(code: str) -> Fallbacks:
    """(script, family) of a family that ships and has all the letters of a language; none for one in Latin letters.

    It stands in wherever a role's own face has not got them, behind what the type sheet names.
    """
    alphabet = ALPHABETS.get(code.partition("_")[0].partition("-")[0].lower(), "")
    found = standing_in(alphabet) if alphabet else None
    return (found,) if found is not None else ()

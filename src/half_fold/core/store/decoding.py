"""Text files as writers save them: UTF-8, UTF-16, or the older encoding that is usual for a language."""

import codecs
import unicodedata
from typing import NamedTuple

_MARKS = ((codecs.BOM_UTF8, "utf-8-sig"), (codecs.BOM_UTF16_LE, "utf-16"), (codecs.BOM_UTF16_BE, "utf-16"))
_OLDER = {
    "cp1250": ("pl", "cs", "sk", "hu", "hr", "sl", "ro", "sq"),
    "cp1251": ("ru", "uk", "bg", "be", "mk", "sr"),
    "cp1253": ("el",),
    "cp1254": ("tr",),
    "cp1255": ("he",),
    "cp1256": ("ar", "fa", "ur"),
    "cp1257": ("lt", "lv", "et"),
    "cp1258": ("vi",),
    "cp932": ("ja",),
    "cp949": ("ko",),
    "gb18030": ("zh",),
}
_NAMES = {"cp932": "Shift JIS", "cp949": "EUC-KR", "gb18030": "GB 18030"}
_BY_LANGUAGE = {language: name for name, languages in _OLDER.items() for language in languages}
_LAYOUT = "\t\n\r\f\v"


class Decoded(NamedTuple):
    """A text, and the name of the encoding it was taken to be in where the file does not tell; '' where it does."""

    text: str
    taken_as: str = ""


def decode_told(octets: bytes) -> str:
    """The text of a file that tells how it is written: UTF-8 proves itself, UTF-16 has a mark. UnicodeDecodeError."""
    name = next((name for mark, name in _MARKS if octets.startswith(mark)), "utf-8")
    return octets.decode(name)


def decoded(octets: bytes, language: str = "") -> Decoded:
    """The text of a file. UnicodeDecodeError where it is in none that is known, or no text at all.

    What does not tell is taken to be in the encoding that an older system has for texts in ``language`` (a code such
    as de_DE), if that gives only letters.
    """
    try:
        return Decoded(decode_told(octets))
    except UnicodeDecodeError:
        if octets.startswith(tuple(mark for mark, _ in _MARKS)):
            raise
        name = _BY_LANGUAGE.get(language[:2], "cp1252")
        text = octets.decode(name)
        if any(unicodedata.category(letter) == "Cc" and letter not in _LAYOUT for letter in set(text)):
            raise
        return Decoded(text, _NAMES.get(name, name.replace("cp", "Windows-")))

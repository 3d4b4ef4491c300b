"""What a picture's file says in words: by the fields of press agencies (IPTC), else by those of cameras (EXIF)."""

from pathlib import Path
from typing import Any

from PIL import Image, IptcImagePlugin

MOST_WORDS = 2000
_EXIF, _TAKEN, _DESCRIPTION, _ARTIST = 0x8769, 0x9003, 0x010E, 0x013B
_IPTC = {"caption": (2, 120), "creator": (2, 80), "credit": (2, 110), "place": (2, 90), "headline": (2, 105)}
_KEYWORDS = (2, 25)


def file_words(path: Path) -> dict[str, str]:
    """What the file says in its own fields; those of press agencies (IPTC) go before those of cameras (EXIF)."""
    found: dict[str, str] = {}
    try:
        with Image.open(path) as image:
            exif = image.getexif()
            found["taken"] = _time(exif.get_ifd(_EXIF).get(_TAKEN, ""))
            found["caption"], found["creator"] = _plain(exif.get(_DESCRIPTION)), _plain(exif.get(_ARTIST))
            iptc = _iptc(image)
    except (OSError, ValueError, SyntaxError, KeyError, TypeError, AttributeError):
        return {name: words for name, words in found.items() if words}
    headline = _plain(iptc.get(_IPTC["headline"]))
    for name in ("caption", "creator", "credit", "place"):
        found[name] = _plain(iptc.get(_IPTC[name])) or found.get(name, "")
    found["caption"] = found["caption"] or headline
    keywords = iptc.get(_KEYWORDS, [])
    found["keywords"] = ", ".join(map(_plain, keywords if isinstance(keywords, list) else [keywords]))
    return {name: words for name, words in found.items() if words}


def _iptc(image: Image.Image) -> dict[Any, Any]:
    if not hasattr(image, "info") or not isinstance(image, Image.Image):
        return {}
    try:
        return IptcImagePlugin.getiptcinfo(image) or {}  # type: ignore[arg-type]  # of any file
    except (SyntaxError, ValueError, KeyError, TypeError):
        return {}


def _time(text: object) -> str:
    """``2026:11:28 07:30:00`` as ``2026-11-28 07:30:00``; nothing where it is no time."""
    words = _plain(text)
    day, _, hour = words.partition(" ")
    return f"{day.replace(':', '-')} {hour}".strip() if day[:4].isdigit() and day != "0000:00:00" else ""


def _plain(value: object) -> str:
    text = _decoded(value) if isinstance(value, bytes) else str(value or "")
    words = "".join(c if c.isprintable() else " " for c in text)
    return " ".join(words.split())[:MOST_WORDS]


def _decoded(octets: bytes) -> str:
    try:
        return octets.decode("utf-8")
    except UnicodeDecodeError:
        return octets.decode("latin-1")

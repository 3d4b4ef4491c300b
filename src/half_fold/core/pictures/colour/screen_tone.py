"""Colours of a screen as tones of the press: greys in black alone, as pictures print theirs."""

from functools import lru_cache

from PIL import Image

from half_fold.core.drawing.tone import Tone
from half_fold.core.pictures.colour.press_inks import to_press


@lru_cache(4000)
def tone_of_screen(colour: str, profile: bytes) -> Tone:
    """``#rrggbb`` through a press profile."""
    red, green, blue = (int(colour[at : at + 2], 16) for at in (1, 3, 5))
    if red == green == blue:
        made, _ = to_press(Image.new("L", (1, 1), red), profile)
        return Tone(k=1 - float(made.getpixel((0, 0))) / 255)  # type: ignore[arg-type] # a grey's pixel is a number
    made, _ = to_press(Image.new("RGB", (1, 1), (red, green, blue)), profile)
    c, m, y, k = (round(share / 255, 4) for share in made.getpixel((0, 0)))  # type: ignore[union-attr] # four inks
    return Tone(c, m, y, k)

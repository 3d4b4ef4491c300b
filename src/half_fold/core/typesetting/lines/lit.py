"""The light of words within a paragraph, as pieces and glyphs carry it: the look as it is kept in a file."""

from functools import lru_cache

from half_fold.core.publication.records import Look, Run
from half_fold.core.store.codec import decode_as, encoded


def kept_light(run: Run) -> str:
    """What a run is lit by; "" where it has no light of its own."""
    return "" if run.light is None else encoded(run.light).decode()


@lru_cache(256)
def look_in(light: str) -> Look:
    """The look that a piece or a glyph carries."""
    found: Look = decode_as(Look, light.encode())
    return found

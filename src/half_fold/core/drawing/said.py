"""What glyphs stand for, as figures: equal texts have one figure everywhere, so that whole runs compare at once."""

from collections.abc import Iterable, Iterator, Sequence
from threading import Lock
from typing import overload

import numpy as np
import numpy.typing as npt

Ints = npt.NDArray[np.int64]

NOTHING, SPACE = 0, 1
_texts = ["", " "]
_figures = {"": NOTHING, " ": SPACE}
_adding = Lock()
_spelled: tuple[Ints, npt.NDArray[np.uint32]] = np.zeros(1, np.int64), np.empty(0, np.uint32)


def figure_of(text: str) -> int:
    """The figure of a text."""
    found = _figures.get(text)
    if found is None:
        with _adding:
            found = _figures.get(text)
            if found is None:
                _texts.append(text)
                found = _figures[text] = len(_texts) - 1
    return found


def glyph_text(figure: int) -> str:
    """The text of a figure."""
    return _texts[figure]


class Said(Sequence[str]):
    """What each glyph of a run stands for ('' where an earlier glyph already said it), kept as figures."""

    __slots__ = ("figures",)

    def __init__(self, figures: Ints) -> None:
        self.figures = figures

    def __len__(self) -> int:
        return len(self.figures)

    @overload
    def __getitem__(self, at: int) -> str: ...
    @overload
    def __getitem__(self, at: slice) -> "Said": ...
    def __getitem__(self, at: int | slice) -> "str | Said":
        return Said(self.figures[at]) if isinstance(at, slice) else _texts[self.figures[at]]

    def __iter__(self) -> Iterator[str]:
        return iter([_texts[figure] for figure in self.figures.tolist()])

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Sequence) and list(self) == list(other)

    __hash__ = None  # type: ignore[assignment]


def figures_of(texts: Iterable[str]) -> Ints:
    """The figures of what glyphs stand for."""
    if isinstance(texts, Said):
        return texts.figures
    return np.array([figure_of(text) for text in texts], np.int64)


def spelled(texts: Sequence[str]) -> tuple[Ints, npt.NDArray[np.uint32]]:
    """Where the letters of each text begin in the letters of all, and those; the last place is their end."""
    letters = np.frombuffer("".join(texts).encode("utf-32-le", "surrogatepass"), "<u4").astype(np.uint32)
    return np.cumsum([0, *map(len, texts)]), letters


def written_out(places: Ints, begins: Ints, letters: npt.NDArray[np.uint32]) -> str:
    """The texts of those ``places`` as one, of texts that were ``spelled``."""
    counts = begins[places + 1] - begins[places]
    ends = np.cumsum(counts)
    at = np.arange(int(ends[-1]) if len(ends) else 0) + np.repeat(begins[places] - (ends - counts), counts)
    return bytes(letters[at].tobytes()).decode("utf-32-le", "surrogatepass")


def text_of_all(figures: Ints) -> str:
    """The texts of figures as one."""
    global _spelled
    if len(_spelled[0]) <= len(_texts):
        _spelled = spelled(_texts[:])
    return written_out(figures, *_spelled)

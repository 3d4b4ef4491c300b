"""Words are looked up off the interface thread; only the newest search counts."""

from collections.abc import Sequence
from itertools import takewhile

from PyQt6.QtCore import pyqtSignal

from half_fold.core.publication.records import Paragraph
from half_fold.core.typesetting.texts.spelling import all_misspelled, suggestions
from half_fold.desk.beside.newest import Newest, StillWanted


class Speller(Newest):
    """``found`` gives (paragraph, start, end) of the words of the text that was asked about last."""

    found = pyqtSignal(object)
    thought = pyqtSignal(str, object)

    def __init__(self) -> None:
        super().__init__()
        self.thought.connect(self._note)
        self.meant: dict[str, list[str]] = {}  # what may have been meant by the words that were asked about

    def start(self, paragraphs: Sequence[Paragraph], language: str) -> None:
        """Look up the words of a text."""

        def work(still_wanted: StillWanted) -> list[tuple[int, int, int]]:
            wanted = takewhile(lambda _: still_wanted(), paragraphs)
            return list(all_misspelled(wanted, language))

        self.begin(work)

    def think(self, word: str, language: str) -> None:
        """Find what may have been meant by a word; ``meant`` has it a moment later."""
        if word not in self.meant:
            self.meant[word] = []
            self._pool.start(lambda: self.thought.emit(word, suggestions(word, language)))

    def _note(self, word: str, words: list[str]) -> None:
        self.meant[word] = words

    def taken(self, result: object) -> None:
        """Pass the doubtful words on."""
        self.found.emit(result)

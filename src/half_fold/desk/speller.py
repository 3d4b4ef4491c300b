"""Words are looked up off the interface thread; only the newest search counts."""

from collections.abc import Sequence

from PyQt6.QtCore import QObject, QRunnable, QThreadPool, pyqtSignal

from half_fold.core.publication.records import Paragraph
from half_fold.core.typesetting.texts.spelling import misspelled, suggestions


class _Search(QRunnable):
    def __init__(self, speller: "Speller", paragraphs: Sequence[Paragraph], language: str) -> None:
        super().__init__()
        self.speller, self.number = speller, speller.newest
        self.paragraphs, self.language = paragraphs, language

    def run(self) -> None:
        places = []
        for index, paragraph in enumerate(self.paragraphs):
            if self.number != self.speller.newest:
                return
            places += [(index, start, end) for start, end in misspelled(paragraph, self.language)]
        self.speller.done.emit(self.number, places)


class _Thought(QRunnable):
    def __init__(self, speller: "Speller", word: str, language: str) -> None:
        super().__init__()
        self.speller, self.word, self.language = speller, word, language

    def run(self) -> None:
        self.speller.thought.emit(self.word, suggestions(self.word, self.language))


class Speller(QObject):
    """``found`` gives (paragraph, start, end) of the words of the text that was asked about last."""

    done = pyqtSignal(int, object)
    found = pyqtSignal(object)
    thought = pyqtSignal(str, object)

    def __init__(self) -> None:
        super().__init__()
        self.newest = 0
        self._pool = QThreadPool()
        self._pool.setMaxThreadCount(1)
        self.done.connect(self._take)
        self.thought.connect(self._note)
        self.meant: dict[str, list[str]] = {}  # what may have been meant by the words that were asked about

    def start(self, paragraphs: Sequence[Paragraph], language: str) -> None:
        """Look up the words of a text."""
        self.newest += 1
        self._pool.start(_Search(self, paragraphs, language))

    def think(self, word: str, language: str) -> None:
        """Find what may have been meant by a word; ``meant`` has it a moment later."""
        if word not in self.meant:
            self.meant[word] = []
            self._pool.start(_Thought(self, word, language))

    def _note(self, word: str, words: list[str]) -> None:
        self.meant[word] = words

    def cancel(self) -> None:
        self.newest += 1

    def _take(self, number: int, places: object) -> None:
        if number == self.newest:
            self.found.emit(places)

    def wait(self) -> None:
        """Until nothing is looked up; for the end of the window."""
        self.cancel()
        self._pool.waitForDone()

"""Make it fit: the remedies for a story as cards, each applied by one click."""

from collections.abc import Callable

from half_fold.core.spread.edits.fitting import FitRemedy
from half_fold.core.spread.setting.threads import thread
from half_fold.desk.beside.fitter import Fitter
from half_fold.desk.kit.plain import said_of
from half_fold.desk.kit.rows import Card, RowSection
from half_fold.desk.workpiece import Workpiece


class FitCards:
    """The section that offers to make the story at hand fit, and what came of it."""

    def __init__(self, session: Workpiece, fitter: Fitter) -> None:
        self.session, self.fitter = session, fitter

    def section(self, story: str) -> list[RowSection]:
        """Nothing for a story that is on no page, or that fits to the line."""
        publication = self.session.publication
        if not thread(publication, story):
            return []
        fitter = self.fitter
        here = fitter.story == story and fitter.publication is publication
        if here and fitter.busy:
            stop = Card("Setting it in other ways", "Each remedy is set for real.", [("Stop", fitter.cancel)])
            return [RowSection("Make it fit", "", [stop])]
        if here and fitter.remedies:
            cards = [Card(each.words, _sentence(each.cost), self._acts(each)) for each in fitter.remedies]
            return [RowSection("Make it fit", "set for real; the mildest first", cards)]
        flow = self.session.setter.threads.flow(publication, story)
        if not flow.over_lines and flow.room <= 1:
            return []
        words = "Nothing was found that makes it fit; cut words, or give it a block." if here else "What would do it?"
        ask = Card("Make it fit", words, [("Make it fit", lambda: self.seek(story))])
        return [RowSection("Copyfitting", "", [ask])]

    def seek(self, story: str) -> None:
        """Set the story in other ways, in the background."""
        self.fitter.start(self.session.publication, story, self.session.proxies.folder)
        self.session.view.selected.emit()

    def _acts(self, remedy: FitRemedy) -> list[tuple[str, Callable[[], object]]]:
        if remedy.publication is self.session.publication:
            return []

        def apply() -> None:
            if self.session.edit(lambda _: remedy.publication, remedy.words.lower()):
                self.session.noted.emit(f"{remedy.words}. Ctrl+Z takes it back.")

        return [("Do it", apply)]


def _sentence(words: str) -> str:
    return f"{said_of(words)}."

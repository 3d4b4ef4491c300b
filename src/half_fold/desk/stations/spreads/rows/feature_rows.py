"""A story that lies nowhere yet, laid with pictures over several spreads: asked for, and made beside the window."""

from collections.abc import Sequence

from half_fold.core.arrange.feature import fill_feature, pages_from, spreads_for
from half_fold.core.measure.length import counted
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.told import told_of_all
from half_fold.core.publication.records import Publication
from half_fold.core.publication.surgery import picture_of, story_of
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.threads import thread
from half_fold.desk.beside.newest import Answered, StillWanted
from half_fold.desk.kit.rows import Card, Row, RowSection
from half_fold.desk.workpiece import Workpiece

MOST_SPREADS = 40


class FeatureRows:
    """The section that offers it for the story at hand, from the spread in view on."""

    def __init__(self, session: Workpiece) -> None:
        self.session = session
        self.busy = False
        self._asked: dict[str, int] = {}  # spreads, by story
        self._base: Publication | None = None
        self.layer = Answered()
        self.layer.answered.connect(self._laid)
        self.layer.failed.connect(self._failed)

    def section(self, story: str | None, pictures: Sequence[str]) -> list[RowSection]:
        """Nothing for a story that is on pages already."""
        publication = self.session.publication
        if not self.session.runs_on or story is None or thread(publication, story):
            return []
        if self.busy:
            return [RowSection("Feature", "", [Card("Laying it over its spreads", "", [("Stop", self.stop)])])]
        title = story_of(publication, story).title or "Untitled"
        count = self._asked.get(story) or spreads_for(publication, self.session.view.page, story)
        words = f"With {counted(len(pictures), 'picture')} chosen in the drawer; what lies there stays."
        row = Row("Spreads", str(count), "from this one on", "", str(count), lambda typed: self._ask(story, typed))
        act = ("Lay it", lambda: self.lay(story, count, tuple(pictures)))
        return [RowSection("Feature", "a story that lies nowhere yet", [row, Card(f"“{title}”", words, [act])])]

    def _ask(self, story: str, typed: str) -> bool:
        try:
            self._asked[story] = round(number_between(typed, 1, MOST_SPREADS, "count of spreads"))
        except Problem as problem:
            self.session.said.emit(str(problem))
            return False
        self.session.view.selected.emit()
        return True

    def lay(self, story: str, count: int, pictures: Sequence[str]) -> None:
        """Lay it, in the other thread."""
        publication, folder = self.session.publication, self.session.proxies.folder
        pages = pages_from(publication, self.session.view.page, count)
        self._base, self.busy = publication, True

        def work(still_wanted: StillWanted) -> object:
            try:
                told = told_of_all(folder, [picture_of(publication, name) for name in pictures], still_wanted)
                return fill_feature(publication, Setter(), pages, story, pictures, told, still_wanted)
            except Problem as problem:
                return str(problem)

        self.layer.begin(work)
        self.session.view.selected.emit()

    def stop(self) -> None:
        """No more of it; nothing has changed."""
        self.layer.cancel()
        self.busy = False
        self.session.view.selected.emit()

    def _laid(self, result: tuple[Publication, str]) -> None:
        self.busy = False
        made, words = result
        if self._base is not self.session.publication:
            self.session.said.emit("The job was edited meanwhile, so that nothing was laid; ask for it again.")
        elif self.session.edit(lambda _: made, "laid a feature"):
            self.session.noted.emit(f"{words} Its spreads can be arranged again one by one: Y.")
        self.session.view.selected.emit()

    def _failed(self, sentence: str) -> None:
        self.busy = False
        self.session.said.emit(sentence)
        self.session.view.selected.emit()

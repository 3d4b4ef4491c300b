"""What is chosen seen without its light while a key is held."""

from half_fold.core.spread.edits.lit import unlit
from half_fold.desk.workpiece import Workpiece


class Unlit:
    """Tries the job without it; nothing is tried in the place of what another tool does."""

    def __init__(self, session: Workpiece) -> None:
        self._session = session
        self._shown = False

    def show(self, on: bool) -> None:
        """Without its light, or with it again."""
        view, publication = self._session.view, self._session.publication
        if on and view.tried is None:
            bare = unlit(publication, view.chosen)
            self._shown = bare is not publication
            view.tried = bare if self._shown else None
        elif not on and self._shown:
            self._shown, view.tried = False, None

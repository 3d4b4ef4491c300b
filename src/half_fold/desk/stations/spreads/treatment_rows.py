"""How a picture is developed, as rows; and several brought to one of them or to their middle."""

from collections.abc import Callable, Sequence
from functools import lru_cache
from pathlib import Path

from msgspec.structs import replace
from PyQt6.QtCore import QObject

from half_fold.core.measure.length import counted
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.bring import picture_file
from half_fold.core.pictures.pyramid import STEPS, reduced
from half_fold.core.pictures.tonal import tones
from half_fold.core.pictures.treat import treated
from half_fold.core.publication.records import Block, HoldsPicture, Picture, Treatment
from half_fold.core.publication.surgery import block_named, every_block, picture_of
from half_fold.core.spread.called import called
from half_fold.core.spread.developed import treatment_of
from half_fold.core.spread.edits import set_holds
from half_fold.core.spread.frames import blocks_on
from half_fold.core.spread.matching import To, as_it_came, developed, kept_as_look, pictures_among
from half_fold.core.spread.properties import block_properties
from half_fold.desk.kit.property_rows import block_row
from half_fold.desk.kit.rows import Card, Edit, Row, Section
from half_fold.desk.matcher import Matcher
from half_fold.desk.workpiece import Workpiece

OTHERS = (("spread", "pictures of this spread"), ("job", "all pictures of the job"))
TO = (("the last chosen", "to the last chosen"), ("their middle", "to their middle"))


class Treatments(QObject):
    """The sections of treatment of a station; it solves what is asked beside the window and applies it as one edit."""

    def __init__(self, session: Workpiece, cut: Callable[[], object]) -> None:
        super().__init__()
        self.session, self.strength, self.cut = session, 100.0, cut
        self.matcher = Matcher()
        self.matcher.found.connect(self._found)
        self.matcher.failed.connect(session.said)

    def stop(self) -> None:
        """End what runs; the window is closing."""
        self.matcher.wait()

    # One picture --------------------------------------------------------------------------------

    def of(self, block: Block) -> list[Section]:
        """The section of a picture; none of what is no photograph."""
        session = self.session
        if not isinstance(block.holds, HoldsPicture) or not pictures_among(session.publication, [block.id]):
            return []
        picture, own = picture_of(session.publication, block.holds.picture), block.holds.treatment
        rows: list[Row | Card] = [self._tones(block, picture)]
        rows += [block_row(session, block, of) for of in block_properties(block) if of.key.startswith("treatment.")]
        rows.append(
            Row("Bring others to this", "choose", "light, spread and cast", "", "", self._to_this(block), OTHERS)
        )
        if own is not None:
            look = Row("Keep it as a look", "name it", "other pictures may be given it", "", "", self._keep(block))
            act = ("As it came", lambda: session.edit(lambda p: as_it_came(p, block.id), "a picture as it came"))
            rows += [look, Card("Treated", "Its file stays as it was; E held shows the picture so.", [act])]
        elif (treated_by := treatment_of(session.publication, block)) is not None and treated_by != Treatment():
            rows.append(Card("Treated by its look", f"As “{block.look}” says; what is set here stands in its place."))
        rows.append(self._cut_card(block, picture))
        return [Section("Treatment", "of light and colour, on the screen and in print alike", rows)]

    def _cut_card(self, block: Block, picture: Picture) -> Card:
        """The way to cut the subject out, or back to the whole picture."""
        if not picture.mask:
            words = "A box round the subject, then strokes: this too, or not this (Shift+C)."
            return Card("Cut the subject out", words, [("Cut it out", self.cut)])
        whole = next((p for p in self.session.publication.pictures if (p.digest, p.mask) == (picture.digest, "")), None)
        if whole is None or not isinstance(block.holds, HoldsPicture):
            return Card("Cut out", f"Of {picture.file}.")
        holds = replace(block.holds, picture=whole.id)
        back = (
            "Show all of it",
            lambda: self.session.edit(lambda p: set_holds(p, block.id, holds), "the whole picture"),
        )
        return Card("Cut out", f"Of {picture.file}, which stays as it was.", [back])

    def _tones(self, block: Block, picture: Picture) -> Row:
        path = self.session.proxies.folder
        words = _tones_of(path, picture, treatment_of(self.session.publication, block))
        return Row("Tones", words.partition(";")[0], words.partition("; ")[2] or "nothing is clipped")

    def _keep(self, block: Block) -> Edit:
        def keep(name: str) -> bool:
            return self.session.edit(lambda p: kept_as_look(p, block.id, name), f"kept as {name}")

        return keep

    def _to_this(self, block: Block) -> Edit:
        def bring(which: str) -> bool:
            publication = self.session.publication
            every = (
                [b for _, _, b in blocks_on(publication, self.session.spread)]
                if which == "spread"
                else [b for _, _, b in every_block(publication)]
            )
            names = [b.id for b in every if not b.locked and b.id != block.id]
            return self._match([*names, block.id], "the last chosen")

        return bring

    # Several ------------------------------------------------------------------------------------

    def of_several(self) -> list[Section]:
        """The section of two pictures or more that are chosen; none of fewer."""
        names = [block.id for block in pictures_among(self.session.publication, self.session.chosen)]
        if len(names) < 2:
            return []

        def strength(text: str) -> bool:
            try:
                self.strength = number_between(text, 0, 100, "share")
            except Problem as problem:
                self.session.said.emit(str(problem))
                return False
            self.session.selected.emit()
            return True

        rows: list[Row | Card] = [
            Row("Bring them together", "choose", "light, spread and cast in L*a*b*", "", "",
                lambda to: self._match(names, "their middle" if to == "their middle" else "the last chosen"), TO),
            Row("As far as", f"{self.strength:g} %", "of the way", "", f"{self.strength:g}", strength),
        ]  # fmt: skip
        return [Section("Treatment", f"of {counted(len(names), 'picture')}", rows)]

    def _match(self, names: Sequence[str], to: To) -> bool:
        session = self.session
        found = [block.id for block in pictures_among(session.publication, names)]
        if len(found) < 2:
            session.said.emit("There are no other pictures to bring together with this one.")
            return False
        session.noted.emit(f"Looking at {counted(len(found), 'picture')}")
        self.matcher.start(session.publication, session.proxies.folder, found, to, self.strength / 100)
        return True

    def _found(self, treatments: dict[str, Treatment], off: list[tuple[str, float]]) -> None:
        if not self.session.edit(lambda p: developed(p, treatments), "brought pictures together"):
            return
        name, far = off[0]
        words = called(self.session.publication, block_named(self.session.publication, name))
        said = counted(len(treatments), "picture")
        self.session.noted.emit(
            f"{said} brought together; farthest off was {words}, by {far:.0f}. Ctrl+Z takes it back."
        )


@lru_cache(256)
def _tones_of(folder: Path, picture: Picture, treatment: Treatment | None) -> str:
    try:
        small = reduced(picture_file(folder, picture), picture.digest, STEPS[0])
    except Problem:
        return "not known"
    return tones(treated(small, treatment)).words

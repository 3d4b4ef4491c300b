"""How a picture is developed, as rows; and several brought to one of them or to their middle."""

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TypeVar

from msgspec.structs import replace
from PIL import Image
from PyQt6.QtCore import QObject, pyqtSignal

from half_fold.core.measure.kept import kept_by
from half_fold.core.measure.length import counted
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.tonal import histogram, tonal_figures
from half_fold.core.pictures.colour.treat import treated, treatment_key
from half_fold.core.pictures.library.bring import picture_file
from half_fold.core.pictures.library.developing import shown_whole
from half_fold.core.pictures.library.on_screen import at_hand
from half_fold.core.pictures.library.pyramid import STEPS
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block, HoldsPicture, Picture, Publication, Treatment
from half_fold.core.publication.surgery import block_named, every_block, is_free, picture_of
from half_fold.core.spread.edits.edits import set_holds
from half_fold.core.spread.edits.scenes import make_scene
from half_fold.core.spread.framing.matching import (
    To,
    develop_as_it_came,
    develop_pictures,
    keep_as_look,
    pictures_among,
)
from half_fold.core.spread.framing.retouching import without_part
from half_fold.core.spread.framing.steps import steps_set, with_step_of_last, without_step
from half_fold.core.spread.settable.called import called
from half_fold.core.spread.settable.headings import CUT, TREATMENT
from half_fold.core.spread.settable.part_properties import PART
from half_fold.core.spread.settable.properties import block_properties
from half_fold.core.spread.settable.together import with_property
from half_fold.core.spread.setting.developed import own_treatment, treat_anew, treatment_of
from half_fold.core.spread.where.frames import blocks_on
from half_fold.desk.beside.matcher import Matcher
from half_fold.desk.kit.property_rows import block_row, dragged
from half_fold.desk.kit.rows import Card, Curve, Edit, Row
from half_fold.desk.stations.spreads.rows.block_sections import PART as PART_TITLE
from half_fold.desk.stations.spreads.tools.marker import WAYS
from half_fold.desk.workpiece import Workpiece

V = TypeVar("V")
Worked = Callable[[Path, Picture, Treatment], V]
OTHERS = (("spread", "pictures of this spread"), ("job", "all pictures of the job"))
DRAWN = tuple((way.key, f"{way.name} ({way.key} on the easel)") for way in WAYS.values())
IN_PART = ("where", "exposure", "contrast", "warmth", "saturation", "blur")
TO = (("the last chosen", "to the last chosen"), ("their middle", "to their middle"))


def _is_by_look(session: Workpiece, block: Block) -> bool:
    """Whether it is its look that treats a picture."""
    return own_treatment(block) is None and treatment_of(session.publication, block) not in (None, Treatment())


def _is_row(key: str) -> bool:
    """Whether a step has a row of its own in the section of the whole picture."""
    return not key.startswith(PART)


class Treatments(QObject):
    """The sections of treatment of a station; it solves what is asked beside the window and applies it as one edit.

    ``came`` tells that a picture was read that sections were asked for before.
    """

    came = pyqtSignal()

    def __init__(self, session: Workpiece, cut: Callable[[], object], draw: Callable[[str], bool]) -> None:
        super().__init__()
        self.session, self.strength, self.cut, self.draw = session, 100.0, cut, draw
        self.matcher = Matcher()
        self.matcher.found.connect(self._found)
        self.matcher.failed.connect(session.said)
        self._awaited: set[str] = set()  # pictures, by their content
        session.proxies.ready.connect(self._picture_came)

    def stop(self) -> None:
        """End what runs; the window is closing."""
        self.matcher.wait()

    def _known(self, of: Worked[V], picture: Picture, treatment: Treatment, lacking: V) -> V:
        """What is worked from a picture; what is said meanwhile, where it has to be read first: beside the window."""
        try:
            return of(self.session.proxies.folder, picture, treatment)
        except LookupError:
            self._awaited.add(picture.digest)
            self.session.proxies.image(picture.id, 1)
            return lacking

    def _picture_came(self, content: str) -> None:
        if content in self._awaited:
            self._awaited.discard(content)
            self.came.emit()

    # One picture --------------------------------------------------------------------------------

    def of(self, block: Block) -> dict[str, list[Row | Card | Curve]]:
        """What stands under headings of a picture; nothing of what is no photograph."""
        session = self.session
        if not isinstance(block.holds, HoldsPicture) or not pictures_among(session.publication, [block.id]):
            return {}
        picture, own = picture_of(session.publication, block.holds.picture), block.holds.treatment
        rows: list[Row | Card | Curve] = [self._tones(block, picture)]
        every = block_properties(block)
        rows.append(self._curve(block, picture))
        rows.append(Row("Draw on it", "choose", "lines, areas and parts, with the mouse", "", "", self._draw, DRAWN))
        rows += [self._step(block, of) for of in every if of.key.startswith("treatment.") and _is_row(of.key)]
        rows.append(
            Row("Bring others to this", "choose", "light, spread and cast", "", "", self._to_this(block), OTHERS)
        )
        rows.append(Row("Keep it as a look", "name it", "other pictures may be given it", "", "", self._keep(block)))
        by = "by itself" if own is not None else f"by its look “{block.look}”" if _is_by_look(session, block) else "no"
        rows.append(Row("Treated", by, "what is set here stands in place of its look's"))
        # Always there, so that the curve is not made anew under the hand that draws its first place.
        steps = steps_set(block) or [("", "none is set")]
        rows.append(Row("Let a step go", "choose", "the others stay", "", "", self._let_go(block), steps))
        act = ("As it came", lambda: session.edit(lambda p: develop_as_it_came(p, block.id), "a picture as it came"))
        words = "E held shows it as it came, Shift+E beside how it is treated; J marks what is clipped."
        rows.append(Card("Its file stays as it was", words, [act]))
        rows += self._mended_card(block)
        cut: list[Row | Card | Curve] = [self._cut_card(block, picture)]
        return {TREATMENT: rows, **self._parts(block), CUT: cut}

    def _step(self, block: Block, of: Property[Block]) -> Row:
        """A step; one that is sought by trying is dragged, and the picture follows. A drag is one edit."""
        row = block_row(self.session, block, of)
        if of.kind not in ("share", "number") or of.most <= of.least:
            return row
        return dragged(self.session, block, of, row, (of.least, of.most))

    def _let_go(self, block: Block) -> Edit:
        return lambda key: bool(key) and self.session.edit(lambda p: without_step(p, block.id, key), "let a step go")

    def _curve(self, block: Block, picture: Picture) -> Curve:
        """The curves of the whole picture and of each colour, over its histogram."""
        session, treatment = self.session, treatment_of(self.session.publication, block) or Treatment()
        fields = ("curve", "curve_red", "curve_green", "curve_blue")
        named = {each.key.removeprefix("treatment."): each for each in block_properties(block)}

        def take(which: int, text: str) -> object:
            of = named[fields[which]]
            return session.edit(
                lambda p: with_property(p, block.id, of, text or "none"), "curve", f"curve of {block.id}"
            )

        return Curve(
            "Curve", ("all", "red", "green", "blue"), [getattr(treatment, field) for field in fields],
            self._known(_histogram_of, picture, treatment, ()), take, session.history.pause,
        )  # fmt: skip

    def _draw(self, key: str) -> bool:
        return self.draw(key)

    def _parts(self, block: Block) -> dict[str, list[Row | Card | Curve]]:
        """The rows of each part that is treated by itself."""
        areas, every = getattr(own_treatment(block), "areas", ()), block_properties(block)
        return {f"{PART_TITLE}{index + 1}": self._part(block, index, every) for index in range(len(areas))}

    def _part(self, block: Block, index: int, every: Sequence[Property[Block]]) -> list[Row | Card | Curve]:
        session, prefix = self.session, f"{PART}{index + 1}."
        named = {each.key.removeprefix(prefix): each for each in every if each.key.startswith(prefix)}
        rows: list[Row | Card | Curve] = [block_row(session, block, named[key]) for key in IN_PART if key in named]
        away = ("Take it away", lambda: session.edit(lambda p: without_part(p, block.id, index), "a part taken away"))
        rows.append(Card(f"Part {index + 1}", "Treated upon the whole; all of its steps have a path.", [away]))
        return rows

    def _mended_card(self, block: Block) -> list[Row | Card]:
        """How many places are mended, and the last of them let go."""
        own = own_treatment(block)
        if own is None or not own.patches:
            return []
        fewer = replace(own, patches=own.patches[:-1])

        def let_go() -> None:
            self.session.edit(lambda p: treat_anew(p, block, fewer), "the last mend let go")

        words = f"{counted(len(own.patches), 'place')} painted away; its file is as it was."
        return [Card("Mended", words, [("Let the last go", let_go)])]

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
        treatment = treatment_of(self.session.publication, block) or Treatment()
        words = self._known(_tones_of, picture, treatment, "being read; the picture comes in a moment")
        return Row("Tones", words.partition(";")[0], words.partition("; ")[2] or "nothing is clipped")

    def _keep(self, block: Block) -> Edit:
        def keep(name: str) -> bool:
            return self.session.edit(lambda p: keep_as_look(p, block.id, name), f"kept as {name}")

        return keep

    def _to_this(self, block: Block) -> Edit:
        def bring(which: str) -> bool:
            publication = self.session.publication
            every = (
                [b for _, _, b in blocks_on(publication, self.session.view.spread)]
                if which == "spread"
                else [b for _, _, b in every_block(publication)]
            )
            names = [b.id for b in every if is_free(publication, b.id) and b.id != block.id]
            return self._match([*names, block.id], "the last chosen")

        return bring

    def _one_step(self, names: list[str]) -> Edit:
        return lambda key: self.session.edit(lambda p: with_step_of_last(p, names, key), "one step for all")

    def _scene(self, names: list[str]) -> None:
        """The chosen pictures taken from where they lie, and laid as one ground of this spread."""
        made = ""

        def make(publication: Publication) -> Publication:
            nonlocal made
            publication, made = make_scene(publication, self.session.view.spread.numbers[0], names)
            return publication

        if self.session.edit(make, "a scene"):
            self.session.view.select(made)

    # Several ------------------------------------------------------------------------------------

    def of_several(self) -> dict[str, list[Row | Card | Curve]]:
        """What stands under headings of two pictures or more that are chosen; nothing of fewer."""
        names = [block.id for block in pictures_among(self.session.publication, self.session.view.chosen)]
        if len(names) < 2:
            return {}

        def strength(text: str) -> bool:
            try:
                self.strength = number_between(text, 0, 100, "share")
            except Problem as problem:
                self.session.said.emit(str(problem))
                return False
            self.session.view.selected.emit()
            return True

        rows: list[Row | Card | Curve] = [
            Row("Bring them together", "choose", "light, spread and cast in L*a*b*", "", "",
                lambda to: self._match(names, "their middle" if to == "their middle" else "the last chosen"), TO),
            Row("As far as", f"{self.strength:g} %", "of the way", "", f"{self.strength:g}", strength),
        ]  # fmt: skip
        last = block_named(self.session.publication, names[-1])
        if steps := steps_set(last):
            rows.append(
                Row("One step for all", "choose", "as the last chosen has it", "", "", self._one_step(names), steps)
            )
        words = "Side by side over both pages, melting into each other, behind all else and locked."
        rows.append(Card("As one ground", words, [("Make a scene of them", lambda: self._scene(names))]))
        return {TREATMENT: rows}

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
        if not self.session.edit(lambda p: develop_pictures(p, treatments), "brought pictures together"):
            return
        name, far = off[0]
        words = called(self.session.publication, block_named(self.session.publication, name))
        said = counted(len(treatments), "picture")
        self.session.noted.emit(
            f"{said} brought together; farthest off was {words}, by {far:.0f}. Ctrl+Z takes it back."
        )


@kept_by(256, lambda folder, picture, treatment: (str(folder), picture, treatment_key(treatment)))
def _tones_of(folder: Path, picture: Picture, treatment: Treatment) -> str:
    try:
        return tonal_figures(treated(_small(folder, picture), treatment)).words
    except Problem:
        return "not known"


@kept_by(64, lambda folder, picture, treatment: (str(folder), picture, treatment_key(treatment)))
def _histogram_of(folder: Path, picture: Picture, treatment: Treatment) -> tuple[tuple[float, ...], ...]:
    try:
        return histogram(shown_whole(_small(folder, picture), folder, picture, treatment))
    except Problem:
        return ()


def _small(folder: Path, picture: Picture) -> Image.Image:
    """The copy of a picture that is worked from here. LookupError where none is at hand: to read one takes seconds."""
    small = at_hand(picture_file(folder, picture), picture.digest, STEPS[0])
    if small is None:
        raise LookupError(picture.file)
    return small

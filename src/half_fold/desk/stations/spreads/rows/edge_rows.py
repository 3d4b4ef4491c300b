"""Working rows of where a block lies: its four edges, or what it floats off."""

from msgspec.structs import replace

from half_fold.core.grid.stops import EDGES, Edge, describe, stops_for
from half_fold.core.measure.length import Length, length
from half_fold.core.measure.rect import Axis
from half_fold.core.publication.places import Floating, Stop
from half_fold.core.publication.records import (
    Block,
    Publication,
)
from half_fold.core.spread.edits.scaling import scale_as_typed
from half_fold.core.spread.where.frames import frames_of
from half_fold.core.spread.where.reaching import FROM, format_told_from, set_floating, set_from, set_stop
from half_fold.desk.kit.rows import Edit, Row
from half_fold.desk.workpiece import Workpiece

EDGE_NAMES: dict[Edge, str] = {"left": "Left edge", "top": "Upper edge", "right": "Right edge", "bottom": "Lower edge"}


def place_rows(session: Workpiece, number: int, block: Block) -> list[Row]:
    """Whether it is held or floats, and what its edges sit on or it is told from."""
    floats = isinstance(block.place, Floating)
    typed, words = ("floating", "at its own size") if floats else ("held", "by its edges")
    how = "whatever becomes of the page" if floats else "with the grid, the trim and the bleed"
    choices = (("held", "by its edges"), ("floating", "at its own size"))
    first = Row("Keeps its place", words, how, "", typed, _float_edit(session, block.id), choices)
    told = _from_rows(session, block) if floats else edge_rows(session, number, block)
    return [first, *told, _scale_row(session, block)]


def _scale_row(session: Workpiece, block: Block) -> Row:
    """All of it larger or smaller at once."""

    def take(text: str) -> bool:
        return session.edit(lambda p: scale_as_typed(p, block.id, text), f"scaled {text}")

    return Row("Scale", "type how much", "with its type and strokes; “80 % alone” leaves these", "", "", take)


def _float_edit(session: Workpiece, block: str) -> Edit:
    return lambda text: session.edit(lambda p: set_floating(p, block, text), "how it keeps its place")


def _from_rows(session: Workpiece, block: Block) -> list[Row]:
    """From where the place of a floating block is told; to tell it from elsewhere does not move it."""
    axes: tuple[tuple[Axis, str], ...] = (("across", "Across, told"), ("down", "Down, told"))
    out = []
    for axis, label in axes:
        said, choices = format_told_from(block.place, axis), [(name, words) for name, words, _, _ in FROM[axis]]

        def take(text: str, axis: Axis = axis) -> bool:
            return session.edit(lambda p: set_from(p, block.id, axis, text), f"{axis} told {text}")

        out.append(Row(label, dict(choices).get(said, said), "", "", said, take, choices))
    return out


def edge_rows(session: Workpiece, number: int, block: Block) -> list[Row]:
    """For each edge its stop, to be chosen from a list, and how far it is moved from that stop."""
    frames = frames_of(session.publication, number)
    out = []
    for edge in EDGES:
        stop: Stop = getattr(block.place, edge)
        choices = [
            (f"{s.kind}:{s.index}:{s.count}:{int(s.facing)}", _stop_words(session, s, edge, number))
            for _, s in stops_for(edge, frames)
        ]
        typed = f"{stop.kind}:{stop.index}:{stop.count}:{int(stop.facing)}"
        moved = stop.off.typed if stop.off else "0mm"
        part = Row("Moved outwards", moved, "from that stop", "", moved, _off_edit(session, block, edge))
        words = describe(stop, edge, frames)
        out.append(Row(EDGE_NAMES[edge], words, "", "", typed, _stop_edit(session, block.id, edge), choices, (part,)))
    return out


def _stop_words(session: Workpiece, stop: Stop, edge: Edge, number: int) -> str:
    words = describe(stop, edge, frames_of(session.publication, number))
    return f"{words}, other page" if stop.facing else words


def _stop_edit(session: Workpiece, block: str, edge: Edge) -> Edit:
    def take(text: str) -> bool:
        kind, index, count, facing = text.split(":")
        stop = Stop(kind=kind, index=int(index), count=int(count), facing=facing == "1")  # type: ignore[arg-type]
        return session.edit(lambda p: set_stop(p, block, edge, stop), EDGE_NAMES[edge].lower())

    return take


def _off_edit(session: Workpiece, block: Block, edge: Edge) -> Edit:
    def move(publication: Publication, text: str) -> Publication:
        size: Length = length(text, session.unit)
        stop: Stop = getattr(block.place, edge)
        return set_stop(publication, block.id, edge, replace(stop, off=size if size.pt else None))

    return lambda text: session.edit(lambda p: move(p, text), f"moved the {EDGE_NAMES[edge].lower()}")

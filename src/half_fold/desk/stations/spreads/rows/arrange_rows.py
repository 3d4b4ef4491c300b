"""What stands in the working while pictures are arranged: why this one, ways to go on, and the manner."""

from collections.abc import Callable
from functools import partial

from half_fold.core.arrange.ask import key
from half_fold.core.arrange.manner import MANNER, manner_changes, set_manner
from half_fold.core.arrange.reasons import arrangement_name, worked_cost
from half_fold.core.measure.length import counted
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection, row_of
from half_fold.desk.stations.spreads.tools.arranger import NUDGE_KEYS, Arranger
from half_fold.desk.workpiece import Workpiece

Act = tuple[str, Callable[[], object]]


def arrange_sections(session: Workpiece, arranger: Arranger) -> list[RowSection]:
    """All of it; only that it is looked for, as long as nothing has come."""
    if not arranger.found:
        return [RowSection("Arrange", "", [Card("Looking for arrangements", "", [("Leave", arranger.put_down)])])]
    return [
        RowSection("Arrange", f"{arranger.at + 1} of {len(arranger.found)}", _this_one(arranger)),
        RowSection("Go on", "moves the manner of the job", _ways_on(arranger)),
        *_suggested(session, arranger),
        RowSection("Manner", "what counts, per cent of the usual", [_row(session, of.key) for of in MANNER]),
    ]


def _this_one(arranger: Arranger) -> list[Row | Card]:
    arrangement = arranger.found[arranger.at]
    cost = worked_cost(arrangement)
    rows: list[Row | Card] = [row_of(cost, lambda _: None, large=True)]
    rows += [row_of(part, lambda _: None) for part in cost.parts]
    chosen = next((item for item in arrangement.items if key(item) == arranger.item), None)
    if chosen is not None:
        pin = arranger.pins.get(arranger.item)
        words = "free" if pin is None else "its place stays" if pin.size is None else "its size stays"
        rows.append(Card(chosen.called, words, [("Pin, or let go (P)", arranger.pin)]))
    both = (
        "Over both pages (O)" if arranger.alone else "Over this page alone (O)",
        lambda: arranger.over(not arranger.alone),
    )
    acts: list[Act] = [("Take it (Enter)", arranger.close), both, ("Leave (Esc)", arranger.put_down)]
    return [Card(arrangement_name(arrangement).capitalize(), "", acts), *rows]


def _ways_on(arranger: Arranger) -> list[Row | Card]:
    acts: list[Act] = [
        (f"{words.capitalize()} ({letter})", partial(arranger.nudge, words)) for letter, words in NUDGE_KEYS.items()
    ]
    return [Card("On seeing them", "Every step is one of the manner below, and Ctrl+Z takes it back.", acts)]


def _suggested(session: Workpiece, arranger: Arranger) -> list[RowSection]:
    """What the choices of this sitting speak for: shown, and taken by nobody but the user."""
    manner = arranger.suggestion()
    if manner is None:
        return []
    words = f"What you took, {counted(len(arranger.choices), 'time')}, speaks for: "
    card = Card(
        "Your choices",
        words + manner_changes(session.publication.manner, manner) + ".",
        [("Take it up", arranger.take_suggestion)],
    )
    return [RowSection("Suggested", "", [card])]


def _row(session: Workpiece, name: str) -> Row:
    of = next(each for each in MANNER if each.key == name)
    manner = session.publication.manner

    def edit(typed: str) -> bool:
        return session.edit(lambda p: set_manner(p, name, typed), of.label.lower())

    take: Edit = edit
    span = (of.least, of.most) if of.kind == "share" else None
    return Row(of.label, of.shown(session.publication, manner), of.note, "", of.typed(manner), take, span=span)

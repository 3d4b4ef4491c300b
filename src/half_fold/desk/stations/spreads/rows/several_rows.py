"""Working rows of a group, and of several things that are chosen at once."""

from collections.abc import Iterator
from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace

from half_fold.core.measure.entry import unit_name
from half_fold.core.measure.length import counted, figure, format_length, in_unit, length
from half_fold.core.measure.rect import Axis
from half_fold.core.publication.property import Property, named
from half_fold.core.publication.records import Block, Group, Publication, blocks_of
from half_fold.core.publication.surgery import page_of_thing, thing_named, with_thing_anywhere
from half_fold.core.spread.edits.aligning import (
    AGAINST,
    Against,
    BoxOf,
    Way,
    align_things,
    aligned_box,
    gaps,
    ink_by,
    make_same_size,
    spread_evenly,
)
from half_fold.core.spread.edits.carrying import reached
from half_fold.core.spread.edits.grouping import group, shift_along
from half_fold.core.spread.edits.linked import format_differences, link, linked_with, set_differences, unlink
from half_fold.core.spread.edits.repeating import HOW, parse_repeat, repeat_on_pages, repeat_things
from half_fold.core.spread.settable import headings
from half_fold.core.spread.settable.light_properties import is_lit
from half_fold.core.spread.settable.properties import BLOCK, GROUP, KEEPS
from half_fold.core.spread.settable.together import common, set_of_all
from half_fold.desk.kit.property_rows import block_row, property_row
from half_fold.desk.kit.rows import Card, Edit, Row, RowSection
from half_fold.desk.stations.spreads.rows.block_sections import Items, folding
from half_fold.desk.workpiece import Workpiece

if TYPE_CHECKING:
    from half_fold.desk.stations.spreads.tools.several import Several

ACROSS: tuple[tuple[str, str], ...] = (("first", "left edges"), ("middle", "middles"), ("last", "right edges"))
DOWN: tuple[tuple[str, str], ...] = (("first", "upper edges"), ("middle", "middles"), ("last", "lower edges"))
TOGETHER, LINED_UP = "Together", "Lined up"
OPEN = (headings.TYPE, headings.INK)
MEASURED = (("box", "by its box"), ("ink", "by its ink"))


def several_sections(session: Workpiece, several: "Several", more: dict[str, Items]) -> list[RowSection]:
    """The working of a group, or of what is chosen together; ``more`` is what else stands under headings."""
    names = session.view.chosen
    things = [page_of_thing(session.publication, name)[2] for name in names]
    first = (
        _group_section(session, things[0], several)
        if len(things) == 1 and isinstance(things[0], Group)
        else RowSection(
            f"{len(things)} things",
            _kinds([block for thing in things for block in blocks_of((thing,))]),
            kind="several",
        )
    )
    under: dict[str, Items] = {TOGETHER: _size_rows(session), LINED_UP: _line_rows(session, several)}
    under |= {heading: [] for heading in headings.ORDER}
    if len(things) > 1:
        for heading, row in _common_rows(session, [block for thing in things for block in blocks_of((thing,))]):
            under[heading].append(row)
    for heading, items in {**more, headings.AGAIN: repeat_rows(session, several)}.items():
        under[heading] += items
    return [first, *folding(under, OPEN)]


def _common_rows(session: Workpiece, blocks: list[Block]) -> Iterator[tuple[str, Row]]:
    """What all of the blocks have, each with its heading; typed once it is set of all."""
    names = [block.id for block in blocks]
    for each in sorted(common(session.publication, blocks), key=lambda each: headings.ranked(each.of.key)):
        if each.of.key.startswith("treatment.") or each.of.key in ("angle", "locked"):
            continue
        if not is_lit(session.publication, each.block, each.of.key):
            continue
        row = block_row(session, each.block, each.of)
        take = partial(_set_all, session, names, each.of)
        typed = row.typed if each.agreed else ""
        working = row.working if each.agreed else each.values
        yield (
            headings.heading_of(each.block, each.of.key),
            replace(row, value=each.value, working=working, typed=typed, edit=take, back=None, span=None, passing=None),
        )


def _set_all(session: Workpiece, names: list[str], of: Property[Block], text: str) -> bool:
    return session.edit(lambda p: set_of_all(p, names, of.key, text), of.label.lower())


def _kinds(blocks: list[Block]) -> str:
    kinds = [type(block.holds).__name__.removeprefix("Holds").lower() for block in blocks]
    words = {"display": "words", "nothing": "kept free"}
    return ", ".join(f"{words.get(kind, kind)} {kinds.count(kind)}" for kind in dict.fromkeys(kinds))


def _group_section(session: Workpiece, group: Group, several: "Several") -> RowSection:
    def edit(of: Property[Group]) -> Edit:
        def change(publication: Publication, text: str) -> Publication:
            now = thing_named(publication, group.id)
            assert isinstance(now, Group)
            return with_thing_anywhere(publication, of.set(publication, now, text))

        return lambda text: session.edit(lambda p: change(p, text), of.label.lower())

    rows: list[Row | Card] = [property_row(session.publication, group, of, edit(of)) for of in GROUP]
    acts = [("Take it apart", several.ungroup), ("Go into it", several.enter)]
    rows.append(Card("A group", "It is moved, turned and hidden as one; Enter goes into it.", acts))
    return RowSection(group.name or "Group", f"of {counted(len(group.members), 'thing')}", rows, kind="group")


def _size_rows(session: Workpiece) -> Items:
    names, unit = session.view.chosen, session.unit
    box = reached(session.publication, names)
    trim = session.publication.brief
    decimals = 3 if unit == "in" else 2
    wide, high = (f"{figure(in_unit(size, unit), decimals)} {unit_name(unit)}" for size in (box.width, box.height))

    def place(axis: Axis) -> Edit:
        def change(publication: Publication, text: str) -> Publication:
            at = reached(publication, names)
            by = length(text, trim.unit).pt - (at.left if axis == "across" else at.top)
            return shift_along(publication, names, axis, by)

        return lambda text: session.edit(lambda p: change(p, text), "moved")

    across, down = (format_length(at, unit) for at in (box.left, box.top))
    typed = [f"{round(in_unit(at, unit), 4):g}{unit}" for at in (box.left, box.top)]
    return [
        Row("Width", wide, "from the outermost edges"),
        Row("Height", high),
        Row("From the fold", across, "left of it below nothing", "", typed[0], place("across")),
        Row("From the head", down, "", "", typed[1], place("down")),
    ]


def _line_rows(session: Workpiece, several: "Several") -> Items:
    names, one = session.view.chosen, len(session.view.chosen) == 1
    against: Against = several.against if not one or several.against in AGAINST[2:] else "the text area"
    measured: BoxOf = ink_by(session.setter) if several.by_ink else aligned_box

    def line(axis: Axis) -> Edit:
        def take(way: str) -> bool:
            chosen: Way = "first" if way == "first" else "last" if way == "last" else "middle"
            return session.edit(lambda p: align_things(p, names, axis, chosen, against, measured), "lined up")

        return take

    def choose(text: str) -> bool:
        several.against = next(each for each in AGAINST if each == text)
        session.view.selected.emit()
        return True

    def measure(text: str) -> bool:
        several.by_ink = text == "ink"
        session.view.selected.emit()
        return True

    rows: Items = [
        Row("Against", against, "", "", against, choose, [(way, way) for way in (AGAINST[2:] if one else AGAINST)]),
        Row("Measured", dict(MEASURED)["ink" if several.by_ink else "box"], "", "", "", measure, MEASURED),
        Row("Across", "choose", "", "", "", line("across"), ACROSS),
        Row("Down", "choose", "", "", "", line("down"), DOWN),
    ]
    if not one:
        rows += [_gap_row(session, "across"), _gap_row(session, "down"), _keep_row(session), _sizes_row(session)]
    return rows


def _gap_row(session: Workpiece, axis: Axis) -> Row:
    """The gaps between them; typing one gives all of them that, “even” shares out what there is."""
    names, unit = session.view.chosen, session.unit
    found = gaps(session.publication, names, axis)
    words = ", ".join(figure(in_unit(gap, unit), 2) for gap in found[:4]) + (" ..." if len(found) > 4 else "")

    def take(text: str) -> bool:
        gap = None if text.strip().lower() in ("", "even") else text
        return session.edit(
            lambda p: spread_evenly(p, names, axis, None if gap is None else length(gap, unit).pt), "spread evenly"
        )

    label = "Gaps across" if axis == "across" else "Gaps down"
    return Row(label, f"{words} {unit_name(unit)}", "type one for all, or “even”", "", "even", take)


def _keep_row(session: Workpiece) -> Row:
    """What they keep from now on, as a group."""
    names = session.view.chosen

    def take(keeps: str) -> bool:
        def change(publication: Publication) -> Publication:
            made, name = group(publication, names)
            found = thing_named(made, name)
            return with_thing_anywhere(made, replace(found, keeps=keeps))

        return session.edit(change, "kept so, as a group")

    return Row("Keep them", "as they are", "from now on, as a group", "", "", take, KEEPS[1:])


def _sizes_row(session: Workpiece) -> Row:
    names = session.view.chosen

    def take(text: str) -> bool:
        axis: Axis = "across" if text == "width" else "down"
        return session.edit(lambda p: make_same_size(p, names, axis), "made the same size")

    return Row("As the last", "choose", "chosen last", "", "", take, (("width", "as wide"), ("height", "as high")))


def _goods_rows(session: Workpiece, several: "Several", name: str) -> list[Row | Card]:
    """Laying one of it for each row of the goods; and which row a block is filled in from."""
    from half_fold.core.catalogue.laying import lay_goods, rows_to_lay

    thing = thing_named(session.publication, name)
    if isinstance(thing, Block) and thing.row:
        return [block_row(session, thing, named(BLOCK, "row"))]
    left = rows_to_lay(session.publication)
    laid: list[str] = []

    def lay(text: str) -> bool:
        def make(publication: Publication) -> tuple[Publication, tuple[str, ...]]:
            made = lay_goods(publication, name, parse_repeat(text, session.unit))
            laid.append(made.words)
            return made.publication, (name,)

        done = several.make(make, f"laid the goods {text}")
        if done:
            session.noted.emit(f"Laid: {laid[-1]}.")
        return done

    if not left:
        return []
    how = "side by side and one under another, as above, over as many pages as they take"
    return [Row("One for each of the goods", f"{len(left):,} to lay", how, "", "fill x fill, 5mm", lay)]


def repeat_rows(session: Workpiece, several: "Several") -> Items:
    """How what is chosen is repeated, here and on other pages, and what it is linked with."""
    names = session.view.chosen

    def repeat(text: str) -> bool:
        return several.make(lambda p: repeat_things(p, names, parse_repeat(text, session.unit)), f"repeated {text}")

    def pages(text: str) -> bool:
        return several.make(lambda p: repeat_on_pages(p, names, text), "repeated on other pages")

    rows: Items = [
        Row("Repeat it", "once", HOW, "", "2 x 1, 5mm", repeat),
        Row("On other pages", "none", "such as 12, 14-16; “, linked” to change all with one", "", "", pages),
    ]
    if len(names) == 1 and session.publication.goods is not None and session.runs_on:
        rows += _goods_rows(session, several, names[0])
    others = linked_with(session.publication, names[-1]) if len(names) == 1 else ()
    if others:
        rows.append(_link_card(session, names[0], len(others)))
        thing = thing_named(session.publication, names[0])
        if isinstance(thing, Block):
            rows.append(_differs_row(session, thing))
    elif len(names) > 1:
        act = ("Link them", lambda: session.edit(lambda p: link(p, names), "linked"))
        rows.append(Card("Linked", "Change one and all change; they become as the last chosen.", [act]))
    return rows


def _link_card(session: Workpiece, name: str, others: int) -> Card:
    words = f"With {counted(others, 'other')}: what is changed here is changed there, but for where each lies."
    return Card("Linked", words, [("Unlink it", lambda: session.edit(lambda p: unlink(p, name), "unlinked"))])


def _differs_row(session: Workpiece, block: Block) -> Row:
    said = format_differences(block)
    how = "its own, such as: words, ink"
    return Row("Differs in", said or "nothing", how, "", said, lambda text: session.edit(
        lambda p: set_differences(p, block.id, text), "what it differs in"))  # fmt: skip

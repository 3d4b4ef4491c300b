"""Every path of a job: what it is called, what it is now, and how it is set. The only reader of what is typed."""

import re
from collections.abc import Callable, Iterable, Iterator
from functools import partial

from half_fold.core.apart.covers import cover_place
from half_fold.core.apart.pair import LEFT, RIGHT
from half_fold.core.apart.sides import edit_side, side_of, sides_of
from half_fold.core.arrange.manner import MANNER, set_manner
from half_fold.core.brief.printer_properties import SHEET, set_sheet
from half_fold.core.brief.properties import BRIEF, BY_KEY
from half_fold.core.brief.wrap import has_cover
from half_fold.core.cover.front_frame import LABEL, front_frame, set_front_frame
from half_fold.core.cover.properties import COVER, PANELS, PIECE, ROW, SPINE, set_cover, set_panel, set_piece, set_spine
from half_fold.core.cover.versions import choose_version, version_name, version_names
from half_fold.core.grid.edits import GRID, TEXT_COLUMNS, set_grid
from half_fold.core.measure.problem import Problem
from half_fold.core.measure.rect import Axis
from half_fold.core.numbers.blocks import block_numbers
from half_fold.core.paths.inks import ink_settings
from half_fold.core.paths.making import make_by_path, makes
from half_fold.core.paths.sets import set_settings
from half_fold.core.paths.setting import Setting, setting_of
from half_fold.core.paths.whole import state_new
from half_fold.core.pictures.library.choosing import WORTHS, value_pictures
from half_fold.core.plan.inserts import INSERT, change_insert
from half_fold.core.plan.sections import SECTION, change_section
from half_fold.core.plan.settings import PLAN, set_each, set_value
from half_fold.core.press.outputs import OUTPUT, format_output, set_output
from half_fold.core.publication.places import Floating
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Block, Group, Publication
from half_fold.core.publication.surgery import (
    COVER_SIDES,
    block_ids,
    block_named,
    by_name,
    every_thing_of,
    master_named,
    page_numbers,
    role_named,
    with_thing_anywhere,
)
from half_fold.core.publication.used import PICTURE_INKS, with_inks
from half_fold.core.spread.edits.claiming import claim_by_words
from half_fold.core.spread.edits.keeping import settle
from half_fold.core.spread.edits.linked import format_differences, set_differences
from half_fold.core.spread.edits.masters import MASTER, set_furniture, set_master
from half_fold.core.spread.framing.aim_words import PICTURE_WORDS, set_picture_words
from half_fold.core.spread.running.schedule import SCHEDULE, set_lead
from half_fold.core.spread.settable.furniture_properties import furniture_properties
from half_fold.core.spread.settable.page_properties import PAGE, PageAt, set_page
from half_fold.core.spread.settable.properties import GROUP, block_properties
from half_fold.core.spread.setting.captions import tell_of_picture
from half_fold.core.spread.where.reaching import FROM, format_told_from, set_floating, set_from, set_measure
from half_fold.core.typesetting.sheet.role_properties import BASED_ON, ROLE
from half_fold.core.typesetting.sheet.sheet import set_base, set_role
from half_fold.core.typesetting.texts.reading import role_table, set_text_role

_Edit = Callable[[Publication], Publication]
Wants = Callable[[str], bool]


# Which are done, and have no value to be read.
CLAIM = re.compile(r"page\.(\d+)\.claim")
COVER_CLAIM = re.compile(rf"cover\.({'|'.join(COVER_SIDES)})\.claim")


def _roles(publication: Publication, wants: Wants) -> Iterator[Setting]:
    for role in publication.roles:
        if wants(f"role.{role.name}."):
            for each in ROLE:
                take = partial(set_role, publication, role.name, each.key)
                yield setting_of(f"role.{role.name}", each, publication, role_named(publication, role.name), take)
            take = partial(set_base, publication, role.name)
            yield setting_of(f"role.{role.name}", BASED_ON, publication, role, take)


def _pictures(publication: Publication, _: Wants) -> Iterator[Setting]:
    for picture in publication.pictures:
        own = picture.id if picture.mask else picture.file  # a cut-out shares its file with the whole picture
        if not picture.mask:
            take = partial(with_inks, publication, picture.file)
            words = [(way, way or "as its file is") for way in PICTURE_INKS]
            yield Setting(f"picture.{own}.inks", "Prints", picture.inks, take, "", words)
        take = partial(value_pictures, publication, picture.id)
        worths = [(worth, worth or "not said") for worth in WORTHS]
        yield Setting(f"picture.{own}.worth", "Worth", picture.worth, take, "", worths)
        for field in ("caption", "credit"):
            take = partial(tell_of_picture, publication, picture.id, field)
            yield Setting(f"picture.{own}.{field}", field.capitalize(), getattr(picture, field), take)
        for field, words_ in PICTURE_WORDS.items():
            take = partial(set_picture_words, publication, picture.id, field)
            said = words_.said(getattr(picture, field))
            yield Setting(f"picture.{own}.{field}", words_.label, said, take)


def _sections(publication: Publication, _: Wants) -> Iterator[Setting]:
    for section in publication.sections:
        for of in SECTION:
            take = partial(change_section, publication, section, of.key)
            yield setting_of(f"section.{section.name}", of, publication, section, take)


def _schedule(publication: Publication, _: Wants) -> Iterator[Setting]:
    for of in SCHEDULE:
        yield setting_of("schedule", of, publication, publication.schedule, partial(set_lead, publication, of.key))


def _manner(publication: Publication, _: Wants) -> Iterator[Setting]:
    for of in MANNER:
        yield setting_of("manner", of, publication, publication.manner, partial(set_manner, publication, of.key))


def _inks(publication: Publication, _: Wants) -> Iterator[Setting]:
    yield from ink_settings(publication)


def _outputs(publication: Publication, _: Wants) -> Iterator[Setting]:
    for output in publication.outputs:
        path = f"output.{output.name}"
        yield Setting(path, "Output", format_output(output), partial(state_new, publication, path))
        for of in OUTPUT:
            take = partial(set_output, publication, output.name, of.key)
            yield setting_of(path, of, publication, output, take)


def _texts(publication: Publication, _: Wants) -> Iterator[Setting]:
    """What every kind of paragraph, and every style that was told, becomes when a text is brought in."""
    choices = [(role.name, role.label) for role in publication.roles]
    for found, role in role_table(publication).items():
        take = partial(set_text_role, publication, found)
        yield Setting(f"text.{found}", f"Text: {found}", role, take, "", choices)


def _brief(publication: Publication, _: Wants) -> Iterator[Setting]:
    for head, table in (("brief", BRIEF), ("plan", PLAN)):
        for of in table:
            yield setting_of(head, of, publication, publication, partial(set_value, publication, of.key))


def _printer(publication: Publication, _: Wants) -> Iterator[Setting]:
    """What the printer's sheet asks for, where the job has one."""
    for of in SHEET if publication.printer is not None else ():
        yield setting_of("printer", of, publication, publication.printer, partial(set_sheet, publication, of.key))


def _pages(publication: Publication, wants: Wants) -> Iterator[Setting]:
    for number in range(1, len(publication.pages) + 1):
        if wants(f"page.{number}."):
            at = PageAt(publication, number)
            for of in PAGE:
                take = partial(set_page, publication, number, of.key)
                yield setting_of(f"page.{number}", of, publication, at, take)


def _blocks(publication: Publication, wants: Wants) -> Iterator[Setting]:
    for name in block_ids(publication):
        if wants(f"block.{name}."):
            yield from _block(publication, name)
    yield from _measures(publication, wants)


def _block(publication: Publication, name: str) -> Iterator[Setting]:
    block = block_named(publication, name)
    for each in block_properties(block):

        def take(text: str, each: Property[Block] = each) -> Publication:
            return with_thing_anywhere(publication, each.set(publication, block, text))

        yield setting_of(f"block.{name}", each, publication, block, take)
    yield from _linked(publication, block)


def _groups(publication: Publication, _: Wants) -> Iterator[Setting]:
    for group in every_thing_of(publication):
        if not isinstance(group, Group):
            continue
        for each in GROUP:

            def take(text: str, each: Property[Group] = each, group: Group = group) -> Publication:
                return with_thing_anywhere(publication, each.set(publication, group, text))

            yield setting_of(f"group.{group.id}", each, publication, group, take)


def _measures(publication: Publication, wants: Wants) -> Iterator[Setting]:
    """Size and place of every block that is wanted and lies on a page or on the cover."""
    every = range(1, len(publication.pages) + 1)
    yield from _measures_on(publication, every, lambda edit: edit(publication), wants)
    for side in sides_of(publication):
        put = partial(edit_side, publication, side)
        yield from _measures_on(side_of(publication, side), (LEFT, RIGHT), put, wants)


def _measures_on(
    publication: Publication, numbers: Iterable[int], put: Callable[[_Edit], Publication], wants: Wants
) -> Iterator[Setting]:
    for number in numbers:
        for block in publication.pages[number - 1].blocks:
            if not wants(f"block.{block.id}."):
                continue
            for each in block_numbers(publication, block.id):
                if each.edits:

                    def take(text: str, block: str = block.id, name: str = each.edits) -> Publication:
                        return put(lambda on: set_measure(on, block, name, text))

                    yield Setting(f"block.{block.id}.{each.edits}", each.name, each.typed, take)
            yield from _placed(block, put)


_PLACES = (("held", "by its edges"), ("floating", "at its own size"))


def _linked(publication: Publication, block: Block) -> Iterator[Setting]:
    """In what a block differs from those it is linked with."""
    take = partial(set_differences, publication, block.id)
    yield Setting(f"block.{block.id}.differs", "Differs in", format_differences(block), take)


def _placed(block: Block, put: Callable[[_Edit], Publication]) -> Iterator[Setting]:
    """Whether a block is held or floats, and from where its place is told."""
    path, floats = f"block.{block.id}", isinstance(block.place, Floating)

    def hold(text: str) -> Publication:
        return put(lambda on: set_floating(on, block.id, text))

    yield Setting(f"{path}.place", "Keeps its place", "floating" if floats else "held", hold, "", _PLACES)
    axes: tuple[Axis, ...] = ("across", "down")
    for axis in axes:

        def take(text: str, axis: Axis = axis) -> Publication:
            return put(lambda on: set_from(on, block.id, axis, text))

        choices = [(name, words) for name, words, _, _ in FROM[axis]]
        said = format_told_from(block.place, axis)
        yield Setting(f"{path}.{axis}.from", f"{axis.capitalize()}, told", said, take, "", choices)


def _masters(publication: Publication, wants: Wants) -> Iterator[Setting]:
    for master in publication.masters:
        if wants(f"master.{master.name}."):
            yield from _master(publication, master.name)


def _master(publication: Publication, name: str) -> Iterator[Setting]:
    whole = master_named(publication, name)
    for of in GRID:
        take = partial(set_grid, publication, name, of.key)
        yield setting_of(f"master.{name}", of, publication, whole.grid, take)
    take = partial(set_grid, publication, name, TEXT_COLUMNS.key)
    yield setting_of(f"master.{name}", TEXT_COLUMNS, publication, whole, take)
    master = by_name(publication.masters, name, "master")
    for each in MASTER:
        if each.applies(master):
            take = partial(set_master, publication, name, each.key)
            yield setting_of(f"master.{name}", each, publication, master, take)
    for piece in master.furniture:
        for value in furniture_properties(piece):
            take = partial(set_furniture, publication, name, piece.id, value.key)
            yield setting_of(f"master.{name}.furniture.{piece.id}", value, publication, piece, take)


def _inserts(publication: Publication, _: Wants) -> Iterator[Setting]:
    numbers = page_numbers(publication)
    for insert in publication.inserts:
        after, take = str(numbers.get(insert.after, "")), partial(change_insert, publication, insert.id, "after")
        yield Setting(f"insert.{insert.id}.after", "After page", after, take)
        for of in INSERT:
            if of.applies(insert):
                take = partial(change_insert, publication, insert.id, of.key)
                yield setting_of(f"insert.{insert.id}", of, publication, insert, take)


def _cover(publication: Publication, _: Wants) -> Iterator[Setting]:
    if has_cover(publication):
        yield Setting("cover.frame", LABEL, front_frame(publication), partial(set_front_frame, publication))
    for head, table, put in (("cover", COVER, set_cover), ("spine", SPINE, set_spine)):
        for of in table:
            yield setting_of(head, of, publication, publication.cover, partial(put, publication, of.key))


def _cover_more(publication: Publication, _: Wants) -> Iterator[Setting]:
    """Inks of panels, pieces of the spine, and which cover is in use."""
    cover = publication.cover
    for of in PANELS:
        yield setting_of("cover", of, publication, cover, partial(set_panel, publication, of.key))
    for of in ROW:
        if of.applies(cover):
            yield setting_of("spine", of, publication, cover, partial(set_panel, publication, of.key))
    for number, piece in enumerate(cover.pieces, 1):
        for each in PIECE:
            take = partial(set_piece, publication, number, each.key)
            yield setting_of(f"spine.piece.{number}", each, publication, piece, take)
    if publication.covers:
        choices = [(name, name) for name in version_names(publication)]
        now, take = version_name(publication, cover), partial(choose_version, publication)
        yield Setting("cover.version", "Version", now, take, "", choices)


# What each path begins with, by which only a part of all settings need be made, and what makes those.
MADE: tuple[tuple[tuple[str, ...], Callable[[Publication, Wants], Iterator[Setting]]], ...] = (
    (("brief.", "plan."), _brief),
    (("schedule.",), _schedule),
    (("printer.",), _printer),
    (("page.",), _pages),
    (("block.",), _blocks),
    (("group.",), _groups),
    (("role.",), _roles),
    (("master.",), _masters),
    (("ink.", "fade.", "look.", "light"), _inks),
    (("picture.",), _pictures),
    (("set.",), lambda publication, _: set_settings(publication)),
    (("section.",), _sections),
    (("insert.",), _inserts),
    (("manner.",), _manner),
    (("output.",), _outputs),
    (("text.",), _texts),
    (("cover.", "spine."), _cover),
    (("cover.", "spine."), _cover_more),
)
HEADS = frozenset(head.rstrip(".") for heads, _ in MADE for head in heads)


def settings(publication: Publication, asked: str = "") -> Iterator[Setting]:
    """All that can be set, thing by thing; only of things that have to do with the path ``asked`` for, if one is."""

    def wants(prefix: str) -> bool:
        return not asked or asked.startswith(prefix) or prefix.startswith(asked)

    for heads, made in MADE:
        if any(map(wants, heads)):
            yield from made(publication, wants)


def found(publication: Publication, path: str) -> list[Setting]:
    """The settings of a path, of all that lie under it where it ends in ``.*``, or of all. Problem where none does."""
    begun = path.removesuffix("*")
    every = settings(publication, begun if path.partition(".")[0] in HEADS else "")
    if path in ("", "*"):
        return list(every)
    if path.endswith(".*"):
        chosen = [each for each in every if each.path.startswith(path[:-1])]
    else:
        chosen = [each for each in every if each.path in (path, f"brief.{path}", f"plan.{path}")]
    if not chosen:
        raise Problem(f"There is no “{path}” in this job; “half-fold get JOB” lists every path.")
    return chosen


def set_path(publication: Publication, path: str, typed: str) -> Publication:
    """The job with what was typed at a path. Problem where there is no such path, or it cannot be."""
    if path in BY_KEY or path in ("pages", "bound") or (path.startswith("picture.") and path.endswith(".inks")):
        return set_value(publication, path, typed)
    if (claim := CLAIM.fullmatch(path)) is not None:
        return settle(publication, claim_by_words(publication, page_number(publication, claim[1]), typed))
    if (claim := COVER_CLAIM.fullmatch(path)) is not None:
        return _claimed_on_cover(publication, claim[1], typed)
    if makes(path) and not any(each.path == path for each in settings(publication, path)):
        return settle(publication, make_by_path(publication, path, typed))
    setting = found(publication, path)[0]
    return publication if typed == setting.value else settle(publication, setting.take(typed))


def _claimed_on_cover(publication: Publication, field: str, typed: str) -> Publication:
    """A claim on a part of the cover. Problem where it has no such part."""
    side, number = cover_place(publication, field)
    return edit_side(publication, side, lambda on: claim_by_words(on, number, typed))


def page_number(publication: Publication, typed: str) -> int:
    """A page that there is. Problem where there is none of that number."""
    number = int(typed)
    if not 1 <= number <= len(publication.pages):
        raise Problem(f"There is no page {typed}; this job has {len(publication.pages)}.")
    return number


def set_paths(publication: Publication, given: list[str]) -> Publication:
    """Every ``PATH=VALUE`` in turn, split at the first '='."""
    return set_each(publication, given, "PATH", set_path)


def setting_as_json(setting: Setting) -> dict[str, object]:
    """A setting as the command line gives it in JSON."""
    return {
        "path": setting.path,
        "label": setting.label,
        "value": setting.value,
        "unit": setting.unit,
        "choices": [value for value, _ in setting.choices],
    }

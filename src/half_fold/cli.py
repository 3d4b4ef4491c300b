"""The same core without a window."""

import argparse
import atexit
import io
import json
import os
import re
import signal
import sys
import tempfile
from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, NoReturn

from half_fold.core.measure.problem import Problem
from half_fold.core.store.files import in_one_line, shown
from half_fold.press_command import WAYS, press_command
from half_fold.press_command import parser_words as press_words

if TYPE_CHECKING:
    from collections.abc import Callable

    from half_fold.core.publication.records import Publication, Story
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.core.store.job import Job

COMMANDS = (
    "new",
    "keep",
    "set",
    "get",
    "numbers",
    "place",
    "text",
    "grids",
    "fit",
    "fill",
    "contents",
    "goods",
    "inks",
    "cut",
    "focus",
    "contact",
    "mend",
    "scene",
    "arrange",
    "draft",
    "legibility",
    "trial",
    "parts",
    "check",
    "proof",
    "template",
    "order",
    "schedule",
    "press",
    "outputs",
    "gather",
    "prove",
    "demo",
)
OF_PICTURES = ("cut", "focus", "contact", "mend", "scene", "arrange", "draft")  # which picture_command does
USAGE = """half-fold [JOB]                              open the window
half-fold COMMAND --help                     all that a command takes
half-fold demo [DIR] [--no-window]           make the demo job in DIR (or a new temporary folder) and open it
half-fold new KIND DIR [--set KEY=VALUE ...] start a job; KIND: magazine, book, catalogue, photo-book,
                                             one-sheet, one-spread, cover, screen-cover, or one that was kept
half-fold new --from JOB DIR [--set ...]     the next number of a job: what stands stays, what was its own is gone
half-fold keep JOB KIND                      keep a job as a kind of your own to start from; --drop takes it away
half-fold set JOB PATH=VALUE ...             change anything that can be set, by its path (brief keys are paths too)
half-fold get JOB [PATH] [--json]            read it: one path, all under one that ends in .*, or all there are
half-fold numbers JOB [--json]               every derived number with its working
half-fold place JOB --text FILE | --picture FILE | --font FILE | --symbol FILE.svg [...]
half-fold text JOB OUT.md [--story TITLE]    a story, or all of them, as Markdown
half-fold grids JOB [--master NAME] [--json] grids that work out, the nearest to the present one first
half-fold fit JOB --story TITLE [--take N]   what would make a story fit its blocks, set for real, and what it costs
half-fold fill JOB --story TITLE [--words N]  filler copy to the foot of a story's blocks, or so many words of it
half-fold contents JOB [--page N]            contents of the stories and chapters laid; their folios follow the pages
half-fold goods JOB [TABLE.csv|.xlsx]         the goods and where they lie; a table is taken, and what is new said
half-fold goods JOB --lay ID --as "3 x 4, 4mm"  a copy of a block or group for each row, over as many pages as it takes
half-fold inks JOB [--json]                   the ink list; --give FILE.csv|.gpl writes it, --take FILE takes one in
half-fold inks JOB --palette PICTURE|cover|all [--keep]   inks found in pictures, and put into the list
half-fold cut JOB --picture FILE --box "LEFT TOP RIGHT BOTTOM" [--this "X Y ..."] [--not "X Y ..."] [--soft]
                                             cut a subject out, by a box and strokes in per cent of the picture
half-fold trial JOB OUT.png [--as rack]       the cover as it is seen: rack, list, shop, shelf, lying, ...
half-fold parts JOB                          what a cover of its kind needs, and where each part is
half-fold legibility JOB [--page N] [--block ID [--take N]]  words that do not read, the worst first; what would do
half-fold check JOB [--json] [--fix WORDS|all]
                                             what would go wrong; exit 1 if something would stop the press; with --fix
                                             the fixes so worded (those in brackets) are taken first
half-fold proof JOB OUT.png|.jpg (--spread N | --page N | --cover | --front) [--dpi 144] [--on-paper]
half-fold focus JOB [PICTURE ...]            the focus of laid pictures proposed: on what stands out in them
half-fold contact JOB OUT.pdf                contact sheets of the job's pictures (--one-of-each of near duplicates)
half-fold mend JOB BLOCK "X Y X Y ..." [--wide 4]  what strokes go over painted away from the picture of a block
half-fold scene JOB PAGE PICTURE ... [--wash INK]  pictures over both pages as one ground, melting into each other
half-fold arrange JOB PAGES [PICTURE ...] [--page] [--pin BLOCK=place|size] [--go-on WORDS] [--take N]
                                             arrangements of pictures over a spread, or over a page alone, ranked;
                                             with --story TITLE a story and pictures laid over all those pages
half-fold draft JOB [--pages N] [--pace 50] [--bleed 0] [--match 0] [--frame 4mm] [--no-openers] [--no-captions]
                [--look]                     a photo book drafted from the job's pictures; --look says what it would be
half-fold template JOB OUT.pdf|.svg|.png     the cover flat at true size, every dimension lettered
half-fold order JOB OUT.csv|.xlsx|.pdf        the running order as a table, or as a plan for the wall
half-fold order JOB --read FILE.csv|.xlsx     take what a table says of the pages
half-fold schedule JOB OUT.csv|.ics           the steps before the press date
half-fold press JOB OUT.pdf [--part PART] [--as pages|spreads|sheets] [--marks] [--to-read]
           [--output NAME] [--profile FILE]
                                             PART: pages (or some, "1, 6-9"), cover, front, section.NAME, insert.ID
half-fold outputs JOB DIR                    every output that is kept (output.NAME), each a file in DIR
half-fold gather JOB OUT.zip                 every part pressed and proved, and the job ticket, in one archive
                                             all three: with --strict nothing is made (exit 1) where a check stops it
half-fold prove JOB FILE.pdf [--output NAME] whether a file is one that was made of the job, whole and unchanged, when,
                                             and from which version; exit 2 with what differs"""


class _Parser(argparse.ArgumentParser):
    """Errors are one sentence, never a usage dump."""

    def error(self, message: str) -> NoReturn:
        raise Problem(f"“half-fold {self.prog}”: {message}; “half-fold --help” lists the commands.")


def _parser(name: str) -> _Parser:
    parser = _Parser(prog=name, add_help=False)
    if name not in ("new", "demo"):
        parser.add_argument("job", type=Path)
    if name == "new":
        parser.add_argument("kind")
        parser.add_argument("folder", type=Path, nargs="?")
        parser.add_argument("--from", dest="after", type=Path, metavar="JOB")
        parser.add_argument("--set", nargs="+", action="extend", default=[], metavar="KEY=VALUE")
    elif name == "keep":
        parser.add_argument("name")
        parser.add_argument("--drop", action="store_true")
    elif name == "set":
        parser.add_argument("settings", nargs="+")
    elif name == "get":
        parser.add_argument("path", nargs="?", default="")
        parser.add_argument("--json", action="store_true")
    elif name in ("numbers", "check"):
        parser.add_argument("--json", action="store_true")
        if name == "check":
            parser.add_argument("--fix", default="", metavar="WORDS")
    elif name == "place":
        parser.add_argument("--text", type=Path, nargs="+", action="extend", default=[])
        parser.add_argument("--picture", type=Path, nargs="+", action="extend", default=[])
        parser.add_argument("--font", type=Path, nargs="+", action="extend", default=[])
        parser.add_argument("--symbol", type=Path, nargs="+", action="extend", default=[])
    elif name == "text":
        parser.add_argument("out", type=Path)
        parser.add_argument("--story", default="")
    elif name == "grids":
        parser.add_argument("--master", default="")
        parser.add_argument("--json", action="store_true")
    elif name == "fit":
        parser.add_argument("--story", default="")
        parser.add_argument("--take", type=int, default=0)
    elif name == "trial":
        parser.add_argument("out", type=Path)
        parser.add_argument("--as", dest="how", default="rack")
        parser.add_argument("--wide", type=int, default=1280)
    elif name == "legibility":
        parser.add_argument("--page", type=int, default=0)
        parser.add_argument("--block", default="")
        parser.add_argument("--take", type=int, default=0)
    elif name == "contents":
        parser.add_argument("--page", type=int, default=1)
    elif name == "goods":
        parser.add_argument("table", type=Path, nargs="?")
        parser.add_argument("--lay", default="", metavar="ID")
        parser.add_argument("--as", dest="how", default="fill x fill", metavar="REPEAT")
        parser.add_argument("--json", action="store_true")
    elif name == "fill":
        parser.add_argument("--story", default="")
        parser.add_argument("--words", type=int)
    elif name == "inks":
        from half_fold.ink_command import parser_words

        parser_words(parser)
    elif name in OF_PICTURES:
        from half_fold.picture_command import parser_words as picture_words

        picture_words(name, parser)
    elif name == "proof":
        parser.add_argument("out", type=Path)
        parser.add_argument("--spread", type=int)
        parser.add_argument("--page", type=int)
        parser.add_argument("--cover", action="store_true")
        parser.add_argument("--front", action="store_true")
        parser.add_argument("--dpi", type=float)
        parser.add_argument("--on-paper", action="store_true")
    elif name == "order":
        parser.add_argument("out", type=Path, nargs="?")
        parser.add_argument("--read", type=Path)
    elif name in ("template", "schedule"):
        parser.add_argument("out", type=Path)
    elif name in WAYS:
        press_words(name, parser)
    elif name == "demo":
        parser.add_argument("folder", type=Path, nargs="?")
        parser.add_argument("--no-window", action="store_true")
    return parser


def _new(asked: argparse.Namespace) -> int:
    from half_fold.core.plan.own_kinds import begin
    from half_fold.core.plan.starters import title_from

    if asked.after is not None:
        return _next(asked)
    if asked.folder is None:
        raise Problem("Say what kind of job, and where: half-fold new KIND DIR, or half-fold new --from JOB DIR.")
    print(begin(asked.kind, title_from(shown(Path(asked.folder.name))), asked.folder, asked.set))
    return 0


def _next(asked: argparse.Namespace) -> int:
    """The next number of a job, in the folder that is named."""
    from half_fold.core.plan.next_number import next_number
    from half_fold.core.plan.settings import set_values
    from half_fold.core.store.next_job import create_next

    if asked.folder is not None or not asked.kind:
        raise Problem("Say where the next number goes: half-fold new --from JOB DIR.")
    before = _open(asked.after, to_write=False)
    publication = set_values(next_number(before.publication), asked.set)
    print(create_next(Path(asked.kind), publication, before.folder))
    return 0


def _keep(asked: argparse.Namespace) -> int:
    """A job as a kind of one's own, with its small picture; or that kind taken away."""
    from half_fold.core.plan.own_kinds import drop_kind, keep_kind

    if asked.drop:
        drop_kind(asked.name)
        return 0
    from half_fold.desk.paint.proof import write_small

    job = _open(asked.job, to_write=False)
    kept = keep_kind(job.publication, job.folder, asked.name)
    write_small(job, kept.picture)
    print(shown(kept.folder))
    return 0


def _set(asked: argparse.Namespace) -> int:
    from half_fold.core.cover.spine_moves import told_of_spine
    from half_fold.core.paths.all import set_paths
    from half_fold.saving import save

    job = _open(asked.job)
    try:
        before = job.publication
        save(job, set_paths(before, asked.settings))
        words = told_of_spine(before, job.publication)
        if words:
            print(words)
    finally:
        job.close()
    return 0


def _get(asked: argparse.Namespace) -> int:
    from half_fold.core.paths.all import found, told

    settings = found(_open(asked.job, to_write=False).publication, asked.path)
    if asked.json:
        print(json.dumps([told(each) for each in settings], ensure_ascii=False))
        return 0
    for each in settings:
        print(f"{each.path}={each.value}")
    return 0


def _numbers(asked: argparse.Namespace) -> int:
    from half_fold.core.brief.allowances import PRINTER_WINS
    from half_fold.core.brief.bindings import binding_named
    from half_fold.core.brief.spine import spine
    from half_fold.core.numbers.all import all_numbers

    publication = _open(asked.job, to_write=False).publication
    numbers = all_numbers(publication)
    if asked.json:
        rows = [{"key": n.key, "label": n.name, "value": n.value, "unit": n.unit, "working": n.how} for n in numbers]
        print(json.dumps(rows, ensure_ascii=False, indent=1))
        return 0
    for number in numbers:
        print(f"{number.key:32} {number.text:>14}   {number.how}")
    without = binding_named(publication.brief.binding).no_spine
    if without and spine(publication) is None:
        print(f"No spine: {without}.")
    print(PRINTER_WINS)
    return 0


def _open(path: Path, to_write: bool = True) -> "Job":
    """The job, with its own fonts known."""
    from half_fold.core.store.job import open_job
    from half_fold.core.typesetting.faces.fonts import join_fonts

    job = open_job(path, to_write)
    if job.told_swept:
        print(job.told_swept, file=sys.stderr)
    join_fonts(job.publication, job.folder)
    return job


def _place(asked: argparse.Namespace) -> int:
    """What can be read comes in; each file that cannot is said, and keeps no other out."""
    from half_fold.core.pictures.library.folders import with_folders
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.saving import save

    if not (asked.text or asked.picture or asked.font or asked.symbol):
        raise Problem("Nothing to place; give --text FILE, --picture FILE, --font FILE or --symbol FILE.svg.")
    job, said, refused = _open(asked.job), list[str](), list[str]()
    try:
        publication, setter = job.publication, Setter()
        for bring, paths in (
            (_place_font, asked.font),
            (_place_symbol, asked.symbol),
            (partial(_place_text, setter), asked.text),
            (_place_picture, with_folders(asked.picture)),
        ):
            for path in paths:
                try:
                    publication, words = bring(job, publication, path)
                    said += words
                except Problem as problem:
                    refused.append(in_one_line(f"half-fold: {problem}"))
        if publication is not job.publication:
            save(job, publication)
    finally:
        job.close()
    print(*said, sep="\n", end="\n" if said else "")
    print(*refused, sep="\n", end="\n" if refused else "", file=sys.stderr)
    return 2 if refused else 0


def _place_font(job: "Job", publication: "Publication", path: Path) -> tuple["Publication", list[str]]:
    from half_fold.core.typesetting.faces.fonts import bring_font

    publication, font = bring_font(publication, job.folder, path)
    return publication, [f"{font.family} {font.style}: can be chosen for a role"]


def _place_symbol(job: "Job", publication: "Publication", path: Path) -> tuple["Publication", list[str]]:
    from half_fold.core.pictures.vector.symbols import add_symbol

    publication, symbol = add_symbol(publication, job.folder, path)
    return publication, [f"{symbol.name}: in words {{{symbol.name}}}, as a letter U+{ord(symbol.letter):04X}"]


def _place_text(
    setter: "Setter", _job: "Job", publication: "Publication", path: Path
) -> tuple["Publication", list[str]]:
    from half_fold.core.plan.order import pages_told
    from half_fold.core.spread.edits.placing import has_pages_for_text, place_story, told_unlaid
    from half_fold.core.typesetting.texts.reading import role_table
    from half_fold.core.typesetting.texts.text_in import read_text_file

    reading = read_text_file(path, role_table(publication), publication.language)
    publication, story = place_story(publication, setter, reading.title, tuple(reading.paragraphs))
    pages = sorted({column.page for column in setter.threads.flow(publication, story).columns})
    notes = [f"  {note}" for note in dict.fromkeys(reading.notes)]
    if not pages and not has_pages_for_text(publication):
        where = told_unlaid(publication, publication.stories[-1].title)
    else:
        where = pages_told(pages) if pages else "on no page yet, for its first line finds no room"
    return publication, [f"{reading.title}: {where}", *notes]


def _place_picture(job: "Job", publication: "Publication", path: Path) -> tuple["Publication", list[str]]:
    from half_fold.core.pictures.library.bring import bring_picture

    publication, picture = bring_picture(publication, job.pictures, path)
    size = "outlines" if picture.art else f"{picture.width} × {picture.height} px"
    left_out = f"; left out: {picture.left_out}" if picture.left_out else ""
    return publication, [f"{picture.file}: {size}, in the picture drawer{left_out}"]


def _grids(asked: argparse.Namespace) -> int:
    from half_fold.core.grid.solver import solve
    from half_fold.core.measure.length import figure
    from half_fold.core.publication.surgery import master_named

    publication = _open(asked.job, to_write=False).publication
    found = solve(publication, master_named(publication, asked.master or publication.masters[0].name))
    rows = [
        {
            "name": each.name,
            "how": each.how,
            "departure": each.departure,
            **{margin: getattr(each.grid, margin).mm for margin in ("inside", "head", "outside", "foot", "gutter")},
            "columns": each.grid.columns,
            "rows": each.grid.rows,
            "row_gap": each.grid.row_gap,
            "lines": each.lines,
            "lines_per_field": each.lines_per_field,
            "column": each.column,
        }
        for each in found
    ]
    if asked.json:
        print(json.dumps(rows, ensure_ascii=False))
        return 0
    for row in rows:
        margins = " ".join(f"{figure(row[name])}" for name in ("inside", "head", "outside", "foot"))
        fields = f"{row['columns']} × {row['rows']} fields of {row['lines_per_field']} lines"
        print(f"{row['name']:22} {margins:28} {fields:28} {figure(row['departure'], 1)} mm away")
    return 0


def _fit(asked: argparse.Namespace) -> int:
    from half_fold.core.arrange.giving_room import every_remedy
    from half_fold.core.spread.edits.fitting import state_words
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.saving import save

    job = _open(asked.job, to_write=asked.take > 0)
    try:
        publication, setter = job.publication, Setter()
        story = _stories(publication, asked.story)[0]
        found = every_remedy(publication, setter, story.id, job.pictures)
        if asked.take:
            if not 1 <= asked.take <= len(found):
                raise Problem("There is no remedy of that number; take one of them by its own.")
            save(job, found[asked.take - 1].publication, setter)
            print(f"Taken: {found[asked.take - 1].words}")
            return 0
        print(f"{story.title}: {state_words(setter.threads.flow(publication, story.id))}")
        for number, each in enumerate(found, 1):
            print(f"{number:3}  {each.words:44} {each.cost}")
    finally:
        job.close()
    return 0


def _legibility(asked: argparse.Namespace) -> int:
    """Words that are risky or cannot be read, page by page and on the cover; or the remedies of a block."""
    from half_fold.core.cover.masthead import masthead_of
    from half_fold.core.cover.mending import ways_to_read_of
    from half_fold.core.cover.surfaces import surfaces_of
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.saving import save

    job = _open(asked.job, to_write=asked.take > 0)
    try:
        if asked.block:
            sheet, found = ways_to_read_of(job.publication, job.pictures, asked.block, Setter())
            if asked.take:
                if not 1 <= asked.take <= len(found):
                    raise Problem("There is no remedy of that number; take one of them by its own.")
                save(job, sheet.changed(found[asked.take - 1].publication).job)
                print(f"Taken: {found[asked.take - 1].words}")
                return 0
            for number, each in enumerate(found, 1):
                print(f"{number:3}  {each.words:48} {each.then}")
            if not found:
                print("Nothing has to be done, or nothing was found that would do.")
            return 0
        for where, found_words in surfaces_of(job.publication, job.pictures, asked.page, Setter()):
            name = masthead_of(found_words.sheet)
            if name is not None and name.verdict != "good":
                hidden = (
                    f"{100 * name.hidden:.0f} % of it is hidden, of “{name.worst.text}” {100 * name.worst.hidden:.0f} %"
                )
                print(f"{where}: the masthead {name.block}: {hidden}, {name.verdict}")
            for word in found_words.worst:
                print(f"{where}: “{word.text}” of {word.block or 'furniture'}: {word.score:.1f}, {word.verdict}")
    finally:
        job.close()
    return 0


def _trial(asked: argparse.Namespace) -> int:
    """The cover on a rack, small, from afar, as a copy: a PNG, and what can be said of it."""
    from half_fold.core.cover.trials.trial import keep_trial
    from half_fold.core.spread.setting.compose import Setter

    if not LEAST_TRIAL <= asked.wide <= MOST_TRIAL:
        raise Problem(f"A trial {asked.wide} pixels wide cannot be; give from {LEAST_TRIAL} to {MOST_TRIAL}.")
    job = _open(asked.job, to_write=False)
    try:
        wide, high = asked.wide, round(asked.wide * 5 / 8)
        made = keep_trial(job.publication, job.pictures, Setter(), asked.how, asked.out, wide, high)
    finally:
        job.close()
    for name, value, how in made.figures:
        print(f"{name}: {value} ({how})")
    return 0


def _parts(asked: argparse.Namespace) -> int:
    """What a cover needs, each part with where it was found."""
    from half_fold.core.brief.bindings import binding_named
    from half_fold.core.cover.parts import cover_parts
    from half_fold.core.cover.sides import require_cover

    job = _open(asked.job, to_write=False)
    try:
        require_cover(job.publication)
        for part in cover_parts(job.publication):
            print(f"{part.name}: {part.where or 'lacking'} ({part.how})")
        if binding_named(job.publication.brief.binding).elsewhere and not job.publication.cover_of:
            print("Say what it is the cover of, and more is asked of it: half-fold set JOB cover-of=book.")
    finally:
        job.close()
    return 0


LEAST_TRIAL, MOST_TRIAL = 320, 4000


def _fill(asked: argparse.Namespace) -> int:
    from half_fold.core.spread.edits.filling import filled_to_the_foot, filled_with
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.saving import save

    job = _open(asked.job)
    try:
        story = _stories(job.publication, asked.story)[0].id
        if asked.words is None:
            save(job, filled_to_the_foot(job.publication, Setter(), story))
        else:
            save(job, filled_with(job.publication, story, asked.words))
    finally:
        job.close()
    return 0


def _contents(asked: argparse.Namespace) -> int:
    from half_fold.core.publication.surgery import story_of
    from half_fold.core.spread.edits.placing import laid_through
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.core.spread.setting.contents import with_contents
    from half_fold.core.spread.setting.threads import thread
    from half_fold.saving import save

    job, setter = _open(asked.job), Setter()
    try:
        made, story = with_contents(job.publication, setter.threads)
        if not thread(made, story):
            if not 1 <= asked.page <= len(made.pages):
                raise Problem(f"There is no page {asked.page}; the job has {len(made.pages)}.")
            made = laid_through(made, setter, story, asked.page - 1)
        save(job, made, setter)
        print(*(paragraph.text.strip() for paragraph in story_of(job.publication, story).paragraphs), sep="\n")
    finally:
        job.close()
    return 0


def _goods(asked: argparse.Namespace) -> int:
    from half_fold.core.catalogue.laying import laid_rows, lay_goods
    from half_fold.core.catalogue.table import read_goods, take_goods
    from half_fold.core.spread.edits.repeating import read_repeat
    from half_fold.saving import save

    job = _open(asked.job, to_write=asked.table is not None or bool(asked.lay))
    try:
        publication = job.publication
        if asked.table is not None:
            publication, news = take_goods(publication, read_goods(asked.table))
            print(*news, sep="\n") if news else print("Nothing is otherwise.")
        if asked.lay:
            laid = lay_goods(publication, asked.lay, read_repeat(asked.how, publication.brief.unit))
            publication = laid.publication
            print(laid.words)
        if publication is not job.publication:
            save(job, publication)
            return 0
        rows = publication.goods.rows if publication.goods is not None else ()
        lie = laid_rows(publication)
        if asked.json:
            print(json.dumps([{"row": row[0], "page": lie.get(row[0])} for row in rows], ensure_ascii=False))
            return 0
        for row in rows:
            print(f"{row[0]:20} {f'page {lie[row[0]]}' if row[0] in lie else 'on no page'}")
    finally:
        job.close()
    return 0


def _inks(asked: argparse.Namespace) -> int:
    from half_fold.ink_command import inks_command

    job = _open(asked.job, to_write=asked.keep or asked.take is not None)
    try:
        return inks_command(job, asked)
    finally:
        job.close()


def _stories(publication: "Publication", title: str) -> list["Story"]:
    """The stories of that title, or all; at least one. Problem names those there are."""
    stories = [story for story in publication.stories if title in ("", story.title)]
    if not stories:
        known = ", ".join(f"“{story.title}”" for story in publication.stories) or "none"
        raise Problem(f"There is no story “{title}” in this job; there are {known}.")
    return stories


def _text(asked: argparse.Namespace) -> int:
    from half_fold.core.store.atomic import write_whole
    from half_fold.core.store.files import is_text, require_output
    from half_fold.core.typesetting.texts.markdown_out import SUFFIXES, to_markdown
    from half_fold.core.typesetting.texts.reading import role_table

    if asked.out.suffix.lower() not in SUFFIXES:
        raise Problem(f"“{shown(asked.out)}” is no text; name a file that ends in {', '.join(SUFFIXES)}.")
    publication = _open(asked.job, to_write=False).publication
    stories = _stories(publication, asked.story)
    parts = [to_markdown(story.paragraphs, role_table(publication)) for story in stories]
    require_output(asked.out, is_text)
    write_whole(asked.out, "\n".join(text for text, _ in parts).encode())
    print("\n".join([str(asked.out), *dict.fromkeys(note for _, notes in parts for note in notes)]))
    return 0


def _of_pictures(name: str) -> Callable[[argparse.Namespace], int]:
    """What is done with the pictures of a job."""

    def do(asked: argparse.Namespace) -> int:
        from half_fold.picture_command import picture_command, writes_pictures

        job = _open(asked.job, to_write=writes_pictures(name, asked))
        try:
            return picture_command(name, job, asked)
        finally:
            job.close()

    return do


def _of_press(name: str) -> Callable[[argparse.Namespace], int]:
    """What makes files for the printer, or proves one that came back."""

    def do(asked: argparse.Namespace) -> int:
        return press_command(name, _open(asked.job, to_write=False), asked)

    return do


def _check(asked: argparse.Namespace) -> int:
    from half_fold.core.checks.finding import would_stop
    from half_fold.core.checks.fixing import fixed
    from half_fold.core.checks.run import check
    from half_fold.core.spread.setting.compose import Setter
    from half_fold.saving import save

    job, setter = _open(asked.job, to_write=bool(asked.fix)), Setter()
    try:
        found = check(job.publication, setter, job.pictures)
        if asked.fix:
            made = fixed(job.publication, found, asked.fix)
            save(job, made, setter)
            found = check(job.publication, setter, job.pictures)
    finally:
        job.close()
    if asked.json:
        rows = [
            {
                "rule": f.rule,
                "severity": f.severity,
                "where": f.where,
                "message": f.message,
                "why": f.why,
                "fix": f.fix.words if f.fix else None,
            }
            for f in found
        ]
        print(json.dumps(rows, ensure_ascii=False, indent=1))
    for group in dict.fromkeys(f.consequence for f in found) if not asked.json else ():
        print(f"{group[0].upper()}{group[1:]}")
        for f in found:
            if f.consequence == group:
                fix = f" [{f.fix.words}]" if f.fix else ""
                print(f"  {f.where}: {f.message}{' (would stop the press)' if f.stops_press else ''}. {f.why}{fix}")
    if not found and not asked.json:
        print("Nothing found.")
    return 1 if would_stop(found) else 0


def _proof(asked: argparse.Namespace) -> int:
    if sum((asked.spread is not None, asked.page is not None, asked.cover, asked.front)) != 1:
        raise Problem("Say which proof: --spread N, --page N, --cover or --front.")
    if asked.dpi is not None and not 10 <= asked.dpi <= 1200:
        raise Problem(f"A proof at {asked.dpi:g} dpi cannot be; give from 10 to 1200.")
    job = _open(asked.job, to_write=False)
    from half_fold.core.brief.allowances import pixels
    from half_fold.desk.paint.proof import USUAL_DPI, write_proof

    dpi = asked.dpi or (pixels(job.publication)[2] if asked.front else USUAL_DPI)
    said = write_proof(job, asked.out, asked.spread, asked.page, asked.cover, dpi, asked.front, asked.on_paper)
    print(shown(asked.out))
    if said:
        print(said, file=sys.stderr)
    return 0


def _template(asked: argparse.Namespace) -> int:
    from half_fold.core.cover.template import working_drawing
    from half_fold.core.press.template import SUFFIXES, write_template_pdf, write_template_svg
    from half_fold.core.typesetting.lines.composer import Composer

    suffix = asked.out.suffix.lower()
    if suffix not in SUFFIXES:
        raise Problem(f"“{asked.out}” is no kind of template; name a file that ends in {', '.join(SUFFIXES)}.")
    job = _open(asked.job, to_write=False)
    drawn = working_drawing(Composer(), job.publication)
    if suffix == ".pdf":
        write_template_pdf(job.publication, drawn, asked.out)
    elif suffix == ".svg":
        write_template_svg(drawn, asked.out)
    else:
        from half_fold.desk.paint.proof import write_drawing

        write_drawing(job, drawn.drawing, asked.out, 300)
    print(shown(asked.out))
    return 0


def _order(asked: argparse.Namespace) -> int:
    from half_fold.core.press.wall_plan import write_wall_plan
    from half_fold.core.spread.running.order_table import take_table, write_table
    from half_fold.core.store.tables import read_table
    from half_fold.saving import save

    if (asked.out is None) == (asked.read is None):
        raise Problem("Name the file to write, or give --read FILE to take one in.")
    job = _open(asked.job, to_write=asked.read is not None)
    try:
        if asked.read is not None:
            publication, notes = take_table(job.publication, read_table(asked.read))
            save(job, publication)
            print("\n".join([f"{asked.read}: taken", *notes]))
        elif asked.out.suffix.lower() == ".pdf":
            write_wall_plan(job.publication, asked.out)
            print(shown(asked.out))
        else:
            write_table(job.publication, asked.out)
            print(shown(asked.out))
    finally:
        job.close()
    return 0


def _schedule(asked: argparse.Namespace) -> int:
    from datetime import date

    from half_fold.core.spread.running.schedule import write_schedule

    write_schedule(_open(asked.job, to_write=False).publication, asked.out, date.today())
    print(shown(asked.out))
    return 0


def _demo(asked: argparse.Namespace) -> int:
    from half_fold.core.store.demo import make_demos

    folder = asked.folder or Path(tempfile.mkdtemp(prefix="half-fold-demo-"))
    files = make_demos(folder)
    print(*files, sep="\n", flush=True)
    if asked.no_window:
        return 0
    from half_fold.desk.memory import note_opened

    for file in files[:0:-1]:  # found on the way in, under the first
        note_opened(file)
    return _window(files[0])


def _window(job: Path | None) -> int:
    from half_fold.desk.application import run

    return run(job)


_DO = {
    "new": _new,
    "keep": _keep,
    "set": _set,
    "get": _get,
    "numbers": _numbers,
    "place": _place,
    "text": _text,
    "grids": _grids,
    "fit": _fit,
    "fill": _fill,
    "contents": _contents,
    "goods": _goods,
    "inks": _inks,
    **{name: _of_pictures(name) for name in OF_PICTURES},
    "legibility": _legibility,
    "trial": _trial,
    "parts": _parts,
    "check": _check,
    **{name: _of_press(name) for name in WAYS},
    "proof": _proof,
    "template": _template,
    "order": _order,
    "schedule": _schedule,
    "demo": _demo,
}


AGAIN_S = 3.0  # seconds in which all that is to be put away is


def _stopped(_signal: int, _frame: object) -> NoReturn:
    """Ended from outside: unwind, so that nothing half made is left.

    Where that comes while something is being thrown away, Python drops it and goes on: it is said again.
    """
    signal.signal(signal.SIGALRM, _stopped)
    signal.setitimer(signal.ITIMER_REAL, AGAIN_S)
    atexit.register(signal.setitimer, signal.ITIMER_REAL, 0.0)  # once Python ends nothing hears the signal any more
    raise SystemExit(143)


def _do(words: Sequence[str]) -> int:
    if not words:
        return _window(None)
    first = words[0]
    if first in ("-h", "--help", "help"):
        print(USAGE)
        return 0
    if first in _DO:
        if "-h" in words[1:] or "--help" in words[1:]:
            print(help_of(first))
            return 0
        return _DO[first](_parser(first).parse_intermixed_args(words[1:]))
    path = Path(first)
    if first.startswith("-") or not path.exists() or len(words) > 1:
        raise Problem(f"“{first}” is neither a command nor a job; the commands are {', '.join(COMMANDS)}.")
    from half_fold.core.store.job import find_file

    return _window(find_file(path))


def help_of(name: str) -> str:
    """What a command is for, and all that it takes."""
    entries = re.split(r"\n(?=half-fold )", USAGE)
    own = [entry for entry in entries if entry.split()[1] == name]
    parser = _parser(name)
    parser.prog = f"half-fold {name}"
    takes = parser.format_usage().partition(": ")[2].strip()
    return "\n".join([*own, "", "takes:", takes])


def _say(sentence: str) -> int:
    """One sentence to standard error; gives the exit status of an error."""
    print(in_one_line(f"half-fold: {sentence}".encode("utf-8", "replace").decode("utf-8")), file=sys.stderr)
    return 2


def main(words: Sequence[str] | None = None) -> int:
    """Do what the command line asks; gives the exit status."""
    signal.signal(signal.SIGTERM, _stopped)
    for stream in (sys.stdout, sys.stderr):  # a terminal that has not all letters is shown what it can
        if isinstance(stream, io.TextIOWrapper):
            stream.reconfigure(errors="replace")
    try:
        return _do(list(sys.argv[1:] if words is None else words))
    except Problem as problem:
        return _say(str(problem))
    except BrokenPipeError:  # the reader, such as head, had enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 141
    except MemoryError:
        return _say("The machine has not enough memory for that; close other programs, or do it in parts.")
    except OSError as error:
        named = f"“{error.filename}”: " if error.filename else ""
        return _say(
            f"{named}{(error.strerror or 'refused').lower()}; check that there is room, and that it may be used."
        )
    except KeyboardInterrupt:
        return 130


if __name__ == "__main__":
    sys.exit(main())

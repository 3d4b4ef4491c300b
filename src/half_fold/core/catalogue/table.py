"""The table of goods that a job carries: taken from a file, with word of what it says otherwise than the one before."""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from functools import partial
from itertools import chain, islice, repeat
from pathlib import Path

from msgspec.structs import replace

from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import counted
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.library.folders import SUFFIXES
from half_fold.core.publication.ranges import MOST_COLUMNS, MOST_GOODS
from half_fold.core.publication.records import Block, Goods, HoldsPicture, Picture, Publication
from half_fold.core.publication.surgery import every_block, with_every_layer
from half_fold.core.publication.things import swapped_all
from half_fold.core.spread.setting.goods import name_as_asked, rows_of
from half_fold.core.store.files import readable
from half_fold.core.store.tables import read_table

LONGEST = 2000  # letters of a cell
NAMED = 5  # rows that are named; the others are counted


def read_goods(path: Path) -> Goods:
    """The goods in a table, the first row its columns. Problem where it is none, or two rows go by the same words."""
    heading, *lines = read_table(path)
    columns = [_words(name) for name in heading]
    while columns and not columns[-1]:
        columns.pop()
    if not columns or not columns[0]:
        raise Problem(f"“{path.name}” has no name over its first column; goods go by what stands there.")
    if len(columns) > MOST_COLUMNS:
        raise Problem(f"“{path.name}” has more than {MOST_COLUMNS} columns; save those that are wanted.")
    if twice := _twice(name_as_asked(name) for name in columns if name):
        raise Problem(f"“{path.name}” has two columns “{twice}”; give one of them another name.")
    padded = (islice(chain(line, repeat("")), len(columns)) for line in lines)
    rows = [row for row in (tuple(_words(cell)[:LONGEST] for cell in line) for line in padded) if row[0]]
    if not rows:
        raise Problem(f"“{path.name}” has no goods in it; each goes by the words in the first column.")
    if len(rows) > MOST_GOODS:
        raise Problem(f"“{path.name}” has more than {MOST_GOODS:,} goods; save those that are wanted.")
    if twice := _twice(row[0] for row in rows):
        raise Problem(f"“{twice}” stands twice in the first column of “{path.name}”; give each a name of its own.")
    return Goods(columns=tuple(columns), rows=tuple(rows), file=readable(path.name))


def _words(cell: str) -> str:
    return " ".join(cell.split())


def _twice(names: Iterator[str]) -> str:
    """The first of names that is there more than once, or ""."""
    return next((name for name, count in Counter(names).items() if count > 1), "")


def take_goods(publication: Publication, goods: Goods) -> tuple[Publication, list[str]]:
    """The job with these goods for those it had, the pictures of rows that are laid as they say, and what is new.

    Words that are filled in from a row follow by themselves.
    """
    before, publication = publication.goods, replace(publication, goods=goods)
    made = {block.id: pictured(publication, block) for _, _, block in every_block(publication) if block.row}
    publication = with_every_layer(publication, partial(swapped_all, made=made))
    news = list(_news(before, goods)) if before is not None else [f"{counted(len(goods.rows), 'row')} of goods"]
    known = _files(publication.pictures)
    lacking = [row[0] for row in goods.rows if _asks_for_one(row) and _picture_of(known, row) is None]
    if lacking:
        news.append(f"The picture is not in the drawer of {format_first_names(lacking)}")
    return publication, news


def _news(before: Goods, now: Goods) -> Iterator[str]:
    was, rows = rows_of(before), rows_of(now)
    if new := [name for name in rows if name not in was]:
        yield f"New: {format_first_names(new)}"
    if gone := [name for name in was if name not in rows]:
        yield f"No longer in the table: {format_first_names(gone)}"
    for column in now.columns:
        key = name_as_asked(column)
        other = [name for name, row in rows.items() if name in was and row.get(key) != was[name].get(key, "")]
        if other and key:
            yield f"{column} is another for {format_first_names(other)}"


def format_first_names(names: Sequence[str]) -> str:
    """The first of names, and how many more there are."""
    more = f" and {len(names) - NAMED:,} more" if len(names) > NAMED else ""
    return ", ".join(names[:NAMED]) + more


# Pictures of rows -----------------------------------------------------------------------------------


def pictured(publication: Publication, block: Block) -> Block:
    """A picture's block with the picture that its row names; as it is where it names none that is in the job."""
    row = rows_of(publication.goods).get(block.row) if publication.goods is not None else None
    if row is None or not isinstance(block.holds, HoldsPicture):
        return block
    picture = _picture_of(_files(publication.pictures), tuple(row.values()))
    if picture is None or picture == block.holds.picture:
        return block
    return replace(block, holds=replace(block.holds, picture=picture))


@kept(8)
def _files(pictures: tuple[Picture, ...]) -> dict[str, str]:
    """The ids of pictures by the names of their files, without and with what these end in."""
    found = {Path(picture.file).stem.casefold(): picture.id for picture in reversed(pictures)}
    return found | {picture.file.casefold(): picture.id for picture in pictures}


def _picture_of(files: Mapping[str, str], row: Sequence[str]) -> str | None:
    """The picture that a row names: by its whole file name, or else by that without its ending."""
    names = [cell.casefold() for cell in row if cell]
    whole = (files[name] for name in names if Path(name).suffix in SUFFIXES and name in files)
    return next(chain(whole, (files[name] for name in names if name in files)), None)


def _asks_for_one(row: Sequence[str]) -> bool:
    return any(Path(cell.casefold()).suffix in SUFFIXES for cell in row)

"""Depth, count and size: what is made to take all time and memory ends in a sentence, or takes little of them."""

import math
import zipfile
from collections.abc import Callable
from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.core.brief.printers import read_sheet
from half_fold.core.inks.exchange import read_inks
from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.colour import read_profile
from half_fold.core.pictures.library import bring
from half_fold.core.pictures.vector.vector import read_vector
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Block, Group, HoldsPanel, Publication
from half_fold.core.publication.surgery import with_things
from half_fold.core.spread.where.frames import thing_hull, turn_of
from half_fold.core.store.job import read
from half_fold.core.store.tables import read_table
from half_fold.core.typesetting.faces.fonts import bring_font
from half_fold.core.typesetting.flow.flow import TOGETHER
from half_fold.core.typesetting.lines.composer import Composer
from half_fold.core.typesetting.texts.reading import MOST_PARAGRAPHS, Reading
from half_fold.core.typesetting.texts.text_in import read_text_file
from tests.blocks import block_over

W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'


# Size, asked for before it is read --------------------------------------------------------------------------------

READERS: dict[str, Callable[[Path], object]] = {
    "x.svg": read_vector,
    "x.icc": read_profile,
    "x.json": read_sheet,
    "x.csv": lambda path: read_inks(start("magazine", "Leaf"), path),
    "y.csv": read_table,
    "x.xlsx": read_table,
    "x.md": read_text_file,
    "x.txt": read_text_file,
    "x.docx": read_text_file,
    "x.odt": read_text_file,
    "x.halffold": read,
    "x.ttf": lambda path: bring_font(start("magazine", "Leaf"), path.parent, path),
    "x.png": bring.record_of,
}


@pytest.mark.parametrize("name", list(READERS))
def test_a_file_without_end_is_not_read(tmp_path: Path, name: str) -> None:
    import resource

    path = tmp_path / name
    begins = {".svg": b"<svg", ".png": b"\x89PNG", ".xlsx": b"PK", ".docx": b"PK", ".odt": b"PK"}
    with path.open("wb") as file:
        file.write(begins.get(path.suffix, b"name,cyan\n"))
        file.truncate(6_000_000_000)
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    with pytest.raises(Problem):
        READERS[name](path)
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 300_000  # kilobytes


# Texts --------------------------------------------------------------------------------------------------------------


def _docx(folder: Path, body: str, notes: str) -> Path:
    path = folder / "x.docx"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("word/document.xml", f"<w:document {W}><w:body>{body}</w:body></w:document>")
        file.writestr("word/footnotes.xml", f"<w:footnotes {W}>{notes}</w:footnotes>")
    return path


def _ref(number: int) -> str:
    return f'<w:r><w:footnoteReference w:id="{number}"/></w:r>'


def _note(number: int, *others: int) -> str:
    words = f"<w:r><w:t>note {number}</w:t></w:r>{''.join(map(_ref, others))}"
    return f'<w:footnote w:id="{number}"><w:p>{words}</w:p></w:footnote>'


@pytest.mark.parametrize("count", [3, 30])
def test_notes_that_name_one_another_are_each_told_once(tmp_path: Path, count: int) -> None:
    notes = "".join(_note(n, (n + 1) % count, (n + 1) % count, (n + 2) % count) for n in range(count))
    read_in = read_text_file(_docx(tmp_path, f"<w:p><w:r><w:t>Words</w:t></w:r>{_ref(0)}</w:p>", notes))
    told = [paragraph.text for paragraph in read_in.paragraphs if paragraph.role == "note"]
    assert len(told) == count and all(sum(f"note {n}" in words for words in told) >= 1 for n in range(count))


def test_a_text_of_too_many_paragraphs_is_a_sentence(tmp_path: Path) -> None:
    (tmp_path / "x.txt").write_text("A word.\n\n" * (MOST_PARAGRAPHS + 10))
    with pytest.raises(Problem, match="split it"):
        read_text_file(tmp_path / "x.txt")
    assert isinstance(Reading(), Reading)


def test_a_long_story_is_set_in_windows_that_are_kept(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    """What is set together is placed before it is let go of: every paragraph is set once, however many there are."""
    from half_fold.core.spread.edits.placing import place_story
    from half_fold.core.spread.setting.compose import Setter

    (tmp_path / "x.txt").write_text("".join(f"Pear {n} of the orchard.\n\n" for n in range(2 * TOGETHER)))
    paragraphs = tuple(read_text_file(tmp_path / "x.txt").paragraphs)
    setter, plenty = Setter(), Setter()
    place_story(start("book", "Leaf"), plenty, "Pears", paragraphs)
    kept = plenty.composer._lines
    setter.composer._lines._octets = kept.octets * (TOGETHER + 500) // len(kept)  # too few for all of the story
    counts = [0]
    plain = Composer._broken

    def counted(self: Composer, every: list[object], *more: object) -> None:
        counts[0] += len(every)
        plain(self, every, *more)  # type: ignore[arg-type]

    monkeypatch.setattr(Composer, "_broken", counted)
    place_story(start("book", "Leaf"), setter, "Pears", paragraphs)
    assert counts[0] < 3 * len(paragraphs)  # once over the first page, once over all


# Drawings ---------------------------------------------------------------------------------------------------------


def _svg(folder: Path, inside: str) -> Path:
    path = folder / "x.svg"
    path.write_text(f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100">{inside}</svg>')
    return path


def _clipped(deep: int) -> str:
    def one(n: int) -> str:
        by = f'clip-path="url(#c{n + 1})"'
        shapes = f'<rect width="{90 - n}" height="90" {by}/><circle cx="40" cy="40" r="9" {by}/>'
        return f'<clipPath id="c{n}">{shapes}</clipPath>'

    last = f'<clipPath id="c{deep}"><circle cx="50" cy="50" r="40"/></clipPath>'
    return "".join(map(one, range(deep))) + last + '<rect width="100" height="100" clip-path="url(#c0)"/>'


def test_clip_paths_within_clip_paths_are_worked_out_once(tmp_path: Path) -> None:
    assert len(read_vector(_svg(tmp_path, _clipped(30))).art) == 1


def test_a_clip_path_in_two_places_cuts_in_each(tmp_path: Path) -> None:
    """What is kept of it is kept by where it lies."""
    inside = (
        '<clipPath id="c"><rect width="10" height="10"/></clipPath>'
        '<rect width="50" height="50" clip-path="url(#c)"/>'
        '<g transform="translate(60 60)"><rect width="30" height="30" clip-path="url(#c)"/></g>'
    )
    one, other = read_vector(_svg(tmp_path, inside)).art
    assert one.data.startswith("M") and one.data != other.data
    assert {float(word) for word in other.data.replace("M", " ").replace("L", " ").replace("Z", " ").split()} == {
        1440.0, 1680.0,
    }  # fmt: skip


def test_a_stroke_of_too_many_places_is_a_sentence(tmp_path: Path) -> None:
    curves = "".join(f"M{n % 63 * 1.5} {n // 63 * 1.5}c5 0 5 5 0 5z" for n in range(4000))
    with pytest.raises(Problem, match="simpler"):
        read_vector(_svg(tmp_path, f'<path fill="none" stroke="black" stroke-width="3" d="{curves}"/>'))
    few = "".join(f"M{n % 20 * 5} {n // 20 * 5}c5 0 5 5 0 5z" for n in range(300))
    assert read_vector(_svg(tmp_path, f'<path fill="none" stroke="black" d="{few}"/>')).art


# Groups -----------------------------------------------------------------------------------------------------------


def _nested(deep: int) -> Publication:
    job = start("magazine", "Leaf")
    thing: Block | Group = block_over("b0", HoldsPanel(), (0, 1), (0, 1))
    for n in range(deep):
        beside = block_over(f"x{n}", HoldsPanel(), (1, 2), (1, 2))
        thing = Group(id=f"g{n}", members=(thing, beside), angle=7.0)
    return with_things(job, job.pages[2].id, lambda _: (thing,))


@pytest.mark.parametrize("deep", [1, 4, 60])
def test_turned_groups_within_groups_are_measured_once_each(deep: int) -> None:
    job = _nested(deep)
    turn = turn_of(job, 3, job.pages[2].blocks[0])
    assert turn is not None and turn.a == pytest.approx(math.cos(math.radians(7 * deep)))
    hull = thing_hull(job, 3, job.pages[2].things[0])
    assert hull.width > 0


def test_a_group_s_hull_is_what_it_was() -> None:
    """Against the slow way: each box turned by itself, from the inside out."""
    from half_fold.core.drawing.affine import turned
    from half_fold.core.measure.rect import hull
    from half_fold.core.spread.where.frames import block_box

    job = _nested(3)
    inner, beside = block_box(job, 3, job.pages[2].blocks[0]), block_box(job, 3, replace(job.pages[2].blocks[1]))
    box = inner
    for _ in range(3):
        both = hull((box, beside))
        box = turned(both.centre, 7.0).around(both)
    assert thing_hull(job, 3, job.pages[2].things[0]) == pytest.approx(box)

"""Captions: words that know their picture, keep to its side, go with it, and are found where they are lacking."""

from pathlib import Path

import pytest
from msgspec.structs import replace

from half_fold.core.checks.run import check
from half_fold.core.drawing.marks import Glyphs, leaves
from half_fold.core.measure.entry import MM
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.pictures.library.bring import bring_picture
from half_fold.core.plan.spreads import spread_of
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPicture, Paragraph, Picture, Publication, Run
from half_fold.core.publication.surgery import block_named, thing_ids, with_page, with_thing_anywhere
from half_fold.core.publication.validity import require_valid
from half_fold.core.spread.edits.claiming import display_words
from half_fold.core.spread.edits.grouping import double_things
from half_fold.core.spread.edits.keeping import settle
from half_fold.core.spread.edits.taking import double_pages
from half_fold.core.spread.setting.captions import GAP_MM, captions_of, credits, give_caption, set_side, tell_of_picture
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.setting.gathered import gathered
from half_fold.core.spread.where.frames import block_box
from half_fold.core.spread.where.reaching import set_measure
from half_fold.core.store.codec import decode, encode
from tests.blocks import block_over
from tests.core.test_choosing import photograph

PICTURES = (
    Picture(
        id="p1", file="gate.jpg", width=900, height=600, digest="a", caption="Frost on the gate", credit="Mara Holt"
    ),
    Picture(id="p2", file="mist.jpg", width=900, height=600, digest="b", credit="Ivo Penn"),
)


def _job() -> Publication:
    job = replace(start("magazine", "Captions"), pictures=PICTURES)
    blocks = (
        block_over("b1", HoldsPicture(picture="p1"), (0, 2), (1, 3)),
        block_over("b2", HoldsPicture(picture="p2"), (3, 5), (1, 3)),
    )
    return replace(job, pages=(*job.pages[:2], replace(job.pages[2], things=blocks), *job.pages[3:]))


def _words(job: Publication, page: int = 3) -> str:
    marks = Setter().spread(job, spread_of(job, page)).marks
    return " ".join("".join(mark.texts).strip() for mark in leaves(marks) if isinstance(mark, Glyphs))


def _box(job: Publication, name: str) -> tuple[float, float, float, float]:
    return block_box(job, 3, block_named(job, name))


def test_a_caption_says_what_is_told_of_its_picture_and_follows_it() -> None:
    job, name = give_caption(_job(), "b1")
    assert "Frost on the gate" in _words(job) and "Mara Holt" in _words(job)
    job = tell_of_picture(job, "p1", "caption", "  Rime on the second gate ")
    assert "Rime on the second gate" in _words(job)
    job = set_path(job, "block.b1.picture", "mist.jpg")
    assert "Ivo Penn" in _words(job) and "Rime" not in _words(job), "another picture, another caption"
    assert decode(encode(job), "captions.halffold") == job
    assert captions_of(job, "b1") == [block_named(job, name)]


@pytest.mark.parametrize("side", ["under", "over", "right", "left"])
def test_it_lies_on_its_side_and_keeps_to_it(side: str) -> None:
    of = "b2" if side == "left" else "b1"
    job, name = give_caption(_job(), of, side)
    moved = settle(job, set_measure(job, of, "height", "70mm"))
    moved = settle(moved, set_measure(moved, of, "down", "60mm"))
    box, words = _box(moved, of), _box(moved, name)
    off = {
        "under": words[1] - box[3],
        "over": box[1] - words[3],
        "right": words[0] - box[2],
        "left": box[0] - words[2],
    }[side]
    assert off / MM == pytest.approx(GAP_MM, abs=0.02)
    other = settle(moved, set_side(moved, name, "under"))
    assert (_box(other, name)[1] - box[3]) / MM == pytest.approx(GAP_MM, abs=0.02)
    free = set_side(other, name, "")
    assert _box(settle(free, set_measure(free, of, "height", "40mm")), name) == _box(free, name), "by hand from now on"
    with pytest.raises(Problem, match="under, over"):
        set_side(job, name, "behind")


def test_it_is_laid_where_there_is_room() -> None:
    job = _job()
    below = block_over("w", display_words("headline", "In the way"), (0, 5), (4, 7))
    crowded = replace(
        job, pages=tuple(replace(p, things=(*p.things, below)) if n == 3 else p for n, p in enumerate(job.pages, 1))
    )
    assert block_named(*give_caption(job, "b1")).beside == "under"
    assert block_named(*give_caption(crowded, "b1")).beside == "over"
    with pytest.raises(Problem, match="Only a picture"):
        give_caption(crowded, "w")


def test_a_copy_of_picture_and_caption_is_captioned_by_the_copy() -> None:
    job, name = give_caption(_job(), "b1")
    made, new = double_things(job, ["b1", name])
    assert len(set(thing_ids(made))) == len(thing_ids(made))
    pages, numbers = double_pages(job, [3])
    copy = pages.pages[numbers[0] - 1]
    caption = next(block for block in copy.blocks if block.of)
    assert caption.of in {block.id for block in copy.blocks} and caption.of != "b1"
    require_valid(pages, "doubled")
    assert new


def test_credits_are_listed_with_their_pages_once_each() -> None:
    job = _job()
    assert credits(job) == "Ivo Penn 3; Mara Holt 3"
    listed = replace(block_over("l", display_words("caption", "Photographs: {credits}"), (0, 5), (0, 0)))
    job = replace(job, pages=tuple(replace(p, things=(listed,)) if n == 5 else p for n, p in enumerate(job.pages, 1)))
    assert "Photographs: Ivo Penn 3; Mara Holt 3" in _words(job, 5)
    job = tell_of_picture(job, "p2", "credit", "Mara Holt")
    assert credits(job) == "Mara Holt 3" and "Mara Holt 3" in _words(job, 5)


def test_what_is_lacking_is_found(tmp_path: Path) -> None:
    job, _ = give_caption(_job(), "b1")
    assert not [f for f in check(job, Setter(), None) if f.rule == "left to fill in"]
    job, name = give_caption(job, "b2", "under")
    said = [f.message for f in check(job, Setter(), None) if f.rule == "left to fill in"]
    assert said == ["Its words ask for a caption, and “mist.jpg” has none"]
    bare = set_path(job, "block.b2.picture", "gate.jpg")
    assert not [f for f in check(bare, Setter(), None) if f.rule == "left to fill in"]
    gone = replace(job, pages=tuple(replace(p, things=tuple(t for t in p.things if t.id != "b2")) for p in job.pages))
    said = [f.message for f in check(gone, Setter(), None) if f.rule == "left to fill in"]
    assert len(said) == 2 and "there is no picture" in said[0]
    assert block_named(gone, name).of == "b2", "undo brings the picture back to it"


def test_a_picture_brings_what_its_file_says(tmp_path: Path) -> None:
    job, picture = bring_picture(start("magazine", "In"), tmp_path / "pictures", photograph(tmp_path / "a.jpg"))
    assert (picture.caption, picture.credit) == ("By the camera", "Mara Holt")
    changed = set_path(job, "picture.a.jpg.caption", "Another")
    assert changed.pictures[0].caption == "Another"


def test_a_caption_may_say_more_than_what_is_told() -> None:
    job, name = give_caption(_job(), "b1")
    words = (Paragraph(role="caption", runs=(Run(text="Above: ", bold=True), Run(text="{caption}, at Long Acre"))),)
    block = block_named(job, name)
    job = with_thing_anywhere(job, replace(block, holds=replace(block.holds, paragraphs=words)))
    assert "Above: Frost on the gate, at Long Acre" in " ".join(_words(job).split())


# Gathered ---------------------------------------------------------------------------------------------------------


def _gathering(
    *places: tuple[tuple[int, int], tuple[int, int]], at: tuple[tuple[int, int], tuple[int, int]]
) -> Publication:
    """Pictures called A, B, C ... on those columns and rows of page 3, and words that gather their captions."""
    job = replace(start("magazine", "Gathered"), pictures=())
    pictures, blocks = [], []
    for index, (columns, rows) in enumerate(places):
        letter = "ABCDEF"[index]
        pictures.append(
            Picture(id=letter, file=f"{letter}.jpg", width=90, height=60, digest=letter, caption=f"Tree {letter}")
        )
        blocks.append(block_over(f"b{letter}", HoldsPicture(picture=letter), columns, rows))
    blocks.append(block_over("words", display_words("caption", "{captions}"), *at))
    job = replace(job, pictures=tuple(pictures))
    return with_page(job, replace(job.pages[2], things=tuple(blocks)))


@pytest.mark.parametrize(
    ("places", "at", "words"),
    [
        ([((0, 2), (0, 1))], ((0, 2), (3, 3)), "Tree A."),
        ([((0, 5), (0, 2)), ((0, 5), (5, 7))], ((0, 5), (3, 3)), "Above: Tree A. Below: Tree B."),
        ([((0, 1), (0, 7)), ((4, 5), (0, 7))], ((2, 3), (3, 4)), "Left: Tree A. Right: Tree B."),
        ([((0, 2), (0, 2)), ((3, 5), (0, 2))], ((0, 5), (5, 5)), "Left: Tree A. Right: Tree B."),
        ([((0, 1), (0, 2)), ((2, 3), (0, 2)), ((4, 5), (0, 2))], ((0, 5), (5, 5)),
         "Left: Tree A. Middle: Tree B. Right: Tree C."),
        ([((0, 2), (0, 2)), ((3, 5), (0, 2)), ((3, 5), (3, 5)), ((0, 2), (3, 5))], ((0, 5), (7, 7)),
         "Clockwise from the upper left: Tree A; Tree B; Tree C; Tree D."),
    ],
)  # fmt: skip
def test_captions_are_told_by_where_they_lie(places: list, at: tuple, words: str) -> None:
    job = _gathering(*places, at=at)
    assert gathered(job, block_named(job, "words")) == words
    assert words in " ".join(_printed(job, 3).split())


def test_the_words_follow_when_pictures_change_places() -> None:
    job = _gathering(((0, 1), (0, 7)), ((4, 5), (0, 7)), at=((2, 3), (3, 4)))
    a, b = block_named(job, "bA"), block_named(job, "bB")
    swapped = with_thing_anywhere(with_thing_anywhere(job, replace(a, place=b.place)), replace(b, place=a.place))
    assert gathered(swapped, block_named(swapped, "words")) == "Left: Tree B. Right: Tree A."


def test_one_with_a_caption_of_its_own_and_one_without_words_are_left_out() -> None:
    job = _gathering(((0, 1), (0, 7)), ((4, 5), (0, 7)), at=((2, 3), (3, 4)))
    job, _ = give_caption(job, "bA")
    assert gathered(job, block_named(job, "words")) == "Tree B."
    job = tell_of_picture(job, "B", "caption", "")
    assert gathered(job, block_named(job, "words")) == ""
    assert any("captions of the spread" in f.message for f in check(job, Setter(), None))


def test_what_is_asked_of_every_picture_is_found_where_it_lacks_or_is_not_laid() -> None:
    job = set_path(_gathering(((0, 1), (0, 3)), ((4, 5), (0, 3)), at=((2, 3), (3, 4))), "role.caption.asked", "yes")

    def found(of: Publication) -> list[str]:
        return [f.message for f in check(of, Setter(), None) if f.rule == "no caption"]

    assert not found(job)
    job = with_page(job, replace(job.pages[2], things=job.pages[2].things[:-1]))
    assert len(found(job)) == 2 and "not laid" in found(job)[0]
    bare = tell_of_picture(job, "B", "caption", "")
    assert any("has no caption" in message for message in found(bare))
    (fixed,) = [f for f in check(job, Setter(), None) if f.rule == "no caption" and f.block == "bA"]
    assert fixed.fix is not None and len(found(fixed.fix.edit(job))) == 1


def _printed(job: Publication, page: int) -> str:
    marks = Setter().spread(job, spread_of(job, page)).marks
    return "".join(
        "".join(mark.texts) + " " for mark in leaves(marks) if isinstance(mark, Glyphs) and mark.origin.block == "words"
    )

"""Things taken up and laid elsewhere: on another page, in a mirror, in another job."""

import pytest
from msgspec.structs import fields, replace

from half_fold.core.apart.sides import SHARED, edit_side, side_of
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import set_path
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import (
    Fade,
    FadeStop,
    Furniture,
    Group,
    HoldsDisplay,
    HoldsNothing,
    HoldsPanel,
    HoldsPicture,
    HoldsStory,
    Look,
    Paragraph,
    Picture,
    Publication,
    Role,
    Run,
    Shadow,
)
from half_fold.core.publication.surgery import block_named, page_of_block, thing_ids, with_page
from half_fold.core.publication.validity import require_valid, require_whole
from half_fold.core.spread.edits.grouping import group
from half_fold.core.spread.edits.placing import add_story
from half_fold.core.spread.edits.taking import (
    copy_things,
    double_pages,
    paste_things,
    put_pages,
    swap_holds,
    taken_pages,
)
from half_fold.core.spread.where.frames import block_box, page_frame_of
from half_fold.core.typesetting.sheet.sheet import add_role
from tests.blocks import block_over

PEAR = Picture(id="p9", file="pear.jpg", width=600, height=400, digest="9ea4")


def _job() -> Publication:
    """A job with an ink, a fade, a look and roles that no other has, all named by things on page 3."""
    job = start("magazine", "Taken")
    ink = replace(job.inks[-1], name="pear skin", cyan=30.0)
    fade = Fade(name="dawn", stops=(FadeStop(ink="pear skin", at=0), FadeStop(ink="black", at=100)))
    look = Look(name="lifted", shadow=Shadow(ink="pear skin"))
    job = replace(job, inks=(*job.inks, ink), fades=(fade,), looks=(look,), pictures=(PEAR,))
    job, role = add_role(job, "Shout", "headline")
    job, story = add_story(job, "Tale", (Paragraph(role="body", runs=(Run(text="One."),)),))
    words = HoldsDisplay(paragraphs=(Paragraph(role=role, runs=(Run(text="Loud", ink="pear skin"),)),))
    held = {"w": words, "f": HoldsPanel(ink="dawn"), "p": HoldsPicture(picture="p9"), "s": HoldsStory(story=story)}
    blocks = [block_over(name, holds, (0, 1), (at, at)) for at, (name, holds) in enumerate(held.items())]
    blocks[1] = replace(blocks[1], look="lifted", locked=True)
    return with_page(job, replace(job.pages[2], things=tuple(blocks)))


def test_things_come_to_another_job_with_all_they_name() -> None:
    job, other = _job(), start("book", "Other")
    content = copy_things(job, ("w", "f", "p", "s"))
    made, names, words = paste_things(other, 4, content)
    require_whole(made)
    require_valid(made, "other")
    assert {ink.name for ink in made.inks} - {ink.name for ink in other.inks} == {"pear skin"}
    assert [each.name for each in (*made.fades, *made.looks)] == ["dawn", "lifted"]
    (role,) = {r.name: r for r in made.roles}.keys() - {r.name for r in other.roles}
    shout = next(r for r in made.roles if r.name == role)
    assert (shout.based_on, shout.size) == ("", next(r for r in job.roles if r.name == "headline").size)
    kinds = [type(block.holds) for block in made.pages[3].blocks]
    assert kinds == [HoldsDisplay, HoldsPanel, HoldsNothing, HoldsNothing]
    assert "pear.jpg" in words and "“Tale”" in words and not any(block.locked for block in made.pages[3].blocks)
    known = replace(other, pictures=(replace(PEAR, id="p1", file="another.jpg"),))
    made, names, words = paste_things(known, 4, copy_things(job, ("p",)))
    assert words == "" and block_named(made, names[0]).holds == HoldsPicture(picture="p1")


def test_things_laid_in_their_own_job_keep_picture_and_story_and_lie_as_they_lay() -> None:
    job = _job()
    job, whole = group(job, ("w", "p"))
    made, names, words = paste_things(job, 5, copy_things(job, (whole, "s")))
    assert words == "" and len(set(thing_ids(made))) == len(thing_ids(made))
    first, last = made.pages[4].things
    assert isinstance(first, Group) and {first.id, last.id} == set(names)
    assert [type(block.holds) for block in made.pages[4].blocks] == [HoldsDisplay, HoldsPicture, HoldsStory]
    before, after = block_named(job, "w"), first.members[0]
    assert block_box(job, 3, before) == block_box(made, 5, after)  # type: ignore[arg-type]  # a block


def test_in_a_mirror_a_thing_is_as_far_from_the_fold_as_it_was() -> None:
    job = _job()
    made, (name,), _ = paste_things(job, 2, copy_things(job, ("w",)), mirror=True)
    box, there = block_box(job, 3, block_named(job, "w")), block_box(made, 2, block_named(made, name))
    assert (-there.right, there.top, -there.left, there.bottom) == pytest.approx(box, abs=0.01)
    assert page_frame_of(made, 2).trim.left < there.left


def test_what_is_no_thing_is_refused() -> None:
    for content in (b"", b"{}", b'{"things": 3}', b"\xff\xfe", b'{"things": [{"type": "hole"}]}', b"[" * 5000):
        with pytest.raises(Problem, match="cannot be laid here"):
            paste_things(_job(), 3, content)


def test_two_blocks_change_what_they_hold() -> None:
    job = swap_holds(set_path(_job(), "block.f.locked", "no"), "w", "f")
    assert isinstance(block_named(job, "w").holds, HoldsPanel) and block_named(job, "w").look == "lifted"
    assert page_of_block(job, "f")[2].place == page_of_block(_job(), "f")[2].place
    with pytest.raises(Problem, match="locked"):
        swap_holds(_job(), "w", "f")


OWN = {"brief", "masters", "pages", "unplaced", "cover"}  # what a side has in its own way
NOT_EDITED = {"title", "kind", "issue", "season", "language", "date", "sections", "inserts", "schedule", "dummies",
              "printer", "light", "covers", "author", "publisher", "price", "slogan", "outputs",
              "cover_of"}  # fmt: skip


def test_what_an_edit_of_a_cover_side_changes_of_the_job_is_not_lost() -> None:
    """Every field is either shared, a side's own, or none that an edit of blocks can touch: a new one must be told."""
    assert {each.name for each in fields(Publication)} == {*SHARED, *OWN, *NOT_EDITED}
    job, other = _job(), start("book", "Other")
    content = copy_things(job, ("w", "f"))
    made = edit_side(other, "outside", lambda side: paste_things(side, 3, content)[0])
    require_whole(made)
    assert [each.name for each in (*made.fades, *made.looks)] == ["dawn", "lifted"]
    assert len(side_of(made, "outside").pages[2].blocks) == len(side_of(other, "outside").pages[2].blocks) + 2
    assert all(isinstance(role, Role) for role in made.roles)


# Whole pages ----------------------------------------------------------------------------------------


def test_pages_are_doubled_right_after_the_last_with_ids_of_their_own() -> None:
    job = _job()
    made, numbers = double_pages(job, [3, 2])
    assert numbers == (4, 5) and len(made.pages) == len(job.pages) + 2
    assert [page.id for page in made.pages[:3]] == [page.id for page in job.pages[:3]]
    assert [type(block.holds) for block in made.pages[4].blocks] == [type(block.holds) for block in job.pages[2].blocks]
    assert len(set(thing_ids(made))) == len(thing_ids(made))
    assert len({page.id for page in made.pages}) == len(made.pages)
    require_valid(made, "doubled")
    before = [block_box(job, 3, block) for block in job.pages[2].blocks]
    assert [block_box(made, 5, block) for block in made.pages[4].blocks] == before, "page 5 is a right page too"


def test_pages_come_to_another_job_with_their_masters_and_all_they_name() -> None:
    job = _job()
    own = replace(job.masters[0], name="wide", furniture=(*job.masters[0].furniture, Furniture(
        id="f9", kind="picture", picture="p9", width=length("20mm"))))  # fmt: skip
    job = replace(job, masters=(*job.masters, own), pages=tuple(
        replace(page, master="wide", runs="Tale") if n == 3 else page for n, page in enumerate(job.pages, 1)
    ))  # fmt: skip
    other = start("book", "Other")
    made, numbers, words = put_pages(other, 4, taken_pages(job, [3]))
    page = made.pages[4]
    assert numbers == (5,) and (page.master, page.runs) == ("wide", "Tale")
    assert {"pear skin"} <= {ink.name for ink in made.inks} and [look.name for look in made.looks] == ["lifted"]
    assert [piece.kind for piece in made.masters[-1].furniture] == [p.kind for p in job.masters[0].furniture]
    assert "pear.jpg" in words and "“Tale”" in words, "neither picture nor story is in that job"
    require_valid(made, "laid")
    again, _, _ = put_pages(made, 0, taken_pages(job, [3]))
    assert len(again.masters) == len(made.masters), "a master of that name is there already"


def test_things_are_no_pages_and_pages_are_no_things() -> None:
    job = _job()
    with pytest.raises(Problem, match="running order"):
        paste_things(job, 3, taken_pages(job, [3]))
    with pytest.raises(Problem, match="Spreads"):
        put_pages(job, 0, copy_things(job, ("w",)))

"""Every field that names something: reached, refused when it names nothing, renamed, and carried into another job."""

from collections.abc import Iterator
from typing import Any

import msgspec
import pytest
from msgspec import Struct
from msgspec.structs import replace

from half_fold.core.inks.edits import remove_ink, uses_of_ink
from half_fold.core.measure.length import length
from half_fold.core.measure.problem import Problem
from half_fold.core.plan.starters import start
from half_fold.core.publication import records as r
from half_fold.core.publication.places import Held, Stop
from half_fold.core.publication.references import (
    INK,
    LOOK,
    MASTER,
    NAMES,
    PAINT,
    PAPER,
    PICTURE,
    ROLE,
    SET,
    STORY,
    dangling,
    references,
)
from half_fold.core.publication.renaming import name_anew
from half_fold.core.publication.validity import require_whole
from half_fold.core.spread.edits.taking import copy_things, paste_things

ANYWHERE = Held(**{edge: Stop(kind="margin") for edge in ("left", "top", "right", "bottom")})
FIELDS = [(kind, field, what) for kind, names in NAMES.items() for field, what in names.items()]
IN_A_BLOCK = (
    *(r.Role, r.Paragraph, r.Run, r.Edge, r.Ground, r.HoldsPicture, r.HoldsDisplay, r.HoldsPanel, r.HoldsRule),
    *(r.HoldsBarcode, r.HoldsCode, r.Block, r.FadeStop, r.Look, r.Shadow, r.Treatment, r.Glow),
    r.Group,
)


def _words(ink: str = "") -> tuple[r.Paragraph, ...]:
    return (r.Paragraph(role="body", runs=(r.Run(text="Frost", ink=ink),)),)


def _job() -> r.Publication:
    """A job in which a record of every kind that names something stands, and something of each kind to be named."""
    job = start("magazine", "Named")
    edge = r.Edge(ink="russet")
    holds: tuple[r.Holds, ...] = (
        r.HoldsPicture(picture="p1", treatment=r.Treatment(toned_dark="russet"), edge=edge),
        r.HoldsDisplay(paragraphs=_words("russet"), ground=r.Ground(ink="russet")),
        r.HoldsPanel(ink="dawn", edge=edge),
        r.HoldsRule(ink="russet"),
        r.HoldsBarcode(number="9781234567897", ink="russet"),
        r.HoldsCode(ink="russet"),
        r.HoldsStory(story="s1"),
    )
    blocks = tuple(
        r.Block(id=f"n{at}", place=ANYWHERE, holds=each, look="lifted" if at == 1 else "")
        for at, each in enumerate(holds)
    )
    group = r.Group(id="g1", members=blocks)
    look = r.Look(
        name="lifted", fill="dawn", contours=(r.Contour(ink="russet"),), shadow=r.Shadow(ink="russet"),
        glow=r.Glow(ink="russet"),
        treatment=r.Treatment(toned_dark="russet"),
    )  # fmt: skip
    furniture = tuple(r.Furniture(id=f"f{at}", kind=kind) for at, kind in enumerate(("words", "rule", "picture")))
    card = r.Insert(
        id="i1", name="Card", kind="card", after=job.pages[3].id, paper=job.brief.text_paper,
        width=length("100mm"), height=length("148mm"),
    )  # fmt: skip
    russet = r.Ink(name="russet", cyan=10, magenta=70, yellow=80, black=20)
    dawn = r.Fade(name="dawn", stops=(r.FadeStop(ink="russet", at=0.0), r.FadeStop(ink="black", at=100.0)))
    picture = r.Picture(id="p1", file="a.jpg", width=400, height=300, digest="0" * 64)
    return replace(
        job,
        inks=(*(ink for ink in job.inks if ink.name != "russet"), russet),
        fades=(dawn,),
        looks=(look,),
        pictures=(picture,),
        stories=(r.Story(id="s1", title="Frost", paragraphs=_words("russet")),),
        sections=(r.Section(name="Front", first=job.pages[0].id),),
        text_roles=(r.TextRole(found="Quote", role="body"),),
        masters=(replace(job.masters[0], furniture=furniture), *job.masters[1:]),
        inserts=(card,),
        cover=replace(job.cover, pieces=(r.SpinePiece(),)),
        outputs=(r.Output(name="Sent"),),
        sets=(r.ThingSet(name="Trial"),),
        pages=(*job.pages[:2], replace(job.pages[2], things=(group,)), *job.pages[3:]),
    )


def _filled(record: Any, kind: type[Struct], field: str, name: str) -> Any:
    """The record with that field of the first of its kind filled; the same where there is none."""
    if type(record) is kind and (kind is not r.Furniture or _says(record, field)):
        return replace(record, **{field: (name,) if isinstance(getattr(record, field), tuple) else name})
    for own in record.__struct_fields__:
        value = getattr(record, own)
        if isinstance(value, Struct):
            made = _filled(value, kind, field, name)
            if made is not value:
                return replace(record, **{own: made})
        elif isinstance(value, tuple):
            for at, each in enumerate(value):
                made = _filled(each, kind, field, name) if isinstance(each, Struct) else each
                if made is not each:
                    return replace(record, **{own: (*value[:at], made, *value[at + 1 :])})
    return record


def _says(piece: r.Furniture, field: str) -> bool:
    return {"words": "role", "picture": "picture", "rule": "ink"}[piece.kind] == field


def _every(record: Any) -> Iterator[Struct]:
    yield record
    for own in record.__struct_fields__:
        value = getattr(record, own)
        for each in value if isinstance(value, tuple) else (value,):
            if isinstance(each, Struct):
                yield from _every(each)


def test_the_job_of_these_tests_is_whole_and_has_every_kind_of_record() -> None:
    job = _job()
    require_whole(job)
    assert set(NAMES) <= {type(each) for each in _every(job)}


@pytest.mark.parametrize(("kind", "field", "what"), FIELDS)
def test_a_field_that_names_something_is_reached_refused_and_renamed(kind: type, field: str, what: str) -> None:
    before = _job()
    job = _filled(before, kind, field, "nowhere")
    assert job is not before and [each.kind for each in references(job) if each.name == "nowhere"] == [what]
    assert [each.name for each in dangling(job)] == ["nowhere"] == [each.name for each in dangling(job, before)]
    with pytest.raises(Problem, match="nowhere"):
        require_whole(job, before)
    again = name_anew(job, (what,), "nowhere", "elsewhere")
    assert [each.kind for each in references(again) if each.name == "elsewhere"] == [what]
    assert name_anew(job, ("",), "nowhere", "elsewhere") is job


def _with_another(job: r.Publication, what: str) -> r.Publication:
    """One more thing of a kind, that is called *damson*."""
    if what in (INK, PAINT):
        return replace(job, inks=(*job.inks, r.Ink(name="damson", cyan=40, magenta=90, yellow=10, black=10)))
    if what == LOOK:
        return replace(job, looks=(*job.looks, replace(job.looks[0], name="damson")))
    if what == PICTURE:
        return replace(job, pictures=(*job.pictures, replace(job.pictures[0], id="damson", digest="1" * 64)))
    if what == SET:
        return replace(job, sets=(*job.sets, r.ThingSet(name="damson")))
    assert what == ROLE
    return replace(job, roles=(*job.roles, replace(job.roles[0], name="damson", label="Damson")))


@pytest.mark.parametrize(("kind", "field", "what"), [each for each in FIELDS if each[0] in IN_A_BLOCK])
def test_what_a_block_names_goes_along_into_another_job(kind: type, field: str, what: str) -> None:
    """An ink that toned the pictures of a look was once left behind: nothing could open the job it was pasted into."""
    job = _filled(_with_another(_job(), what), kind, field, "damson")
    if kind is r.Role:
        if field == "based_on":
            return  # it goes along as it is, based on nothing
        job = replace(job, roles=tuple(replace(x, **{field: "damson"}) if x.name == "body" else x for x in job.roles))
    require_whole(job)
    names = ["g1"] if kind is r.Group else [block.id for block in job.pages[2].blocks]
    content = copy_things(job, tuple(names))
    there = msgspec.json.decode(content)
    table = {INK: "inks", PAINT: "inks", LOOK: "looks", PICTURE: "pictures", ROLE: "roles", SET: SET}[what]
    there[SET] = [{"name": name} for name in there.get("sets", ())]
    assert any("damson" in (each.get("name"), each.get("id")) for each in there[table])
    made = paste_things(replace(start("magazine", "Another"), stories=job.stories), 3, content)[0]
    require_whole(made)


def test_an_ink_that_tones_the_pictures_of_a_look_is_in_use() -> None:
    job = _job()
    look = replace(job.looks[0], fill="", contours=(), shadow=None, glow=None)
    job = _with_another(replace(job, looks=(replace(look, treatment=r.Treatment(toned_middle="damson")),)), INK)
    assert list(uses_of_ink(job, "damson")) == ["the look “lifted”"]
    with pytest.raises(Problem, match="the look “lifted”"):
        remove_ink(job, "damson")


def test_a_name_is_none_of_its_own_kind_of_text() -> None:
    """Every text of a record that is the name of another is in the table, or stands here with what it is instead."""
    own = {"id", "name", "link", "title", "file", "digest", "label", "found"}
    known = {
        (r.Block, "of"), (r.Block, "row"), (r.Insert, "after"), (r.Section, "first"), (r.Dummy, "paper"),
        (r.Output, "part"), (r.Run, "face"), (r.Picture, "mask"),
    }  # fmt: skip
    called = {
        "role",
        "ink",
        "picture",
        "story",
        "master",
        "paper",
        "look",
        "of",
        "row",
        "after",
        "first",
        "part",
        "face",
    }
    called |= {"mask", "based_on", "fill"}
    found = set()
    for kind in (each for each in vars(r).values() if isinstance(each, type) and issubclass(each, Struct)):
        for field in kind.__struct_fields__:
            ends = field.rpartition("_")[2]
            if (ends in called or field in called) and field not in own and field not in NAMES.get(kind, {}):
                hint = kind.__annotations__.get(field)
                if hint in (str, "str"):
                    found.add((kind, field))
    assert found == known, found ^ known
    assert {MASTER, PAPER, STORY} <= {what for _, _, what in FIELDS}

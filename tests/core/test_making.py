"""What is made and taken away by its path: it stands as the window makes it, and taken away it leaves no trace."""

from pathlib import Path

import pytest

from half_fold.cli import main
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.all import found, set_path, set_paths
from half_fold.core.publication.records import Block, Group, Publication
from half_fold.core.publication.surgery import block_ids, every_thing_of, master_named, thing_named
from half_fold.core.publication.validity import require_whole
from half_fold.core.store.job import find_file, read

# Each way of making one: how it is made, what of it can be read then, and how it is taken away again.
MADE = {
    "section": ("section.Reviews=9", "section.Reviews.folios", "section.Reviews="),
    "role": ("role.Leaflet=body", "role.leaflet.size", "role.leaflet="),
    "master": ("master.Loud=plain", "master.Loud.columns", "master.Loud="),
    "based": ("master.Loud=recto", "master.Loud.based_on", "master.Loud="),
    "furniture": (
        "master.{master}.furniture.top=rule",
        "master.{master}.furniture.top.at",
        "master.{master}.furniture.top=",
    ),
    "insert": ("insert.reply=card after 8", "insert.reply.after", "insert.reply="),
    "group": ("group.pair=b1 b2", "group.pair.opacity", ""),
}


@pytest.fixture
def laid(magazine: Publication) -> Publication:
    """A magazine with three panels on one page, and two on the front of its cover."""
    claims = [f"page.3.claim=panel over {fields}" for fields in ("1-2 x 3-4", "1-3 x 2-5", "2-4 x 1-3")]
    return set_paths(magazine, [*claims, *["cover.front.claim=panel over 1-2 x 1-2"] * 2])


def _given(publication: Publication, words: str) -> str:
    return words.replace("{master}", publication.masters[0].name).replace("=recto", f"={publication.masters[0].name}")


@pytest.mark.parametrize("what", MADE)
def test_what_is_made_by_a_path_is_whole_and_taken_away_leaves_nothing(what: str, laid: Publication) -> None:
    make, reads, take_away = (_given(laid, words) for words in MADE[what])
    made = set_paths(laid, [make])
    require_whole(made, laid)
    assert found(made, reads)
    with pytest.raises(Problem, match="There is no"):
        found(laid, reads)
    with pytest.raises(Problem, match="There is a"):
        set_paths(made, [make])
    if take_away:
        assert set_paths(made, [take_away]) == laid


def test_a_group_is_made_taken_apart_and_taken_away(laid: Publication) -> None:
    one, two, three = block_ids(laid)[:3]
    made = set_path(laid, "group.pair", f"{one}, {two}")
    group = thing_named(made, "pair")
    assert isinstance(group, Group) and [each.id for each in group.members] == [one, two]
    apart = set_path(made, "group.pair.apart", "yes")
    assert sorted(block_ids(apart)) == sorted(block_ids(laid))
    assert not any(isinstance(thing, Group) for thing in every_thing_of(apart))
    gone = set_path(made, "group.pair", "")
    assert block_ids(gone) == [name for name in block_ids(laid) if name not in (one, two)]
    assert three in block_ids(gone)


def test_a_block_is_taken_away_on_a_page_and_on_the_cover(laid: Publication) -> None:
    for name in block_ids(laid):
        gone = set_path(laid, f"block.{name}", "")
        assert block_ids(gone) == [each for each in block_ids(laid) if each != name]


@pytest.mark.parametrize(
    ("order", "then"),
    [("front", "bca"), ("forward", "bac"), ("back", "abc"), ("backward", "abc"), ("over c", "bca"), ("over b", "bac")],
)
def test_how_things_lie_is_set_by_a_path(order: str, then: str, laid: Publication) -> None:
    names = dict(zip("abc", block_ids(laid)[:3], strict=True))
    way, _, other = order.partition(" ")
    typed = f"{way} {names[other]}" if other else way
    made = set_path(laid, f"block.{names['a']}.order", typed)
    assert [thing.id for thing in made.pages[2].things] == [names[letter] for letter in then]


def test_things_of_a_group_and_of_the_cover_are_ordered_among_themselves(laid: Publication) -> None:
    on_cover = [b.id for b in every_thing_of(laid) if isinstance(b, Block) and b.id not in block_ids(laid)[:3]]
    one, two = [name for name in on_cover if name.startswith("b")][:2]
    made = set_path(laid, f"block.{one}.order", "front")
    order = [thing.id for thing in every_thing_of(made)]
    assert order.index(two) < order.index(one)


@pytest.mark.parametrize(
    ("given", "says"),
    [
        ("section.X=abc", "no page"),
        ("section.X=99", "no page 99"),
        ("section.X=", "There is no section “X” in this job; it has none"),
        ("role.new=nothing", "There is no role “nothing”"),
        ("role.body=", "is based on"),
        ("master.new=nothing", "There is no master"),
        ("insert.x=kite after 3", "There is no insert “kite”"),
        ("insert.x=card", "after which page"),
        ("insert.x y=card after 3", "cannot be the name"),
        ("insert.x=", "There is no"),
        ("group.x=b1", "two things"),
        ("group.x=b1 q", "There is no|no longer"),
        ("block.q=", "There is no block or group “q”"),
        ("block.b1=panel", "page.3.claim=panel"),
        ("block.b1.order=upwards", "is no order"),
        ("block.b1.order=over q", "There is no block or group “q”"),
        ("block.q.order=front", "There is no block or group “q”"),
        ("group.b1.apart=yes", "no group"),
        ("master.{master}.furniture.x=kite", "There is no furniture “kite”"),
        ("master.{master}.furniture.x=", "remove it there|There is no"),
    ],
)
def test_what_cannot_be_made_is_said_and_the_job_stays(given: str, says: str, laid: Publication) -> None:
    with pytest.raises(Problem, match=says):
        set_paths(laid, [_given(laid, given)])


def test_the_command_line_makes_what_the_window_makes(job: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """From an empty job to sections, roles, masters, inserts and groups, without a window."""
    claims = ("page.3.claim=panel over 1-2 x 3-4", "page.3.claim=words Frost over 1-3 x 2-5")
    asked = [
        "section.Reviews=9",
        "role.Leaflet=body",
        "role.leaflet.size=14pt",
        "master.Loud=plain",
        "page.9.master=Loud",
    ]
    assert main(["set", str(job), *claims, *asked, "insert.reply=card after 8", "group.pair=b1 b2"]) == 0
    made = read(find_file(job))
    assert [section.name for section in made.sections] == ["Reviews"]
    assert made.pages[8].master == "Loud" and master_named(made, "Loud").grid.columns
    assert [insert.id for insert in made.inserts] == ["reply"] and isinstance(thing_named(made, "pair"), Group)
    before = find_file(job).read_bytes()
    capsys.readouterr()
    assert main(["set", str(job), "master.Loud="]) == 2 and "give them another first" in capsys.readouterr().err
    assert find_file(job).read_bytes() == before
    assert main(["set", str(job), "page.9.master=", "master.Loud=", "group.pair=", "insert.reply="]) == 0
    assert not read(find_file(job)).inserts

"""Ask: plain words answered with what can be set, for every property of every kind of block."""

import json

import pytest
from msgspec.structs import replace

from half_fold.core.paths.all import found, set_path
from half_fold.core.paths.ask import Match, answers, wish, wishes
from half_fold.core.plan.order import set_extent
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import HoldsPicture, HoldsStory, Picture, Publication, Story
from half_fold.core.publication.surgery import with_page
from half_fold.core.spread.edits.grouping import group
from half_fold.core.spread.settable.properties import BLOCK, block_properties
from half_fold.core.spread.settable.samples import SAMPLES, applies_to, kinds_of, sample

PICTURE = Picture(id="p", file="pear.jpg", width=600, height=400, digest="d")


def _job() -> Publication:
    """One block of every kind on page 3, each called by its kind."""
    job = replace(start("magazine", "Ask"), pictures=(PICTURE,), stories=(Story(id="s", title="Tale", paragraphs=()),))
    blocks = tuple(replace(sample(kind, wraps=kind != "story"), id=kind.replace(" ", "")) for kind in SAMPLES)
    return set_path(with_page(job, replace(job.pages[2], things=blocks)), "set.Trial", "empty")


def _asked(job: Publication, name: str, said: str) -> list[Match]:
    return answers(wishes(job, [name] if name else [], [3]), said)


@pytest.mark.parametrize("kind", list(SAMPLES))
def test_every_property_of_a_block_is_found_by_its_label_and_by_each_word_for_it(kind: str) -> None:
    job, name = _job(), kind.replace(" ", "")
    block = next(block for block in job.pages[2].blocks if block.id == name)
    known = wishes(job, [name], [3])
    for of in block_properties(block):
        path = f"block.{name}.{of.key}"
        assert found(job, path)[0].label == of.label
        for said in (of.label, *of.also):
            asked = [answer.wish.path for answer in answers(known, said)]
            assert path in asked, (said, of.key, asked)


@pytest.mark.parametrize(
    ("name", "said", "path", "typed"),
    [
        ("panel", "opacity 50", "block.panel.opacity", "50"),
        ("panel", "see-through 50%", "block.panel.opacity", "50%"),
        ("panel", "line round it 2pt", "block.panel.edge.weight", "2pt"),
        ("words", "12 pt", "block.words.size", "12 pt"),
        ("words", "flush right", "block.words.side", "right"),
        ("words", "centred", "block.words.side", "centre"),
        ("picture", "rotate 15", "block.picture.turn", "15"),
        ("picture", "make it black and white yes", "block.picture.treatment.grey", "yes"),
        ("", "bleed 5mm", "brief.bleed", "5mm"),
        ("", "leading of body", "role.body.leading", ""),
        ("", "space between letters of body", "role.body.tracking", ""),
    ],
)
def test_what_is_said_in_plain_words_is_what_is_set(name: str, said: str, path: str, typed: str) -> None:
    job = set_path(_job(), "block.words.even", "no")
    first = _asked(job, name, said)[0]
    assert (first.wish.path, first.typed) == (path, typed)
    if typed:
        assert set_path(job, path, first.typed) is not job


@pytest.mark.parametrize(
    ("said", "path", "typed"),
    [
        ("drop shadow", "shadow", ""),
        ("no shadow", "shadow", "no"),
        ("letter spacing 20", "tracking", "20"),
        ("leading 15", "leading", "15"),
        ("line spacing 1.2", "leading", "1.2"),
        ("line round it 2pt", "outline.weight", "2pt"),
        ("centre", "side", "centre"),
        ("align right", "side", "right"),
        ("uppercase", "case", "capitals"),
        ("make it all caps", "case", "capitals"),
        ("small caps", "case", "small capitals"),
        ("bold", "style", "Bold"),
        ("font garamond", "family", "EB Garamond"),
        ("another font", "family", ""),
        ("hyphens off", "hyphens", "no"),
        ("old style figures", "figures", "old style"),
        ("text colour black", "ink", "black"),
        ("half transparent", "opacity", "50"),
        ("multiply", "blend", "multiply"),
        ("gradient text", "fill", ""),
        ("inner shadow", "inner", ""),
        ("bevel", "raised", ""),
        ("feather 3mm", "feather", "3mm"),
        ("strikethrough 1pt", "strike", "1pt"),
        ("padding 3mm", "inset", "3mm"),
        ("kerning", "tracking", ""),
        ("halo", "glow", ""),
        ("runaround", "wrap", ""),
    ],
)
def test_what_is_called_otherwise_is_known_by_that_and_meant_of_what_is_chosen(
    said: str, path: str, typed: str
) -> None:
    job = set_path(_job(), "block.words.even", "no")
    if said == "line round it 2pt":
        job = set_path(job, "block.words.ground", "no")
    if path == "style":
        job = set_path(job, "block.words.family", "IBM Plex Sans")
    first = _asked(job, "words", said)[0]
    assert (first.wish.path, first.typed) == (f"block.words.{path}", typed)
    if typed:
        assert set_path(job, first.wish.path, first.typed)


@pytest.mark.parametrize(("said", "words"), [("footnotes", "stand at its end")])
def test_what_there_is_not_is_said_with_what_there_is(said: str, words: str) -> None:
    assert words in _asked(_job(), "words", said)[0].wish.not_here


@pytest.mark.parametrize("said", ["save as", "step and repeat", "spell check", "crop marks"])
def test_whatever_is_said_never_becomes_the_words_of_something_that_was_not_named(said: str) -> None:
    first = next(iter(_asked(_job(), "words", said)), None)
    assert first is None or not first.wish.takes_words or not first.typed


def test_the_table_of_phrases_says_each_once_and_none_that_cannot_be_asked() -> None:
    """A phrase under two meanings would be the second's, whatever the first says."""
    from importlib.resources import files

    table = json.loads(files("half_fold.data").joinpath("ask/meant.json").read_text(encoding="utf-8"))
    phrases = [phrase for phrases in table.values() for phrase in phrases]
    assert len(phrases) == len(set(phrases)) and all(phrase == phrase.casefold().strip() for phrase in phrases)
    assert len(phrases) > 250


def test_what_cannot_be_done_here_is_said_with_where_it_can() -> None:
    job = _job()
    cases = (
        ("rule", "exposure", "choose a picture first"),
        ("", "see-through", "choose a block first"),
        ("panel", "isbn", "choose a barcode first"),
    )
    for name, said, words in cases:
        assert _asked(job, name, said)[0].wish.not_here == words
    assert applies_to(next(of for of in BLOCK if of.key == "opacity")) == ()
    assert kinds_of(next(of for of in BLOCK if of.key == "treatment.grey")) == ("picture",)
    assert _asked(job, "panel", "flibbertigibbet") == []
    assert _asked(job, "panel", "opacity flibbertigibbet") == []


def test_a_group_is_asked_of_and_recent_wishes_come_first() -> None:
    job, name = group(_job(), ("panel", "rule"))
    first = answers(wishes(job, [name], [3]), "see-through 40")[0]
    assert (first.wish.path, first.typed) == (f"group.{name}.opacity", "40")
    known = wishes(job, [name], [3])
    assert answers(known, "") == [] and {a.wish.label for a in answers(known, "", recent=["Turned"])} == {"Turned"}


def test_places_are_gone_to_by_number_and_a_page_is_not_one_of_its_hundreds() -> None:
    known = [wish(f"Page {number}", "", key="") for number in range(1, 401)]
    assert answers(known, "page 14")[0].wish.label == "Page 14"
    assert answers(known, "page 4")[0].wish.label == "Page 4"


def test_wishes_of_a_long_job_are_all_of_what_is_in_view() -> None:
    job = set_extent(_job(), 400)
    known = wishes(job, [], [200, 201])
    assert {each.where for each in known if each.path.startswith("page.")} == {"page 200", "page 201"}
    assert isinstance(SAMPLES["picture"], HoldsPicture) and isinstance(SAMPLES["story"], HoldsStory)
    assert len(known) < 2000

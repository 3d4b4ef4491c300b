"""One registration for each kind of content: what any kind lacks is found here, or by the type checker."""

from typing import get_args

import msgspec
import pytest

from half_fold.core.publication.kinds import KINDS, asked_of, form_of, kind_of, own_words
from half_fold.core.publication.records import Form, Holds, HoldsDisplay, Paragraph, Publication, Run
from half_fold.core.publication.surgery import block_ids, block_named
from half_fold.core.spread.edits.claiming import BEGINS, claim_by_words
from half_fold.core.spread.settable.properties import block_properties
from half_fold.core.spread.settable.samples import sample
from half_fold.core.spread.setting.compose import _MARKS
from half_fold.core.spread.setting.goods import asks_for_goods

EVERY = get_args(Holds)


@pytest.mark.parametrize("table", [KINDS, BEGINS, _MARKS], ids=["kinds", "begins", "marks"])
def test_every_kind_is_in_every_table(table: dict[type, object]) -> None:
    assert set(table) == set(EVERY)


def test_names_words_and_letters_tell_kinds_apart() -> None:
    for names in ([kind.name for kind in KINDS.values()], [each.word for each in BEGINS.values()]):
        assert len(set(names)) == len(EVERY)
    assert len({each.letter for each in BEGINS.values()}) == len(EVERY)


@pytest.mark.parametrize("holds", EVERY, ids=lambda holds: holds.__struct_config__.tag)
def test_a_kind_tells_of_all_its_words_and_of_its_form(holds: type[msgspec.Struct]) -> None:
    """By the types of its fields: paragraphs, what may be filled in, and forms, at whatever depth."""
    kind = KINDS[holds]
    assert type(kind.sample) is holds and kind_of(kind.sample) is kind
    fields = {field.name: field.type for field in msgspec.structs.fields(holds)}
    words = (Paragraph(role="body", runs=(Run(text="{name}"),)),)
    if tuple[Paragraph, ...] in fields.values():
        name = next(name for name, of in fields.items() if of == tuple[Paragraph, ...])
        filled = msgspec.structs.replace(kind.sample, **{name: words})
        assert own_words(filled) == words and asks_for_goods(filled)
    for name in kind.asks:
        filled = msgspec.structs.replace(kind.sample, **{name: "{name}"})
        assert asks_for_goods(filled) and "{name}" in asked_of(filled)
    has_form = "form" in fields or "ground" in fields
    assert (form_of(kind.sample) is not None) == has_form == (kind.with_form is not None)
    if kind.with_form is not None:
        assert form_of(kind.with_form(kind.sample, Form(kind="ellipse"))) == Form(kind="ellipse")


@pytest.mark.parametrize("holds", EVERY, ids=lambda holds: holds.__struct_config__.tag)
def test_a_kind_has_properties_of_its_own_unless_it_holds_nothing(holds: type[msgspec.Struct]) -> None:
    nothing = {of.key for of in block_properties(sample("kept free"))}
    own = {of.key for of in block_properties(sample(KINDS[holds].name))} - nothing
    assert bool(own) == bool(msgspec.structs.fields(holds))


@pytest.mark.parametrize("begins", BEGINS.values(), ids=lambda begins: begins.word)
def test_a_claim_in_words_begins_every_kind(begins: object, magazine: Publication) -> None:
    word = getattr(begins, "word")  # noqa: B009
    if word in ("picture", "story"):
        return  # which ask for one of the job's: told in test_claiming
    before = set(block_ids(magazine))
    made = claim_by_words(magazine, 3, f"{word} over 1-2 x 1-2")
    (own,) = set(block_ids(made)) - before
    assert BEGINS[type(block_named(made, own).holds)] is begins
    if word == "words":
        assert isinstance(block_named(made, own).holds, HoldsDisplay)

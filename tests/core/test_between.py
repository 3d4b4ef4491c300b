"""What lies between two states of a job."""

from msgspec.structs import replace

from half_fold.core.measure.length import length
from half_fold.core.numbers.between import changed_pages, differences
from half_fold.core.plan.order import set_extent
from half_fold.core.publication.records import HoldsPanel, Publication
from half_fold.core.spread.edits.edits import claim
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.texts.text_in import read_plain


def test_nothing_differs_from_itself(magazine: Publication) -> None:
    assert differences(magazine, magazine) == [] and changed_pages(magazine, magazine) == []


def test_facts_that_differ_are_named_with_both_values(magazine: Publication) -> None:
    brief = replace(magazine.brief, width=length("200mm"))
    now = set_extent(replace(magazine, title="Other leaf", brief=brief), 48)
    found = {difference.name: (difference.then, difference.now) for difference in differences(magazine, now)}
    assert found["Title"] == ("Test leaf", "Other leaf")
    assert found["Extent"] == ("32 pages", "48 pages")
    assert found["Trim"][1].startswith("200 ×")
    assert "Spine" in found and "Pictures" not in found


def test_a_page_differs_by_its_blocks_its_place_or_its_words(magazine: Publication) -> None:
    claimed, _ = claim(magazine, (10.0, 60.0), (60.0, 90.0), (4, 5), HoldsPanel())
    assert changed_pages(magazine, claimed) == [5]
    moved = replace(magazine, pages=(*magazine.pages[2:], *magazine.pages[:2]))
    assert changed_pages(magazine, moved) == list(range(1, 33))
    placed, story = place_story(magazine, Setter(), "Words", tuple(read_plain("A few words.").paragraphs))
    other = replace(
        placed, stories=tuple(replace(s, paragraphs=s.paragraphs * 2) if s.id == story else s for s in placed.stories)
    )
    assert changed_pages(placed, other) == [1]

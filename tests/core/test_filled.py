"""Words filled in from the job: what it has not got leaves no comma behind."""

import pytest
from msgspec.structs import replace

from half_fold.core.publication.records import Publication
from half_fold.core.spread.where.filled import fill_words


@pytest.mark.parametrize(
    ("pattern", "issue", "season", "said"),
    [
        ("{issue}, {season}", "No. 14", "Winter", "No. 14, Winter"),
        ("{issue}, {season}", "No. 14", "", "No. 14"),
        ("{issue}, {season}", "", "Winter", "Winter"),
        ("{issue}, {season}", "", "", ""),
        ("{title}, {issue}, {season}", "", "Winter", "Test leaf, Winter"),
        ("Yes, send me {title}", "", "", "Yes, send me Test leaf"),
        ("Well, {season}", "", "", "Well"),
    ],
)
def test_what_is_not_there_takes_its_comma_with_it(
    magazine: Publication, pattern: str, issue: str, season: str, said: str
) -> None:
    assert fill_words(replace(magazine, issue=issue, season=season), pattern) == said

"""Hyphenation: the kept patterns are the parsed ones, and a spoiled cache does no harm."""

from pathlib import Path

import pyphen
import pytest

from half_fold.core.checks.run import check
from half_fold.core.plan.settings import set_values
from half_fold.core.plan.starters import start
from half_fold.core.publication.surgery import role_named
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.typesetting.faces.faces import face, face_key
from half_fold.core.typesetting.faces.words import Piece
from half_fold.core.typesetting.lines import language
from half_fold.core.typesetting.lines.frequencies import characters_a_word, language_name, letter_shares
from half_fold.core.typesetting.lines.roles import style_of
from half_fold.core.typesetting.lines.tokens import TokenTable
from half_fold.core.typesetting.texts.text_in import read_markdown

WORDS = (
    "apprenticeship",
    "difficulty",
    "rootstock",
    "affection",
    "inheritance",
    "wheelbarrow",
    "February",
    "sufficient",
)


@pytest.fixture
def cache(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A cache folder of the test's own, and nothing parsed yet."""
    monkeypatch.setattr(language, "user_cache_path", lambda _name: tmp_path)
    monkeypatch.setattr(pyphen, "hdcache", {})
    language._dictionary.cache_clear()
    yield tmp_path
    language._dictionary.cache_clear()


def _points() -> dict[str, list[int]]:
    return {word: language.hyphen_points(word, "en_GB") for word in WORDS}


def _begin_again() -> None:
    pyphen.hdcache.clear()
    language._dictionary.cache_clear()


def test_kept_patterns_hyphenate_as_parsed_ones_do(cache: Path) -> None:
    parsed = _points()
    (kept,) = cache.iterdir()
    _begin_again()
    assert _points() == parsed and any(parsed.values())
    kept.write_bytes(b"spoiled")
    _begin_again()
    assert _points() == parsed
    plain = pyphen.Pyphen(lang="en_GB", left=2, right=3, cache=False)
    assert parsed == {word: list(map(int, plain.positions(word))) if len(word) >= 5 else [] for word in WORDS}


def test_a_folder_that_cannot_be_written_is_no_matter(cache: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(language, "user_cache_path", lambda _name: Path("/proc/none/half-fold"))
    assert language.hyphen_points("apprenticeship", "en_GB")


def test_short_words_and_unknown_languages_are_left_whole(cache: Path) -> None:
    assert language.hyphen_points("tree", "en_GB") == []
    assert language.hyphen_points("apprenticeship", "xx_XX") == []


def test_letter_shares_make_a_whole() -> None:
    shares = letter_shares()
    assert sum(shares.values()) == pytest.approx(1) and shares["e"] > shares["z"] > 0 and len(shares) == 27


@pytest.mark.parametrize("code", ["en", "de_DE", "fr", "nl", "es", "it_IT", "pt", "sv", "da", "pl", "he_IL"])
def test_letters_of_every_language_make_a_whole(code: str) -> None:
    shares = letter_shares(code)
    assert sum(shares.values()) == pytest.approx(1) and all(share > 0 for share in shares.values())
    assert shares[" "] == pytest.approx(1 / characters_a_word(code))
    assert len(shares) > 20


def test_a_language_without_counts_is_measured_as_english() -> None:
    assert language_name("xx") == "English" == language_name("en_GB") and language_name("de_DE") == "German"
    assert letter_shares("xx") == letter_shares("en") != letter_shares("de")
    assert characters_a_word("en") == 5.7


HAVE = {  # families with the letters that the other one stands in for
    "EB Garamond": ("EB Garamond", "IBM Plex Sans"),
    "Frank Ruhl Libre": ("Frank Ruhl Libre",),
    "Amiri": ("Amiri",),
}


@pytest.mark.parametrize(
    ("code", "words", "family"),
    [
        ("el", "Ξάνθη και ο κήπος", "EB Garamond"),
        ("ru", "Жёлтый щавель и объём", "EB Garamond"),
        ("uk_UA", "Їжак ґанок єдність", "EB Garamond"),
        ("he_IL", "עץ החיים בגן", "Frank Ruhl Libre"),
        ("ar", "شجرة الحياة", "Amiri"),
    ],
)
def test_a_job_in_a_language_of_another_script_has_its_letters_in_every_role(
    code: str, words: str, family: str
) -> None:
    """Headlines in Greek, Cyrillic, Hebrew and Arabic began as empty boxes until a fix was taken."""
    job = set_values(start("magazine", words), [f"language={code}"])
    told = f"# {words}\n\n> {words}\n\n## {words}\n\n{words}\n\n*{words}* **{words}**\n"
    job = place_story(job, Setter(), words, tuple(read_markdown(told).paragraphs))[0]
    found = check(job, Setter(), None)
    assert not [each for each in found if each.rule == "missing glyph"]
    assert any(family in each.message for each in found if each.rule == "face that stands in")
    for role in job.roles:
        setting = style_of(role_named(job, role.name), code).setting
        assert setting.family in HAVE[family] or family in [each for _, each in setting.fallbacks]
        assert not [each for _, each in style_of(role_named(job, role.name), "de_DE").setting.fallbacks]


@pytest.mark.parametrize(("word", "code"), [("χειμώνας", "el"), ("μακριών", "el"), ("όμορφο", "el")])
def test_a_word_is_set_in_one_face_though_its_own_has_a_few_of_its_letters(word: str, code: str) -> None:
    """The display face has the sign for a millionth: among Greek letters of another face it stood out in bold."""
    job = set_values(start("magazine", word), [f"language={code}"])
    setting = style_of(role_named(job, "headline"), code).setting
    assert 0 < len(face(face_key(setting.family, setting.style)).lacks(word)) < len(word)
    (piece,) = TokenTable(setting).faced((Piece(word),))
    assert piece.text == word and piece.face

"""Texts of ten kinds in every family that ships, read back letter for letter by poppler and by Ghostscript."""

import re
import unicodedata
from collections import Counter
from pathlib import Path

import pytest
from bidi import get_display
from msgspec.structs import replace

from half_fold.cli import main
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Publication, Run
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.store.job import create_job
from half_fold.core.typesetting.sheet.sheet import set_role
from tests.conftest import judge

TEXTS = {
    "ru_RU": "Съешь ещё этих мягких французских булок, да выпей же чаю: объём лежит в глубине, № 12 — 1948.",
    "el_GR": "Ξεσκεπάζω την ψυχοφθόρα βδελυγμία· σοφία, σημεία και σίδερο στους κήπους της άνοιξης 1948.",
    "de_DE": "Zwölf Boxkämpfer jagen Viktor quer über den großen Sylter Deich; Maß, Gruß und Straße # 7.",
    "cs_CZ": "Příliš žluťoučký kůň úpěl ďábelské ódy; Řehoř a Říp stojí u řeky ‚jménem‘ Ohře.",
    "pl_PL": "Zażółć gęślą jaźń; pchnąć w tę łódź jeża lub ośm skrzyń fig, Łódź i Świnoujście.",
    "tr_TR": "Pijamalı hasta yağız şoföre çabucak güvendi; İstanbul’da ışık ve ığdır.",
    "vi_VN": "Chiều nay chú Quyền đến hái những quả ổi; vườn cây rộng lớn, nước mát và đất ấm.",
    "en_GB": "def f(x): return [a[i] ** 2 for i in {1, 2} if a[i] != '#'] or (x << 3) % ~7 & 0x5B | \\n ^ `@` $y;",
    "he_IL": "הפרדס שומר על לוח השנה שלו (משנת 1948), ואיש אינו שוכח את 14/3/2027: כפור, רוח ו־EB עמ' 12.",
    "ar": "البستان يحفظ تقويمه منذ ١٩٤٨ (أو 14/3/2027)، ولا أحد ينسى صقيع شباط: ريح و EB ومطر.",
}
FALLBACK = "Hebrew: Frank Ruhl Libre, Arabic: Amiri, Latin: EB Garamond, Cyrillic: EB Garamond, Greek: EB Garamond"
FALLBACK += ", Signs: EB Garamond"
MARKS = re.compile("[\u200e\u200f\u202a-\u202e\u2066-\u2069\u00ad\f]")


def _letters(text: str) -> str:
    return unicodedata.normalize("NFC", "".join(MARKS.sub("", text).split()))


SET_IN = ("EB Garamond", "IBM Plex Sans", "Frank Ruhl Libre", "Amiri", "Zilla Slab", "UnifrakturCook")


@pytest.fixture(scope="module", params=SET_IN)
def pressed(request: pytest.FixtureRequest, tmp_path_factory: pytest.TempPathFactory) -> tuple[Publication, Path]:
    """One page for each text, in a family with others that stand in for what it lacks."""
    folder = tmp_path_factory.mktemp("scripts")
    job = start("book", "Scripts")
    for role, field, value in (("body", "family", request.param), ("body", "fallback", FALLBACK)):
        job = set_role(job, role, field, value)
    for field, value in (("hyphenate", "no"), ("figures", ""), ("case", "as typed")):
        job = set_role(job, "body", field, value)
    job = set_role(set_role(job, "body", "drop_lines", "0"), "body", "opening_words", "0")
    for language, text in TEXTS.items():
        runs = (Run(text=text[: len(text) // 2]), Run(text=text[len(text) // 2 :]))
        job, story = place_story(job, Setter(), language, (Paragraph(role="body", runs=runs),))
        record = next(s for s in job.stories if s.id == story)
        job = replace(job, stories=(*job.stories[:-1], replace(record, language=language)))
    file = create_job(folder / "scripts", job)
    assert main(["press", str(file), str(folder / "x.pdf")]) == 0
    return job, folder / "x.pdf"


def _page(pdf: Path, index: int, reader: str) -> str:
    page = str(index + 1)
    if reader == "poppler":
        manner = [] if list(TEXTS)[index] in ("he_IL", "ar") else ["-raw"]
        return judge("pdftotext", *manner, "-f", page, "-l", page, pdf, "-")
    out = pdf.with_suffix(".txt")
    options = ["-q", "-dBATCH", "-dNOPAUSE", "-dSAFER", "-sDEVICE=txtwrite", "-dTextFormat=3"]
    judge("gs", *options, f"-dFirstPage={page}", f"-dLastPage={page}", f"-sOutputFile={out}", pdf)
    return "".join(map(_unswapped, out.read_text(encoding="utf-8")))


def _unswapped(letter: str) -> str:
    """Ghostscript 10 swaps the octets of what a glyph of several letters stands for."""
    code = ord(letter)
    return chr(code >> 8) if code & 0xFF == 0 and 0x2000 < code < 0x8000 else letter


@pytest.mark.parametrize("reader", ["poppler", "ghostscript"])
def test_every_text_reads_back_letter_for_letter(pressed: tuple[Publication, Path], reader: str) -> None:
    _, pdf = pressed
    for index, (language, text) in enumerate(TEXTS.items()):
        found = _page(pdf, index, reader)
        if language not in ("he_IL", "ar"):
            wanted, read = _letters(text), _letters(found)
            if reader == "ghostscript" and wanted not in read:  # it gives marks drawn apart by where they stand
                wanted, read = (unicodedata.normalize("NFD", each) for each in (wanted, read))
                assert Counter(wanted) <= Counter(read), language
                wanted, read = (re.sub(r"[\u0300-\u036f]", "", each) for each in (wanted, read))
            assert wanted in read, (language, found)
        elif reader == "poppler":  # it turns the order back by rules of its own: word for word
            words = _words(found)
            assert not [word for word in _words(text) if word not in words], language
        else:  # it gives what is seen from left to right: letter for letter, by another hand's reading of the algorithm
            lines = [_words(line) for line in found.split("\n") if line.strip()]
            spoken = lines[: next(n for n, line in enumerate(lines) if str(index + 1) in line)]
            _holds_as_seen(text, language, spoken)


def _words(text: str) -> list[str]:
    return re.findall(r"[^\W_]+", unicodedata.normalize("NFKC", MARKS.sub(" ", text)))


def _holds_as_seen(text: str, language: str, lines: list[list[str]]) -> None:
    """The words of lines, from left to right, are those of the text in the order in which they are seen."""
    words, seen = text.split(), []
    for count in (sum(len(line) for line in lines[:1]), 10_000):
        taken: list[str] = []
        while words and len(_words(" ".join([*taken, words[0]]))) <= count:
            taken.append(words.pop(0))
        seen.append(_words(get_display(" ".join(taken), base_dir="R")))
    assert [line for line in seen if line] == lines, language

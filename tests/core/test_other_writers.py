"""Documents of other writers: what another reader counts in them is what came in and what was said."""

import json
import re
from pathlib import Path

import pytest

from half_fold.core.typesetting.texts.reading import Reading
from half_fold.core.typesetting.texts.text_in import read_text_file

FOLDER = Path(__file__).parents[1] / "data/texts"
COUNTS = json.loads((FOLDER / "counts.json").read_text(encoding="utf-8"))
LABELLED = re.compile("^\u2003*\\S+\u2002")


def said(reading: Reading, thing: str) -> int:
    """How many of a thing were said to be met."""
    found = (re.match(rf"([\d,]+) {thing}s?\b", note) for note in reading.notes)
    return sum(int(match[1].replace(",", "")) for match in found if match)


def words(reading: Reading) -> list[str]:
    return sorted(re.findall(r"[^\W\d_]{2,}", " ".join(p.text for p in reading.paragraphs)))


@pytest.mark.parametrize("name", sorted(p.name for p in FOLDER.iterdir() if p.suffix in (".docx", ".odt")))
def test_what_another_reader_counts_came_in_or_was_said(name: str, capfd: pytest.CaptureFixture[str]) -> None:
    """Documents of the third writer have lost lists, links and equations before they came here."""
    source, writer = Path(name).stem.rsplit("-", 1)
    reading, counts = read_text_file(FOLDER / name), COUNTS[source]
    heads = [p for p in reading.paragraphs if p.role in ("headline", "crosshead")]
    items = [p for p in reading.paragraphs if p.role == "list" and LABELLED.match(p.text)]
    notes = [p for p in reading.paragraphs if p.role == "note"]
    in_cells = sum(p.text.count("•\u2002") for p in reading.paragraphs if p.role == "entry")
    assert len(heads) == counts["headings"]
    assert len(notes) == said(reading, "footnote") + said(reading, "endnote") == counts["notes"]
    assert said(reading, "table") == counts["tables"]
    assert words(reading) == counts["words"]
    if writer != "3":
        assert len(items) + in_cells == counts["items"]
        assert said(reading, "link") == counts["links"]
        assert said(reading, "equation") == counts["equations"]
    assert capfd.readouterr() == ("", "")

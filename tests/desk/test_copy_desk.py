"""The copy desk reads only what was touched: after any edits its paragraphs are those of the whole text."""

import random

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QTextCursor
from PyQt6.QtTest import QTest

from half_fold.core.publication.records import Paragraph, Run
from half_fold.desk.stations.spreads.copy_desk import CopyText, _blocks, _paragraph

MOVE, KEEP = QTextCursor.MoveMode.MoveAnchor, QTextCursor.MoveMode.KeepAnchor


def _texts(paragraphs: tuple[Paragraph, ...]) -> list[tuple[str, str, list[bool]]]:
    return [(p.role, p.text, [run.bold for run in p.runs]) for p in paragraphs]


def _edit(text: CopyText, chance: random.Random) -> None:
    """One edit such as a writer makes, at any place, over any selection."""
    length = len(text.toPlainText())
    cursor = text.textCursor()
    cursor.setPosition(chance.randint(0, length), MOVE)
    if chance.random() < 0.5:
        cursor.setPosition(chance.randint(0, length), KEEP)
    text.setTextCursor(cursor)
    what = chance.randrange(8)
    if what == 0:
        QTest.keyClick(text, Qt.Key.Key_Return)
    elif what == 1:
        QTest.keyClick(text, Qt.Key.Key_Backspace)
    elif what == 2:
        QTest.keyClick(text, Qt.Key.Key_Delete)
    elif what == 3:
        text.insertPlainText("pasted\nin three\nlines")
    elif what == 4:
        text.set_role(chance.choice(["body", "crosshead", "quote"]))
    elif what == 5:
        QTest.keyClick(text, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    else:
        QTest.keyClicks(text, chance.choice(["e", "a word ", "x"]))


@pytest.mark.parametrize("seed", range(12))
def test_paragraphs_read_in_part_are_those_of_the_whole(dressed: None, seed: int) -> None:
    chance = random.Random(seed)
    said: list[tuple[Paragraph, ...]] = []
    text = CopyText(said.append, lambda: None)
    text.show()
    text.load([Paragraph(role="body", runs=(Run(text=f"Paragraph {n} of several."),)) for n in range(6)])
    for _ in range(60):
        _edit(text, chance)
        whole = tuple(_paragraph(block) for block in _blocks(text))
        assert _texts(text.paragraphs) == _texts(whole)
    assert said


def test_typing_in_one_paragraph_keeps_the_records_of_the_rest(dressed: None) -> None:
    text = CopyText(lambda _: None, lambda: None)
    text.show()
    loaded = [Paragraph(role="body", runs=(Run(text=f"Paragraph {n}."),)) for n in range(50)]
    text.load(loaded)
    cursor = text.textCursor()
    cursor.setPosition(len("Paragraph 0.\n") * 10)
    text.setTextCursor(cursor)
    QTest.keyClicks(text, "word ")
    changed = [n for n, (a, b) in enumerate(zip(loaded, text.paragraphs, strict=True)) if a is not b]
    assert len(changed) == 1 and "word" in text.paragraphs[changed[0]].text

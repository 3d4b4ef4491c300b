"""What can be read, in the working: how many words can, the worst of them with their figures, and what would do."""

from functools import partial

from half_fold.core.legibility.verdicts import GOOD, UNREADABLE
from half_fold.core.measure.length import counted
from half_fold.desk.kit.rows import Card, Row, RowSection, row_of
from half_fold.desk.stations.spreads.tools.reader import Reader

MOST = 6  # words that are listed


def read_sections(reader: Reader, block: str | None) -> list[RowSection]:
    """Of the block that is chosen, else of all in view; nothing where it is not shown."""
    if not reader.shown:
        return []
    if reader.read is None:
        return [RowSection("What can be read", "", [Card("Reading", "Every word against what it stands on.")])]
    words = reader.read.of(block) if block is not None else reader.read.words
    if not words:
        return [RowSection("What can be read", "no words here", [])]
    bad = sum(word.score < UNREADABLE for word in words)
    risky = sum(UNREADABLE <= word.score < GOOD for word in words)
    items: list[Row | Card] = [
        Row(
            "Read well", f"{len(words) - bad - risky} of {len(words)}", f"{GOOD:g} and more, of how far ink stands off"
        ),
    ]
    if risky:
        items.append(Row("Risky", counted(risky, "word"), f"{UNREADABLE:g} to {GOOD:g}: half of such words are read"))
    if bad:
        items.append(Row("Not to be read", counted(bad, "word"), f"under {UNREADABLE:g}"))
    name = reader.masthead
    if name is not None and block in (None, name.block):
        items.append(row_of(name.worked, lambda _: None))
    if block is not None:
        items += _cards(reader, block)
    elif bad or risky:
        items.append(Card("Choose a block", "Of words that are marked, to see what would make them readable."))
    worst = sorted(words, key=lambda word: word.score)[:MOST]
    items += [row_of(word.worked, lambda _: None) for n, word in enumerate(worst) if word.score < GOOD or not n]
    return [RowSection("What can be read", "as it prints on its paper", items)]


def _cards(reader: Reader, block: str) -> list[Card]:
    assert reader.read is not None
    if reader.seeking and reader.block == block:
        return [Card("Trying it", "Each remedy is done for real and read again.")]
    if reader.found is not None and reader.block == block:
        if not reader.found:
            return [Card("Nothing was found", "Another place for the words by hand, or another picture.")]
        return [
            Card(
                each.words,
                each.then,
                [("Do it", partial(reader.apply, each))],
            )
            for each in reader.found
        ]
    ask = ("Find another place", lambda: reader.seek(block, elsewhere=True))
    name = reader.masthead
    is_hidden = name is not None and name.block == block and name.verdict != "good"
    if reader.read.score(block) >= GOOD and not is_hidden:
        return [Card("All of it reads well", "", [ask])]
    return [Card("What would do it?", "", [("Make it readable", lambda: reader.seek(block)), ask])]

"""What a folded heading says of what stands under it: its leading values, then whatever is not at rest."""

from collections.abc import Iterator, Sequence

from half_fold.core.spread.settable import headings
from half_fold.desk.kit.rows import Card, Curve, Row

MOST = 3  # values that are told besides the leading ones
# The rows whose values are said first, by heading; the words of a value may be followed by those of its row.
LEADS: dict[str, tuple[str, ...]] = {
    headings.INSIDE: ("Sits", "Resolution"),
    headings.TYPE: ("Role", "Size", "Leading", "Family"),
    headings.INK: ("Ink",),
    headings.SHAPE: ("Shape",),
    headings.MIXES: ("Mixes by", "Opacity"),
    headings.LINE: ("Weight", "Runs"),
    headings.STORY: ("Words", "Over", "Room left"),
    headings.CODE: ("Number", "Says"),
    headings.ROUND_IT: ("Text",),
    headings.CALLED: ("Called",),
    headings.CAPTION: ("Lay its caption",),
    headings.PRINTS: ("Prints",),
    headings.LINES: ("Lies",),
    headings.AGAIN: ("Repeat it",),
    headings.TREATMENT: (),
}
_REST = {
    headings.GROUND: "none",
    headings.TREATMENT: "as it came",
    headings.LETTERS: "as the role says",
    headings.CUT: "not cut",
    headings.LIGHT: "none",
    headings.SURFACE: "as it comes",
}


def says(heading: str, items: Sequence[Row | Card | Curve]) -> str:
    """One line of what stands under a heading."""
    rows = [item for item in items if isinstance(item, Row)]
    if any(row.name == "Width" for row in rows):
        return _place(rows)
    if heading == "Lined up":
        return "choose against what"
    if heading == headings.LIGHT:
        return _lit(rows)
    if heading == headings.FOLD:
        return next((_clear(row) for row in rows if row.name == "From the fold"), "")
    leads = LEADS.get(heading, ())
    named = {row.name: row.value for row in rows}
    first = [named[name] for name in leads if named.get(name)]
    told = [*first, *_set(row for row in rows if row.name not in leads)]
    return ", ".join(told) or _REST.get(heading, "as it comes")


def _set(rows: Iterator[Row]) -> list[str]:
    """What is not at rest, each with its name."""
    found = [f"{row.name.lower()} {row.value}" for row in rows if row.back is not None]
    return found[:MOST] + (["and more"] if len(found) > MOST else [])


def _lit(rows: Sequence[Row]) -> str:
    """The look that is worn, and what of light there is."""
    named = {row.name: row.value for row in rows}
    there = [name.lower() for name in ("Shadow", "Glow") if named.get(name) == "yes"]
    lines = ["outline"] if named.get("Outline", "none") != "none" else []
    worn = [named["Look"]] if named.get("Look", "none") != "none" else []
    return ", ".join((*worn, *there, *lines)) or "none"


def _clear(row: Row) -> str:
    """How far off the fold it is, or that it crosses it."""
    return "across it" if row.working.startswith("crosses") else f"{row.value} off it"


def _place(rows: Sequence[Row]) -> str:
    """How large, and between what it reaches."""
    named = {row.name: row for row in rows}
    wide, high = named["Width"], named["Height"]
    size = f"{wide.value.rpartition(' ')[0]} × {high.value}" if " " in wide.value else f"{wide.value} × {high.value}"
    return f"{size}, {wide.working}" if wide.edit is not None else size

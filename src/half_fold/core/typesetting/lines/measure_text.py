"""Figures about type for the designer: characters a line, average widths."""

from half_fold.core.measure.kept import kept
from half_fold.core.typesetting.lines.frequencies import letter_shares
from half_fold.core.typesetting.lines.roles import Style


@kept(200)
def average_width(style: Style) -> float:
    """The average advance of a character of running text in points, from the face and the letter frequencies."""
    shares = letter_shares(style.setting.language)
    ems = sum(share * style.face.shape(letter, style.setting.features).width for letter, share in shares.items())
    return ems * style.size

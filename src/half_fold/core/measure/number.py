"""Plain numbers as typed: a per cent sign is let pass, a comma may stand for the point."""

from half_fold.core.measure.problem import Problem


def number_between(text: str, least: float, most: float, what: str) -> float:
    """The number typed. Problem where it is none, or not from ``least`` to ``most``; ``what`` names it."""
    try:
        value = float(text.replace("%", "").replace(",", ".").strip())
    except ValueError:
        value = least - 1
    if not least <= value <= most:
        raise Problem(f"“{text}” is no {what}; type a number from {least:g} to {most:g}.")
    return value

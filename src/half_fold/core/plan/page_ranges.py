"""Pages asked for by their numbers: ``1, 6-9``."""

import re

from half_fold.core.measure.problem import Problem

_PART = re.compile(r"(\d+)(?:\s*[-–]\s*(\d+))?")
_ASKED = re.compile(r"[\d\s,;\-–]+")


def asks_for_pages(text: str) -> bool:
    """Whether a text could be numbers of pages."""
    return bool(_ASKED.fullmatch(text)) and any(letter.isdigit() for letter in text)


def page_range(text: str, count: int) -> tuple[int, ...]:
    """The page numbers asked for of ``count`` pages, each once and in order. Problem where one is not there."""
    found: set[int] = set()
    for part in re.split(r"[,;]", text):
        if not part.strip():
            continue
        match = _PART.fullmatch(part.strip())
        if match is None:
            raise Problem(f"“{part.strip()}” is no page; give numbers such as 1, 6-9.")
        first, last = int(match[1]), int(match[2] or match[1])
        if not 1 <= first <= last <= count:
            raise Problem(f"There is no page “{part.strip()}”; this job has pages 1 to {count}.")
        found.update(range(first, last + 1))
    if not found:
        raise Problem("Give the pages to press, such as 1, 6-9.")
    return tuple(sorted(found))


def format_range(numbers: tuple[int, ...]) -> str:
    """Page numbers as they would be typed: ``1, 6-9``."""
    runs: list[list[int]] = []
    for number in numbers:
        if runs and number == runs[-1][1] + 1:
            runs[-1][1] = number
        else:
            runs.append([number, number])
    return ", ".join(f"{first}" if first == last else f"{first}-{last}" for first, last in runs)

"""The letters of the bench: what each takes up, shows or opens while nothing is being drawn."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent

if TYPE_CHECKING:
    from half_fold.desk.stations.spreads.bench import SpreadBench

Act = Callable[[], object]


def _show_fields(bench: "SpreadBench") -> None:
    bench.show_fields = not bench.show_fields


def act_of(bench: "SpreadBench", event: QKeyEvent) -> Act | None:
    """What a letter, with Shift or without, does on the bench; None where it is none of its own."""
    if event.modifiers() & ~Qt.KeyboardModifier.ShiftModifier:
        return None
    letter = event.text().upper()
    acts: dict[str, Act] = {
        "F": partial(_show_fields, bench),
        "Shift+F": bench.fader.take_up,
        "P": bench.turn_trimmed,
        "Shift+P": bench.picker.take_up,
        "Q": bench.show_on_paper,
        "J": bench.show_clipped,
        "Shift+E": bench.show_split,
        "I": partial(bench.wants_drawer.emit, "pictures"),
        "S": partial(bench.wants_drawer.emit, "stories"),
        "W": partial(bench.wants_drawer.emit, "slips"),
        "C": partial(bench.knife.take_up, "cut"),
        "Shift+C": bench.scissors.take_up,
        "D": partial(bench.knife.take_up, "outline"),
        "R": bench.easel.take_up,
        "Z": bench.reader.show,
        "Y": bench.wants_arranging.emit,
    }
    return acts.get(f"Shift+{letter}" if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else letter)

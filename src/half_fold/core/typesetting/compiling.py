"""Procedures that are interpreted until their compiled form has been loaded, which takes half a second.

A procedure is written for lists and arrays alike and knows nothing but numbers. Its compiled form is kept beside its
source by the compiler, so that only the first run ever makes it.
"""

import threading
from collections.abc import Callable
from typing import Any

Procedure = Callable[..., int]
_compiled: dict[str, Procedure] = {}
_known: dict[str, tuple[Procedure, Callable[[Procedure], None]]] = {}
_loading = threading.Lock()


def known(procedure: Procedure, example: Callable[[Procedure], None]) -> None:
    """Make a procedure known; ``example`` runs a compiled form once, which settles its types."""
    _known[procedure.__name__] = procedure, example


def compiled(procedure: Procedure) -> Procedure | None:
    """Its compiled form, where that has been loaded."""
    return _compiled.get(procedure.__name__)


def load() -> None:
    """Load the compiled form of every procedure; safe to call from any thread and more than once."""
    with _loading:
        if len(_compiled) == len(_known):
            return
        try:
            from numba import njit
        except ImportError:  # no compiler on this machine: all is interpreted, to the same results
            return
        for name, (procedure, example) in _known.items():
            made = _made(njit, procedure)
            example(made)
            _compiled[name] = made


def _made(njit: Any, procedure: Procedure) -> Procedure:
    """The compiled form; made anew each time where there is nowhere to keep it."""
    try:
        made: Procedure = njit(cache=True, nogil=True)(procedure)
    except RuntimeError:
        made = njit(nogil=True)(procedure)
    return made


def forget() -> None:
    """Go back to the interpreted forms: for tests, which hold both to the same results."""
    _compiled.clear()

"""Every binding there is: a new one is one module and one line here.

The figures are common practice; a printer's own sheet overrides them.
"""

from half_fold.core.brief.binding import Binding
from half_fold.core.brief.bindings.boards import BOARDS
from half_fold.core.brief.bindings.case import CASE
from half_fold.core.brief.bindings.coil import COIL
from half_fold.core.brief.bindings.glued import BURST, PERFECT
from half_fold.core.brief.bindings.loose import ALONE, FLAT, SCREEN, SHEET
from half_fold.core.brief.bindings.saddle import SADDLE
from half_fold.core.brief.bindings.sewn import SEWN
from half_fold.core.brief.bindings.single import SINGLE
from half_fold.core.measure.problem import Problem

_BINDINGS = {b.name: b for b in (SINGLE, SADDLE, PERFECT, BURST, SEWN, CASE, COIL, BOARDS, SHEET, FLAT, ALONE, SCREEN)}


def bindings() -> tuple[Binding, ...]:
    return tuple(_BINDINGS.values())


def binding_named(name: str) -> Binding:
    """The binding of that name. Problem lists those there are."""
    if name not in _BINDINGS:
        raise Problem(f"There is no binding “{name}”; there are {', '.join(_BINDINGS)}.")
    return _BINDINGS[name]

"""The cover laid flat: paperback with or without flaps, case, and jacket, as worked numbers in millimetres.

Paperback = 2 x trim + spine + 2 x bleed; with flaps each panel is 1.5 mm wider so that the flap's fold clears the
block. Case: square 3, setback 5.5, joint = setback + board, turn-in 18 (15 to 20), which stands in for the bleed.
Jacket: front = board + joint + board's thickness, flaps 90 (80 to 100).
"""

from msgspec import Struct

from half_fold.core.brief.allowances import bleed, trim_height, trim_width
from half_fold.core.brief.bindings import binding_named
from half_fold.core.brief.bulk import board_thickness, those_there
from half_fold.core.brief.spine import spine
from half_fold.core.measure.length import length
from half_fold.core.measure.worked import Worked, given, given_length
from half_fold.core.publication.records import Publication

PANEL_MORE_MM = 1.5
GATEFOLD_SHORT_MM = 3.0
SQUARE_MM, SETBACK_MM, TURN_IN_MM = 3.0, 5.5, 18.0
JACKET_FLAP = length("90mm")


def is_cased(publication: Publication) -> bool:
    return binding_named(publication.brief.binding).cover == "case"


def has_cover(publication: Publication) -> bool:
    """Whether the job has a cover of its own."""
    binding = binding_named(publication.brief.binding)
    if binding.cover == "none":
        return False
    return publication.brief.cover_paper != "none" or is_cased(publication) or binding.elsewhere


def wrap_flap(publication: Publication) -> Worked | None:
    """A paperback's or a jacket's flap; None where there is none."""
    flap = publication.brief.flap
    if is_cased(publication):
        if publication.brief.jacket == "none":
            return None
        flap = flap or JACKET_FLAP
    return None if flap is None else given_length(flap, "Flap", key="wrap.flap", edits="flap")


def gatefold_leaf(publication: Publication) -> Worked | None:
    """The leaf that folds in behind a gatefold front, short so that it clears the fold; None where there is none."""
    if not publication.brief.gatefold or binding_named(publication.brief.binding).cover != "wrap":
        return None
    short = given(GATEFOLD_SHORT_MM, "mm", "Short", how="so that it clears the fold")
    return (trim_width(publication) - short).named("Gatefold leaf", "wrap.gatefold")


def _panel(publication: Publication) -> Worked:
    """A paperback's back or front panel."""
    width = trim_width(publication)
    return width if wrap_flap(publication) is None else width + given(PANEL_MORE_MM, "mm", "Clear of the block")


def wrap_width(publication: Publication) -> Worked | None:
    """The cover flat with bleed: flaps, back, spine and front; None for a self-cover job, a case or loose leaves."""
    if not has_cover(publication) or binding_named(publication.brief.binding).cover != "wrap":
        return None
    side, flap, panel = _panel(publication), wrap_flap(publication), spine(publication)
    leaf = gatefold_leaf(publication)
    if leaf is not None:
        flat = 2 * side + leaf if flap is None else 2 * side + flap + leaf
    else:
        flat = 2 * (side if flap is None else side + flap)
    if panel is not None:
        flat = flat + panel
    return (flat + 2 * bleed(publication)).named("Wrap width", "wrap.width")


def wrap_height(publication: Publication) -> Worked | None:
    if wrap_width(publication) is None:
        return None
    return (trim_height(publication) + 2 * bleed(publication)).named("Wrap height", "wrap.height")


# Case and jacket ------------------------------------------------------------------------------------


def _square() -> Worked:
    return given(SQUARE_MM, "mm", "Square", how="boards stand proud of the block by it")


def _setback() -> Worked:
    return given(SETBACK_MM, "mm", "Setback", how="the board's distance from the back")


def _turn_in() -> Worked:
    return given(TURN_IN_MM, "mm", "Turn-in", how="15 to 20 is usual; it stands in for the bleed")


def joint(publication: Publication) -> Worked:
    """Between board and spine."""
    return (_setback() + board_thickness(publication)).named("Joint", "case.joint")


def board_width(publication: Publication) -> Worked:
    return (trim_width(publication) - _setback() + _square()).named("Board width", "case.board.width")


def board_height(publication: Publication) -> Worked:
    return (trim_height(publication) + 2 * _square()).named("Board height", "case.board.height")


def case_width(publication: Publication) -> Worked:
    """The whole covering laid flat, turn-ins included."""
    back = spine(publication)
    assert back is not None
    half = _turn_in() + board_width(publication) + joint(publication)
    return (2 * half + back).named("Case width", "case.width")


def case_height(publication: Publication) -> Worked:
    return (board_height(publication) + 2 * _turn_in()).named("Case height", "case.height")


def jacket_front(publication: Publication) -> Worked:
    front = board_width(publication) + joint(publication) + board_thickness(publication)
    return front.named("Jacket front", "jacket.front")


def jacket_width(publication: Publication) -> Worked | None:
    """The jacket laid flat with bleed; None where there is none."""
    flap, back = wrap_flap(publication), spine(publication)
    if not is_cased(publication) or flap is None or back is None:
        return None
    half = jacket_front(publication) + flap
    return (2 * half + back + 2 * bleed(publication)).named("Jacket width", "jacket.width")


def jacket_height(publication: Publication) -> Worked | None:
    if jacket_width(publication) is None:
        return None
    return (board_height(publication) + 2 * bleed(publication)).named("Jacket height", "jacket.height")


def cover_numbers(publication: Publication) -> list[Worked]:
    """Every number of the cover that there is."""
    wrap = (wrap_width(publication), wrap_height(publication), wrap_flap(publication), gatefold_leaf(publication))
    if not is_cased(publication):
        return those_there(wrap)
    case = (
        board_thickness(publication),
        board_width(publication),
        board_height(publication),
        joint(publication),
        case_width(publication),
        case_height(publication),
    )
    jacket = (jacket_width(publication), jacket_height(publication), wrap_flap(publication))
    return those_there((*case, *jacket))


class Panels(Struct, frozen=True):
    """The flat that is designed and printed, in millimetres: ``what`` it is, its panels, and what lies beyond them.

    ``flap`` folds in at the back, ``front_flap`` at the front: a flap, or a gatefold's leaf. A screen shows the
    front alone: it ``has_back`` not.
    """

    what: str
    width: float
    height: float
    spine: float | None
    flap: float
    front_flap: float
    beyond: float
    has_leaf: bool = False
    has_back: bool = True


def cover_panels(publication: Publication) -> Panels:
    """The jacket of a case that has one, else the case's covering, else the wrap."""
    back = spine(publication)
    thick = back.value if back is not None else None
    flap, edge = wrap_flap(publication), bleed(publication).value
    if is_cased(publication):
        if flap is not None:
            width, height = jacket_front(publication).value, board_height(publication).value
            return Panels("jacket", width, height, thick, flap.value, flap.value, edge)
        width = (board_width(publication) + joint(publication)).value
        return Panels("case", width, board_height(publication).value, thick, 0.0, 0.0, TURN_IN_MM)
    width, height = _panel(publication).value, trim_height(publication).value
    if binding_named(publication.brief.binding).cover == "front":
        return Panels("front", trim_width(publication).value, height, None, 0.0, 0.0, edge, has_back=False)
    folds_in = flap.value if flap is not None else 0.0
    leaf = gatefold_leaf(publication)
    return Panels(
        "wrap", width, height, thick, folds_in, leaf.value if leaf is not None else folds_in, edge, leaf is not None
    )

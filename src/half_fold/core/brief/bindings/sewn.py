"""Sewn paperback: folded signatures sewn through their folds; mixed ones make any multiple of four."""

from half_fold.core.brief.binding import Binding
from half_fold.core.brief.soft_spine import sewn_panel

SEWN = Binding("sewn", "Sewn paperback", 4, 3.0, panel=sewn_panel, signatures=True, folded=True, sewn=True)

"""The two pages of what lies apart, laid beside one another as a spread."""

from half_fold.core.plan.spreads import Spread

LEFT, RIGHT = 2, 3
SPREAD = Spread(LEFT, RIGHT)

"""The stations by number, in the order of the work: Ctrl and the number opens them, but the first."""

VERSIONS, BRIEF, ORDER, GRID, SPREADS, COVER, CHECKS, PRESS = range(8)

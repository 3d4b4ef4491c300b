"""What is not bound: a sheet with its back, pages that lie flat in pairs, a cover by itself, a cover for the screen."""

from half_fold.core.brief.binding import Binding

SHEET = Binding(
    "sheet",
    "One sheet",
    1,
    0.0,
    no_spine="a sheet has none",
    cover="none",
    most=2,
    rule="a sheet is its front, or front and back",
    bound=False,
)
FLAT = Binding("flat", "Lying flat", 2, 0.0, no_spine="what lies flat has none", cover="none", bound=False, pairs=True)
ALONE = Binding(
    "alone",
    "Cover alone",
    1,
    0.0,
    no_spine="until the printer gives it",
    exactly=1,
    rule="the pages of a cover alone are made elsewhere; a blank one stands for them",
    bound=False,
    elsewhere=True,
)
SCREEN = Binding(
    "screen",
    "For the screen",
    1,
    0.0,
    no_spine="a screen shows the front alone",
    cover="front",
    exactly=1,
    rule="a cover for the screen has no pages; a blank one stands for them",
    bound=False,
    elsewhere=True,
    on_screen=True,
)
